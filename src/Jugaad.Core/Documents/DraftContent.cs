using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Documents;

/// <summary>One line as it was typed.</summary>
/// <param name="DiscountAmount">Minor units.</param>
/// <param name="FromLineId">The line that it was made from, if any.</param>
public sealed record DraftLine(
    int? ItemId, string Text, decimal Quantity, string Unit, decimal UnitPrice, decimal? DiscountPercent, long? DiscountAmount,
    int TaxCodeId, int LedgerAccountId, int? FromLineId = null);

/// <summary>One charge as it was typed.</summary>
/// <param name="Amount">Minor units.</param>
public sealed record DraftCharge(string Text, long Amount, int TaxCodeId, int LedgerAccountId);

/// <summary>All that can be typed on a draft.</summary>
public sealed record DraftContent
{
    public int CustomerId { get; init; }

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

    /// <summary>Where it is supplied: the customer's address where it is empty, 0 for handed over at the business, or one of the customer's places.</summary>
    public int? PlaceId { get; init; }

    /// <summary>The series that its number is taken from; the usual one where it is empty.</summary>
    public int? SeriesId { get; init; }

    public string NumberByHand { get; init; } = "";

    public string PurchaseOrder { get; init; } = "";

    /// <summary>Home currency for one unit of the document's; 1 where they are the same.</summary>
    public decimal ExchangeRate { get; init; } = 1;

    public string Note { get; init; } = "";

    public string PrivateNote { get; init; } = "";

    public IReadOnlyList<DraftLine> Lines { get; init; } = [];

    public IReadOnlyList<DraftCharge> Charges { get; init; } = [];
}

/// <summary>What a draft is computed with: the masters that its content points to.</summary>
/// <param name="Place">Where it is supplied, if not at the customer's address.</param>
public sealed record DraftMasters(
    Customer Customer, PaymentTerms? Terms, IReadOnlyDictionary<int, TaxCode> TaxCodes, TaxRounding TaxRounding, TaxStanding Standing, Address? Place = null);
