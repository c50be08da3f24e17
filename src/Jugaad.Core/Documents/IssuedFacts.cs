using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>
/// What an issued document keeps of its items and tax codes for machines, besides what its paper says.
/// </summary>
/// <param name="Items">Each item that is on it, once.</param>
/// <param name="Exemptions">The code of the list of exemptions (VATEX) of each tax code that has one.</param>
public sealed record IssuedFacts(IReadOnlyList<ItemFacts> Items, IReadOnlyList<ExemptionFact> Exemptions)
{
    /// <summary>
    /// Where it was supplied, as authorities are told it; what corrects a document was supplied where that was. Null
    /// for what was issued before this was kept.
    /// </summary>
    public Place? SuppliedIn { get; init; }

    /// <summary>Null where an item is not on it.</summary>
    public ItemFacts? Of(int? itemId) => itemId is { } id ? Items.FirstOrDefault(i => i.ItemId == id) : null;
}

/// <summary>An item as it was when a document was issued.</summary>
/// <param name="Number">The seller's own number (BT-155).</param>
/// <param name="Gtin">The standard number (BT-157); empty for none.</param>
/// <param name="ClassificationList">Of UNTDID 7143 (BT-158-1).</param>
/// <param name="Classification">BT-158; empty for none.</param>
/// <param name="Origin">Two letters of ISO 3166-1 (BT-159); empty where it is not known.</param>
/// <param name="BuyersNumber">By which the customer knows it (BT-156); empty for none.</param>
/// <param name="IsGoods">Goods, or a service; null for what was issued before this was kept.</param>
public sealed record ItemFacts(
    int ItemId,
    string Name,
    string Number,
    string Gtin,
    string ClassificationList,
    string Classification,
    string Origin,
    string BuyersNumber = "",
    bool? IsGoods = null
)
{
    public static ItemFacts Of(Trade.Item item, string buyersNumber = "") =>
        new(
            item.Id,
            item.Name,
            item.Code,
            Trade
                .Barcodes.Split(item.Barcode)
                .FirstOrDefault(b => b.Length is 8 or 12 or 13 or 14 && b.All(char.IsAsciiDigit))
                ?? "",
            item.ClassificationList,
            item.Classification,
            item.OriginCountry,
            buyersNumber,
            item.IsGoods
        );
}

/// <param name="Code">Such as <c>VATEX-EU-132-1I</c> (BT-121).</param>
public sealed record ExemptionFact(int TaxCodeId, string Code);
