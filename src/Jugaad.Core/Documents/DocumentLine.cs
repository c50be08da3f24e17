namespace Jugaad.Core.Documents;

/// <summary>A line of a document. Amounts are minor units of the document's currency.</summary>
public sealed class DocumentLine
{
    private DocumentLine() { }

    internal DocumentLine(
        int position,
        DraftLine typed,
        string taxCode,
        string treatment,
        LineTaxes taxes,
        long? share,
        decimal? folded
    )
    {
        (Shares, Share, FoldedPercent, TakesBack) = (
            typed.Shares && share is not null,
            share,
            folded,
            taxes.TakesBack?.ToString() ?? ""
        );
        Position = position;
        (Role, Choice, Chosen, FromChargeId) = (
            typed.Role,
            typed.Choice,
            typed.Choice != LineChoice.Firm && typed.Chosen,
            typed.FromChargeId
        );
        (Before, TaxesBefore) = taxes.Before;
        (ItemId, Text, Quantity, Unit, UnitPrice) = (
            typed.ItemId,
            typed.Text.Trim(),
            typed.Quantity,
            typed.Unit,
            typed.UnitPrice
        );
        (DiscountPercent, DiscountAmount) = (typed.DiscountPercent, typed.DiscountAmount);
        (TaxCodeId, LedgerAccountId, FromLineId) = (typed.TaxCodeId, typed.LedgerAccountId, typed.FromLineId);
        (TaxCode, Treatment) = (taxCode, treatment);
    }

    public int Id { get; private set; }

    public int DocumentId { get; private set; }

    public int Position { get; private set; }

    public int? ItemId { get; private set; }

    public string Text { get; private set; } = "";

    public decimal Quantity { get; private set; }

    public string Unit { get; private set; } = "";

    public decimal UnitPrice { get; private set; }

    public decimal? DiscountPercent { get; private set; }

    public long? DiscountAmount { get; private set; }

    public int TaxCodeId { get; private set; }

    /// <summary>The code's name as it was, for the paper.</summary>
    public string TaxCode { get; private set; } = "";

    /// <summary>The treatment's text form on the tax date.</summary>
    public string Treatment { get; private set; } = "";

    public int LedgerAccountId { get; private set; }

    public int? FromLineId { get; private set; }

    public LineRole Role { get; private set; }

    public LineChoice Choice { get; private set; }

    public bool Chosen { get; private set; }

    /// <inheritdoc cref="DraftLine.FromChargeId"/>
    public int? FromChargeId { get; private set; }

    /// <inheritdoc cref="BilledBefore.Amount"/>
    public long Before { get; private set; }

    /// <inheritdoc cref="BilledBefore.Taxes"/>
    public string TaxesBefore { get; private set; } = "";

    /// <summary>What it takes back, in the text form of <see cref="TakenBack"/>; empty for what is sold.</summary>
    public string TakesBack { get; private set; } = "";

    /// <inheritdoc cref="DraftLine.Shares"/>
    public bool Shares { get; private set; }

    /// <summary>
    /// What it comes to as a part of the line that it was made from; null where it has a price of its own.
    /// </summary>
    public long? Share { get; private set; }

    /// <summary>The percentage of the source's discount that has gone into it; null where none has.</summary>
    public decimal? FoldedPercent { get; private set; }

    /// <inheritdoc cref="DraftLine.Counts"/>
    public bool Counts => Role.HasFigures() && (Choice == LineChoice.Firm || Chosen);

    public long Extension { get; private set; }

    public long Discount { get; private set; }

    public long Amount { get; private set; }

    /// <summary>This line's share of the document's net, for its ledger account.</summary>
    public long Net { get; private set; }

    /// <summary>
    /// This line's amount less its share of the document's discount, in the price mode of the document.
    /// </summary>
    public long Base { get; private set; }

    internal void Keep(LineTotals totals, long net, long lineBase)
    {
        (Extension, Discount, Amount, Net, Base) = (totals.Extension, totals.Discount, totals.Amount, net, lineBase);
        // What a part is reduced by follows from its share.
        if (Share is not null && DiscountPercent is null)
            DiscountAmount = totals.Discount == 0 ? null : totals.Discount;
    }

    internal void Choose(bool chosen) => Chosen = chosen;

    internal void Say(string text) => Text = text;

    /// <summary>Becomes what another line is, and stays the one that others were made from.</summary>
    internal DocumentLine Become(DocumentLine other)
    {
        (Shares, Share, FoldedPercent, TakesBack) = (other.Shares, other.Share, other.FoldedPercent, other.TakesBack);
        (Position, Role, Choice, Chosen, FromLineId, FromChargeId) = (
            other.Position,
            other.Role,
            other.Choice,
            other.Chosen,
            other.FromLineId,
            other.FromChargeId
        );
        (Before, TaxesBefore) = (other.Before, other.TaxesBefore);
        (ItemId, Text, Quantity, Unit, UnitPrice) = (
            other.ItemId,
            other.Text,
            other.Quantity,
            other.Unit,
            other.UnitPrice
        );
        (DiscountPercent, DiscountAmount) = (other.DiscountPercent, other.DiscountAmount);
        (TaxCodeId, TaxCode, Treatment, LedgerAccountId) = (
            other.TaxCodeId,
            other.TaxCode,
            other.Treatment,
            other.LedgerAccountId
        );
        return this;
    }

    internal LineFigures Figures() =>
        Role.HasFigures()
            ? new(Quantity, UnitPrice, Taxes.Treatment.Parse(Treatment), DiscountPercent, DiscountAmount)
            {
                Counts = Counts,
                Before = new BilledBefore(Before, TaxesBefore),
                TakesBack = Documents.TakenBack.Parse(TakesBack),
                TakesOff = Role == LineRole.Deduction,
                Share = Share,
            }
            : new(0, 0, Taxes.Treatment.OutOfScope) { Counts = false };

    public DraftLine Typed() =>
        new(
            ItemId,
            Text,
            Quantity,
            Unit,
            UnitPrice,
            DiscountPercent,
            DiscountAmount,
            TaxCodeId,
            LedgerAccountId,
            FromLineId
        )
        {
            Role = Role,
            Choice = Choice,
            Chosen = Chosen,
            FromChargeId = FromChargeId,
            Shares = Shares,
            KeptId = Id == 0 ? null : Id,
        };
}

/// <summary>How a line or charge is taxed besides by its treatment.</summary>
/// <param name="Before">What was billed before of the same thing.</param>
/// <param name="TakesBack">What it takes back; null for what is sold.</param>
internal readonly record struct LineTaxes(BilledBefore Before, TakenBack? TakesBack);

/// <summary>A charge of a document, such as freight. Amounts are minor units of the document's currency.</summary>
public sealed class DocumentCharge
{
    private DocumentCharge() { }

    internal DocumentCharge(int position, DraftCharge typed, string taxCode, string treatment, TakenBack? takesBack)
    {
        TakesBack = takesBack?.ToString() ?? "";
        (Position, Text, Amount, FromChargeId) = (position, typed.Text.Trim(), typed.Amount, typed.FromChargeId);
        (TaxCodeId, LedgerAccountId, TaxCode, Treatment) = (typed.TaxCodeId, typed.LedgerAccountId, taxCode, treatment);
    }

    public int Id { get; private set; }

    public int DocumentId { get; private set; }

    public int Position { get; private set; }

    public string Text { get; private set; } = "";

    public long Amount { get; private set; }

    public int TaxCodeId { get; private set; }

    public string TaxCode { get; private set; } = "";

    public string Treatment { get; private set; } = "";

    public int LedgerAccountId { get; private set; }

    public long Net { get; private set; }

    /// <inheritdoc cref="DraftCharge.FromChargeId"/>
    public int? FromChargeId { get; private set; }

    /// <inheritdoc cref="DocumentLine.TakesBack"/>
    public string TakesBack { get; private set; } = "";

    internal void Keep(long net) => Net = net;

    /// <inheritdoc cref="DocumentLine.Become"/>
    internal DocumentCharge Become(DocumentCharge other)
    {
        (Position, Text, Amount, FromChargeId, TakesBack) = (
            other.Position,
            other.Text,
            other.Amount,
            other.FromChargeId,
            other.TakesBack
        );
        (TaxCodeId, TaxCode, Treatment, LedgerAccountId) = (
            other.TaxCodeId,
            other.TaxCode,
            other.Treatment,
            other.LedgerAccountId
        );
        return this;
    }

    internal ChargeFigures Figures() =>
        new(Amount, Taxes.Treatment.Parse(Treatment), Documents.TakenBack.Parse(TakesBack));

    public DraftCharge Typed() =>
        new(Text, Amount, TaxCodeId, LedgerAccountId, FromChargeId) { KeptId = Id == 0 ? null : Id };
}

/// <summary>
/// One component's tax on one treatment of a document. Amounts are minor units of the document's currency.
/// </summary>
public sealed class DocumentTax
{
    private DocumentTax() { }

    internal DocumentTax(int position, Taxes.Treatment treatment, Taxes.TreatmentPart? part, long taxable, long tax)
    {
        (Position, Treatment, Category) = (position, treatment.ToString(), treatment.Category);
        (ComponentId, Component, Percent) = (part?.ComponentId, part?.Name ?? "", part?.Percent ?? 0);
        (Taxable, Tax) = (taxable, tax);
    }

    public int Id { get; private set; }

    public int DocumentId { get; private set; }

    public int Position { get; private set; }

    public string Treatment { get; private set; } = "";

    public Taxes.TaxCategory Category { get; private set; }

    /// <summary>Null where the treatment has no component.</summary>
    public int? ComponentId { get; private set; }

    public string Component { get; private set; } = "";

    public decimal Percent { get; private set; }

    /// <summary>What the tax is on: the net of the treatment, and for a compound tax the taxes before it too.</summary>
    public long Taxable { get; private set; }

    public long Tax { get; private set; }

    /// <summary>
    /// The rate of its authority, at which it is told in home currency; null where it is told at the document's.
    /// </summary>
    public Exchange.QuotedRate? ToldRate { get; private set; }

    internal void TellAt(Exchange.QuotedRate? rate) => ToldRate = rate;

    /// <summary>What the tax is in home currency, in minor units of it, at the rate at which it is told.</summary>
    public long HomeTax(Document document, Amounts.Currency home) =>
        Exchange.HomeAmount.Of(Tax, document.Currency, ToldRate ?? document.ExchangeRate, home);

    /// <summary>Whether it is also on the taxes before it.</summary>
    public bool IsCompound =>
        Component.Length > 0
        && Taxes
            .Treatment.Parse(Treatment)
            .Parts.Any(p => p.Compound && p.ComponentId == (ComponentId ?? 0) && p.Name == Component);
}
