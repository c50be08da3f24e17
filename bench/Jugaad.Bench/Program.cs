using System.CommandLine;
using System.Globalization;
using System.Text;
using Jugaad.Bench;

// Generates books of several sizes, measures on each, and writes the table to docs/performance.md.
var root = new DirectoryInfo(AppContext.BaseDirectory);
while (root is not null && !File.Exists(Path.Combine(root.FullName, "Jugaad.slnx")))
    root = root.Parent;
if (root is null)
    throw new InvalidOperationException("The source tree was not found.");

var sizes = new Option<int[]>("--sizes")
{
    Description = "How many invoices the books have, apart by blanks.",
    DefaultValueFactory = _ => [1_000, 10_000, 100_000],
    AllowMultipleArgumentsPerToken = true,
};
var seed = new Option<int>("--seed")
{
    Description = "What the books are made from.",
    DefaultValueFactory = _ => 20250917,
};
var to = new Option<string>("--to")
{
    Description = "Where the table is written.",
    DefaultValueFactory = _ => Path.Combine(root.FullName, "docs", "performance.md"),
    HelpName = "FILE",
};
var keep = new Option<string?>("--keep")
{
    Description =
        "Keeps the books that were made, in a folder of their size within this one, and takes those that are there.",
    HelpName = "DIR",
};
var parts = new Option<string[]>("--parts")
{
    Description = "Which parts are measured, apart by blanks.",
    DefaultValueFactory = _ => Suite.AllParts,
    AllowMultipleArgumentsPerToken = true,
};
parts.AcceptOnlyFromAmong(Suite.AllParts);
var verb = new RootCommand("Generates books and measures on them.") { sizes, seed, to, keep, parts };
verb.SetAction(async parsed =>
{
    var suite = new Suite(root.FullName, parsed.GetValue(seed), parsed.GetValue(keep), parsed.GetRequiredValue(parts));
    var done = new List<int>();
    foreach (var size in parsed.GetRequiredValue(sizes).Order())
    {
        await suite.RunAsync(size);
        done.Add(size);
        // After each size, so that what was measured is there even where the largest is given up.
        await File.WriteAllTextAsync(parsed.GetRequiredValue(to), Table(suite.Measures, done, parsed.GetValue(seed)));
    }

    Console.WriteLine(await File.ReadAllTextAsync(parsed.GetRequiredValue(to)));
});
return await verb.Parse(args).InvokeAsync();

static string Table(List<Measure> measures, List<int> sizes, int seed)
{
    string N(double value) =>
        double.IsInfinity(value) ? "" : value.ToString(value < 10 ? "0.0" : "#,0", CultureInfo.InvariantCulture);
    var memory = GC.GetGCMemoryInfo().TotalAvailableMemoryBytes / 1_000_000_000.0;
    var text = new StringBuilder();
    text.Append(
        CultureInfo.InvariantCulture,
        $"# How fast it is\n\nWritten by `./jugaad bench` on a machine with {Environment.ProcessorCount} cores and {memory:0} GB of memory, on books made from the seed {seed}: two years of invoices,\nmost of them paid. Times are the 95th percentile of many, in milliseconds unless it says otherwise; pages are asked for over HTTP from the\nprogram running as a process of its own. *Bare* is the same question of the file through the driver alone, on the largest books, and *times*\nhow many times as long the page takes: it signs the visitor in, reads the tally strip and writes the page besides, some ten milliseconds of\nits own whatever the question.\n\n"
    );
    text.Append(
        $"| what | may take | {string.Join(" | ", sizes.Select(s => $"{s.ToString("#,0", CultureInfo.InvariantCulture)} invoices"))} | bare | times | |\n|---|---:|{string.Concat(sizes.Select(_ => "---:|"))}---:|---:|---|\n"
    );
    foreach (var measure in measures)
    {
        var worst = measure.Took.Values.Max();
        var says =
            double.IsInfinity(measure.Figure) ? ""
            : worst <= measure.Figure ? "kept"
            : "missed";
        text.Append(
            $"| {measure.What} | {N(measure.Figure)}{(double.IsInfinity(measure.Figure) ? "" : $" {measure.Unit}")} | {string.Join(" | ", sizes.Select(s => measure.Took.TryGetValue(s, out var took) ? N(took) : ""))} | {(measure.Bare.Count > 0 ? N(measure.Bare.Values.Last()) : "")} | {(measure.Ratio is { } ratio ? N(ratio) : "")} | {says} |\n"
        );
    }

    return text.ToString();
}
