using Jugaad.Core.Banking;

namespace Jugaad.Core.Tests;

/// <summary>Which lines of a statement are there already, for many lines and for hostile ones.</summary>
public sealed class KnownLinesTests
{
    private static readonly DateOnly Day = new(2025, 9, 1);
    private static readonly string[] Formats = ["CAMT", "MT940", "OFX"];
    private static readonly string[] Names = ["", "Korall", "Korall Boatyard", "Other"];
    private static readonly string[] References = ["", "NONREF", "000", "R1", "r-1", "R2"];
    private static readonly string[] Words = ["", "invoice 12", "Invoice 12!"];

    private static StatementLine Line(Random random) =>
        new(
            Day.AddDays(random.Next(2)),
            random.Next(1, 3) * 100,
            Names[random.Next(Names.Length)],
            random.Next(2) == 0 ? "" : "EE1",
            Words[random.Next(Words.Length)],
            "",
            References[random.Next(References.Length)]
        );

    /// <summary>The rule as one would say it: each line against each that is there, what is surest first.</summary>
    private static int?[] AsItIsSaid(string format, StatementLine[] lines, KnownLine[] known)
    {
        var found = new int?[lines.Length];
        var left = known.ToList();
        Func<StatementLine, KnownLine, bool>[] ways =
        [
            (line, k) => Reference(line).Length > 0 && Reference(line) == Reference(k.Line),
            (line, k) =>
                k.Format == format
                && Reference(line).Length == 0
                && Reference(k.Line).Length == 0
                && Says(line) == Says(k.Line),
            (line, k) => k.Format != format && Says(line) == Says(k.Line),
            (line, k) =>
                k.Format != format
                && Agree(Plain(line.Account), Plain(k.Line.Account))
                && Agree(Plain(line.Name), Plain(k.Line.Name)),
        ];
        foreach (var step in new[] { ways[..1], ways[1..3], ways[3..] })
            for (var i = 0; i < lines.Length; i++)
            {
                foreach (var way in step)
                {
                    if (
                        found[i] is not null
                        || left.Find(k =>
                            k.Line.Date == lines[i].Date && k.Line.Amount == lines[i].Amount && way(lines[i], k)
                        )
                            is not { } one
                    )
                        continue;
                    found[i] = one.Id;
                    left.Remove(one);
                }
            }

        return found;
    }

    private static string Plain(string text) => string.Concat(text.Where(char.IsLetterOrDigit)).ToUpperInvariant();

    private static string Says(StatementLine line) =>
        string.Join('|', Plain(line.Name), Plain(line.Account), Plain(line.Text), Plain(line.Reference));

    private static string Reference(StatementLine line) =>
        Plain(line.BankReference) is var plain && plain is "NONREF" || plain.All(c => c == '0') ? "" : plain;

    private static bool Agree(string a, string b) =>
        a.Length == 0
        || b.Length == 0
        || a.StartsWith(b, StringComparison.Ordinal)
        || b.StartsWith(a, StringComparison.Ordinal);

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void It_finds_what_comparing_each_with_each_would(int seed)
    {
        var random = new Random(seed);
        for (var n = 0; n < 500; n++)
        {
            var known = Enumerable
                .Range(1, random.Next(0, 9))
                .Select(id => new KnownLine(id, Formats[random.Next(3)], Line(random)))
                .ToArray();
            var lines = Enumerable.Range(0, random.Next(0, 9)).Select(_ => Line(random)).ToArray();
            var found = KnownLines.Find("CAMT", lines, known);
            found.ShouldBe(AsItIsSaid("CAMT", lines, known), $"round {n}");
            found.OfType<int>().ShouldBeUnique();
        }
    }

    [Fact]
    public void A_hundred_thousand_equal_lines_are_counted_and_not_compared_each_with_each()
    {
        var line = new StatementLine(Day, 100, "Payer", "EE1", "the same", "", "");
        var known = Enumerable.Range(1, 100_000).Select(id => new KnownLine(id, "CAMT", line)).ToList();
        KnownLines.Find("CAMT", [.. Enumerable.Repeat(line, 100_001)], known).Count(f => f is null).ShouldBe(1);
        KnownLines.Find("MT940", [.. Enumerable.Repeat(line, 100_001)], known).Count(f => f is null).ShouldBe(1);
    }

    [Fact]
    public void So_many_that_nobody_could_tell_are_refused_in_words()
    {
        var known = Enumerable
            .Range(1, 3_000)
            .Select(id => new KnownLine(id, "CAMT", new StatementLine(Day, 100, $"One {id}", "", "", "", "")))
            .ToList();
        var lines = Enumerable
            .Range(1, 3_000)
            .Select(i => new StatementLine(Day, 100, $"Another {i}", "", "", "", ""))
            .ToList();
        Should
            .Throw<RefusalException>(() => KnownLines.Find("MT940", lines, known))
            .Message.ShouldContain("which is which cannot be told");
        KnownLines.Find("CAMT", lines, known).ShouldAllBe(f => f == null);
    }
}
