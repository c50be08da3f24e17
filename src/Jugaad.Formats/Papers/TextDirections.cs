using System.Globalization;
using System.Text;

namespace Jugaad.Formats.Papers;

/// <summary>
/// In which order the parts of a line stand, where some of it runs from right to left: the implicit rules of the
/// Unicode bidirectional algorithm (UAX #9, W1 to W7, N1, N2, I1, I2, L1, L2) in a line that runs from left to right.
/// Signs that embed or isolate by hand are passed over, and brackets go with what is around them.
/// </summary>
internal static class TextDirections
{
    private enum Kind
    {
        Left,
        Right,
        Arabic,
        Figure,
        ArabicFigure,
        Sign,
        Mark,
        Separator,
        Term,
        Neutral,
    }

    /// <summary>Stretches of one direction, in the order in which they stand from left to right.</summary>
    /// <param name="Rightwards">False where the stretch is read from right to left.</param>
    internal readonly record struct Stretch(int Start, int Length, bool Rightwards);

    internal static IReadOnlyList<Stretch> Of(string text)
    {
        if (!text.Any(c => c >= '\u0590'))
            return [new Stretch(0, text.Length, true)];
        var kinds = Kinds(text);
        if (!kinds.Any(k => k is Kind.Right or Kind.Arabic or Kind.ArabicFigure))
            return [new Stretch(0, text.Length, true)];
        Weak(kinds);
        Neutrals(kinds);
        return Ordered(Levels(text, kinds));
    }

    private static Kind[] Kinds(string text)
    {
        var kinds = new Kind[text.Length];
        var at = 0;
        foreach (var rune in text.EnumerateRunes())
        {
            for (var i = 0; i < rune.Utf16SequenceLength; i++)
                kinds[at + i] = KindOf(rune);
            at += rune.Utf16SequenceLength;
        }

        return kinds;
    }

    private static Kind KindOf(Rune rune)
    {
        var category = Rune.GetUnicodeCategory(rune);
        if (category is UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark)
            return Kind.Mark;
        return rune.Value switch
        {
            >= '0' and <= '9' or >= 0x6F0 and <= 0x6F9 or >= 0x2070 and <= 0x2079 or >= 0x2080 and <= 0x2089 =>
                Kind.Figure,
            >= 0x660 and <= 0x669 or 0x66B or 0x66C or >= 0x600 and <= 0x605 or 0x6DD => Kind.ArabicFigure,
            '+' or '-' or 0x2212 => Kind.Sign,
            ',' or '.' or '/' or ':' or 0xA0 or 0x202F => Kind.Separator,
            '#' or '%' or 0xB0 or 0x2030 or 0x66A => Kind.Term,
            >= 0x590 and <= 0x5FF or >= 0x7C0 and <= 0x85F or >= 0xFB1D and <= 0xFB4F or 0x200F => Kind.Right,
            >= 0x600 and <= 0x7BF or >= 0x860 and <= 0x8FF or >= 0xFB50 and <= 0xFDFF or >= 0xFE70 and <= 0xFEFE =>
                Kind.Arabic,
            _ when category == UnicodeCategory.CurrencySymbol => Kind.Term,
            _ when Rune.IsLetter(rune)
                    || category is UnicodeCategory.SpacingCombiningMark or UnicodeCategory.OtherNumber => Kind.Left,
            _ => Kind.Neutral,
        };
    }

    /// <summary>W1 to W7: what stands beside figures and letters without a direction of its own.</summary>
    private static void Weak(Kind[] kinds)
    {
        var strong = Kind.Left;
        for (var i = 0; i < kinds.Length; i++)
        {
            if (kinds[i] == Kind.Mark)
                kinds[i] = i == 0 ? Kind.Neutral : kinds[i - 1];
            if (kinds[i] is Kind.Left or Kind.Right or Kind.Arabic)
                strong = kinds[i];
            if (kinds[i] == Kind.Figure && strong == Kind.Arabic)
                kinds[i] = Kind.ArabicFigure;
        }

        for (var i = 0; i < kinds.Length; i++)
            if (kinds[i] == Kind.Arabic)
                kinds[i] = Kind.Right;
        for (var i = 1; i + 1 < kinds.Length; i++)
        {
            var between = kinds[i - 1] == kinds[i + 1] && kinds[i - 1] is Kind.Figure or Kind.ArabicFigure;
            if (
                between
                && kinds[i - 1] == kinds[i + 1]
                && (kinds[i] == Kind.Separator || (kinds[i] == Kind.Sign && kinds[i - 1] == Kind.Figure))
            )
                kinds[i] = kinds[i - 1];
        }

        for (var i = 0; i < kinds.Length; i++)
        {
            if (kinds[i] != Kind.Term)
                continue;
            var end = i;
            while (end < kinds.Length && kinds[end] == Kind.Term)
                end++;
            var beside = (i > 0 && kinds[i - 1] == Kind.Figure) || (end < kinds.Length && kinds[end] == Kind.Figure);
            for (; i < end; i++)
                kinds[i] = beside ? Kind.Figure : Kind.Neutral;
        }

        strong = Kind.Left;
        for (var i = 0; i < kinds.Length; i++)
        {
            if (kinds[i] is Kind.Sign or Kind.Separator)
                kinds[i] = Kind.Neutral;
            if (kinds[i] is Kind.Left or Kind.Right)
                strong = kinds[i];
            if (kinds[i] == Kind.Figure && strong == Kind.Left)
                kinds[i] = Kind.Left;
        }
    }

    /// <summary>N1 and N2: what is between two of one direction has it too; all else goes with the line.</summary>
    private static void Neutrals(Kind[] kinds)
    {
        for (var i = 0; i < kinds.Length; i++)
        {
            if (kinds[i] != Kind.Neutral)
                continue;
            var end = i;
            while (end < kinds.Length && kinds[end] == Kind.Neutral)
                end++;
            var before = i == 0 ? Kind.Left : Side(kinds[i - 1]);
            var after = end == kinds.Length ? Kind.Left : Side(kinds[end]);
            for (; i < end; i++)
                kinds[i] = before == after ? before : Kind.Left;
            i--;
        }
    }

    private static Kind Side(Kind kind) => kind == Kind.Left ? Kind.Left : Kind.Right;

    private static int[] Levels(string text, Kind[] kinds)
    {
        var levels = kinds
            .Select(k =>
                k switch
                {
                    Kind.Left => 0,
                    Kind.Right => 1,
                    _ => 2,
                }
            )
            .ToArray();
        // L1: blanks at the end stand where the line ends.
        for (var i = text.Length - 1; i >= 0 && char.IsWhiteSpace(text[i]); i--)
            levels[i] = 0;
        return levels;
    }

    /// <summary>L2: from the highest level down, what is at least that high is turned round.</summary>
    private static List<Stretch> Ordered(int[] levels)
    {
        var stretches = new List<(Stretch Part, int Level)>();
        var start = 0;
        while (start < levels.Length)
        {
            var end = start;
            while (end < levels.Length && levels[end] == levels[start])
                end++;
            stretches.Add((new Stretch(start, end - start, levels[start] % 2 == 0), levels[start]));
            start = end;
        }

        for (var level = 2; level >= 1; level--)
        {
            for (var i = 0; i < stretches.Count; i++)
            {
                var end = i;
                while (end < stretches.Count && stretches[end].Level >= level)
                    end++;
                if (end > i + 1)
                    stretches.Reverse(i, end - i);
                i = Math.Max(i, end - 1);
            }
        }

        return stretches.ConvertAll(s => s.Part);
    }
}
