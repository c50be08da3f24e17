namespace Jugaad.Core.Banking;

/// <summary>A line that was taken in before.</summary>
/// <param name="Format">The format of its statement.</param>
public sealed record KnownLine(int Id, string Format, StatementLine Line);

/// <summary>
/// Finds out which lines of a statement were taken in before. A line is known by its booking day, its amount and the bank's own
/// reference, whatever the format; lines that are equal in all that is known of both are counted, each one once.
/// </summary>
public static class KnownLines
{
    /// <summary>What banks write where they have no reference.</summary>
    private static readonly HashSet<string> None = ["NONREF", "NOREF", "NOTPROVIDED", "NOTAVAILABLE"];

    /// <returns>For each line the id of the one that it is; null for a new one.</returns>
    public static IReadOnlyList<int?> Find(string format, IReadOnlyList<StatementLine> lines, IReadOnlyList<KnownLine> known)
    {
        var found = new int?[lines.Count];
        var left = known.GroupBy(k => (k.Line.Date, k.Line.Amount)).ToDictionary(g => g.Key, g => g.ToList());
        // What is surest first, so that no line takes another's place.
        Func<StatementLine, KnownLine, bool>[] ways =
        [
            (line, there) => ReferenceOf(line).Length > 0 && ReferenceOf(line) == ReferenceOf(there.Line),
            (line, there) => Says(line) == Says(there.Line) && MayBe(format, line, there),
            (line, there) => MayBe(format, line, there),
        ];
        foreach (var same in ways)
            for (var i = 0; i < lines.Count; i++)
            {
                if (found[i] is not null || !left.TryGetValue((lines[i].Date, lines[i].Amount), out var alike)) continue;
                if (alike.Find(k => same(lines[i], k)) is not { } it) continue;
                found[i] = it.Id;
                alike.Remove(it);
            }

        return found;
    }

    /// <summary>Whether nothing that both lines say speaks against their being one. Formats name things differently, but one format names one line in one way.</summary>
    private static bool MayBe(string format, StatementLine line, KnownLine there)
    {
        var (reference, other) = (ReferenceOf(line), ReferenceOf(there.Line));
        if (format == there.Format) return reference.Length == 0 && other.Length == 0 ? Says(line) == Says(there.Line) : reference == other;
        return Agree(Plain(line.Account), Plain(there.Line.Account)) && Agree(Plain(line.Name), Plain(there.Line.Name));
    }

    /// <summary>One of them is silent, or says the beginning of the other.</summary>
    private static bool Agree(string one, string other) =>
        one.Length == 0 || other.Length == 0 || one.StartsWith(other, StringComparison.Ordinal) || other.StartsWith(one, StringComparison.Ordinal);

    private static string ReferenceOf(StatementLine line)
    {
        var plain = Plain(line.BankReference);
        return None.Contains(plain) || plain.All(c => c == '0') ? "" : plain;
    }

    private static string Says(StatementLine line) => string.Join('|', Plain(line.Name), Plain(line.Account), Plain(line.Text), Plain(line.Reference));

    /// <summary>Spaces, signs and capitals differ between formats of the same bank.</summary>
    private static string Plain(string text) => string.Concat(text.Where(char.IsLetterOrDigit)).ToUpperInvariant();
}
