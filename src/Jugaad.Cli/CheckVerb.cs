using System.CommandLine;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Cli;

/// <summary><c>check --data DIR</c>: recomputes what is kept and compares.</summary>
internal static class CheckVerb
{
    internal static Command Make()
    {
        var data = new Option<string>("--data") { Description = "The folder of the books.", Required = true, HelpName = "DIR" };
        var verb = new Command("check", "Recompute everything that is kept for speed or frozen, and compare. Exits 1 where something differs.") { data };
        verb.SetAction((parsed, stop) => RunAsync(parsed.GetRequiredValue(data), stop));
        return verb;
    }

    private static async Task<int> RunAsync(string folder, CancellationToken stop)
    {
        var file = new BooksFile(folder);
        if (!File.Exists(file.Database))
        {
            Console.Error.WriteLine($"There are no books in {file.Folder}. Give the folder that has books.db in it.");
            return 2;
        }

        await using var db = file.Open();
        var pending = await db.Database.GetPendingMigrationsAsync(stop);
        if (pending.Any())
        {
            Console.Error.WriteLine("These books were kept by an older version. Start Jugaad on them once, which brings them up to date, and check again.");
            return 2;
        }

        var report = await new BooksCheck(db).RunAsync(stop);
        foreach (var (what, count) in report.Counted) Console.WriteLine($"{count,8}  {what}");
        foreach (var difference in report.Differences) Console.WriteLine($"DIFFERS  {difference}");
        Console.WriteLine(report.Healthy ? "Everything agrees." : report.Differences.Count == 1 ? "1 difference." : $"{report.Differences.Count} differences.");
        return report.Healthy ? 0 : 1;
    }
}
