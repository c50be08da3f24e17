using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>An item and the number by which a customer knows it.</summary>
/// <param name="Number">Empty where they have none of their own.</param>
public sealed record NumberedItem(int ItemId, string Code, string Name, string Number);

/// <summary>The items of a customer that have their number, or that they were billed.</summary>
/// <param name="Rows">The first of them by code.</param>
/// <param name="All">How many there are.</param>
public sealed record NumberedItems(int CustomerId, string Customer, IReadOnlyList<NumberedItem> Rows, int All);

/// <summary>What was typed for an item.</summary>
/// <param name="Was">What stood there when the page was opened.</param>
/// <param name="Number">Empty to have none.</param>
public sealed record NumberTyped(int ItemId, string Was, string Number);

/// <summary>Keeps the numbers by which customers know our items.</summary>
public sealed class ItemNumbersDesk(BooksContext db, BookWriter writer)
{
    /// <summary>So many are shown at once.</summary>
    public const int Most = 300;

    /// <summary>Null where there is no such customer.</summary>
    /// <param name="search">Part of the code or name of an item, or of their number; empty for all.</param>
    public async Task<NumberedItems?> ViewAsync(int customerId, string search = "", CancellationToken stop = default)
    {
        if (await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == customerId, stop) is not { } customer)
            return null;
        var numbers = (
            await db.ItemNumbers.AsNoTracking().Where(n => n.CustomerId == customerId).ToListAsync(stop)
        ).ToDictionary(n => n.ItemId, n => n.Number);
        var billed = await db
            .Documents.Where(d => d.CustomerId == customerId && d.Number != null)
            .SelectMany(d => d.Lines)
            .Where(l => l.ItemId != null)
            .Select(l => l.ItemId!.Value)
            .Distinct()
            .ToListAsync(stop);
        var ids = numbers.Keys.Union(billed).ToList();
        var items = await db
            .Items.AsNoTracking()
            .Where(i => ids.Contains(i.Id))
            .OrderBy(i => i.Code)
            .Select(i => new
            {
                Item = i.Id,
                i.Code,
                i.Name,
                i.Inactive,
            })
            .ToListAsync(stop);
        bool Fits(NumberedItem row) =>
            new[] { row.Code, row.Name, row.Number }.Any(t =>
                t.Contains(search.Trim(), StringComparison.OrdinalIgnoreCase)
            );
        var rows = items
            .Where(i => !i.Inactive || numbers.ContainsKey(i.Item))
            .Select(i => new NumberedItem(i.Item, i.Code, i.Name, numbers.GetValueOrDefault(i.Item, "")))
            .Where(Fits)
            .ToList();
        return new NumberedItems(customerId, customer.Name, rows.GetRange(0, Math.Min(Most, rows.Count)), rows.Count);
    }

    /// <summary>Keeps what was typed and what was pasted, all of it or nothing.</summary>
    /// <param name="pasted">A line for each item: our code and their number, with a tab or a semicolon between; a line
    /// without a number takes theirs away.</param>
    /// <returns>How many are otherwise now.</returns>
    /// <exception cref="RefusalException">By field <c>items[7].number</c> or <c>pasted</c>, with everything that is wrong.
    /// Also where somebody else has changed a number since the page was opened.</exception>
    public Task<int> SaveAsync(
        int customerId,
        IReadOnlyList<NumberTyped> typed,
        string pasted = "",
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var customer =
                    await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == customerId, stop)
                    ?? throw new RefusalException("", $"There is no customer {customerId}.");
                var kept = await db
                    .ItemNumbers.Where(n => n.CustomerId == customerId)
                    .ToDictionaryAsync(n => n.ItemId, stop);
                var refusals = new Refusals();
                var wanted = new Dictionary<int, string>();
                foreach (var one in typed.Where(t => CustomerItemNumber.Tidied(t.Number) != t.Was))
                {
                    var field = $"items[{one.ItemId}].number";
                    var now = kept.GetValueOrDefault(one.ItemId)?.Number ?? "";
                    if (now != one.Was)
                        refusals.Add(
                            field,
                            now.Length > 0
                                ? $"It was changed to {now} by somebody else meanwhile. Look, and type it again."
                                : (Phrase)"It was taken away by somebody else meanwhile. Look, and type it again."
                        );
                    else if (CustomerItemNumber.Tidied(one.Number).Length > 0)
                        CustomerItemNumber.Check(refusals, field, one.Number);
                    wanted[one.ItemId] = one.Number;
                }

                foreach (var (item, number) in await PastedAsync(refusals, pasted, stop))
                {
                    if (!wanted.TryAdd(item, number) && CustomerItemNumber.Tidied(wanted[item]) != number)
                        refusals.Add(
                            "pasted",
                            $"“{Short(number)}” is for an item whose number was changed above as well. Keep one of the two."
                        );
                }
                refusals.ThrowIfAny();
                await MustBeItemsAsync(wanted.Keys, stop);
                var changed = wanted.Count(w => Set(kept, customerId, w.Key, CustomerItemNumber.Tidied(w.Value)));
                if (changed > 0)
                    await writer.TrailAsync($"{changed} of the item numbers of {customer.Name} changed", customerId);
                return changed;
            }
        );

    /// <summary>
    /// Of a customer that is merged into another one, the numbers of items that have one with that one already are given
    /// up; the others go along.
    /// </summary>
    /// <returns>Those given up that were others, as a list for people; empty where there were none.</returns>
    internal static async Task<string> GiveUpAsync(BooksContext db, int from, int to, CancellationToken stop)
    {
        var theirs = await db
            .ItemNumbers.Where(n => n.CustomerId == to)
            .ToDictionaryAsync(n => n.ItemId, n => n.Number, stop);
        var both = await db
            .ItemNumbers.Where(n => n.CustomerId == from && theirs.Keys.Contains(n.ItemId))
            .ToListAsync(stop);
        db.ItemNumbers.RemoveRange(both);
        var others = both.Where(n => n.Number != theirs[n.ItemId]).ToList();
        var ids = others.ConvertAll(n => n.ItemId);
        var codes = await db.Items.Where(i => ids.Contains(i.Id)).ToDictionaryAsync(i => i.Id, i => i.Code, stop);
        return string.Join(", ", others.Select(n => $"{codes[n.ItemId]} {n.Number}"));
    }

    private bool Set(Dictionary<int, CustomerItemNumber> kept, int customerId, int itemId, string number)
    {
        var known = kept.GetValueOrDefault(itemId);
        if ((known?.Number ?? "") == number)
            return false;
        if (known is null)
            db.ItemNumbers.Add(new CustomerItemNumber(customerId, itemId, number));
        else if (number.Length == 0)
            db.ItemNumbers.Remove(known);
        else
            known.Write(number);
        return true;
    }

    private async Task MustBeItemsAsync(IEnumerable<int> items, CancellationToken stop)
    {
        var wanted = items.ToList();
        var there = await db.Items.Where(i => wanted.Contains(i.Id)).Select(i => i.Id).ToListAsync(stop);
        if (wanted.Except(there).Any())
            throw new RefusalException("", "An item is not there any more. Open the page again.");
    }

    private async Task<IReadOnlyDictionary<int, string>> PastedAsync(
        Refusals refusals,
        string pasted,
        CancellationToken stop
    )
    {
        var lines = pasted.ReplaceLineEndings("\n").Split('\n');
        var rows = lines
            .Select((text, i) => (At: i + 1, Cells: text.Split(['\t', ';'], 2, StringSplitOptions.TrimEntries)))
            .Where(r => r.Cells.Any(c => c.Length > 0))
            .ToList();
        var wanted = new Dictionary<int, string>();
        if (rows.Count == 0)
            return wanted;
        var items = (await db.Items.AsNoTracking().Select(i => new { i.Code, Item = i.Id }).ToListAsync(stop))
            .GroupBy(i => i.Code, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First().Item, StringComparer.OrdinalIgnoreCase);
        foreach (var (at, cells) in rows)
        {
            if (cells.Length < 2)
                refusals.Add(
                    "pasted",
                    $"Line {at} has one cell. Give our code, a tab or a semicolon, and their number."
                );
            else if (!items.TryGetValue(cells[0], out var item))
                refusals.Add("pasted", $"Line {at}: there is no item “{Short(cells[0])}”.");
            else if (!wanted.TryAdd(item, cells[1]))
                refusals.Add("pasted", $"Line {at}: {cells[0]} is there a second time. Keep one of the two lines.");
            else if (cells[1].Length > 0 && !CustomerItemNumber.Holds(cells[1]))
                refusals.Add(
                    "pasted",
                    $"Line {at}: “{Short(cells[1])}” cannot be a number. It has at most {CustomerItemNumber.Most} characters, in one cell."
                );
        }

        return wanted;
    }

    private static string Short(string text) => text.Length > 40 ? text[..40] + "…" : text;
}
