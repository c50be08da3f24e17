using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Documents;

/// <summary>One line as it was typed.</summary>
/// <param name="DiscountAmount">Minor units.</param>
/// <param name="FromLineId">The line that it was made from, if any.</param>
public sealed record DraftLine(
    int? ItemId,
    string Text,
    decimal Quantity,
    string Unit,
    decimal UnitPrice,
    decimal? DiscountPercent,
    long? DiscountAmount,
    int TaxCodeId,
    int LedgerAccountId,
    int? FromLineId = null
)
{
    public LineRole Role { get; init; }

    public LineChoice Choice { get; init; }

    /// <summary>Whether an optional line, or one of several, is chosen.</summary>
    public bool Chosen { get; init; }

    /// <summary>The charge that a stage is a part of, where it is one of a charge.</summary>
    public int? FromChargeId { get; init; }

    /// <summary>The line of the same document that it is, where it is kept already; null for a new one.</summary>
    public int? KeptId { get; init; }

    /// <summary>
    /// Whether it comes to its share of the line that it was made from, however many of that it is; else to its own
    /// price.
    /// </summary>
    public bool Shares { get; init; }

    /// <summary>Whether it is part of the totals.</summary>
    public bool Counts => Role.HasFigures() && (Choice == LineChoice.Firm || Chosen);

    /// <summary>A line of words only.</summary>
    public static DraftLine Words(string text, LineRole role = LineRole.Text) =>
        new(null, text, 0, "C62", 0, null, null, 0, 0) { Role = role };
}

/// <summary>One charge as it was typed.</summary>
/// <param name="Amount">Minor units.</param>
/// <param name="FromChargeId">The charge that it was made from, if any.</param>
public sealed record DraftCharge(string Text, long Amount, int TaxCodeId, int LedgerAccountId, int? FromChargeId = null)
{
    /// <inheritdoc cref="DraftLine.KeptId"/>
    public int? KeptId { get; init; }
}

/// <summary>All that can be typed on a draft.</summary>
public sealed record DraftContent
{
    public int CustomerId { get; init; }

    /// <summary>The code of the currency that it is in; empty for the customer's usual one.</summary>
    public string Currency { get; init; } = "";

    public DateOnly Date { get; init; }

    /// <summary>The day whose tax rates apply; the date where it is empty.</summary>
    public DateOnly? TaxDate { get; init; }

    /// <summary>A due day typed by hand; from the terms where it is empty.</summary>
    public DateOnly? DueDate { get; init; }

    /// <summary>The last day on which a quote holds.</summary>
    public DateOnly? ValidUntil { get; init; }

    public int? TermsId { get; init; }

    public bool PricesIncludeTax { get; init; }

    public decimal? DiscountPercent { get; init; }

    /// <summary>Minor units.</summary>
    public long? DiscountAmount { get; init; }

    /// <summary>
    /// Where it is supplied: the customer's address where it is empty, 0 for handed over at the business, or one of the
    /// customer's places.
    /// </summary>
    public int? PlaceId { get; init; }

    /// <summary>The series that its number is taken from; the usual one where it is empty.</summary>
    public int? SeriesId { get; init; }

    public string NumberByHand { get; init; } = "";

    public string PurchaseOrder { get; init; } = "";

    /// <summary>Home currency for one unit of the document's; 1 where they are the same.</summary>
    public QuotedRate ExchangeRate { get; init; } = QuotedRate.One;

    public string Note { get; init; } = "";

    public string PrivateNote { get; init; } = "";

    public Particulars Particulars { get; init; } = Particulars.None;

    /// <summary>
    /// What the document should come to, in minor units; its discount is set so that it comes as near as cents allow.
    /// </summary>
    public long? WantedTotal { get; init; }

    /// <summary>
    /// The step to which what is paid in cash is rounded, in minor units; null where it is paid exactly.
    /// </summary>
    public long? CashStep { get; init; }

    /// <inheritdoc cref="DocumentFigures.PaidExactly"/>
    public long PaidExactly { get; init; }

    public IReadOnlyList<DraftLine> Lines { get; init; } = [];

    public IReadOnlyList<DraftCharge> Charges { get; init; } = [];

    /// <summary>
    /// What a new document takes over: all but the days, the number and the follow-up, which are its own.
    /// </summary>
    /// <param name="date">The new document's date.</param>
    public DraftContent On(DateOnly date) =>
        this with
        {
            Date = date,
            TaxDate = null,
            DueDate = null,
            ValidUntil = null,
            NumberByHand = "",
            SeriesId = null,
            Particulars = Particulars with { FollowUp = null },
        };
}

/// <summary>What a draft is computed with: the masters that its content points to.</summary>
/// <param name="Place">Where it is supplied, if not at the customer's address.</param>
public sealed record DraftMasters(
    Customer Customer,
    PaymentTerms? Terms,
    IReadOnlyDictionary<int, TaxCode> TaxCodes,
    TaxRounding TaxRounding,
    TaxStanding Standing,
    Address? Place = null
)
{
    /// <summary>
    /// The business day, from which a date may be a year ahead at most; null where that is not asked.
    /// </summary>
    public DateOnly? Today { get; init; }

    /// <summary>What tax codes say on the paper in its language, by their ids, where that is not their own words.</summary>
    public IReadOnlyDictionary<int, string> TaxReasons { get; init; } = new Dictionary<int, string>();

    /// <summary>What the lines that the draft's lines were made from bring along, by their ids.</summary>
    public IReadOnlyDictionary<int, LineOrigin> Origins { get; init; } = new Dictionary<int, LineOrigin>();

    /// <summary>The same of charges.</summary>
    public IReadOnlyDictionary<int, LineOrigin> ChargeOrigins { get; init; } = new Dictionary<int, LineOrigin>();

    /// <summary>What earlier documents billed of the same sources.</summary>
    public IReadOnlyList<EarlierPart> EarlierParts { get; init; } = [];

    /// <summary>What lines are parts of, by the id of the line that they were made from.</summary>
    public IReadOnlyDictionary<int, SharedLine> SharedLines { get; init; } = new Dictionary<int, SharedLine>();

    /// <summary>The documents of those lines, by their ids.</summary>
    public IReadOnlyDictionary<int, SharedDocument> SharedDocuments { get; init; } =
        new Dictionary<int, SharedDocument>();
}

/// <summary>What a line brings along from the one that it was made from.</summary>
/// <param name="SourceId">The document whose parts are added up: an order, where a delivery note stands
/// between.</param>
/// <param name="LineId">The line of it; null for a charge.</param>
/// <param name="Kept">The treatment that stays, whatever the date: what goes back is taxed as it was. Null where the
/// tax is computed afresh.</param>
/// <param name="TakesBack">What it would take back; null for what is sold.</param>
public sealed record LineOrigin(int SourceId, int? LineId, Treatment? Kept, TakenBack? TakesBack);

/// <summary>A part that was billed on an earlier document and not credited since.</summary>
/// <param name="DocumentId">The document that billed it.</param>
/// <param name="SourceId">The quote or order that it is a part of.</param>
/// <param name="LineId">Its line, or null where it is a charge.</param>
/// <param name="Amount">Minor units, in the price mode of the source.</param>
/// <param name="Before">What that document itself went on from.</param>
/// <param name="Credited">What of the amount was credited since.</param>
public sealed record EarlierPart(
    int DocumentId,
    int SourceId,
    int? LineId,
    int? ChargeId,
    string Treatment,
    long Amount,
    BilledBefore Before,
    long Credited = 0
);
