using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Documents;

/// <summary>
/// A quote, order, delivery note, invoice, credit note or debit note. While it is a draft it may change; once issued it
/// has a number, holds a copy of all that it prints and counts with, and never changes again but for its state.
/// All amounts are minor units of <see cref="Currency"/>.
/// </summary>
public sealed class Document
{
    private readonly List<DocumentLine> _lines = [];
    private readonly List<DocumentCharge> _charges = [];
    private readonly List<DocumentTax> _taxes = [];

    private Document() { }

    /// <summary>An empty draft.</summary>
    /// <param name="fromDocumentId">The document that it is made from, if any.</param>
    public Document(DocumentKind kind, string createdBy, int? fromDocumentId = null) =>
        (Kind, State, CreatedBy, FromDocumentId) = (kind, DocumentState.Draft, createdBy, fromDocumentId);

    public int Id { get; private set; }

    public DocumentKind Kind { get; private set; }

    public DocumentState State { get; private set; }

    public int? SeriesId { get; private set; }

    /// <summary>Given when it is issued.</summary>
    public string? Number { get; private set; }

    public string NumberByHand { get; private set; } = "";

    /// <summary>The series chosen for it; null for the usual one.</summary>
    public int? SeriesByHand { get; private set; }

    /// <summary>As in <see cref="DraftContent.PlaceId"/>.</summary>
    public int? PlaceId { get; private set; }

    /// <summary>Where it is supplied, if not at the customer's address; printed.</summary>
    public Address? Place { get; private set; }

    /// <summary>What the tax codes have the paper say, one a line.</summary>
    public string TaxWords { get; private set; } = "";

    public int CustomerId { get; private set; }

    public Customer? Customer { get; private set; }

    public int? FromDocumentId { get; private set; }

    /// <summary>In which language its paper is written (ISO 639-1); null for a draft, which may follow its
    /// customer.</summary>
    public string? Language { get; private set; }

    /// <summary>In which language its paper is written, as things stand (ISO 639-1).</summary>
    public string WrittenIn(Customer customer) =>
        Language ?? (Particulars.Language.Length > 0 ? Particulars.Language : customer.Language);

    public DateOnly Date { get; private set; }

    public DateOnly? TaxDate { get; private set; }

    public DateOnly? DueDate { get; private set; }

    public bool DueByHand { get; private set; }

    public DateOnly? ValidUntil { get; private set; }

    public int? TermsId { get; private set; }

    public string TermsText { get; private set; } = "";

    public decimal EarlyPercent { get; private set; }

    public DateOnly? EarlyUntil { get; private set; }

    public Currency Currency { get; private set; } = null!;

    public QuotedRate ExchangeRate { get; private set; } = QuotedRate.One;

    public bool PricesIncludeTax { get; private set; }

    public TaxRounding TaxRounding { get; private set; }

    public decimal? DiscountPercent { get; private set; }

    public long? DiscountAmount { get; private set; }

    public string PurchaseOrder { get; private set; } = "";

    /// <summary>Printed on the paper.</summary>
    public string Note { get; private set; } = "";

    /// <summary>Never leaves the house.</summary>
    public string PrivateNote { get; private set; } = "";

    public long Subtotal { get; private set; }

    public long Discount { get; private set; }

    public long ChargesTotal { get; private set; }

    public long Net { get; private set; }

    public long Tax { get; private set; }

    public long Total { get; private set; }

    public long Payable { get; private set; }

    public Addressee? Addressee { get; private set; }

    /// <summary>What e-invoices say of its items; null for a draft, and for what was issued before it was kept.</summary>
    public IssuedFacts? Facts { get; private set; }

    public Sender? Sender { get; private set; }

    public string CreatedBy { get; private set; } = "";

    /// <summary>The day on which a quote was accepted or declined.</summary>
    public DateOnly? AnsweredOn { get; private set; }

    public string AnswerNote { get; private set; } = "";

    /// <summary>Why a quote was lost, in one of a few words that can be counted.</summary>
    public LossReason? LostBy { get; private set; }

    public Particulars Particulars { get; private set; } = Particulars.None;

    /// <summary>
    /// The step to which a cash payment rounds the total, in minor units; null where it is paid exactly.
    /// </summary>
    public long? CashStep { get; private set; }

    /// <inheritdoc cref="DocumentFigures.PaidExactly"/>
    public long PaidExactly { get; private set; }

    /// <summary>How it was paid on the spot, as a slip says it; empty where it was not.</summary>
    public string PaidWords { get; private set; } = "";

    /// <summary>1 for the first issue of a quote, and one more with each revision.</summary>
    public int Revision { get; private set; } = 1;

    /// <summary>The quote that this one revises.</summary>
    public int? RevisesId { get; private set; }

    /// <summary>What is left of it will not be delivered or billed any more, from this day on.</summary>
    public DateOnly? ClosedOn { get; private set; }

    public string ClosedReason { get; private set; } = "";

    /// <summary>Goes up with each change; the later save of two is refused by it.</summary>
    public int Version { get; private set; }

    public IReadOnlyList<DocumentLine> Lines => _lines;

    public IReadOnlyList<DocumentCharge> Charges => _charges;

    public IReadOnlyList<DocumentTax> Taxes => _taxes;

    public KindPolicy Policy => KindPolicy.Of(Kind);

    public bool IsDraft => State == DocumentState.Draft;

    /// <summary>Such as <c>invoice INV-2025-0041</c> or <c>draft quote</c>.</summary>
    public string Title => Number is null ? $"draft {Policy.Word}" : $"{Policy.Word} {Number}";

    /// <summary>Takes what was typed and computes the totals. A draft may still be without lines.</summary>
    /// <exception cref="RefusalException">With all that is wrong, each by its field; nothing is changed
    /// then.</exception>
    public void Rewrite(DraftContent content, DraftMasters masters)
    {
        MustBeDraft();
        Write(content, masters);
    }

    /// <summary>
    /// Whether it may be changed though it was issued: an order is an agreement, and that can be changed by both.
    /// </summary>
    public bool CanBeChanged =>
        Kind == DocumentKind.Order && State is DocumentState.Issued or DocumentState.Settled && ClosedOn is null;

    /// <summary>Changes an order that was issued. Its lines stay the ones that others were made from.</summary>
    /// <exception cref="RefusalException">With all that is wrong, each by its field; nothing is changed
    /// then.</exception>
    public void Change(DraftContent content, DraftMasters masters)
    {
        if (!CanBeChanged)
            MustBeDraft();
        if (masters.Customer.Id != CustomerId)
            throw new RefusalException(
                "customer",
                $"The {Title} is another customer's. Make a new order for {masters.Customer.Name}."
            );
        if (content.NumberByHand.Trim() != NumberByHand || content.SeriesId != SeriesByHand)
            throw new RefusalException("numberByHand", $"The {Title} keeps its number.");
        Write(content, masters);
    }

    private void Write(DraftContent content, DraftMasters masters)
    {
        var currency = masters.Customer.BilledIn(content.Currency);
        var taxDate = content.TaxDate ?? content.Date;
        var refusals = new Refusals();
        DraftCheck.Date(refusals, content.Date, masters.Today);
        DraftCheck.Texts(refusals, content, Policy);
        DraftCheck.Choices(refusals, content.Lines);
        var taxes = new DraftTaxes(content, masters, refusals);
        refusals.ThrowIfAny();
        var due = Policy.HasDueDay
            ? content.DueDate ?? masters.Terms?.DueOn(content.Date) ?? content.Date
            : (DateOnly?)null;
        DraftCheck.Dates(refusals, content, due);
        if (Policy.HasDueDay)
            due = DraftCheck.OnAccount(refusals, masters.Customer, content, due);
        refusals.ThrowIfAny();

        var parts = SharedParts.Of(content, masters, Policy);
        content = parts.Content;
        var lines = content
            .Lines.Select(
                (l, i) =>
                    new DocumentLine(
                        i,
                        l,
                        taxes.CodeOf(l),
                        taxes.OfLine(i).ToString(),
                        taxes.LineTaxesOf(i),
                        parts.OfLine(i),
                        parts.FoldedOf(i)
                    )
            )
            .ToList();
        var charges = content
            .Charges.Select(
                (c, i) =>
                    new DocumentCharge(
                        i,
                        c,
                        masters.TaxCodes[c.TaxCodeId].Code,
                        taxes.OfCharge(i).ToString(),
                        taxes.TakenBackByCharge(i)
                    )
            )
            .ToList();
        var figures = FiguresOf(content, currency, lines, charges, masters.TaxRounding);
        if (content.WantedTotal is { } wanted && lines.Count > 0)
        {
            content = content with
            {
                DiscountPercent = null,
                DiscountAmount = Documents.WantedTotal.DiscountFor(figures, wanted),
            };
            figures = figures with { DiscountPercent = null, DiscountAmount = content.DiscountAmount };
        }

        var totals = lines.Count == 0 && charges.Count == 0 ? null : Calculator.Compute(figures);
        if (totals is { Total: < 0 })
            throw new RefusalException(
                "lines",
                $"The {Policy.Word} comes to less than nothing. What you give back goes on a credit note of its own."
            );

        var particulars = content.Particulars.Trimmed();
        if (!Policy.HasValidity)
            particulars = particulars with { DepositPercent = null, DepositAmount = null };
        if (
            particulars.DepositAmount is { } deposit
            && totals is not null
            && deposit > (content.PricesIncludeTax ? totals.Total : totals.Net)
        )
            throw new RefusalException(
                "deposit",
                $"The deposit is {new Money(deposit - (content.PricesIncludeTax ? totals.Total : totals.Net), currency)} more than the whole {Policy.Word} comes to. Ask for less."
            );

        (CustomerId, Currency, ExchangeRate) = (masters.Customer.Id, currency, content.ExchangeRate);
        (Date, TaxDate, DueDate, DueByHand) = (content.Date, content.TaxDate, due, content.DueDate is not null);
        ValidUntil = Policy.HasValidity ? content.ValidUntil : null;
        (TermsId, TermsText) = (
            masters.Terms?.Id,
            Policy.HasDueDay || Policy.HasValidity ? masters.Terms?.Name ?? "" : ""
        );
        (EarlyPercent, EarlyUntil) = Policy.HasDueDay
            ? (masters.Terms?.EarlyPercent ?? 0, masters.Terms?.EarlyUntil(content.Date))
            : (0, null);
        (PricesIncludeTax, TaxRounding, DiscountPercent, DiscountAmount) = (
            content.PricesIncludeTax,
            masters.TaxRounding,
            content.DiscountPercent,
            content.DiscountAmount
        );
        (PlaceId, Place, SeriesByHand) = (content.PlaceId, masters.Place, content.SeriesId);
        (TaxWords, Particulars, CashStep, PaidExactly) = (
            taxes.Words(),
            particulars,
            content.CashStep,
            content.CashStep is null ? 0 : content.PaidExactly
        );
        (NumberByHand, PurchaseOrder) = (content.NumberByHand.Trim(), content.PurchaseOrder.Trim());
        (Note, PrivateNote) = (content.Note.Trim(), content.PrivateNote.Trim());
        if (!IsDraft)
        {
            lines = [.. lines.Select((l, i) => _lines.Find(k => k.Id == content.Lines[i].KeptId)?.Become(l) ?? l)];
            charges =
            [
                .. charges.Select((c, i) => _charges.Find(k => k.Id == content.Charges[i].KeptId)?.Become(c) ?? c),
            ];
        }

        _lines.Clear();
        _lines.AddRange(lines);
        _charges.Clear();
        _charges.AddRange(charges);
        Keep(totals);
        Version++;
    }

    /// <summary>Puts other words on a line of a draft; no figure changes by them.</summary>
    public void Say(int position, string text)
    {
        MustBeDraft();
        _lines.Single(l => l.Position == position).Say(text);
    }

    /// <summary>What was typed, as it can be typed again.</summary>
    public DraftContent Content() =>
        new()
        {
            CustomerId = CustomerId,
            Currency = Currency.Code,
            Date = Date,
            TaxDate = TaxDate,
            DueDate = DueByHand ? DueDate : null,
            ValidUntil = ValidUntil,
            TermsId = TermsId,
            PricesIncludeTax = PricesIncludeTax,
            DiscountPercent = DiscountPercent,
            DiscountAmount = DiscountAmount,
            PlaceId = PlaceId,
            SeriesId = SeriesByHand,
            NumberByHand = NumberByHand,
            PurchaseOrder = PurchaseOrder,
            ExchangeRate = ExchangeRate,
            Note = Note,
            PrivateNote = PrivateNote,
            Particulars = Particulars,
            CashStep = CashStep,
            PaidExactly = PaidExactly,
            Lines = [.. _lines.OrderBy(l => l.Position).Select(l => l.Typed())],
            Charges = [.. _charges.OrderBy(c => c.Position).Select(c => c.Typed())],
        };

    /// <summary>Numbers and freezes the draft.</summary>
    /// <exception cref="RefusalException">When it is no draft, or has no line that counts.</exception>
    /// <param name="language">That of the customer, in which its paper is written from now on whatever becomes of it;
    /// unless the draft names another.</param>
    /// <param name="facts">What it keeps of its items and tax codes for machines.</param>
    public void Issue(
        int seriesId,
        string number,
        Sender sender,
        Addressee addressee,
        string language,
        IssuedFacts? facts = null
    )
    {
        MustBeDraft();
        if (!_lines.Exists(l => l.Role.HasFigures()))
            throw new RefusalException("lines", "The document has no line. Add one first.");
        if (Policy.NeedsReason && Particulars.Reason.Length == 0)
            throw new RefusalException("reason", $"Say why the {Policy.Word} is given; it is printed.");
        (SeriesId, Number, Sender, Addressee, Facts) = (seriesId, number, sender, addressee, facts);
        Language = Particulars.Language.Length > 0 ? Particulars.Language : language;
        State = Policy.IssuedState;
        Version++;
    }

    /// <summary>Notes the customer's answer to a quote.</summary>
    /// <param name="lostBy">Why it was declined, if one of the usual reasons.</param>
    /// <exception cref="RefusalException">When it is no quote that waits for an answer.</exception>
    public void Answer(bool accepted, DateOnly day, string note, LossReason? lostBy = null)
    {
        if (Kind != DocumentKind.Quote || State is not (DocumentState.Sent or DocumentState.Lapsed) || IsReplaced)
            throw new RefusalException(
                "",
                $"Only a sent quote can be accepted or declined; this {Policy.Word} is {(IsReplaced ? "replaced by a revision" : State.ToString().ToLowerInvariant())}."
            );
        if (note.Length > 1_000)
            throw new RefusalException("reason", "At most 1000 characters fit here. Shorten it.");
        if (accepted && _lines.Count > 0 && !_lines.Exists(l => l.Counts) && _charges.Count == 0)
            throw new RefusalException("", "Nothing of this quote is chosen. Choose at least one line first.");
        if (accepted)
        {
            var refusals = new Refusals();
            DraftCheck.Chosen(refusals, [.. _lines.OrderBy(l => l.Position)]);
            refusals.ThrowIfAny();
        }

        State = accepted ? DocumentState.Accepted : DocumentState.Declined;
        (AnsweredOn, AnswerNote, LostBy) = (day, note.Trim(), accepted ? null : lostBy ?? LossReason.Other);
        Version++;
    }

    /// <summary>Takes an answer back, as long as nothing was made from the quote.</summary>
    public void Reopen()
    {
        if (State is not (DocumentState.Accepted or DocumentState.Declined))
            throw new RefusalException("", "There is no answer to take back.");
        (State, AnsweredOn, AnswerNote, LostBy) = (DocumentState.Sent, null, "", null);
        Version++;
    }

    /// <summary>
    /// Takes the customer's choice among the lines of a quote that waits, and computes what it comes to.
    /// </summary>
    /// <param name="chosen">The ids of the lines that are chosen; firm lines need not be named.</param>
    /// <exception cref="RefusalException">When it is no quote that waits, or two alternatives are chosen.</exception>
    public void Choose(IReadOnlySet<int> chosen)
    {
        if (Kind != DocumentKind.Quote || State is not (DocumentState.Sent or DocumentState.Lapsed))
            throw new RefusalException("", "Only a quote that waits for an answer has lines to choose from.");
        var refusals = new Refusals();
        var ordered = _lines.OrderBy(l => l.Position).ToList();
        DraftCheck.Choices(refusals, ordered.ConvertAll(l => l.Typed() with { Chosen = chosen.Contains(l.Id) }));
        refusals.ThrowIfAny();
        foreach (var line in ordered.Where(l => l.Choice != LineChoice.Firm))
            line.Choose(chosen.Contains(line.Id));
        Keep(Recompute());
        Version++;
    }

    /// <summary>Whether a revision took its place.</summary>
    public bool IsReplaced { get; private set; }

    /// <summary>Makes this draft the next revision of a quote that was sent.</summary>
    /// <exception cref="RefusalException">When that is no quote that waits, lapsed or was declined.</exception>
    public void Revise(Document earlier)
    {
        MustBeDraft();
        if (
            earlier.Kind != DocumentKind.Quote
            || earlier.IsReplaced
            || earlier.State is not (DocumentState.Sent or DocumentState.Lapsed or DocumentState.Declined)
        )
            throw new RefusalException(
                "",
                "Only a quote that waits, has lapsed or was declined can be revised. Make a copy instead."
            );
        (RevisesId, Revision) = (earlier.Id, earlier.Revision + 1);
    }

    /// <summary>A revision was sent in its place: it can be answered no more.</summary>
    public void BeReplaced()
    {
        IsReplaced = true;
        if (State == DocumentState.Sent)
            State = DocumentState.Lapsed;
        Version++;
    }

    /// <summary>Says when to ask what became of it; null for not at all.</summary>
    public void FollowUpOn(DateOnly? day)
    {
        Particulars = Particulars with { FollowUp = day };
        Version++;
    }

    /// <summary>Says how it was paid on the spot.</summary>
    public void PaidAtCounter(string words) => PaidWords = words;

    /// <summary>What is left will not be delivered or billed any more.</summary>
    /// <exception cref="RefusalException">When it is nothing that something is made from, or no reason is
    /// given.</exception>
    public void Close(DateOnly day, string reason)
    {
        if (!CanBeMadeFrom)
            throw new RefusalException(
                "",
                $"The {Title} has nothing to be delivered or billed, so there is nothing to close."
            );
        if (ClosedOn is not null)
            throw new RefusalException("", $"The {Title} is closed already.");
        if (reason.Trim().Length is 0 or > 300)
            throw new RefusalException("reason", "Say in a few words why the rest is closed.");
        (ClosedOn, ClosedReason) = (day, reason.Trim());
        Version++;
    }

    /// <summary>Takes the closing back.</summary>
    public void OpenAgain()
    {
        if (ClosedOn is null)
            throw new RefusalException("", $"The {Title} is not closed.");
        (ClosedOn, ClosedReason) = (null, "");
        Version++;
    }

    /// <summary>
    /// Whether something may be delivered or billed from it: an accepted quote, an order or a delivery note that
    /// stands.
    /// </summary>
    public bool CanBeMadeFrom =>
        Kind == DocumentKind.Quote
            ? State == DocumentState.Accepted
            : Kind is DocumentKind.Order or DocumentKind.DeliveryNote
                && State is DocumentState.Issued or DocumentState.Settled;

    /// <summary>
    /// Makes an issued paper that nobody's balance depends on a draft again, to be corrected. It keeps its number.
    /// </summary>
    public void Correct()
    {
        if (Policy.Posts || Kind == DocumentKind.Quote || State != DocumentState.Issued)
            throw new RefusalException(
                "",
                $"The {Title} is not one that can be corrected. Copy it into a new draft instead."
            );
        State = DocumentState.Draft;
        Version++;
    }

    /// <summary>
    /// Cancels a numbered document: an order or delivery note by itself, an invoice by the credit note over all of it.
    /// </summary>
    public void Cancel()
    {
        if (Number is null || State is not (DocumentState.Issued or DocumentState.Settled))
            throw new RefusalException("", $"The {Title} is not one that can be cancelled.");
        State = DocumentState.Cancelled;
        Version++;
    }

    /// <summary>Lapses a sent quote whose last day has passed. Tells whether it did.</summary>
    public bool LapseAfter(DateOnly day)
    {
        if (State != DocumentState.Sent || ValidUntil is not { } until || until >= day)
            return false;
        State = DocumentState.Lapsed;
        Version++;
        return true;
    }

    /// <summary>Puts a draft away; it never had a number.</summary>
    public void Discard()
    {
        MustBeDraft();
        if (Number is not null)
            throw new RefusalException(
                "",
                $"The {Title} has its number already. Put it right and issue it again; then it can be cancelled."
            );
        State = DocumentState.Cancelled;
        Version++;
    }

    /// <summary>Brings a draft back that was put away.</summary>
    public void BringBack()
    {
        if (State != DocumentState.Cancelled || Number is not null)
            throw new RefusalException("", $"The {Title} was not put away as a draft.");
        State = DocumentState.Draft;
        Version++;
    }

    /// <summary>Has each tax told at a rate of its authority; at the document's own where that is null.</summary>
    public void TellAt(Func<DocumentTax, QuotedRate?> rateOf)
    {
        MustBeDraft();
        foreach (var tax in _taxes)
            tax.TellAt(rateOf(tax));
    }

    /// <summary>Issued or settled, by whether anything is open.</summary>
    public void FollowOpenAmount(long open)
    {
        if (State is DocumentState.Issued or DocumentState.Settled)
            State = open == 0 ? DocumentState.Settled : DocumentState.Issued;
    }

    /// <summary>The totals that the frozen lines give; for a document that has lines.</summary>
    public Totals Recompute() =>
        Calculator.Compute(
            FiguresOf(
                Content(),
                Currency,
                [.. _lines.OrderBy(l => l.Position)],
                [.. _charges.OrderBy(c => c.Position)],
                TaxRounding
            )
        );

    private static DocumentFigures FiguresOf(
        DraftContent content,
        Currency currency,
        IReadOnlyList<DocumentLine> lines,
        IReadOnlyList<DocumentCharge> charges,
        TaxRounding rounding
    ) =>
        new(currency, [.. lines.Select(l => l.Figures())])
        {
            Charges = [.. charges.Select(c => c.Figures())],
            DiscountPercent = content.DiscountPercent,
            DiscountAmount = content.DiscountAmount,
            PricesIncludeTax = content.PricesIncludeTax,
            TaxRounding = rounding,
            CashStep = content.CashStep,
            PaidExactly = content.PaidExactly,
        };

    private void Keep(Totals? totals)
    {
        _taxes.Clear();
        (Subtotal, Discount, ChargesTotal) = (totals?.Subtotal ?? 0, totals?.Discount ?? 0, totals?.Charges ?? 0);
        (Net, Tax, Total, Payable) = (totals?.Net ?? 0, totals?.Tax ?? 0, totals?.Total ?? 0, totals?.Payable ?? 0);
        if (totals is null)
            return;
        foreach (var line in _lines)
            line.Keep(totals.Lines[line.Position], totals.LineNets[line.Position], totals.LineBases[line.Position]);
        foreach (var charge in _charges)
            charge.Keep(totals.ChargeNets[charge.Position]);
        foreach (var treatment in totals.Treatments)
        {
            foreach (var row in treatment.Rows())
                _taxes.Add(new DocumentTax(_taxes.Count, treatment.Treatment, row.Part, row.Taxable, row.Tax));
        }
    }

    private void MustBeDraft()
    {
        if (!IsDraft)
            throw new RefusalException(
                "",
                $"The {Title} is issued and never changes. {(Policy.Posts ? "Correct it with a credit note, or copy" : "Copy")} it into a new draft."
            );
    }

    /// <summary>Says of taxes what the same draft, written afresh, says.</summary>
    public void FollowTaxWords(Document fresh)
    {
        MustBeDraft();
        TaxWords = fresh.TaxWords;
    }
}
