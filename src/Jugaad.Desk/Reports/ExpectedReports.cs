using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>A part of what is owed, and when it should come.</summary>
/// <param name="Open">Minor units of the item's currency.</param>
/// <param name="Part">The same in home currency at the rate of the day, with the day.</param>
/// <param name="Why">Why then, in words.</param>
public sealed record ExpectedRow(OpenOnDay Item, string Code, string Name, long Open, ExpectedPart Part, Phrase Why);

/// <summary>What should come in, as it was known at the end of a day.</summary>
/// <param name="Rows">The parts that the weeks are made of, the earliest first; what is in dispute last.</param>
/// <param name="Credit">Money and credit that was not placed, in home currency; it is in none of the other
/// figures.</param>
public sealed record ExpectedThen(
    DateOnly Day,
    Currency Home,
    ExpectedMoney Money,
    IReadOnlyList<ExpectedRow> Rows,
    long Credit
);

/// <summary>
/// A past month: what would have been said at its beginning, beside what came. Amounts are minor units of the home
/// currency.
/// </summary>
/// <param name="First">Its first day; what was known is that of the end of the day before.</param>
/// <param name="Said">What was expected in it of what was owed then.</param>
/// <param name="Low">The least that was likely.</param>
/// <param name="High">The most that was likely.</param>
/// <param name="CameOfIt">What came in it of what was owed then.</param>
/// <param name="CameBesides">What came in it of what was billed only in it.</param>
public sealed record PastMonth(DateOnly First, long Said, long Low, long High, long CameOfIt, long CameBesides)
{
    /// <summary>Whether what came lay within what was likely.</summary>
    public bool WasLikely => CameOfIt >= Low && CameOfIt <= High;
}

/// <summary>What should come in, by week: from promises, plans, due days and each customer's habit.</summary>
public sealed class ExpectedReports(
    BooksContext db,
    BooksHead head,
    OwedBook owed,
    PayingHabits habits,
    RateBook rateBook
)
{
    /// <exception cref="RefusalException">When the weeks are none or too many.</exception>
    public async Task<ExpectedThen> ExpectedAsync(
        DateOnly day,
        int weeks = ExpectedMoney.UsualWeeks,
        CancellationToken stop = default
    )
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var owes = await owed.OnAsync(day, null, stop);
        var usual = await habits.OnAsync(day, stop);
        var rates = await rateBook.AllAsync(day, RateUse.Valuation, stop);
        var ids = owes.Select(o => o.CustomerId).ToList();
        var names = await db
            .Customers.AsNoTracking()
            .Where(c => ids.Contains(c.Id))
            .Select(c => new
            {
                c.Id,
                c.Code,
                c.Name,
            })
            .ToDictionaryAsync(c => c.Id, stop);

        long HomeOf(OpenOnDay item) =>
            rates.TryGetValue(item.Currency.Code, out var rate)
                ? HomeAmount.Of(item.Open, item.Currency, rate.Rate, home)
                : item.HomeOpen;

        var rows = new List<ExpectedRow>();
        foreach (var customer in owes)
        {
            var habit = usual.Of(customer.CustomerId);
            var portions = customer.Portions.ToLookup(p => p.Item);
            foreach (var item in customer.Items)
            {
                List<Portion> parts = [.. portions[item.ItemId]];
                var shares = Apportion.ByWeight(HomeOf(item), parts.ConvertAll(p => p.Amount));
                for (var i = 0; i < parts.Count; i++)
                {
                    var expected = Expected(parts[i], habit, item.Due, day);
                    rows.Add(
                        new ExpectedRow(
                            item,
                            names[customer.CustomerId].Code,
                            names[customer.CustomerId].Name,
                            parts[i].Amount,
                            new ExpectedPart(item.ItemId, shares[i], expected),
                            Why(parts[i], expected, habit, usual.Own.ContainsKey(customer.CustomerId), item.Due)
                        )
                    );
                }
            }
        }

        return new ExpectedThen(
            day,
            home,
            ExpectedMoney.Of(day, weeks, rows.ConvertAll(r => r.Part)),
            [
                .. rows.OrderBy(r => r.Part.Expected?.Day ?? DateOnly.MaxValue)
                    .ThenBy(r => r.Name, StringComparer.OrdinalIgnoreCase)
                    .ThenBy(r => r.Item.ItemId)
                    .ThenBy(r => r.Part.Expected?.Because),
            ],
            owes.SelectMany(o => o.Credits).Sum(HomeOf)
        );
    }

    /// <summary>The last whole months, the newest first: each told only from what was known when it began.</summary>
    public async Task<IReadOnlyList<PastMonth>> PastAsync(int months, CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var first = new DateOnly(today.Year, today.Month, 1);
        var past = new List<PastMonth>();
        for (var back = 1; back <= months; back++)
        {
            var (from, next) = (first.AddMonths(-back), first.AddMonths(1 - back));
            bool Has(DateOnly day) => day >= from && day < next;
            var then = await ExpectedAsync(from.AddDays(-1), 1, stop);
            var parts = then.Rows.Select(r => r.Part).Where(p => p.Expected is not null).ToList();
            var owedThen = then.Rows.Select(r => r.Item.ItemId).ToHashSet();
            var came = await CameAsync(from, next, stop);
            if (then.Rows.Count == 0 && came.Count == 0)
                continue;
            past.Add(
                new PastMonth(
                    from,
                    parts.Where(p => Has(p.Expected!.Day)).Sum(p => p.Home),
                    parts.Where(p => Has(p.Expected!.Early) && Has(p.Expected.Late)).Sum(p => p.Home),
                    parts.Where(p => p.Expected!.Early < next && p.Expected.Late >= from).Sum(p => p.Home),
                    came.Where(c => owedThen.Contains(c.ItemId)).Sum(c => c.Home),
                    came.Where(c => !owedThen.Contains(c.ItemId)).Sum(c => c.Home)
                )
            );
        }

        return past;
    }

    /// <summary>The money that was set against what was owed, from a day up to another.</summary>
    private async Task<List<(int ItemId, long Home)>> CameAsync(DateOnly from, DateOnly next, CancellationToken stop) =>
        (
            await db
                .Allocations.AsNoTracking()
                .Where(a =>
                    a.Date >= from
                    && a.Date < next
                    && (a.Lowering.Kind == AccountItemKind.Receipt || a.Lowering.Kind == AccountItemKind.MovedIn)
                    && (a.Raising.Kind == AccountItemKind.Invoice || a.Raising.Kind == AccountItemKind.DebitNote)
                )
                .Select(a => new { a.RaisingId, a.HomeRaising })
                .ToListAsync(stop)
        ).ConvertAll(a => (a.RaisingId, a.HomeRaising));

    private static ExpectedDay? Expected(Portion portion, PayingHabit habit, DateOnly due, DateOnly day) =>
        portion.Kind switch
        {
            PortionKind.Disputed => null,
            PortionKind.Promised => ExpectedDay.Said(day, portion.Day!.Value, ExpectedBecause.Promise),
            PortionKind.Planned => ExpectedDay.Said(day, portion.Day!.Value, ExpectedBecause.Plan),
            _ => ExpectedDay.By(habit, due, day),
        };

    private static Phrase Why(Portion portion, ExpectedDay? expected, PayingHabit habit, bool isOwn, DateOnly due)
    {
        Phrase promised = $"promised for {portion.Day}";
        Phrase planned = $"a part of a plan, for {portion.Day}";
        Phrase usual = $"due {due}; {Usual(habit.Mean, isOwn)}";
        Phrase passed = $"{usual}, which has passed";
        return expected?.Because switch
        {
            null => "in dispute",
            ExpectedBecause.Promise => promised,
            ExpectedBecause.Plan => planned,
            ExpectedBecause.PastHabit => passed,
            _ => usual,
        };
    }

    private static string Usual(int days, bool isOwn) =>
        isOwn ? $"usually paid {Late(days)}" : $"customers pay {Late(days)}";

    private static string Late(int days) =>
        days switch
        {
            0 => "on the due day",
            1 => "1 day late",
            -1 => "1 day early",
            > 0 => $"{days} days late",
            _ => $"{-days} days early",
        };

    /// <summary>Each part of what is owed, for a file.</summary>
    public static Report Items(ExpectedThen then) =>
        new(
            "expected-items",
            "Expected money",
            $"as it was known at the end of {then.Day:yyyy-MM-dd}",
            [
                new("number", "Number"),
                new("customer", "Customer", InFilesOnly: true),
                new("name", "Name"),
                new("open", $"Open in {then.Home.Code}", true),
                new("expected", "Expected"),
                new("why", "Why"),
            ],
            [
                .. then.Rows.Select(r => new ReportRow([
                    r.Item.Number,
                    r.Code,
                    r.Name,
                    new Money(r.Part.Home, then.Home),
                    r.Part.Expected?.Day,
                    r.Why.ToString(),
                ])),
            ]
        );

    /// <summary>The weeks, what comes after them and what is in dispute: together, all that is owed.</summary>
    public static Report Weeks(ExpectedThen then)
    {
        Money Of(long minor) => new(minor, then.Home);
        return new Report(
            "expected",
            "Expected money",
            $"as it was known at the end of {then.Day:yyyy-MM-dd}",
            [
                new("what", "What"),
                new("from", "From"),
                new("to", "To"),
                new("amount", $"Amount {then.Home.Code}", true),
                new("low", "Low", true),
                new("high", "High", true),
                new("promised", "Promised", true),
            ],
            [
                .. then.Money.Weeks.Select(w => new ReportRow([
                    "week",
                    w.From,
                    w.To,
                    Of(w.Amount),
                    Of(w.Low),
                    Of(w.High),
                    Of(w.Promised),
                ])),
                new ReportRow([
                    "later",
                    then.Money.Weeks[^1].To.AddDays(1),
                    null,
                    Of(then.Money.Later),
                    null,
                    null,
                    null,
                ]),
                new ReportRow(["in dispute", null, null, Of(then.Money.InDispute), null, null, null]),
            ]
        );
    }
}
