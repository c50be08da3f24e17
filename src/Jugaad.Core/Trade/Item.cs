using Jugaad.Core.Amounts;

namespace Jugaad.Core.Trade;

/// <summary>What an item is described by, as typed on a page or read from a file.</summary>
public sealed record ItemDetails
{
    public string Code { get; init; } = "";

    public string Name { get; init; } = "";

    public string Text { get; init; } = "";

    public bool IsGoods { get; init; }

    public string Unit { get; init; } = "C62";

    /// <summary>In the home currency; at most 6 decimals.</summary>
    public decimal Price { get; init; }

    public bool PriceIncludesTax { get; init; }

    /// <summary>What it costs us, in the home currency without tax; at most 6 decimals.</summary>
    public decimal Cost { get; init; }

    public int TaxCodeId { get; init; }

    public int LedgerAccountId { get; init; }

    /// <summary>One or several, apart by commas.</summary>
    public string Barcode { get; init; } = "";

    /// <summary>The code of a classification, such as a customs tariff number.</summary>
    public string Classification { get; init; } = "";

    /// <summary>Which list the classification is of, by its code of UNTDID 7143; empty where nobody said.</summary>
    public string ClassificationList { get; init; } = "";

    /// <summary>Where it comes from: two letters of ISO 3166-1; empty where that is not known.</summary>
    public string OriginCountry { get; init; } = "";

    /// <summary>Whether its count on hand is kept; for goods only.</summary>
    public bool KeepsCount { get; init; }

    public bool Inactive { get; init; }

    /// <summary>Prices by list; a list that is missing has none.</summary>
    public IReadOnlyDictionary<int, decimal> Prices { get; init; } = new Dictionary<int, decimal>();
}

/// <summary>A good or service that is sold.</summary>
public sealed class Item
{
    private readonly List<ItemPrice> _prices = [];

    private Item() { }

    /// <exception cref="RefusalException">When the details cannot be.</exception>
    public Item(ItemDetails details) => Describe(details);

    public int Id { get; private set; }

    /// <summary>Short and unique.</summary>
    public string Code { get; private set; } = "";

    public string Name { get; private set; } = "";

    /// <summary>What the paper says; the name where it is empty.</summary>
    public string Text { get; private set; } = "";

    public bool IsGoods { get; private set; }

    /// <summary>Code of UN/ECE Recommendation 20.</summary>
    public string Unit { get; private set; } = "C62";

    /// <summary>In the home currency.</summary>
    public decimal Price { get; private set; }

    public bool PriceIncludesTax { get; private set; }

    /// <summary>What it costs us, in the home currency without tax.</summary>
    public decimal Cost { get; private set; }

    public int TaxCodeId { get; private set; }

    public int LedgerAccountId { get; private set; }

    /// <summary>Each between commas, as <see cref="Barcodes.Normal"/> writes them.</summary>
    public string Barcode { get; private set; } = "";

    public string Classification { get; private set; } = "";

    /// <inheritdoc cref="ItemDetails.ClassificationList"/>
    public string ClassificationList { get; private set; } = "";

    /// <inheritdoc cref="ItemDetails.OriginCountry"/>
    public string OriginCountry { get; private set; } = "";

    public bool KeepsCount { get; private set; }

    /// <summary>The count on hand: the sum of its stock moves, kept for speed.</summary>
    public decimal OnHand { get; private set; }

    public bool Inactive { get; private set; }

    public int Version { get; private set; }

    public IReadOnlyList<ItemPrice> Prices => _prices;

    public string PaperText => Text.Length > 0 ? Text : Name;

    /// <summary>Something that belongs to it was changed, such as what papers call it in another language.</summary>
    public void Touch() => Version++;

    /// <summary>Takes the details, trimmed.</summary>
    /// <exception cref="RefusalException">With every field that is wrong; nothing is changed then.</exception>
    public void Describe(ItemDetails details)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "code", details.Code, 40, "Give the item a short code.");
        Texts.Required(refusals, "name", details.Name, 200, "Give the item a name.");
        Texts.Short(refusals, "text", details.Text, 2_000);
        Texts.Short(refusals, "classification", details.Classification, 40);
        if (details.ClassificationList.Trim() is { Length: > 0 } ofList && !CodeLists.IsClassificationList(ofList))
            refusals.Add(
                "classificationList",
                "The list of a classification has a code of 2 or 3 capitals or digits, such as STI."
            );
        if (details.OriginCountry.Trim() is { Length: > 0 } from && !Countries.Knows(from))
            refusals.Add("originCountry", "Choose the country that it comes from, or leave it empty.");
        Texts.Short(refusals, "barcode", details.Barcode, 400);
        if (Barcodes.Split(details.Barcode).Select(Barcodes.Problem).FirstOrDefault(p => p is not null) is { } problem)
            refusals.Add("barcode", problem);
        if (!Units.Knows(details.Unit))
            refusals.Add("unit", "Choose a unit from the list.");
        CheckPrice(refusals, "price", details.Price);
        CheckPrice(refusals, "cost", details.Cost);
        foreach (var (list, price) in details.Prices)
            CheckPrice(refusals, $"price-{list}", price);
        if (details.TaxCodeId == 0)
            refusals.Add("taxCodeId", "Choose the tax code that this item is sold with.");
        if (details.LedgerAccountId == 0)
            refusals.Add("ledgerAccountId", "Choose the account that its sales are booked to.");
        if (details.KeepsCount && !details.IsGoods)
            refusals.Add(
                "keepsCount",
                "Only goods have a count on hand. Tick that it is goods, or leave the count out."
            );
        refusals.ThrowIfAny();

        (Code, Name, Text) = (details.Code.Trim(), details.Name.Trim(), details.Text.Trim());
        (IsGoods, Unit, Price, PriceIncludesTax, Cost) = (
            details.IsGoods,
            details.Unit,
            details.Price,
            details.PriceIncludesTax,
            details.Cost
        );
        (ClassificationList, OriginCountry) = (details.ClassificationList.Trim(), details.OriginCountry.Trim());
        (Barcode, Classification, KeepsCount) = (
            Barcodes.Normal(details.Barcode),
            details.Classification.Trim(),
            details.KeepsCount
        );
        (TaxCodeId, LedgerAccountId, Inactive) = (details.TaxCodeId, details.LedgerAccountId, details.Inactive);
        _prices.RemoveAll(p => !details.Prices.ContainsKey(p.PriceListId));
        foreach (var (list, price) in details.Prices)
        {
            if (_prices.Find(p => p.PriceListId == list) is { } known)
                known.Set(price);
            else
                _prices.Add(new ItemPrice(list, price));
        }

        Version++;
    }

    /// <summary>Is sold no more, or again.</summary>
    /// <exception cref="RefusalException">When that is so already.</exception>
    public void Retire(bool retired)
    {
        if (Inactive == retired)
            throw new RefusalException("", $"{Name} is {(retired ? "not sold any more" : "sold")} already.");
        Inactive = retired;
        Version++;
    }

    /// <summary>What describes the item, as it can be typed again.</summary>
    public ItemDetails Details() =>
        new()
        {
            Code = Code,
            Name = Name,
            Text = Text,
            IsGoods = IsGoods,
            Unit = Unit,
            Price = Price,
            PriceIncludesTax = PriceIncludesTax,
            Cost = Cost,
            TaxCodeId = TaxCodeId,
            LedgerAccountId = LedgerAccountId,
            Barcode = string.Join(", ", Barcodes.Split(Barcode)),
            Classification = Classification,
            ClassificationList = ClassificationList,
            OriginCountry = OriginCountry,
            KeepsCount = KeepsCount,
            Inactive = Inactive,
            Prices = _prices.ToDictionary(p => p.PriceListId, p => p.Price),
        };

    /// <summary>Moves the count on hand, as <see cref="StockMove"/>s say.</summary>
    internal void Count(decimal quantity) => OnHand += quantity;

    private static void CheckPrice(Refusals refusals, string field, decimal price)
    {
        if (price < 0 || price > Limits.Figure)
            refusals.Add(field, "Give a price from 0 to 999999999.");
        else if (PlainDecimal.DecimalsOf(price) > Limits.FigureDecimals)
            refusals.Add(field, "A price has at most 6 decimals.");
    }
}
