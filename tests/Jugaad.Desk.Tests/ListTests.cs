using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Lists by their keys: whoever goes through one sees each row once, there and back, and its file and totals say the
/// same.
/// </summary>
public sealed class ListTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        // Many of the same day, customer and amount, so that only their number tells them apart.
        for (var i = 0; i < 95; i++)
        {
            var customer = i % 3 == 0 ? _loft.Swede : _loft.Yard;
            await _loft.WithAsync<Receipts, int>(r =>
                r.PostAsync(new ReceiptToPost(customer, Loft.Today.AddDays(-i % 5), _loft.Bank, 100 + i % 7, "", []))
            );
        }
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    [Theory]
    [InlineData("")]
    [InlineData("date")]
    [InlineData("-date")]
    [InlineData("number")]
    [InlineData("-number")]
    [InlineData("customer")]
    [InlineData("-customer")]
    [InlineData("amount")]
    [InlineData("-amount")]
    [InlineData("no such order")]
    public async Task Each_row_is_seen_once_there_and_back_in_the_order_of_the_file(string sort)
    {
        var filter = new ReceiptFilter(false, "", sort);
        var file = (await ReportAsync(filter)).Rows.Select(r => (string)r.Cells[0]!).ToList();
        file.Count.ShouldBe(95);
        file.ShouldBeUnique();

        var there = new List<string>();
        var place = ListPlace.Start;
        Stretch<ReceiptRow> stretch;
        do
        {
            stretch = await ReadAsync(filter, place);
            (there.Count == 0).ShouldBe(stretch.Back.Length == 0);
            there.AddRange(stretch.Rows.Select(r => r.Number));
            place = new ListPlace(After: stretch.Further);
        } while (stretch.Further.Length > 0);
        there.ShouldBe(file);

        var back = new List<string>();
        place = new ListPlace(AtEnd: true);
        do
        {
            stretch = await ReadAsync(filter, place);
            (back.Count == 0).ShouldBe(stretch.Further.Length == 0);
            back.InsertRange(0, stretch.Rows.Select(r => r.Number));
            place = new ListPlace(Before: stretch.Back);
        } while (stretch.Back.Length > 0);
        back.ShouldBe(file);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(40)]
    [InlineData(41)]
    [InlineData(95)]
    public void A_list_that_is_had_whole_is_gone_through_there_and_back_too(int count)
    {
        // The numbers are in no order, as in a list that is sorted by something else.
        var all = Enumerable.Range(1, count).Select(i => i * 7919 % 104_729).ToList();
        Stretch<int> At(ListPlace place) => Stretch.Of(all, id => id, place);
        var there = new List<int>();
        var stretch = At(ListPlace.Start);
        for (there.AddRange(stretch.Rows); stretch.Further.Length > 0; there.AddRange(stretch.Rows))
            stretch = At(new ListPlace(After: stretch.Further));
        there.ShouldBe(all);
        var back = new List<int>();
        stretch = At(new ListPlace(AtEnd: true));
        for (back.AddRange(stretch.Rows); stretch.Back.Length > 0; back.InsertRange(0, stretch.Rows))
            stretch = At(new ListPlace(Before: stretch.Back));
        back.ShouldBe(all);
        At(new ListPlace(After: "gone")).Rows.ShouldBe(At(ListPlace.Start).Rows);
        At(new ListPlace(Before: "-5")).Rows.ShouldBe(At(ListPlace.Start).Rows);
    }

    [Fact]
    public async Task What_is_picked_is_in_the_file_in_the_order_of_the_list_and_all_can_be_named_up_to_a_bound()
    {
        var filter = new ReceiptFilter(false, "", "-amount");
        var all = await _loft.WithAsync<ReceiveScreens, IReadOnlyList<int>>(s => s.IdsAsync(filter, 1000));
        all.Count.ShouldBe(95);
        (await _loft.WithAsync<ReceiveScreens, IReadOnlyList<int>>(s => s.IdsAsync(filter, 10))).ShouldBe(all.Take(11));
        int[] picked = [all[60], all[3], 999_999];
        var report = await _loft.WithAsync<ReceiveScreens, Report>(s => s.ReportAsync(filter, picked));
        var numbers = await _loft.WithAsync<ReceiveScreens, IReadOnlyDictionary<int, string>>(s =>
            s.NumbersAsync(picked)
        );
        report.Rows.Select(r => r.Cells[0]).ShouldBe([numbers[all[3]], numbers[all[60]]]);
    }

    [Theory]
    [InlineData("nonsense")]
    [InlineData("~")]
    [InlineData("2025-99-99~1")]
    [InlineData("2025-09-17~99999999999999")]
    [InlineData("~5")]
    public async Task A_mark_that_is_none_is_the_beginning(string mark)
    {
        var filter = new ReceiptFilter(false, "", "");
        var start = await ReadAsync(filter, ListPlace.Start);
        (await ReadAsync(filter, new ListPlace(After: mark)))
            .Rows.Select(r => r.Id)
            .ShouldBe(start.Rows.Select(r => r.Id));
    }

    [Fact]
    public async Task A_mark_past_the_end_is_the_beginning_and_not_an_empty_page()
    {
        var stretch = await ReadAsync(new ReceiptFilter(false, "", "-date"), new ListPlace(After: "1999-01-01~1"));
        stretch.Rows.Count.ShouldBe(ListPlace.Size);
    }

    [Fact]
    public async Task Somebody_who_adds_a_row_meanwhile_moves_nobody()
    {
        var filter = new ReceiptFilter(false, "", "-date");
        var first = await ReadAsync(filter, ListPlace.Start);
        var next = await ReadAsync(filter, new ListPlace(After: first.Further));
        await _loft.ReceiveAsync(5);
        (await ReadAsync(filter, new ListPlace(After: first.Further))).Rows.ShouldBe(next.Rows);
    }

    [Fact]
    public async Task Totals_are_what_the_file_adds_up_to_whatever_is_searched()
    {
        foreach (var search in new[] { "", "Yard", "RCT", "nobody" })
        {
            foreach (var unplaced in new[] { false, true })
            {
                var filter = new ReceiptFilter(unplaced, search, "");
                var report = await ReportAsync(filter);
                var totals = await _loft.WithAsync<ReceiveScreens, ListTotals>(s => s.TotalsAsync(filter));
                totals.Count.ShouldBe(report.Rows.Count);
                totals.Sums.Sum(s => s.Amounts["amount"]).ShouldBe(report.Rows.Sum(r => ((Money)r.Cells[7]!).Minor));
                totals.Sums.Sum(s => s.Amounts["open"]).ShouldBe(report.Rows.Sum(r => ((Money)r.Cells[8]!).Minor));
            }
        }
    }

    [Fact]
    public async Task An_undone_receipt_is_seen_and_counts_nothing()
    {
        var filter = new ReceiptFilter(false, "", "-number");
        var before = await _loft.WithAsync<ReceiveScreens, ListTotals>(s => s.TotalsAsync(filter));
        await _loft.ReceiveAsync(5_000);
        var newest = (await ReadAsync(filter, ListPlace.Start)).Rows[0];
        var booking = await _loft.WithAsync<ReceiveScreens, ReceiptView?>(s => s.ReceiptAsync(newest.Id));
        await _loft.WithAsync<Undoing>(u => u.UndoAsync(booking!.Done[0].Id));
        var after = await _loft.WithAsync<ReceiveScreens, ListTotals>(s => s.TotalsAsync(filter));
        after.Count.ShouldBe(before.Count + 1);
        after.Sums.Sum(s => s.Amounts["amount"]).ShouldBe(before.Sums.Sum(s => s.Amounts["amount"]));
    }

    [Fact]
    public async Task Drafts_without_a_number_have_their_place_in_every_order()
    {
        for (var i = 0; i < 3; i++)
            await _loft.DraftAsync();
        foreach (var sort in new[] { "number", "-number", "due", "-due", "customer", "amount" })
        {
            var rows = await _loft.WithAsync<SellScreens, Stretch<DocumentRow>>(s =>
                s.ListAsync(new DocumentFilter(DocumentKind.Invoice, "drafts", "", sort), ListPlace.Start)
            );
            rows.Rows.Count.ShouldBe(3, sort);
        }
    }

    private Task<Stretch<ReceiptRow>> ReadAsync(ReceiptFilter filter, ListPlace place) =>
        _loft.WithAsync<ReceiveScreens, Stretch<ReceiptRow>>(s => s.ListAsync(filter, place));

    private Task<Report> ReportAsync(ReceiptFilter filter) =>
        _loft.WithAsync<ReceiveScreens, Report>(s => s.ReportAsync(filter));
}
