using System.Data.Common;
using Jugaad.Core.Documents;
using Jugaad.Desk.Checking;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Jugaad.Desk.Tests;

public sealed class CheckTests
{
    /// <summary>Damages that a healthy program cannot do, and what the check says of each.</summary>
    [Theory]
    [InlineData("UPDATE AccountItems SET Open = Open - 1 WHERE Kind = 'Invoice'", "is kept")]
    [InlineData("UPDATE AccountItems SET HomeOpen = HomeOpen + 1 WHERE Kind = 'Receipt'", "open home amount")]
    [InlineData("UPDATE JournalLines SET Debit = Debit + 5 WHERE Debit > 0", "debits")]
    [InlineData("UPDATE DocumentLine SET Quantity = Quantity * 2", "its lines give")]
    [InlineData("UPDATE DocumentTax SET Tax = Tax + 1", "taxes do not follow")]
    [InlineData("UPDATE Documents SET State = 'Settled' WHERE Kind = 'Invoice'", "its state is Settled")]
    [InlineData(
        "UPDATE Documents SET Number = 'INV-2025-0009' WHERE Number = 'INV-2025-0001'",
        "INV-2025-0001: the number is missing"
    )]
    [InlineData("UPDATE SeriesCounters SET Next = Next + 1", "the number is missing")]
    [InlineData("UPDATE Allocations SET Amount = Amount + 20000", "more is allocated than there is")]
    [InlineData("UPDATE Allocations SET Date = '2020-01-01'", "dated before")]
    [InlineData("DELETE FROM JournalLines; DELETE FROM Journal", "has no journal entry")]
    [InlineData("UPDATE AccountItems SET Amount = Amount + 1 WHERE Kind = 'Receipt'", "not on the customer's account")]
    public async Task Every_damage_is_found(string damage, string said)
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        await loft.ReceiveAsync(5_000, (item.Id, 4_000));
        (await loft.CheckAsync()).Healthy.ShouldBeTrue();
        await loft.ExecuteAsync(damage);
        (await loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(said, StringComparison.Ordinal));
    }

    /// <summary>Has something happen before every few questions that are asked of the books.</summary>
    private sealed class Meanwhile(int every, Func<Task> happens) : DbCommandInterceptor
    {
        private const int Most = 12;

        private int _asked;

        public override async ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken cancellationToken = default
        )
        {
            // Not for ever: what reads on as long as something new comes would never end.
            if (++_asked % every == 0 && _asked <= every * Most)
                await happens();
            return result;
        }
    }

    [Fact]
    public async Task Books_that_are_worked_on_while_they_are_checked_agree()
    {
        await using var loft = await Loft.OpenAsync();
        async Task TradeAsync()
        {
            var item = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
            await loft.ReceiveAsync(5_000, (item.Id, 4_000));
        }

        await TradeAsync();
        await using var db = loft.File.Open(options => options.AddInterceptors(new Meanwhile(13, TradeAsync)));
        (await new BooksCheck(db).RunAsync()).Differences.ShouldBeEmpty();
        (await loft.NumberAsync("SELECT COUNT(*) FROM Receipts")).ShouldBeGreaterThan(5);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_check_counts_what_it_looked_at()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        await loft.IssuedAsync(kind: DocumentKind.Quote);
        var counted = (await loft.CheckAsync()).Counted.ToDictionary(c => c.What, c => c.Count);
        (
            counted["issued documents"],
            counted["account items"],
            counted["numbers of quotes"],
            counted["journal entries"]
        ).ShouldBe((2, 1, 1, 1));
    }

    [Fact]
    public async Task A_file_whose_index_does_not_agree_or_whose_rows_point_nowhere_is_found()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        // An index that lacks a row, as a disk makes it that forgets a page.
        await loft.ExecuteAsync(
            "PRAGMA writable_schema=ON; UPDATE sqlite_master SET sql = replace(sql, '\"Date\"', '\"Number\"') WHERE name = 'IX_Documents_Date'; PRAGMA writable_schema=OFF"
        );
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        (await loft.CheckAsync()).Differences.ShouldContain(d =>
            d.StartsWith("The books' file is damaged", StringComparison.Ordinal)
        );
        await loft.ExecuteAsync(
            "PRAGMA writable_schema=ON; UPDATE sqlite_master SET sql = replace(sql, '\"Number\"', '\"Date\"') WHERE name = 'IX_Documents_Date'; PRAGMA writable_schema=OFF"
        );
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.ExecuteAsync(
            "PRAGMA foreign_keys=OFF; INSERT INTO PostTry (PostItemId, At, Outcome, Said) VALUES (999, '2025-01-01', 'Sent', '')"
        );
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        (await loft.CheckAsync()).Differences.ShouldContain(d =>
            d.Contains("of PostTry: points to one of Post that is not there", StringComparison.Ordinal)
        );
    }
}
