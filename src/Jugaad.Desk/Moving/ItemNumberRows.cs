using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>What a number was before an import changed it.</summary>
internal sealed record NumberBefore(string Code);

/// <summary>Takes the numbers by which customers know items.</summary>
internal sealed class ItemNumberRows(BooksContext db) : RowTaker(db)
{
    private Dictionary<string, Customer> _customers = [];
    private Dictionary<string, Item> _items = [];
    private Dictionary<(int Customer, int Item), CustomerItemNumber> _kept = [];

    internal override async Task PrepareAsync(CancellationToken stop)
    {
        _customers = ByName(
            await Db.Customers.AsNoTracking().Where(c => c.MergedIntoId == null).ToListAsync(stop),
            c => c.Code
        );
        _items = ByName(await Db.Items.AsNoTracking().ToListAsync(stop), i => i.Code);
        _kept = await Db.ItemNumbers.ToDictionaryAsync(n => (n.CustomerId, n.ItemId), stop);
    }

    internal override RowFate Take(RowCells row)
    {
        var customer = Pointed(row, "customer", _customers, "is no customer");
        var item = Pointed(row, "item", _items, "is no item");
        var number = row.Text("number");
        if (row.Text("customer").Length == 0)
            row.Refused.Add("customer", "Give the customer's code.");
        if (row.Text("item").Length == 0)
            row.Refused.Add("item", "Give the item's code.");
        CustomerItemNumber.Check(row.Refused, "number", number);
        if (customer is not null && item is not null && !Name($"{customer.Code}\n{item.Code}"))
            row.Refused.Add(
                "item",
                $"{item.Code} has two numbers with {customer.Code} in this file. Keep one of the two rows."
            );
        row.Refused.ThrowIfAny();
        var at = (customer!.Id, item!.Id);
        if (!_kept.TryGetValue(at, out var known))
        {
            var made = _kept[at] = new CustomerItemNumber(customer.Id, item.Id, number);
            Db.ItemNumbers.Add(made);
            Note(EffectOn.ItemNumber, made, null, () => (made.Id, made.Version));
            return RowFate.New;
        }

        if (known.Number == CustomerItemNumber.Tidied(number))
            return RowFate.Same;
        var before = new NumberBefore(known.Number);
        known.Write(number);
        Note(EffectOn.ItemNumber, known, before, () => (known.Id, known.Version));
        return RowFate.Changed;
    }
}
