using System.Globalization;
using System.Text.RegularExpressions;

namespace Jugaad.Web.Tests;

/// <summary>The page on security leaves no point of the standard's level out, and names tests that are there.</summary>
public sealed class SecurityPageTests
{
    /// <summary>
    /// OWASP ASVS 4.0.3: the points of levels 1 and 2 of each section; those that the standard has taken out are left
    /// out.
    /// </summary>
    private static readonly Dictionary<string, string> Points = new()
    {
        ["1.1"] = "1-7",
        ["1.2"] = "1-4",
        ["1.4"] = "1 4 5",
        ["1.5"] = "1-4",
        ["1.6"] = "1-4",
        ["1.7"] = "1-2",
        ["1.8"] = "1-2",
        ["1.9"] = "1-2",
        ["1.10"] = "1",
        ["1.11"] = "1-2",
        ["1.12"] = "2",
        ["1.14"] = "1-6",
        ["2.1"] = "1-12",
        ["2.2"] = "1-3",
        ["2.3"] = "1-3",
        ["2.4"] = "1-5",
        ["2.5"] = "1-7",
        ["2.6"] = "1-3",
        ["2.7"] = "1-6",
        ["2.8"] = "1-6",
        ["2.9"] = "1-3",
        ["2.10"] = "1-4",
        ["3.1"] = "1",
        ["3.2"] = "1-4",
        ["3.3"] = "1-4",
        ["3.4"] = "1-5",
        ["3.5"] = "1-3",
        ["3.7"] = "1",
        ["4.1"] = "1-3 5",
        ["4.2"] = "1-2",
        ["4.3"] = "1-3",
        ["5.1"] = "1-5",
        ["5.2"] = "1-8",
        ["5.3"] = "1-10",
        ["5.4"] = "1-3",
        ["5.5"] = "1-4",
        ["6.1"] = "1-3",
        ["6.2"] = "1-6",
        ["6.3"] = "1-2",
        ["6.4"] = "1-2",
        ["7.1"] = "1-4",
        ["7.2"] = "1-2",
        ["7.3"] = "1 3 4",
        ["7.4"] = "1-3",
        ["8.1"] = "1-4",
        ["8.2"] = "1-3",
        ["8.3"] = "1-8",
        ["9.1"] = "1-3",
        ["9.2"] = "1-4",
        ["10.2"] = "1-2",
        ["10.3"] = "1-3",
        ["11.1"] = "1-8",
        ["12.1"] = "1-3",
        ["12.2"] = "1",
        ["12.3"] = "1-6",
        ["12.4"] = "1-2",
        ["12.5"] = "1-2",
        ["12.6"] = "1",
        ["13.1"] = "1 3 4 5",
        ["13.2"] = "1-3 5 6",
        ["13.3"] = "1-2",
        ["13.4"] = "1-2",
        ["14.1"] = "1-4",
        ["14.2"] = "1-6",
        ["14.3"] = "2-3",
        ["14.4"] = "1-7",
        ["14.5"] = "1-4",
    };

    private static readonly string Page = File.ReadAllText(Path.Combine(SourceTree.Root, "docs", "security.md"));

    [Fact]
    public void Each_point_stands_there_once()
    {
        var wanted = Points
            .SelectMany(section => section.Value.Split(' ').SelectMany(Numbers).Select(n => $"{section.Key}.{n}"))
            .ToList();
        var there = Page.Split('\n')
            .Where(l => l.StartsWith("| ", StringComparison.Ordinal) && char.IsAsciiDigit(l[2]))
            .SelectMany(l => l.Split('|')[1].Split(','))
            .Select(p => p.Trim())
            .ToList();
        there.ShouldBeUnique();
        there.ShouldBe(wanted, ignoreOrder: true);
    }

    [Fact]
    public void Every_test_that_is_named_is_there()
    {
        var named = Regex.Matches(Page, "`([A-Z][A-Za-z]+Tests)`").Select(m => m.Groups[1].Value).Distinct().ToList();
        named.Count.ShouldBeGreaterThan(20);
        var there = Directory
            .EnumerateFiles(Path.Combine(SourceTree.Root, "tests"), "*Tests.cs", SearchOption.AllDirectories)
            .Select(Path.GetFileNameWithoutExtension)
            .ToHashSet();
        named.Where(n => !there.Contains(n)).ShouldBeEmpty();
    }

    private static IEnumerable<int> Numbers(string range)
    {
        var ends = range.Split('-').Select(n => int.Parse(n, CultureInfo.InvariantCulture)).ToList();
        return Enumerable.Range(ends[0], ends[^1] - ends[0] + 1);
    }
}
