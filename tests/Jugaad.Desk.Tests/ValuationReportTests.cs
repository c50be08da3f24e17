using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;

namespace Jugaad.Desk.Tests;

/// <summary>
/// What is open in Swedish crowns at the rates of any day. Rates: 0.0874 from January, 0.0901 from 16 September 2025.
/// </summary>
public sealed class ValuationReportTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync() => _loft = await Loft.OpenAsync();

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<Report> OnAsync(DateOnly day) => _loft.WithAsync<ValuationReports, Report>(v => v.ValuationAsync(day));

    private static string Cell(Report report, ReportRow row, string key) =>
        Report.Text(row.Cells[report.Columns.ToList().FindIndex(c => c.Key == key)]);

    private async Task<IReadOnlyList<string>> SaidAsync(DateOnly day)
    {
        var report = await OnAsync(day);
        return
        [
            .. report.Rows.Select(r =>
                string.Join(
                    ' ',
                    new[] { "amount", "rate", "home", "kept", "difference" }.Select(k => Cell(report, r, k))
                )
            ),
        ];
    }

    private Task<int> ReceiveAsync(DateOnly day, long amount, params (int, long)[] against) =>
        _loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Swede, day, _loft.Bank, amount, "", against))
        );

    [Fact]
    public async Task What_is_open_is_valued_at_the_rate_of_the_day_part_by_part()
    {
        var early = new DateOnly(2025, 9, 1);
        await _loft.IssuedAsync();
        // 124.00 SEK at 0.0874 are kept at 10.84.
        var invoice = await _loft.IssuedAsync(_loft.Content(customer: _loft.Swede, date: early));
        (await SaidAsync(early)).ShouldBe(["124.00 0.0874 10.84 10.84 0.00"]);
        (await SaidAsync(new DateOnly(2025, 9, 15))).ShouldBe(["124.00 0.0874 10.84 10.84 0.00"]);
        // 124.00 × 0.0901 = 11.1724.
        (await SaidAsync(Loft.Today)).ShouldBe(["124.00 0.0901 11.17 10.84 0.33"]);
        (await SaidAsync(early.AddDays(-1))).ShouldBeEmpty();

        // 24 of 124 are paid: 2.10 of the 10.84 are gone, and 100.00 are worth 9.01.
        await ReceiveAsync(Loft.Today, 24_00, ((await _loft.ItemOfAsync(invoice.Id)).Id, 24_00));
        (await SaidAsync(Loft.Today)).ShouldBe(["100.00 0.0901 9.01 8.74 0.27"]);
        (await SaidAsync(Loft.Today.AddDays(-1))).ShouldBe(["124.00 0.0901 11.17 10.84 0.33"], "as it was then");

        // Money that is set against nothing is owed back: 50.00 × 0.0901 = 4.505, away from zero.
        await ReceiveAsync(Loft.Today, 50_00);
        (await SaidAsync(Loft.Today)).ShouldBe(
            ["100.00 0.0901 9.01 8.74 0.27", "-50.00 0.0901 -4.51 -4.51 0.00"],
            ignoreOrder: true
        );
        await _loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("SEK", Loft.Today.AddDays(1), 0.0850m)));
        (await SaidAsync(Loft.Today.AddDays(1))).ShouldBe(
            ["100.00 0.085 8.50 8.74 -0.24", "-50.00 0.085 -4.25 -4.51 0.26"],
            ignoreOrder: true
        );
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_it_is_kept_at_is_what_the_open_items_say_and_it_changes_nothing_in_the_books()
    {
        await _loft.IssuedAsync();
        for (var i = 1; i <= 6; i++)
        {
            var invoice = await _loft.IssuedAsync(_loft.Content(i, 33.33m, _loft.Swede, Loft.Today.AddDays(-7 * i)));
            if (i % 2 == 0)
                await ReceiveAsync(
                    Loft.Today.AddDays(-i),
                    1_00 * i,
                    ((await _loft.ItemOfAsync(invoice.Id)).Id, 1_00 * i)
                );
        }

        var entries = await _loft.NumberAsync("SELECT count(*) FROM Journal");
        foreach (var back in new[] { 0, 1, 5, 10, 30, 60 })
        {
            var day = Loft.Today.AddDays(-back);
            var report = await OnAsync(day);
            var open = await _loft.WithAsync<AgedReports, Report>(a => a.OpenItemsAsync(day));
            var home = open
                .Rows.Where(r => Cell(open, r, "currency") == "SEK")
                .Sum(r => decimal.Parse(Cell(open, r, "homeOpen"), System.Globalization.CultureInfo.InvariantCulture));
            decimal Sum(string key) =>
                report.Rows.Sum(r =>
                    decimal.Parse(Cell(report, r, key), System.Globalization.CultureInfo.InvariantCulture)
                );
            Sum("kept").ShouldBe(home, $"{day}");
            Sum("difference").ShouldBe(Sum("home") - home);
        }

        (await _loft.NumberAsync("SELECT count(*) FROM Journal")).ShouldBe(entries);
    }

    [Fact]
    public async Task Without_a_rate_up_to_the_day_it_says_which_one_is_missing()
    {
        await _loft.IssuedAsync(_loft.Content(customer: _loft.Swede));
        await _loft.ExecuteAsync("UPDATE ExchangeRates SET \"From\" = date(\"From\", '+1 year')");
        (await Should.ThrowAsync<RefusalException>(() => OnAsync(Loft.Today))).Message.ShouldContain(
            "no exchange rate of SEK up to 2025-09-17"
        );
    }
}
