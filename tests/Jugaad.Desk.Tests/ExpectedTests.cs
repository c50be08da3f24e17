using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;

namespace Jugaad.Desk.Tests;

/// <summary>What should come in, and when.</summary>
public sealed class ExpectedTests
{
    private static Task<ExpectedThen> ThenAsync(Loft loft, DateOnly day, int weeks = 13) =>
        loft.WithAsync<ExpectedReports, ExpectedThen>(r => r.ExpectedAsync(day, weeks));

    private static async Task<int> OwedAsync(Loft loft, int daysAgo, int? customer = null, int price = 50) =>
        (
            await loft.ItemOfAsync(
                (await loft.IssuedAsync(loft.Content(2, price, customer, Loft.Today.AddDays(-daysAgo)))).Id
            )
        ).Id;

    private static void AddsUp(ExpectedThen then)
    {
        (then.Money.Weeks.Sum(w => w.Amount) + then.Money.Later + then.Money.InDispute).ShouldBe(then.Money.Total);
        then.Rows.Sum(r => r.Part.Home).ShouldBe(then.Money.Total);
    }

    [Fact]
    public async Task Without_anything_known_money_comes_on_the_due_day()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 4);
        var then = await ThenAsync(loft, Loft.Today);
        var row = then.Rows.ShouldHaveSingleItem();
        row.Part.Expected!.Day.ShouldBe(Loft.Today.AddDays(10));
        row.Why.ToString().ShouldBe($"due {Loft.Today.AddDays(10):yyyy-MM-dd}; customers pay on the due day");
        then.Money.Weeks[1].Amount.ShouldBe(124_00);
        AddsUp(then);
    }

    [Fact]
    public async Task A_customer_with_a_habit_is_expected_by_it_and_a_past_day_knows_only_what_was_then()
    {
        await using var loft = await Loft.OpenAsync();
        foreach (var (ago, late) in new[] { (100, 4), (90, 6), (80, 8) })
        {
            var paid = await OwedAsync(loft, ago);
            var day = Loft.Today.AddDays(-ago + 14 + late);
            await loft.WithAsync<Receipts>(r =>
                r.PostAsync(new ReceiptToPost(loft.Yard, day, loft.Bank, 124_00, "by bank", [(paid, 124_00)]))
            );
        }

        await OwedAsync(loft, 4);
        var row = (await ThenAsync(loft, Loft.Today)).Rows.ShouldHaveSingleItem();
        (row.Part.Expected!.Day, row.Part.Expected.Early, row.Part.Expected.Late).ShouldBe(
            (Loft.Today.AddDays(16), Loft.Today.AddDays(14), Loft.Today.AddDays(18))
        );
        row.Why.ToString().ShouldContain("usually paid 6 days late");
        // Before the third was paid, nothing could be said yet.
        var before = await ThenAsync(loft, Loft.Today.AddDays(-80 + 14 + 7));
        before.Rows.ShouldHaveSingleItem().Why.ToString().ShouldContain("customers pay on the due day");
        AddsUp(before);
    }

    [Fact]
    public async Task Promises_plans_and_disputes_each_stand_where_they_belong()
    {
        await using var loft = await Loft.OpenAsync();
        var promised = await OwedAsync(loft, 30);
        var planned = await OwedAsync(loft, 20);
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(
                loft.Yard,
                new ContactSaid(ContactWay.Call, "", "", null),
                new PromiseHeard(100_00, Loft.Today.AddDays(3), [promised]),
                new DisputeHeard(promised, 24_00, "Not ordered", null)
            )
        );
        await loft.WithAsync<Plans>(p =>
            p.AgreeAsync(
                loft.Yard,
                [planned],
                PaymentPlan.Equally(Loft.Today, 124_00, 2, i => Loft.Today.AddDays(100 * (i + 1))).Parts
            )
        );
        var then = await ThenAsync(loft, Loft.Today);
        then.Money.Weeks[0]
            .ShouldBe(new ExpectedWeek(Loft.Today, Loft.Today.AddDays(6), 100_00, 100_00, 100_00, 100_00));
        (then.Money.Later, then.Money.InDispute, then.Money.Total).ShouldBe((124_00, 24_00, 248_00));
        then.Rows.Select(r => r.Why.ToString())
            .ShouldBe([
                $"promised for {Loft.Today.AddDays(3):yyyy-MM-dd}",
                $"a part of a plan, for {Loft.Today.AddDays(100):yyyy-MM-dd}",
                $"a part of a plan, for {Loft.Today.AddDays(200):yyyy-MM-dd}",
                "in dispute",
            ]);
        AddsUp(then);
    }

    [Fact]
    public async Task Another_currency_counts_at_the_rate_of_the_day_and_credit_stands_apart()
    {
        await using var loft = await Loft.OpenAsync();
        var sek = Currency.Of("SEK");
        await OwedAsync(loft, 10, loft.Swede);
        await loft.ReceiveAsync(5_00);
        var then = await ThenAsync(loft, Loft.Today);
        var row = then.Rows.ShouldHaveSingleItem();
        row.Item.Currency.ShouldBe(sek);
        row.Part.Home.ShouldBe(11_17, "124.00 at 0.0901, of yesterday on");
        (then.Credit, then.Money.Total).ShouldBe((5_00, row.Part.Home));
        var before = await ThenAsync(loft, Loft.Today.AddDays(-3));
        before.Money.Total.ShouldBe(10_84, "at 0.0874");
        AddsUp(before);
    }

    [Fact]
    public async Task Looking_back_says_what_would_have_been_said_beside_what_came()
    {
        await using var loft = await Loft.OpenAsync();
        // Due on 6 August, and known at the end of July; paid in August. The other is billed only in August.
        var known = await OwedAsync(loft, 56);
        var since = await OwedAsync(loft, 40);
        foreach (var item in new[] { known, since })
            await loft.WithAsync<Receipts>(r =>
                r.PostAsync(new ReceiptToPost(loft.Yard, new(2025, 8, 20), loft.Bank, 124_00, "", [(item, 124_00)]))
            );
        var past = await loft.WithAsync<ExpectedReports, IReadOnlyList<PastMonth>>(r => r.PastAsync(3));
        past.ShouldHaveSingleItem().ShouldBe(new PastMonth(new(2025, 8, 1), 124_00, 124_00, 124_00, 124_00, 124_00));
    }
}
