using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
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

/// <summary>What should come in, by week: from promises, plans, due days and each customer's habit.</summary>
public sealed class ExpectedReports(BooksContext db, BooksHead head, OwedBook owed, PayingHabits habits)
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
        var rates = await RatesAsync(day, stop);
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
                ? HomeAmount.Of(item.Open, item.Currency, rate, home)
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
        Phrase passed = $"{usual}, and that has passed; three quarters come {Late(habit.Upper)}";
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

    /// <summary>The rate of each foreign currency on a day, by code.</summary>
    private async Task<Dictionary<string, decimal>> RatesAsync(DateOnly day, CancellationToken stop) =>
        (await db.ExchangeRates.AsNoTracking().Where(r => r.From <= day).ToListAsync(stop))
            .GroupBy(r => r.Currency.Code)
            .ToDictionary(g => g.Key, g => g.MaxBy(r => r.From)!.Rate);

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
