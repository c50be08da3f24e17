using System.Diagnostics;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>The program is killed in the middle of issuing, as when the power goes.</summary>
public sealed class StoppedTests
{
    [Theory]
    [InlineData("write:1", false)]
    [InlineData("write:3", false)]
    [InlineData("write:5", false)]
    [InlineData("before-commit", false)]
    [InlineData("after-commit", true)]
    public async Task Stopped_between_number_and_commit_leaves_no_gap_and_no_double(string moment, bool issued)
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        var id = await loft.DraftAsync();
        (await StopAsync(loft.File.Folder, id, moment)).ShouldBe(137);

        var document = await loft.DocumentAsync(id);
        document.State.ShouldBe(issued ? DocumentState.Issued : DocumentState.Draft);
        document.Number.ShouldBe(issued ? "INV-2025-0002" : null);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        (await loft.IssuedAsync()).Number.ShouldBe(issued ? "INV-2025-0003" : "INV-2025-0002");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        (await loft.WithAsync<BooksContext, int>(db => db.AccountItems.CountAsync())).ShouldBe(issued ? 3 : 2);
    }

    /// <summary>500 receipts, with the program killed at some moment again and again: at the end each invoice is paid by exactly one receipt.</summary>
    [Fact]
    public async Task Killed_again_and_again_while_posting_500_receipts_nothing_is_lost_half_done_or_doubled()
    {
        await using var loft = await Loft.OpenAsync();
        await InvoicesAsync(loft, 500);
        var dice = new Random(20250917);
        var answered = new HashSet<int>();
        for (var run = 0; ; run++)
        {
            run.ShouldBeLessThan(60, "it never comes to its end");
            using var process = Process.Start(new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Jugaad.Stopper.dll"), loft.File.Folder, loft.Yard.ToString(), "receipts"]) { RedirectStandardOutput = true })!;
            (await process.StandardOutput.ReadLineAsync()).ShouldBe("ready");
            var killed = run < 8;
            var patience = killed ? Task.Delay(400 + dice.Next(1_200)) : Task.Delay(Timeout.Infinite);
            while (true)
            {
                var line = process.StandardOutput.ReadLineAsync();
                if (await Task.WhenAny(line, patience) == patience) process.Kill();
                if (await line is not { } said) break;
                if (int.TryParse(said, out var item)) answered.Add(item).ShouldBeTrue("what was answered is not posted again");
            }

            await process.WaitForExitAsync();
            (await loft.CheckAsync()).Differences.ShouldBeEmpty();
            await loft.WithAsync<BooksContext>(async db =>
            {
                var paid = await db.AccountItems.Where(i => i.Sign > 0 && i.Open == 0).Select(i => i.Id).ToListAsync();
                answered.Except(paid).ShouldBeEmpty("what was answered is there");
                (await db.Receipts.CountAsync()).ShouldBe(paid.Count);
                (await db.AccountItems.Where(i => i.Sign < 0).SumAsync(i => i.Open)).ShouldBe(0);
            });
            if (process.ExitCode == 0) break;
        }

        (await loft.WithAsync<BooksContext, int>(db => db.Receipts.CountAsync())).ShouldBe(500);
    }

    private static async Task InvoicesAsync(Loft loft, int count)
    {
        for (var i = 0; i < count; i++) await loft.IssuedAsync(loft.Content(1, 1 + i));
    }

    private static async Task<int> StopAsync(string folder, int draft, string moment)
    {
        var program = Path.Combine(AppContext.BaseDirectory, "Jugaad.Stopper.dll");
        using var process = Process.Start(new ProcessStartInfo("dotnet", [program, folder, draft.ToString(), moment]) { RedirectStandardError = true })!;
        var said = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        said.ShouldBeEmpty();
        return process.ExitCode;
    }
}
