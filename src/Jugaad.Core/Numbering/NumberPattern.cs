using System.Globalization;
using System.Text;

namespace Jugaad.Core.Numbering;

/// <summary>
/// How a document's number is written: fixed text, <c>{yyyy}</c> or <c>{yy}</c> for the year, <c>{mm}</c> for the
/// month, and one run of zeros in braces, such as <c>{0000}</c>, for the count with at least so many digits.
/// </summary>
public sealed class NumberPattern
{
    private readonly List<(string Kind, string Text)> _pieces = [];

    /// <exception cref="RefusalException">When the braces hold anything else, or there is not exactly one
    /// count.</exception>
    public NumberPattern(string pattern, string field = "pattern")
    {
        var fixedText = new StringBuilder();
        for (var i = 0; i < pattern.Length; i++)
        {
            if (pattern[i] != '{')
            {
                fixedText.Append(pattern[i]);
                continue;
            }

            var end = pattern.IndexOf('}', i);
            if (end < 0)
                throw new RefusalException(field, "A brace is opened and not closed. Write the count as {0000}.");
            var inner = pattern[(i + 1)..end];
            var kind = inner switch
            {
                "yyyy" or "yy" or "mm" => inner,
                _ when inner.Length is > 0 and <= 12 && inner.All(c => c == '0') => "count",
                _ => throw new RefusalException(
                    field,
                    $"“{{{inner}}}” means nothing here. Use {{yyyy}}, {{yy}}, {{mm}} or a run of zeros such as {{0000}}."
                ),
            };
            if (fixedText.Length > 0)
                _pieces.Add(("text", fixedText.ToString()));
            fixedText.Clear();
            _pieces.Add((kind, inner));
            i = end;
        }

        if (fixedText.Length > 0)
            _pieces.Add(("text", fixedText.ToString()));
        if (_pieces.Count(p => p.Kind == "count") != 1)
            throw new RefusalException(field, "The pattern needs exactly one count, such as {0000}.");
    }

    public bool HasYear => _pieces.Exists(p => p.Kind is "yyyy" or "yy");

    /// <summary>The number for a date and a count.</summary>
    public string Write(DateOnly date, int count) => Write(date, count, date.Year);

    /// <inheritdoc cref="Write(DateOnly, int)"/>
    /// <param name="year">The year that is written, where that is another than the date's, as with a financial
    /// year.</param>
    public string Write(DateOnly date, int count, int year) => Write(_pieces, date, count, year);

    private static string Write(IEnumerable<(string Kind, string Text)> pieces, DateOnly date, int count, int year) =>
        string.Concat(
            pieces.Select(p =>
                p.Kind switch
                {
                    "yyyy" => year.ToString("D4", CultureInfo.InvariantCulture),
                    "yy" => (year % 100).ToString("D2", CultureInfo.InvariantCulture),
                    "mm" => date.Month.ToString("D2", CultureInfo.InvariantCulture),
                    "count" => count.ToString("D" + p.Text.Length, CultureInfo.InvariantCulture),
                    _ => p.Text,
                }
            )
        );

    /// <summary>
    /// The count of a number that was written for a date; null where it was not written by this pattern for it.
    /// </summary>
    /// <param name="year">The year that is written.</param>
    public int? CountIn(string number, DateOnly date, int year)
    {
        var at = _pieces.FindIndex(p => p.Kind == "count");
        var (before, after) = (Write(_pieces.Take(at), date, 0, year), Write(_pieces.Skip(at + 1), date, 0, year));
        if (
            number.Length <= before.Length + after.Length
            || !number.StartsWith(before, StringComparison.Ordinal)
            || !number.EndsWith(after, StringComparison.Ordinal)
        )
            return null;
        return
            int.TryParse(
                number[before.Length..^after.Length],
                NumberStyles.None,
                CultureInfo.InvariantCulture,
                out var count
            )
            && Write(date, count, year) == number
            ? count
            : null;
    }
}
