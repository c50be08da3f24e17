using System.Globalization;
using System.IO.Compression;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A customer who went through all steps and did not pay.</summary>
/// <param name="Items">What went through the last step and can still be asked for.</param>
/// <param name="LastOn">The day of the last letter of the last step.</param>
/// <param name="Handed">Why they are left out of letters; empty where they are not.</param>
/// <param name="IsSmall">Whether it is less than the business writes about: not worth a collector.</param>
public sealed record GivingUpRow(
    Customer Customer,
    IReadOnlyList<OpenOnDay> Items,
    Sums Open,
    DateOnly LastOn,
    string Handed,
    bool IsSmall
);

/// <summary>Reads what is to be handed over or given up, and makes the folder for whoever collects it.</summary>
public sealed class GivingUpScreens(
    BooksContext db,
    BooksHead head,
    OwedBook owed,
    CollectingRules rules,
    Statements statements,
    PaperRoom papers,
    ITableFiles tables
)
{
    /// <summary>For so many days after the last step a customer has time to pay.</summary>
    public const int DaysToWait = 7;

    /// <summary>Customers whose last step was had, and whose time to answer it has passed; the most first.</summary>
    public async Task<IReadOnlyList<GivingUpRow>> ReadAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var last = await LastStepsAsync(today.AddDays(-DaysToWait), stop);
        var customers = await db
            .AccountItems.Where(i => last.Keys.Contains(i.Id) && i.Open > 0)
            .Select(i => i.CustomerId)
            .Distinct()
            .ToListAsync(stop);
        var known = await db
            .Customers.AsNoTracking()
            .Where(c => customers.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, stop);
        var left = (
            await db
                .LeftOut.AsNoTracking()
                .Where(l => customers.Contains(l.CustomerId) && l.ItemId == null)
                .ToListAsync(stop)
        )
            .Where(l => l.HoldsOn(today))
            .ToLookup(l => l.CustomerId, l => l.Reason);
        var tolerance = (await rules.ReadAsync(stop)).Tolerance;
        var rows = new List<GivingUpRow>();
        foreach (var owes in await owed.OfAsync(today, customers, stop))
        {
            var items = owes.Items.Where(i => last.ContainsKey(i.ItemId) && owes.Askable(i.ItemId) > 0).ToList();
            if (items.Count > 0)
                rows.Add(
                    new GivingUpRow(
                        known[owes.CustomerId],
                        items,
                        Sums.Of(items.Select(i => new Money(owes.Askable(i.ItemId), i.Currency))),
                        items.Max(i => last[i.ItemId]),
                        left[owes.CustomerId].FirstOrDefault() ?? "",
                        items.Sum(i => i.HomeOpen) < tolerance
                    )
                );
        }

        return [.. rows.OrderByDescending(r => r.Items.Sum(i => i.HomeOpen)).ThenBy(r => r.Customer.Name)];
    }

    /// <summary>Items that had the last step of their letter's ladder by a day, with when.</summary>
    private async Task<Dictionary<int, DateOnly>> LastStepsAsync(DateOnly until, CancellationToken stop)
    {
        var ends = await db
            .Ladders.Select(l => new { l.Id, Last = l.Steps.Max(s => (int?)s.Number) ?? 0 })
            .ToDictionaryAsync(l => l.Id, l => l.Last, stop);
        var had = await (
            from letter in db.ChaseLetters
            where
                letter.Day <= until
                && (
                    letter.PostItemId == null
                    || db.Post.Any(p => p.Id == letter.PostItemId && p.State != PostState.Withdrawn)
                )
            from item in letter.Items
            select new
            {
                letter.LadderId,
                letter.Day,
                item.ItemId,
                item.Step,
            }
        ).ToListAsync(stop);
        return had.Where(h => h.Step > 0 && h.Step >= ends[h.LadderId])
            .GroupBy(h => h.ItemId)
            .ToDictionary(g => g.Key, g => g.Max(h => h.Day));
    }

    /// <summary>
    /// A folder as one ZIP: the list of what is open, each paper of it, the statement, and all that was said and
    /// written.
    /// </summary>
    /// <returns>Null where there is no such customer.</returns>
    public async Task<(string Name, byte[] Content)?> FolderAsync(int customerId, CancellationToken stop = default)
    {
        if (await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == customerId, stop) is not { } customer)
            return null;
        var today = await head.TodayAsync(stop);
        var owes = (await owed.OnAsync(today, customerId, stop))[0];
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            await AddAsync(zip, "open.csv", tables.Write(OpenTable(customer, owes, today), TableForm.Csv), stop);
            await AddAsync(zip, "history.csv", tables.Write(await HistoryAsync(customerId, stop), TableForm.Csv), stop);
            var (name, statement) = await statements.PdfAsync(customerId, new StatementWish(null, today), null, stop);
            await AddAsync(zip, name, statement, stop);
            foreach (var document in owes.Items.Select(i => i.DocumentId).OfType<int>().Distinct())
            {
                var (paper, content) = await papers.PdfAsync(document, [new PaperStyle()], stop);
                await AddAsync(zip, $"papers/{paper}", content, stop);
            }
        }

        return ($"{PaperRoom.FileName($"collect-{customer.Code}-{today:yyyy-MM-dd}")}.zip", file.ToArray());
    }

    private static async Task AddAsync(ZipArchive zip, string name, byte[] content, CancellationToken stop)
    {
        await using var entry = await zip.CreateEntry(name).OpenAsync(stop);
        await entry.WriteAsync(content, stop);
    }

    private static string Iso(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static Table OpenTable(Customer customer, CustomerOwes owes, DateOnly today) =>
        new(
            ["customer", "name", "number", "date", "due", "days late", "amount", "open", "in dispute", "currency"],
            [
                .. owes.Items.Select(
                    IReadOnlyList<string> (i) =>
                        [
                            customer.Code,
                            customer.Name,
                            i.Number,
                            Iso(i.Date),
                            Iso(i.Due),
                            $"{Math.Max(0, today.DayNumber - i.Due.DayNumber)}",
                            new Money(i.Amount, i.Currency).ToString(),
                            new Money(i.Open, i.Currency).ToString(),
                            new Money(
                                owes.Disputes.Where(d => d.ItemId == i.ItemId).Sum(d => d.Amount),
                                i.Currency
                            ).ToString(),
                            i.Currency.Code,
                        ]
                ),
            ]
        );

    private async Task<Table> HistoryAsync(int customerId, CancellationToken stop)
    {
        var notes = await db
            .ContactNotes.AsNoTracking()
            .Where(n => n.CustomerId == customerId && !n.TakenBack)
            .ToListAsync(stop);
        var letters = await db
            .ChaseLetters.AsNoTracking()
            .Include(l => l.Items)
            .Where(l => l.CustomerId == customerId)
            .ToListAsync(stop);
        var currencies = await db
            .AccountItems.Where(i => i.CustomerId == customerId)
            .ToDictionaryAsync(i => i.Id, i => i.Currency, stop);
        var rows = notes
            .Select(n => (n.Day, Row: (IReadOnlyList<string>)[Iso(n.Day), Way(n.Way), n.SpokeTo, n.Said, n.By]))
            .Concat(
                letters.Select(l =>
                    (
                        l.Day,
                        Row: (IReadOnlyList<string>)
                            [
                                Iso(l.Day),
                                l.Way == StepWay.Call ? "call asked for" : "letter",
                                "",
                                ((Phrase)$"Step {l.Step}: {AskedOf(l, currencies)} asked for").ToString(),
                                l.By,
                            ]
                    )
                )
            )
            .OrderBy(r => r.Day)
            .Select(r => r.Row)
            .ToList();
        return new Table(["day", "what", "spoke to", "said", "by"], rows);
    }

    private static Sums AskedOf(ChaseLetter letter, Dictionary<int, Currency> currencies) =>
        Sums.Of(letter.Items.Select(i => new Money(i.Asked, currencies[i.ItemId])));

    private static string Way(ContactWay way) =>
        way switch
        {
            ContactWay.Call => "call",
            ContactWay.NoAnswer => "no answer",
            ContactWay.TheyCame => "they came to us",
            _ => way.ToString().ToLowerInvariant(),
        };
}
