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

    /// <summary>Without tax, in the home currency; at most 6 decimals.</summary>
    public decimal Price { get; init; }

    public int TaxCodeId { get; init; }

    public int LedgerAccountId { get; init; }

    public string Barcode { get; init; } = "";

    public bool Inactive { get; init; }
}

/// <summary>A good or service that is sold.</summary>
public sealed class Item
{
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

    /// <summary>Without tax, in the home currency.</summary>
    public decimal Price { get; private set; }

    public int TaxCodeId { get; private set; }

    public int LedgerAccountId { get; private set; }

    public string Barcode { get; private set; } = "";

    public bool Inactive { get; private set; }

    public int Version { get; private set; }

    public string PaperText => Text.Length > 0 ? Text : Name;

    /// <summary>Takes the details, trimmed.</summary>
    /// <exception cref="RefusalException">With every field that is wrong; nothing is changed then.</exception>
    public void Describe(ItemDetails details)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "code", details.Code, 40, "Give the item a short code.");
        Texts.Required(refusals, "name", details.Name, 200, "Give the item a name.");
        Texts.Short(refusals, "text", details.Text, 2_000);
        Texts.Short(refusals, "barcode", details.Barcode, 60);
        if (!Units.Knows(details.Unit)) refusals.Add("unit", "Choose a unit from the list.");
        if (details.Price < 0 || details.Price > Limits.Figure) refusals.Add("price", "Give a price from 0 to 999999999.");
        else if (PlainDecimal.DecimalsOf(details.Price) > Limits.FigureDecimals) refusals.Add("price", "A price has at most 6 decimals.");
        if (details.TaxCodeId == 0) refusals.Add("taxCodeId", "Choose the tax code that this item is sold with.");
        if (details.LedgerAccountId == 0) refusals.Add("ledgerAccountId", "Choose the account that its sales are booked to.");
        refusals.ThrowIfAny();

        (Code, Name, Text) = (details.Code.Trim(), details.Name.Trim(), details.Text.Trim());
        (IsGoods, Unit, Price, Barcode) = (details.IsGoods, details.Unit, details.Price, details.Barcode.Trim());
        (TaxCodeId, LedgerAccountId, Inactive) = (details.TaxCodeId, details.LedgerAccountId, details.Inactive);
        Version++;
    }
}
