using System.Text;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Matching;

/// <summary>Finds invoice numbers and structured references in what payers write.</summary>
internal sealed class NumberIndex
{
    private readonly Dictionary<string, List<Owed>> _whole = [];
    private readonly Dictionary<string, List<Owed>> _digits = [];
    private readonly Dictionary<string, Owed> _references = [];
    private int _longest;

    internal NumberIndex(IEnumerable<Owed> owed)
    {
        foreach (var item in owed)
        {
            var plain = StructuredReference.Plain(item.Number);
            Add(_whole, plain, item);
            var digits = string.Concat(plain.Where(char.IsAsciiDigit));
            if (digits.Length >= 5)
                Add(_digits, digits, item);
            if (
                StructuredReference.Of(item.Number) is { Length: > 0 } reference
                && !_references.TryAdd(reference, item)
            )
                _references.Remove(reference);
            _longest = Math.Max(_longest, plain.Length);
        }
    }

    /// <summary>What structured references in the text point to, each once.</summary>
    internal IReadOnlyList<Owed> ByReference(string reference, string text)
    {
        var found = new List<Owed>();
        foreach (var source in new[] { reference, text })
        {
            var chunks = Chunks(source);
            for (var i = 0; i < chunks.Count; i++)
            {
                if (!chunks[i].StartsWith("RF", StringComparison.Ordinal))
                    continue;
                var joined = new StringBuilder();
                for (var k = i; k < chunks.Count && joined.Length + chunks[k].Length <= 25; k++)
                {
                    joined.Append(chunks[k]);
                    if (_references.TryGetValue(joined.ToString(), out var owed) && !found.Contains(owed))
                        found.Add(owed);
                }
            }
        }

        return found;
    }

    /// <summary>What whole numbers in the text point to, each once; and what their digits alone point to.</summary>
    internal (IReadOnlyList<Owed> Whole, IReadOnlyList<Owed> ByDigits) ByNumber(string text)
    {
        var (whole, byDigits) = (new List<Owed>(), new List<Owed>());
        var chunks = Chunks(text);
        for (var i = 0; i < chunks.Count; i++)
        {
            var joined = new StringBuilder();
            for (var k = i; k < chunks.Count && k < i + 4 && joined.Length + chunks[k].Length <= _longest + 4; k++)
            {
                joined.Append(chunks[k]);
                var key = joined.ToString();
                if (_whole.TryGetValue(key, out var there))
                    whole.AddRange(there.Where(o => !whole.Contains(o)));
                else if (_digits.TryGetValue(key, out there))
                    byDigits.AddRange(there.Where(o => !byDigits.Contains(o)));
            }
        }

        return (whole, [.. byDigits.Where(o => !whole.Contains(o))]);
    }

    private static void Add(Dictionary<string, List<Owed>> index, string key, Owed owed)
    {
        if (key.Length == 0)
            return;
        if (!index.TryGetValue(key, out var list))
            index[key] = list = [];
        list.Add(owed);
    }

    /// <summary>Runs of letters and digits, in capitals.</summary>
    internal static List<string> Chunks(string text)
    {
        var chunks = new List<string>();
        var run = new StringBuilder();
        foreach (var c in text)
        {
            if (char.IsAsciiLetterOrDigit(c))
            {
                run.Append(char.ToUpperInvariant(c));
                continue;
            }

            if (run.Length > 0)
                chunks.Add(run.ToString());
            run.Clear();
        }

        if (run.Length > 0)
            chunks.Add(run.ToString());
        return chunks;
    }
}
