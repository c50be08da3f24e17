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

    private static async Task<int> StopAsync(string folder, int draft, string moment)
    {
        var program = Path.Combine(AppContext.BaseDirectory, "Jugaad.Stopper.dll");
        using var process = Process.Start(
            new ProcessStartInfo("dotnet", [program, folder, draft.ToString(), moment]) { RedirectStandardError = true }
        )!;
        var said = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        said.ShouldBeEmpty();
        return process.ExitCode;
    }
}
