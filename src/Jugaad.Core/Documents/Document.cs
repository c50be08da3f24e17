using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;
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

    public decimal ExchangeRate { get; private set; } = 1;

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

    public Sender? Sender { get; private set; }

    public string CreatedBy { get; private set; } = "";

    /// <summary>The day on which a quote was accepted or declined.</summary>
    public DateOnly? AnsweredOn { get; private set; }

    public string AnswerNote { get; private set; } = "";

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
    /// <exception cref="RefusalException">With all that is wrong, each by its field; nothing is changed then.</exception>
    public void Rewrite(DraftContent content, DraftMasters masters)
    {
        MustBeDraft();
        var currency = masters.Customer.Currency;
        var taxDate = content.TaxDate ?? content.Date;
        var refusals = new Refusals();
        DraftCheck.Date(refusals, content.Date);
        DraftCheck.Texts(refusals, content, Policy);
        var lineTaxes = content.Lines.Select((l, i) => DraftCheck.Tax(refusals, masters, l.TaxCodeId, taxDate, $"lines[{i}].taxCode")).ToList();
        var chargeTaxes = content.Charges.Select((c, i) => DraftCheck.Tax(refusals, masters, c.TaxCodeId, taxDate, $"charges[{i}].taxCode")).ToList();
        refusals.ThrowIfAny();
        var due = Policy.HasDueDay ? content.DueDate ?? masters.Terms?.DueOn(content.Date) ?? content.Date : (DateOnly?)null;
        DraftCheck.Dates(refusals, content, due);
        if (Policy.HasDueDay) due = DraftCheck.OnAccount(refusals, masters.Customer, content, due);
        refusals.ThrowIfAny();

        var totals = content.Lines.Count == 0 && content.Charges.Count == 0 ? null
            : Calculator.Compute(Figures(content, currency, lineTaxes, chargeTaxes, masters.TaxRounding));
        if (totals is { Total: < 0 })
            throw new RefusalException("lines", $"The {Policy.Word} comes to less than nothing. What you give back goes on a credit note of its own.");

        (CustomerId, Currency, ExchangeRate) = (masters.Customer.Id, currency, content.ExchangeRate);
        (Date, TaxDate, DueDate, DueByHand) = (content.Date, content.TaxDate, due, content.DueDate is not null);
        ValidUntil = Policy.HasValidity ? content.ValidUntil : null;
        (TermsId, TermsText) = (masters.Terms?.Id, Policy.HasDueDay || Policy.HasValidity ? masters.Terms?.Name ?? "" : "");
        (EarlyPercent, EarlyUntil) = Policy.HasDueDay ? (masters.Terms?.EarlyPercent ?? 0, masters.Terms?.EarlyUntil(content.Date)) : (0, null);
        (PricesIncludeTax, TaxRounding, DiscountPercent, DiscountAmount) = (content.PricesIncludeTax, masters.TaxRounding, content.DiscountPercent, content.DiscountAmount);
        (PlaceId, Place, SeriesByHand) = (content.PlaceId, masters.Place, content.SeriesId);
        TaxWords = WordsOf(content, masters, lineTaxes, chargeTaxes);
        (NumberByHand, PurchaseOrder) = (content.NumberByHand.Trim(), content.PurchaseOrder.Trim());
        (Note, PrivateNote) = (content.Note.Trim(), content.PrivateNote.Trim());
        _lines.Clear();
        _lines.AddRange(content.Lines.Select((l, i) => new DocumentLine(i, l, masters.TaxCodes[l.TaxCodeId].Code, lineTaxes[i]!.ToString())));
        _charges.Clear();
        _charges.AddRange(content.Charges.Select((c, i) => new DocumentCharge(i, c, masters.TaxCodes[c.TaxCodeId].Code, chargeTaxes[i]!.ToString())));
        Take(totals);
        Version++;
    }

    /// <summary>What was typed, as it can be typed again.</summary>
    public DraftContent Content() => new()
    {
        CustomerId = CustomerId,
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
        Lines = [.. _lines.OrderBy(l => l.Position).Select(l => l.Typed())],
        Charges = [.. _charges.OrderBy(c => c.Position).Select(c => c.Typed())],
    };

    /// <summary>Numbers and freezes the draft.</summary>
    /// <exception cref="RefusalException">When it is no draft, or has no line.</exception>
    public void Issue(int seriesId, string number, Sender sender, Addressee addressee)
    {
        MustBeDraft();
        if (_lines.Count == 0) throw new RefusalException("lines", "The document has no line. Add one first.");
        (SeriesId, Number, Sender, Addressee) = (seriesId, number, sender, addressee);
        State = Policy.IssuedState;
        Version++;
    }

    /// <summary>Notes the customer's answer to a quote.</summary>
    /// <exception cref="RefusalException">When it is no quote that waits for an answer.</exception>
    public void Answer(bool accepted, DateOnly day, string note)
    {
        if (Kind != DocumentKind.Quote || State is not (DocumentState.Sent or DocumentState.Lapsed))
            throw new RefusalException("", $"Only a sent quote can be accepted or declined; this {Policy.Word} is {State.ToString().ToLowerInvariant()}.");
        State = accepted ? DocumentState.Accepted : DocumentState.Declined;
        (AnsweredOn, AnswerNote) = (day, note.Trim());
        Version++;
    }

    /// <summary>Takes an answer back, as long as nothing was made from the quote.</summary>
    public void Reopen()
    {
        if (State is not (DocumentState.Accepted or DocumentState.Declined)) throw new RefusalException("", "There is no answer to take back.");
        (State, AnsweredOn, AnswerNote) = (DocumentState.Sent, null, "");
        Version++;
    }

    /// <summary>Lapses a sent quote whose last day has passed. Tells whether it did.</summary>
    public bool LapseAfter(DateOnly day)
    {
        if (State != DocumentState.Sent || ValidUntil is not { } until || until >= day) return false;
        State = DocumentState.Lapsed;
        Version++;
        return true;
    }

    /// <summary>Puts a draft away; it never had a number.</summary>
    public void Discard()
    {
        MustBeDraft();
        State = DocumentState.Cancelled;
        Version++;
    }

    /// <summary>Brings a draft back that was put away.</summary>
    public void BringBack()
    {
        if (State != DocumentState.Cancelled || Number is not null) throw new RefusalException("", $"The {Title} was not put away as a draft.");
        State = DocumentState.Draft;
        Version++;
    }

    /// <summary>Issued or settled, by whether anything is open.</summary>
    public void FollowOpenAmount(long open)
    {
        if (State is DocumentState.Issued or DocumentState.Settled) State = open == 0 ? DocumentState.Settled : DocumentState.Issued;
    }

    /// <summary>The totals that the frozen lines give; for a document that has lines.</summary>
    public Totals Recompute()
    {
        var lineTaxes = _lines.OrderBy(l => l.Position).Select(l => (Treatment?)Core.Taxes.Treatment.Parse(l.Treatment)).ToList();
        var chargeTaxes = _charges.OrderBy(c => c.Position).Select(c => (Treatment?)Core.Taxes.Treatment.Parse(c.Treatment)).ToList();
        return Calculator.Compute(Figures(Content(), Currency, lineTaxes, chargeTaxes, TaxRounding));
    }

    /// <summary>The reasons of the codes that are used; none of a code whose tax is not charged yet.</summary>
    private static string WordsOf(DraftContent content, DraftMasters masters, List<Treatment?> lineTaxes, List<Treatment?> chargeTaxes) =>
        string.Join('\n', content.Lines.Select(l => l.TaxCodeId).Zip(lineTaxes).Concat(content.Charges.Select(c => c.TaxCodeId).Zip(chargeTaxes))
            .Where(p => masters.TaxCodes[p.First].Category == p.Second!.Category)
            .Where(_ => masters.Standing.IsRegisteredOn(content.TaxDate ?? content.Date))
            .Select(p => masters.TaxCodes[p.First].Reason).OfType<string>().Distinct());

    private static DocumentFigures Figures(DraftContent content, Currency currency, List<Treatment?> lineTaxes, List<Treatment?> chargeTaxes, TaxRounding rounding) =>
        new(currency, content.Lines.Select((l, i) => new LineFigures(l.Quantity, l.UnitPrice, lineTaxes[i]!, l.DiscountPercent, l.DiscountAmount)).ToList())
        {
            Charges = content.Charges.Select((c, i) => new ChargeFigures(c.Amount, chargeTaxes[i]!)).ToList(),
            DiscountPercent = content.DiscountPercent,
            DiscountAmount = content.DiscountAmount,
            PricesIncludeTax = content.PricesIncludeTax,
            TaxRounding = rounding,
        };

    private void Take(Totals? totals)
    {
        _taxes.Clear();
        (Subtotal, Discount, ChargesTotal) = (totals?.Subtotal ?? 0, totals?.Discount ?? 0, totals?.Charges ?? 0);
        (Net, Tax, Total, Payable) = (totals?.Net ?? 0, totals?.Tax ?? 0, totals?.Total ?? 0, totals?.Payable ?? 0);
        if (totals is null) return;
        for (var i = 0; i < _lines.Count; i++) _lines[i].Take(totals.Lines[i], totals.LineNets[i]);
        for (var i = 0; i < _charges.Count; i++) _charges[i].Take(totals.ChargeNets[i]);
        foreach (var treatment in totals.Treatments)
        {
            if (treatment.Taxes.Count == 0) _taxes.Add(new DocumentTax(_taxes.Count, treatment.Treatment, null, treatment.Net, 0));
            foreach (var tax in treatment.Taxes) _taxes.Add(new DocumentTax(_taxes.Count, treatment.Treatment, tax.Part, treatment.Net, tax.Tax));
        }
    }

    private void MustBeDraft()
    {
        if (!IsDraft) throw new RefusalException("", $"The {Title} is issued and never changes. Correct it with a credit note, or copy it into a new draft.");
    }
}
