using System.CommandLine;
using Jugaad.Desk.Checking;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary><c>check --data DIR</c>: recomputes what is kept and compares.</summary>
internal static class CheckVerb
{
    internal static Command Make()
    {
        var data = BooksVerbs.Data();
        var verb = new Command(
            "check",
            "Recompute everything that is kept for speed or frozen, and compare. Exits 1 where something differs."
        )
        {
            data,
        };
        verb.SetAction(
            (parsed, stop) => BooksVerbs.WithAsync(parsed.GetRequiredValue(data), services => RunAsync(services, stop))
        );
        return verb;
    }

    internal static async Task<int> RunAsync(IServiceProvider services, CancellationToken stop)
    {
        var report = await services.GetRequiredService<BooksCheck>().RunAsync(stop);
        foreach (var (what, count) in report.Counted)
            Console.WriteLine($"{count.ToString().PadLeft(8)}  {what}");
        foreach (var difference in report.Differences)
            Console.WriteLine($"DIFFERS  {difference}");
        Console.WriteLine(
            report.Healthy ? "Everything agrees."
            : report.Differences.Count == 1 ? "1 difference."
            : $"{report.Differences.Count} differences."
        );
        return report.Healthy ? 0 : 1;
    }
}
