using System.Diagnostics;

namespace Jugaad.Bench;

/// <summary>One thing that is measured.</summary>
/// <param name="Figure">What it may take at the most.</param>
/// <param name="Unit">Of the figure and the results.</param>
internal sealed record Measure(string What, double Figure, string Unit = "ms")
{
    /// <summary>What it took, by the number of invoices in the books.</summary>
    internal SortedDictionary<int, double> Took { get; } = [];

    /// <summary>What the bare question of the file took, where a page answers one.</summary>
    internal SortedDictionary<int, double> Bare { get; } = [];

    /// <summary>
    /// How many times as long as the bare question the page takes on the largest books; null where there is none.
    /// </summary>
    internal double? Ratio =>
        Bare.Count == 0 || !Took.TryGetValue(Bare.Keys.Last(), out var took) ? null : took / Bare.Values.Last();
}

/// <summary>Times things: the 95th percentile of many times, after a few that warm up.</summary>
internal static class Measuring
{
    internal static async Task<double> Percentile95Async(int times, Func<int, Task> work, int warm = 3)
    {
        for (var i = 0; i < warm; i++)
            await work(i);
        var took = new List<double>(times);
        for (var i = 0; i < times; i++)
        {
            var start = Stopwatch.GetTimestamp();
            await work(warm + i);
            took.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }

        took.Sort();
        return took[Math.Min(times - 1, (int)Math.Ceiling(times * 0.95) - 1)];
    }

    internal static async Task<double> OnceAsync(Func<Task> work)
    {
        var start = Stopwatch.GetTimestamp();
        await work();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }
}
