using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>Takes items by their code. Columns that the file has not leave what is there.</summary>
internal sealed class ItemRows(BooksContext db, Business business) : RowTaker(db)
{
    private Dictionary<string, Item> _byCode = [];
    private Dictionary<string, Item> _byBarcode = [];
    private Dictionary<string, TaxCode> _taxes = [];
    private Dictionary<string, LedgerAccount> _accounts = [];

    internal override async Task PrepareAsync(CancellationToken stop)
    {
        var items = await Db.Items.ToListAsync(stop);
        _byCode = ByName(items, i => i.Code);
        foreach (var item in items)
            NoteBarcodes(item);
        _taxes = ByName(await Db.TaxCodes.ToListAsync(stop), c => c.Code);
        var accounts = await Db.LedgerAccounts.Where(a => a.Role == AccountRole.Sales).ToListAsync(stop);
        _accounts = ByName(accounts, a => a.Code);
        foreach (var account in accounts)
            _accounts.TryAdd(account.Name, account);
    }

    internal override RowFate Take(RowCells row)
    {
        var known = _byCode.GetValueOrDefault(row.Text("code"));
        if (known is not null && !Name(known.Code))
            row.Refused.Add("code", $"The code {known.Code} is in the file a second time. Keep one of the two rows.");
        var before =
            known?.Details()
            ?? new ItemDetails
            {
                TaxCodeId = business.DefaultTaxCodeId ?? 0,
                LedgerAccountId = business.DefaultLedgerAccountId ?? 0,
            };
        var details = before with
        {
            Code = known?.Code ?? row.Text("code"),
            Name = row.Text("name", before.Name),
            Text = row.Text("text", before.Text),
            IsGoods = row.Choice(
                "goods",
                before.IsGoods,
                (true, ["yes", "goods", "true", "1", "x", "product", "physical", "stock"]),
                (false, ["no", "service", "services", "false", "0"])
            ),
            Unit = row.Text("unit").Length > 0 ? UnitOf(row.Text("unit")) : before.Unit,
            Price = row.Figure("price", Limits.FigureDecimals, before.Price),
            PriceIncludesTax = row.Flag("price with tax", before.PriceIncludesTax),
            Cost = row.Figure("cost", Limits.FigureDecimals, before.Cost),
            TaxCodeId =
                row.Text("tax").Length > 0 ? Pointed(row, "tax", _taxes, "is no tax code")?.Id ?? 0 : before.TaxCodeId,
            LedgerAccountId =
                row.Text("account").Length > 0
                    ? Pointed(row, "account", _accounts, "is no sales account")?.Id ?? 0
                    : before.LedgerAccountId,
            Barcode = row.Text("barcode", before.Barcode),
            Classification = row.Text("classification", before.Classification),
            ClassificationList = row.Text("classification list", before.ClassificationList),
            OriginCountry = row.Text("origin", before.OriginCountry).ToUpperInvariant(),
            KeepsCount = row.Flag("keeps count", before.KeepsCount),
            Inactive = row.Flag("inactive", before.Inactive),
        };
        foreach (var code in Barcodes.Split(details.Barcode))
            if (_byBarcode.TryGetValue(code, out var other) && other != known)
                row.Refused.Add(
                    "barcode",
                    $"The barcode {code} is that of {other.Code} already. Each barcode belongs to one item."
                );
        row.Refused.ThrowIfAny();
        if (known is null)
        {
            var made = new Item(details);
            Db.Items.Add(made);
            Note(EffectOn.Item, made, null, () => (made.Id, made.Version));
            Name(made.Code);
            _byCode[made.Code] = made;
            NoteBarcodes(made);
            return RowFate.New;
        }

        var same =
            before with
            {
                Barcode = Barcodes.Normal(before.Barcode),
            } == details with { Barcode = Barcodes.Normal(details.Barcode) };
        if (same)
            return RowFate.Same;
        known.Describe(details);
        Note(EffectOn.Item, known, before, () => (known.Id, known.Version));
        NoteBarcodes(known);
        return RowFate.Changed;
    }

    private void NoteBarcodes(Item item)
    {
        foreach (var code in Barcodes.Split(item.Barcode))
            _byBarcode.TryAdd(code, item);
    }

    /// <summary>By the code of Recommendation 20, the plain name, or the short form.</summary>
    private static string UnitOf(string text)
    {
        if (Units.Knows(text.ToUpperInvariant()))
            return text.ToUpperInvariant();
        var named = Units
            .All.FirstOrDefault(u =>
                u.Name.Equals(text, StringComparison.OrdinalIgnoreCase)
                || u.Short.Equals(text, StringComparison.OrdinalIgnoreCase)
                || (u.Name + "s").Equals(text, StringComparison.OrdinalIgnoreCase)
            )
            .Code;
        return named ?? text;
    }
}

/// <summary>Takes prices into price lists; a list that is not there is added where the row says its currency.</summary>
internal sealed class PriceRows(BooksContext db) : RowTaker(db)
{
    private Dictionary<string, Item> _items = [];
    private Dictionary<string, PriceList> _lists = [];

    internal override async Task PrepareAsync(CancellationToken stop)
    {
        _items = ByName(await Db.Items.ToListAsync(stop), i => i.Code);
        _lists = ByName(await Db.PriceLists.ToListAsync(stop), l => l.Name);
    }

    internal override RowFate Take(RowCells row)
    {
        var item = Pointed(row, "item", _items, "is no item");
        var price = row.Figure("price", Limits.FigureDecimals);
        if (row.Text("item").Length == 0)
            row.Refused.Add("item", "Give the item's code.");
        if (row.Text("price").Length == 0)
            row.Refused.Add("price", "Give the price.");
        if (row.Text("price list").Length == 0)
            row.Refused.Add("price list", "Give the name of the price list.");
        if (item is not null && !Name($"{item.Code}\n{row.Text("price list")}"))
            row.Refused.Add("item", $"{item.Code} has two prices in this list. Keep one of the two rows.");
        row.Refused.ThrowIfAny();
        var list = _lists.GetValueOrDefault(row.Text("price list")) ?? AddList(row);
        if (
            item!.Prices.FirstOrDefault(p => p.PriceListId == list.Id) is { } there
            && list.Id != 0
            && there.Price == price
        )
            return RowFate.Same;
        var isNew = list.Id == 0 || item.Prices.All(p => p.PriceListId != list.Id);
        var before = item.Details();
        item.Describe(before with { Prices = new Dictionary<int, decimal>(before.Prices) { [list.Id] = price } });
        Note(EffectOn.Item, item, before, () => (item.Id, item.Version));
        return isNew ? RowFate.New : RowFate.Changed;
    }

    /// <summary>
    /// A list gets its id at once, since prices point to it; where the rows are only tried, one that no other has.
    /// </summary>
    private PriceList AddList(RowCells row)
    {
        if (row.Text("currency").Length == 0)
            throw new RefusalException(
                "price list",
                $"There is no price list “{row.Text("price list")}” in the books. Add it first, or give its currency in a column."
            );
        var made = new PriceList(
            row.Text("price list"),
            row.Text("currency").ToUpperInvariant(),
            row.Flag("with tax", false)
        );
        row.Refused.ThrowIfAny();
        Note(EffectOn.PriceList, made, null, () => (made.Id, 0));
        if (OnlyTries)
        {
            Db.Entry(made).Property(l => l.Id).CurrentValue = int.MaxValue - _lists.Count;
        }
        else
        {
            Db.PriceLists.Add(made);
            Db.SaveChanges();
        }

        _lists[made.Name] = made;
        return made;
    }
}
