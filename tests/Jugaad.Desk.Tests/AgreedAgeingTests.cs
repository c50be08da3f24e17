using Jugaad.Core.Collecting;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Wherever it is told how late something is, a plan that is kept and a dispute are told with it.</summary>
public sealed class AgreedAgeingTests
{
    /// <summary>An invoice of 124.00, ten days late.</summary>
    private static async Task<int> LateAsync(Loft loft) =>
        (await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-24)))).Id)).Id;

    /// <summary>In two parts, in ten and in twenty days; a part may be five days late.</summary>
    private static Task PlanAsync(Loft loft, int item) =>
        loft.WithAsync<Plans>(p =>
            p.AgreeAsync(
                loft.Yard,
                [item],
                PaymentPlan.Equally(Loft.Today, 124_00, 2, i => Loft.Today.AddDays(10 * (i + 1))).Parts
            )
        );

    private static Task DisputeAsync(Loft loft, int item, long amount) =>
        loft.WithAsync<Contacts>(c =>
            c.NoteAsync(
                loft.Yard,
                new ContactSaid(ContactWay.Call, "Ilze", "Too dear", null),
                null,
                new DisputeHeard(item, amount, "Too dear", null)
            )
        );

    private static async Task<AgedRow> AgedAsync(Loft loft, int days = 0)
    {
        var aged = await loft.WithAsync<AgedReports, AgedBalances>(r => r.AgedAsync(Loft.Today.AddDays(days)));
        aged.HomeBalance.ShouldBe(aged.Receivables);
        aged.Rows.Sum(r => r.Aged.Balance).ShouldBe(aged.HomeBalance, "all parts add up to what is open");
        return aged.Rows.Single();
    }

    private static async Task<List<string>> StatementAsync(Loft loft, int days = 0)
    {
        var wish = new StatementWish(null, Loft.Today.AddDays(days));
        var papers = await loft.WithAsync<Statements, IReadOnlyList<DisplayList>>(s => s.ComposeAsync(loft.Yard, wish));
        return [.. papers.Single().Pages.SelectMany(p => p.Marks).OfType<TextMark>().Select(m => m.Text)];
    }

    [Fact]
    public async Task A_plan_that_is_kept_puts_off_what_is_late_everywhere_until_it_breaks()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await LateAsync(loft);
        (await loft.WithAsync<DayScreens, Tally>(d => d.TallyAsync())).OverdueHome.ShouldBe(124_00);
        await PlanAsync(loft, item);
        var planned = await AgedAsync(loft);
        (planned.Aged.NotYetDue, planned.Aged.Overdue).ShouldBe((124_00, 0));
        planned.Items.Single().Due.ShouldBe(Loft.Today.AddDays(10), "when the first part is due");
        // The first part is three days late, which the plan allows.
        var partly = await AgedAsync(loft, 13);
        (partly.Aged.NotYetDue, partly.Aged.Late[0]).ShouldBe((62_00, 62_00));
        var broken = await AgedAsync(loft, 16);
        (broken.Aged.NotYetDue, broken.Aged.Late[0], broken.Aged.Late[1]).ShouldBe((0, 124_00, 0), "26 days late");
        (await AgedAsync(loft, -1)).Aged.Late[0].ShouldBe(124_00, "nothing was agreed then");

        (await StatementAsync(loft)).ShouldNotContain(t => t.Contains("past its due day"));
        (await StatementAsync(loft, 13)).ShouldContain(t => t.Contains("62.00 EUR is past its due day"));
        (await StatementAsync(loft, 16)).ShouldContain(t => t.Contains("124.00 EUR is past its due day"));
        var tally = await loft.WithAsync<DayScreens, Tally>(d => d.TallyAsync());
        (tally.OverdueHome, tally.OverdueCount).ShouldBe((0, 0));
        (await loft.WithAsync<LateScreens, ListTotals>(l => l.TotalsAsync(new LateFilter("", "")))).Count.ShouldBe(0);
        var account = await loft.WithAsync<AccountScreens, AccountView?>(a => a.AccountAsync(loft.Yard, 1));
        (account!.Aged.NotYetDue, account.Agreed.Due(item, Loft.Today)).ShouldBe((124_00, Loft.Today.AddDays(10)));
        var listed = await loft.WithAsync<AccountScreens, ListTotals>(a => a.CustomerTotalsAsync(""));
        listed.Sums.ShouldAllBe(s => s.Amounts["late"] == 0);
        var who = await loft.WithAsync<StatementRun, IReadOnlyList<StatementFor>>(r => r.WhoAsync(Loft.Today));
        (who.Single().Balance.Single().Minor, who.Single().Late.Count).ShouldBe((124_00, 0));
        var items = await loft.WithAsync<AgedReports, Report>(r => r.OpenItemsAsync(Loft.Today));
        items.Rows.Single().Cells[5].ShouldBe(Loft.Today.AddDays(10));
        items.Rows.Single().Cells[6].ShouldBe(0);
    }

    [Fact]
    public async Task What_is_in_dispute_stands_apart_and_the_sum_stays()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await LateAsync(loft);
        var plain = await loft.WithAsync<AgedReports, Report>(r => r.AgedReportAsync(Loft.Today));
        plain.Columns.ShouldNotContain(c => c.Key == "inDispute", "there is none");
        await DisputeAsync(loft, item, 24_00);
        var aged = (await AgedAsync(loft)).Aged;
        (aged.Disputed, aged.Late[0], aged.Balance).ShouldBe((24_00, 100_00, 124_00));
        var report = await loft.WithAsync<AgedReports, Report>(r => r.AgedReportAsync(Loft.Today));
        report.Columns.Select(c => c.Head).ShouldContain("In dispute");
        report.Rows.Single().Cells.Count.ShouldBe(report.Columns.Count);
        (await StatementAsync(loft)).ShouldBeInOrder("In dispute", "24.00");
        (await StatementAsync(loft)).ShouldContain(t => t.Contains("100.00 EUR is past its due day"));
        var dispute = (int)await loft.NumberAsync("SELECT Id FROM Disputes");
        loft.Clock.Advance(TimeSpan.FromDays(2));
        await loft.WithAsync<Disputes>(d => d.EndAsync(dispute, DisputeOutcome.Owed, "As ordered"));
        (await AgedAsync(loft, 2)).Aged.Late[0].ShouldBe(124_00);
        (await AgedAsync(loft, 1)).Aged.Disputed.ShouldBe(24_00, "it held then");
    }

    [Fact]
    public async Task A_dispute_goes_before_a_plan_and_ageing_by_date_heeds_no_due_day()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await LateAsync(loft);
        await PlanAsync(loft, item);
        await DisputeAsync(loft, item, 24_00);
        var both = (await AgedAsync(loft)).Aged;
        (both.Disputed, both.NotYetDue).ShouldBe((24_00, 100_00));
        await loft.WithAsync<Periods>(p => p.AgeAsync("10, 20", true));
        var byDate = (await AgedAsync(loft)).Aged;
        (byDate.Disputed, byDate.Late[2]).ShouldBe((24_00, 100_00), "24 days after its date");
    }
}
