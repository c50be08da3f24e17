namespace Jugaad.Core.Banking;

/// <summary>A line that was taken in before.</summary>
/// <param name="Format">The format of its statement.</param>
public sealed record KnownLine(int Id, string Format, StatementLine Line);

/// <summary>
/// Finds out which lines of a statement were taken in before. A line is known by its booking day, its amount and the
/// bank's own reference, whatever the format; lines that are equal in all that is known of both are counted, each one
/// once.
/// </summary>
public static class KnownLines
{
    /// <summary>
    /// Lines of one day and amount that two formats may name otherwise are compared one by one; more pairs than this
    /// are refused.
    /// </summary>
    public const long MostPairs = 4_000_000;

    /// <summary>What banks write where they have no reference.</summary>
    private static readonly HashSet<string> None = ["NONREF", "NOREF", "NOTPROVIDED", "NOTAVAILABLE"];

    /// <returns>For each line the id of the one that it is; null for a new one.</returns>
    /// <exception cref="RefusalException">When too many lines are alike to tell one from another.</exception>
    public static IReadOnlyList<int?> Find(
        string format,
        IReadOnlyList<StatementLine> lines,
        IReadOnlyList<KnownLine> known
    )
    {
        var found = new int?[lines.Count];
        var alike = known.GroupBy(k => (k.Line.Date, k.Line.Amount)).ToDictionary(g => g.Key, g => g.ToList());
        foreach (var group in Enumerable.Range(0, lines.Count).GroupBy(i => (lines[i].Date, lines[i].Amount)))
            if (alike.TryGetValue(group.Key, out var there))
                new OneDayAndAmount(format, there).Find(group, lines, found);
        return found;
    }

    /// <summary>
    /// What a line says, without the blanks, signs and capitals in which formats of the same bank differ.
    /// </summary>
    private sealed record Marks(string Reference, string Name, string Account, string Says)
    {
        internal static Marks Of(StatementLine line)
        {
            var (name, account, reference) = (Plain(line.Name), Plain(line.Account), Plain(line.BankReference));
            if (None.Contains(reference) || reference.All(c => c == '0'))
                reference = "";
            return new(
                reference,
                name,
                account,
                string.Join('|', name, account, Plain(line.Text), Plain(line.Reference))
            );
        }

        private static string Plain(string text) => string.Concat(text.Where(char.IsLetterOrDigit)).ToUpperInvariant();
    }

    /// <summary>
    /// Pairs the lines of one day and amount with those that were there. What is surest comes first, so that no line
    /// takes another's place.
    /// </summary>
    private sealed class OneDayAndAmount(string format, List<KnownLine> known)
    {
        private readonly List<(KnownLine Line, Marks Marks)> _known = known.ConvertAll(k => (k, Marks.Of(k.Line)));
        private readonly HashSet<int> _gone = [];

        internal void Find(IEnumerable<int> at, IReadOnlyList<StatementLine> lines, int?[] found)
        {
            var open = at.Select(i => (At: i, Marks: Marks.Of(lines[i]))).ToList();
            ByReference(open, found);
            ByWords(open, found);
            Otherwise(open, found);
        }

        private void ByReference(List<(int At, Marks Marks)> open, int?[] found)
        {
            var there = Queues(_known.Where(k => k.Marks.Reference.Length > 0), k => k.Marks.Reference);
            foreach (var (at, marks) in open)
                if (there.TryGetValue(marks.Reference, out var queue))
                    Pair(at, queue, found);
        }

        /// <summary>
        /// The same words: in one format only where neither has a reference, since it would give both the same one.
        /// </summary>
        private void ByWords(List<(int At, Marks Marks)> open, int?[] found)
        {
            var here = Queues(
                _known.Where(k => k.Line.Format == format && k.Marks.Reference.Length == 0),
                k => k.Marks.Says
            );
            var elsewhere = Queues(_known.Where(k => k.Line.Format != format), k => k.Marks.Says);
            foreach (var (at, marks) in open.Where(l => found[l.At] is null))
            {
                if (marks.Reference.Length == 0 && here.TryGetValue(marks.Says, out var same))
                    Pair(at, same, found);
                if (found[at] is null && elsewhere.TryGetValue(marks.Says, out var other))
                    Pair(at, other, found);
            }
        }

        /// <summary>
        /// Formats name things differently, so that nothing that both say must speak against their being one.
        /// </summary>
        private void Otherwise(List<(int At, Marks Marks)> open, int?[] found)
        {
            var there = _known.Where(k => k.Line.Format != format && !_gone.Contains(k.Line.Id)).ToList();
            var left = open.Where(l => found[l.At] is null).ToList();
            if ((long)there.Count * left.Count > MostPairs)
                throw new RefusalException(
                    "file",
                    $"{left.Count} lines of {known[0].Line.Date} have one amount, and as many are there from a file of another format: which is which cannot be told. Take this day in from files of one format."
                );
            foreach (var (at, marks) in left)
            {
                var one = there.FindIndex(k =>
                    Agree(marks.Account, k.Marks.Account) && Agree(marks.Name, k.Marks.Name)
                );
                if (one < 0)
                    continue;
                found[at] = there[one].Line.Id;
                there.RemoveAt(one);
            }
        }

        private static Dictionary<string, Queue<int>> Queues(
            IEnumerable<(KnownLine Line, Marks Marks)> lines,
            Func<(KnownLine Line, Marks Marks), string> by
        ) => lines.GroupBy(by, k => k.Line.Id).ToDictionary(g => g.Key, g => new Queue<int>(g));

        private void Pair(int at, Queue<int> queue, int?[] found)
        {
            while (queue.TryDequeue(out var id))
            {
                if (!_gone.Add(id))
                    continue;
                found[at] = id;
                return;
            }
        }

        /// <summary>One of them is silent, or says the beginning of the other.</summary>
        private static bool Agree(string one, string other) =>
            one.Length == 0
            || other.Length == 0
            || one.StartsWith(other, StringComparison.Ordinal)
            || other.StartsWith(one, StringComparison.Ordinal);
    }
}
