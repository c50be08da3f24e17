using System.Reflection;
using System.Text.RegularExpressions;

namespace Jugaad.Web.Tests;

/// <summary>The arrows between the parts run one way.</summary>
public sealed class ArrowTests
{
    [Theory]
    [InlineData("Jugaad.Core", "")]
    [InlineData("Jugaad.Desk", "Jugaad.Core")]
    [InlineData("Jugaad.Formats", "Jugaad.Core Jugaad.Desk")]
    [InlineData("Jugaad.Outside", "Jugaad.Core Jugaad.Desk")]
    [InlineData("Jugaad.Demo", "Jugaad.Core Jugaad.Desk Jugaad.Outside")]
    [InlineData("Jugaad.Cli", "Jugaad.Core Jugaad.Desk Jugaad.Formats")]
    [InlineData("Jugaad.Web", "Jugaad.Core Jugaad.Desk Jugaad.Formats Jugaad.Outside Jugaad.Demo")]
    public void Each_part_knows_only_what_is_below_it(string part, string may)
    {
        var known = Assembly
            .Load(part)
            .GetReferencedAssemblies()
            .Select(a => a.Name!)
            .Where(n => n.StartsWith("Jugaad.", StringComparison.Ordinal));
        known.Except(may.Split(' ')).ShouldBeEmpty();
    }

    [Fact]
    public void The_core_needs_nothing_but_the_base_library() =>
        Assembly
            .Load("Jugaad.Core")
            .GetReferencedAssemblies()
            .Select(a => a.Name!)
            .ShouldAllBe(n => n.StartsWith("System", StringComparison.Ordinal) || n == "netstandard");

    /// <summary>
    /// The rooms of a part stand on a stair, and each knows only those above it; read from the using-lines and from
    /// names that are written out.
    /// </summary>
    [Theory]
    [InlineData(
        "Jugaad.Core",
        "Amounts Exchange Numbering Trade Taxes Pricing Documents EInvoicing Schedules Accounts Returns Paying Collecting Banking Matching Journal Layouts"
    )]
    [InlineData(
        "Jugaad.Desk",
        "Kept Books Lists Outside Machine Reference Papers Post People Setup Lines Stock Drafting Making Receiving Issuing "
            + "Counter Paying Banking Standing Collecting Filing Checking Keeping Moving Reports Screens Daily"
    )]
    public void Each_room_knows_only_those_above_it(string part, string stair)
    {
        var rooms = stair.Split(' ');
        var source = Path.Combine(SourceTree.Root, "src", part);
        var all = SourcesOf(part)
            .Select(f => Path.GetRelativePath(source, f).Split(Path.DirectorySeparatorChar))
            .Where(parts => parts.Length > 1)
            .Select(parts => parts[0])
            .Distinct()
            .ToList();
        all.ShouldBe(rooms, ignoreOrder: true);
        var wrong =
            from room in rooms
            from file in Directory.EnumerateFiles(Path.Combine(source, room), "*.cs", SearchOption.AllDirectories)
            from Match known in Regex.Matches(
                File.ReadAllText(file),
                $@"\b{Regex.Escape(part)}\.(?<room>\w+)|^\s.*\b{part.Split('.')[1]}\.(?<room>\w+)\.\w",
                RegexOptions.Multiline
            )
            let other = known.Groups["room"].Value
            where other != room && all.Contains(other) && !rooms.TakeWhile(r => r != room).Contains(other)
            select $"{Path.GetRelativePath(source, file)} knows {other}";
        wrong.Distinct().ShouldBeEmpty();
    }

    [Fact]
    public void The_thirty_questions_are_answered_where_their_page_says()
    {
        var page = File.ReadAllText(Path.Combine(SourceTree.Root, "docs", "rooms.md"));
        var answers = Regex
            .Matches(page, @"\? \| `(?<path>\w+/[^`]+)` \|")
            .Select(m => m.Groups["path"].Value)
            .ToList();
        answers.Count.ShouldBe(30);
        answers.Where(path => !File.Exists(Path.Combine(SourceTree.Root, "src", $"Jugaad.{path}"))).ShouldBeEmpty();
    }

    [Fact]
    public void The_core_does_not_ask_the_machine_for_the_time() =>
        SourcesOf("Jugaad.Core")
            .Concat(SourcesOf("Jugaad.Desk"))
            .Concat(SourcesOf("Jugaad.Demo"))
            .Where(f =>
            {
                var text = File.ReadAllText(f);
                return text.Contains("DateTime.Now", StringComparison.Ordinal)
                    || text.Contains("DateTime.UtcNow", StringComparison.Ordinal)
                    || text.Contains("DateTime.Today", StringComparison.Ordinal)
                    || text.Contains("DateTimeOffset.Now", StringComparison.Ordinal);
            })
            .ShouldBeEmpty();

    [Fact]
    public void Scripts_do_not_reckon_money() =>
        Directory
            .EnumerateFiles(
                Path.Combine(SourceTree.Root, "src", "Jugaad.Web", "wwwroot", "js"),
                "*.js",
                SearchOption.AllDirectories
            )
            .Where(f =>
                File.ReadAllText(f).Contains("parseFloat", StringComparison.Ordinal)
                || File.ReadAllText(f).Contains("toFixed", StringComparison.Ordinal)
            )
            .ShouldBeEmpty();

    private static IEnumerable<string> SourcesOf(string part) =>
        Directory
            .EnumerateFiles(Path.Combine(SourceTree.Root, "src", part), "*.cs", SearchOption.AllDirectories)
            .Where(f =>
                !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}", StringComparison.Ordinal)
            );
}
