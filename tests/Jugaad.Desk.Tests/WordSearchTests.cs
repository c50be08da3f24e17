using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// What is typed into a search finds rows from an index that the database itself keeps, and the check proves.
/// </summary>
public sealed class WordSearchTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private Document _invoice = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _invoice = await _loft.IssuedAsync(_loft.Content(3, 411.5m) with { PurchaseOrder = "PO \"7%_5\" Ümera" });
        await _loft.IssuedAsync(_loft.Content(2, 10, _loft.Swede));
        await _loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, Loft.Today, _loft.Bank, 123_456, "for the Kärg and the boat", []))
        );
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    [Theory]
    [InlineData("ümera", 1)]
    [InlineData("UMERA", 1)]
    [InlineData("mer", 1)]
    [InlineData("\"7%_5\"", 1)]
    [InlineData("7%_5", 1)]
    [InlineData("7_%5", 0)]
    [InlineData("PO \"7", 1)]
    [InlineData("yard", 1)]
    [InlineData("va", 1)]
    [InlineData("INV", 2)]
    [InlineData("in", 2)]
    [InlineData("nv", 0)]
    [InlineData("AND", 0)]
    [InlineData("inv* OR yard", 0)]
    [InlineData("1 530.78", 1)]
    [InlineData("1530.78", 1)]
    [InlineData("1530.79", 0)]
    [InlineData("'; DROP TABLE Documents; --", 0)]
    public async Task Documents_are_found_by_words_numbers_customers_and_amounts(string typed, int count)
    {
        _invoice.Payable.ShouldBe(153_078);
        var totals = await _loft.WithAsync<SellScreens, ListTotals>(s =>
            s.TotalsAsync(new DocumentFilter(null, "", typed, ""))
        );
        totals.Count.ShouldBe(count);
    }

    [Theory]
    [InlineData("kar", 1)]
    [InlineData("KÄRG AND", 1)]
    [InlineData("1234.56", 1)]
    [InlineData("rct", 1)]
    [InlineData("boat Kärg", 0)]
    public async Task Receipts_too(string typed, int count) =>
        (
            await _loft.WithAsync<ReceiveScreens, ListTotals>(s => s.TotalsAsync(new ReceiptFilter(false, typed, "")))
        ).Count.ShouldBe(count);

    /// <summary>
    /// What finds a great many looks at the next rows first; whatever they are, each is seen once, there and back.
    /// </summary>
    [Theory]
    [InlineData("moored", 2_600)]
    [InlineData("in harbour", 2_100)]
    [InlineData("at sea", 500)]
    [InlineData("every third", 867)]
    public async Task However_many_are_found_each_is_seen_once_there_and_back(string typed, int count)
    {
        await _loft.WithAsync<BooksContext>(db =>
        {
            db.Trail.AddRange(
                Enumerable
                    .Range(0, 2_600)
                    .Select(i => new TrailEntry
                    {
                        Day = Loft.Today,
                        Who = "Test",
                        Text = $"moored {(i < 2_100 ? "in harbour" : "at sea")}{(i % 3 == 0 ? ", every third" : "")}",
                    })
            );
            return db.SaveChangesAsync();
        });
        var filter = new TrailFilter(typed, "", null, null);
        Task<Stretch<TrailRow>> AtAsync(ListPlace place) =>
            _loft.WithAsync<TrailScreens, Stretch<TrailRow>>(t => t.ListAsync(filter, place));
        var there = new List<int>();
        var stretch = await AtAsync(ListPlace.Start);
        for (
            there.AddRange(stretch.Rows.Select(r => r.Id));
            stretch.Further.Length > 0;
            there.AddRange(stretch.Rows.Select(r => r.Id))
        )
            stretch = await AtAsync(new ListPlace(After: stretch.Further));
        there.Count.ShouldBe(count);
        there.ShouldBe(there.OrderDescending());
        there.ShouldBeUnique();
        var back = new List<int>();
        stretch = await AtAsync(new ListPlace(AtEnd: true));
        for (
            back.AddRange(stretch.Rows.Select(r => r.Id));
            stretch.Back.Length > 0;
            back.InsertRange(0, stretch.Rows.Select(r => r.Id))
        )
            stretch = await AtAsync(new ListPlace(Before: stretch.Back));
        back.ShouldBe(there);
    }

    // The thousand with the latest days have other words than the others.
    private const string Early = "{0} < 250 OR {0} > 400";

    /// <summary>
    /// Where a great many are found but none of those that come first in the list, what was written last is looked at
    /// first; rows written long before with a late day come where they belong all the same.
    /// </summary>
    [Theory]
    [InlineData("i / 10", Early, 3_500, "days as they were written")]
    [InlineData(
        "i / 10 + CASE WHEN i % 40 = 0 THEN 500 ELSE 0 END",
        Early,
        3_500,
        "some far ahead of their neighbours"
    )]
    [InlineData("(i * 7919) % 350", Early, 3_500, "days in no order")]
    [InlineData("350 - i / 10", Early, 3_500, "the last written with the first days")]
    [InlineData(
        "i / 10",
        "{0} < 160 OR {0} BETWEEN 262 AND 349",
        4_400,
        "the newest end with a stretch, and a gap follows"
    )]
    public async Task Of_very_many_each_is_in_its_place_whatever_the_days(
        string day,
        string moored,
        int count,
        string because
    )
    {
        var draft = await _loft.DraftAsync(_loft.Content() with { PurchaseOrder = "pattern" });
        await _loft.WithAsync<BooksContext, int>(async db =>
        {
            var columns = await db
                .Database.SqlQueryRaw<string>("SELECT name AS \"Value\" FROM pragma_table_info('Documents')")
                .ToListAsync();
            var given = columns
                .Where(c => c != "Id")
                .Select(c =>
                    c switch
                    {
                        "Date" => $"date('2024-01-01', '+' || ({day}) || ' days')",
                        "PurchaseOrder" =>
                            $"CASE WHEN {string.Format(CultureInfo.InvariantCulture, moored, $"({day})")} THEN 'moored' ELSE 'sailing' END",
                        _ => $"\"{c}\"",
                    }
                );
#pragma warning disable EF1002 // The names of columns and the days are this test's own.
            return await db.Database.ExecuteSqlRawAsync(
                $"""
                WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < {count - 1})
                INSERT INTO Documents ({string.Join(", ", columns.Where(c => c != "Id").Select(c => $"\"{c}\""))})
                SELECT {string.Join(", ", given)} FROM n JOIN Documents ON Id = {draft}
                """
            );
#pragma warning restore EF1002
        });
        var expected = await _loft.WithAsync<BooksContext, List<int>>(db =>
            db.Documents.Where(d => d.PurchaseOrder == "moored")
                .OrderByDescending(d => d.Date)
                .ThenByDescending(d => d.Id)
                .Select(d => d.Id)
                .ToListAsync()
        );
        expected.Count.ShouldBeGreaterThan(2_000);
        var seen = new List<int>();
        var place = ListPlace.Start;
        do
        {
            var stretch = await _loft.WithAsync<SellScreens, Stretch<DocumentRow>>(s =>
                s.ListAsync(new DocumentFilter(null, "", "moored", "-date"), place)
            );
            seen.AddRange(stretch.Rows.Select(r => r.Id));
            place = new ListPlace(After: stretch.Further);
        } while (place.After.Length > 0 && seen.Count <= count);
        seen.ShouldBe(expected, because);
    }

    [Fact]
    public async Task What_changes_is_found_by_its_new_words_and_no_more_by_its_old()
    {
        await _loft.ExecuteAsync($"UPDATE Customers SET Name = 'Harbour of Änge' WHERE Id = {_loft.Yard}");
        (await FoundAsync("ange")).ShouldBe([_loft.Yard]);
        (await FoundAsync("harbour of")).ShouldBe([_loft.Yard]);
        (await FoundAsync("ha")).ShouldBe([_loft.Yard]);
        (await FoundAsync("of")).ShouldBe([_loft.Yard], "a word begins with it");
        (await FoundAsync("ou")).ShouldBeEmpty();
        // The code still says it; the name it had then does not.
        (await FoundAsync("yard")).ShouldBe([_loft.Yard]);
        await _loft.ExecuteAsync($"UPDATE Customers SET Code = 'HARBOUR', Email = '' WHERE Id = {_loft.Yard}");
        (await FoundAsync("yard")).ShouldBeEmpty();
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_discarded_is_not_found_any_more()
    {
        var draft = await _loft.DraftAsync(_loft.Content() with { PurchaseOrder = "fleeting" });
        (await DocumentsAsync("fleeting")).ShouldBe([draft]);
        await _loft.ExecuteAsync($"UPDATE Documents SET PurchaseOrder = '' WHERE Id = {draft}");
        (await DocumentsAsync("fleeting")).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("UPDATE DocumentsWords SET Words = 'other' WHERE rowid = 1")]
    [InlineData("DELETE FROM ReceiptsWords")]
    [InlineData("INSERT INTO CustomersWords (rowid, Words) VALUES (4711, 'nobody')")]
    [InlineData("DROP TRIGGER TrailWords_Added")]
    [InlineData("DROP TRIGGER DocumentsWords_Changed")]
    [InlineData("DROP TRIGGER ItemsWords_Gone")]
    public async Task The_check_finds_a_search_that_lies(string damage)
    {
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync(damage);
        (await _loft.CheckAsync()).Differences.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task A_search_that_has_no_room_says_that_the_disk_is_full_and_leaves_nothing_half_written()
    {
        await _loft.WithAsync<BooksContext>(async db =>
        {
            await db.Database.OpenConnectionAsync();
            await db.Database.ExecuteSqlRawAsync("PRAGMA max_page_count=1");
        });
        var said = new List<string>();
        for (var i = 0; i < 60; i++)
            try
            {
                await _loft.WithAsync<BookWriter>(w =>
                    w.WriteAsync(
                        Right.See,
                        null,
                        async () =>
                        {
                            await w.TrailAsync($"words and words that take room");
                            return 0;
                        }
                    )
                );
            }
            catch (DbUpdateException full)
            {
                said.Add(BooksTrouble.Of(full)!.Words);
            }

        said.ShouldNotBeEmpty();
        said.ShouldAllBe(w => w.StartsWith("The disk is full", StringComparison.Ordinal));
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("1,234.5", '.', new long[] { 123_450, 1_234_500 })]
    [InlineData("1.234,5", ',', new long[] { 123_450, 1_234_500 })]
    [InlineData("7", '.', new long[] { 7, 700, 7_000 })]
    [InlineData("-7", '.', new long[] { 7, 700, 7_000 })]
    [InlineData("seven", '.', new long[] { })]
    [InlineData("", '.', new long[] { })]
    public void A_typed_figure_is_an_amount_of_any_currency(string typed, char mark, long[] amounts) =>
        WordSearch.AmountsOf(typed, new DisplayFormat(mark, "d MMM yyyy")).ShouldBe(amounts);

    private Task<List<int>> FoundAsync(string typed) =>
        _loft.WithAsync<BooksContext, List<int>>(async db =>
            await (await WordSearch.CustomersAsync(db, typed, default)).Ids.OrderBy(i => i).ToListAsync()
        );

    private Task<List<int>> DocumentsAsync(string typed) =>
        _loft.WithAsync<BooksContext, List<int>>(async db =>
            await (await WordSearch.DocumentsAsync(db, typed, default)).Ids.ToListAsync()
        );
}
