using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Moving;

/// <summary>
/// How a file seems to write figures and dates, and where it does not tell, such as by <c>1.234</c> or <c>3/4/2025</c>
/// alone.
/// </summary>
public sealed record FormatGuess(CellFormat Format, bool FiguresInDoubt, bool DatesInDoubt);

/// <summary>How a file writes figures and dates. Dates in ISO 8601 are always understood.</summary>
public sealed record CellFormat(char DecimalMark, DateOrder Dates)
{
    private static readonly Dictionary<DateOrder, string[]> Patterns = new()
    {
        [DateOrder.DayFirst] = ["d.M.yyyy", "d/M/yyyy", "d-M-yyyy", "d.M.yy", "d/M/yy", "d MMM yyyy", "d MMMM yyyy"],
        [DateOrder.MonthFirst] = ["M/d/yyyy", "M-d-yyyy", "M.d.yyyy", "M/d/yy", "MMM d, yyyy", "MMMM d, yyyy"],
        [DateOrder.YearFirst] = ["yyyy/M/d", "yyyy.M.d", "yyyy-M-d", "yyyyMMdd"],
    };

    /// <summary>Guesses from all cells of the columns with figures and of those with dates.</summary>
    public static FormatGuess Guess(IEnumerable<string> figures, IEnumerable<string> dates)
    {
        var (mark, figuresInDoubt) = MarkOf(figures);
        var (order, datesInDoubt) = OrderOf(dates);
        return new FormatGuess(new CellFormat(mark, order), figuresInDoubt, datesInDoubt);
    }

    private static (char Mark, bool InDoubt) MarkOf(IEnumerable<string> cells)
    {
        var (commas, points, unclear) = (0, 0, 0);
        foreach (var cell in cells)
        {
            var text = cell.Trim().TrimEnd('%').TrimEnd().TrimStart('-', '+');
            if (
                text.Length is 0 or > 40
                || !text.All(c => char.IsAsciiDigit(c) || c is ',' or '.' or ' ' or '\u00a0' or '\u202f')
            )
                continue;
            var (comma, point) = (text.LastIndexOf(','), text.LastIndexOf('.'));
            var last = Math.Max(comma, point);
            if (last < 0)
                continue;
            var marks = text.Count(c => c is ',' or '.');
            // Of two marks the last one stands before decimals; one that comes twice parts thousands.
            var isDecimal =
                comma >= 0 && point >= 0 || marks == 1 && (text.Length - last - 1 != 3 || text[0] == '0' || last > 3);
            if (marks == 1 && !isDecimal)
                unclear++;
            else if (isDecimal == comma > point)
                commas++;
            else
                points++;
        }

        return (commas > points ? ',' : '.', commas > 0 && points > 0 || unclear > 0 && commas + points == 0);
    }

    private static (DateOrder Order, bool InDoubt) OrderOf(IEnumerable<string> cells)
    {
        var (dayFirst, monthFirst, unclear) = (0, 0, 0);
        foreach (var cell in cells)
        {
            var parts = cell.Trim().Split('/', '-', '.');
            if (
                parts.Length != 3
                || parts[0].Length > 2
                || !int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var first)
                || !int.TryParse(parts[1], NumberStyles.None, CultureInfo.InvariantCulture, out var second)
            )
                continue;
            // With points the day comes first wherever that is usual; one that does not fit is a slip of its row.
            var dotted = cell.Contains('.', StringComparison.Ordinal);
            if (first > 12)
                dayFirst++;
            else if (dotted)
                continue;
            else if (second > 12)
                monthFirst++;
            else if (first != second)
                unclear++;
        }

        return (
            monthFirst > dayFirst ? DateOrder.MonthFirst : DateOrder.DayFirst,
            dayFirst > 0 && monthFirst > 0 || unclear > 0 && dayFirst + monthFirst == 0
        );
    }

    /// <exception cref="RefusalException">When it is no date in this order.</exception>
    public DateOnly Date(string text, string field)
    {
        var typed = text.Trim();
        // A spreadsheet may add a time to a day.
        if (
            typed.Length > 10
            && typed[10] is ' ' or 'T'
            && DateOnly.TryParseExact(
                typed[..10],
                "yyyy-MM-dd",
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var dated
            )
        )
            return dated;
        if (DateOnly.TryParseExact(typed, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var iso))
            return iso;
        if (
            DateOnly.TryParseExact(
                typed,
                Patterns[Dates],
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var date
            )
        )
            return date;
        throw new RefusalException(
            field,
            $"“{(typed.Length > 20 ? typed[..20] + "…" : typed)}” is not a date with the {(Dates == DateOrder.DayFirst ? "day" : Dates == DateOrder.MonthFirst ? "month" : "year")} first."
        );
    }

    /// <exception cref="RefusalException">When it is no figure, or has too many decimals.</exception>
    public decimal Figure(string text, int decimals, string field) => Display.Read(text, decimals, field);

    /// <inheritdoc cref="Figure"/>
    public long Amount(string text, Currency currency, string field) => Display.ReadAmount(text, currency, field);

    private DisplayFormat Display => new(DecimalMark, "yyyy-MM-dd");
}

/// <summary>
/// One row of a file: what stands in the columns that were given a meaning, and what is wrong with it.
/// </summary>
/// <param name="figures">The fields whose cells the file holds as figures, which are plain whatever the format
/// says.</param>
public sealed class RowCells(IReadOnlyDictionary<string, string> cells, CellFormat format, IReadOnlySet<string> figures)
{
    private CellFormat FormatOf(string field) => figures.Contains(field) ? format with { DecimalMark = '.' } : format;

    public Refusals Refused { get; } = new();

    /// <summary>Whether the file has such a column; what it has not, a change leaves as it is.</summary>
    public bool Has(string field) => cells.ContainsKey(field);

    public string Text(string field) => cells.GetValueOrDefault(field, "").Trim();

    public string Text(string field, string otherwise) => Has(field) ? Text(field) : otherwise;

    public decimal Figure(string field, int decimals, decimal otherwise = 0)
    {
        var value = Has(field) ? 0 : otherwise;
        if (Text(field).Length > 0)
            Refused.Try(() => value = FormatOf(field).Figure(Text(field).TrimEnd('%').TrimEnd(), decimals, field));
        return value;
    }

    public long? Amount(string field, Currency currency, long? otherwise = null)
    {
        var value = Has(field) ? null : otherwise;
        if (Text(field).Length > 0)
            Refused.Try(() => value = FormatOf(field).Amount(Text(field), currency, field));
        return value;
    }

    public DateOnly? Date(string field)
    {
        DateOnly? value = null;
        if (Text(field).Length > 0)
            Refused.Try(() => value = format.Date(Text(field), field));
        return value;
    }

    /// <summary>Yes, true, 1, x or ja; no, false, 0 or empty.</summary>
    public bool Flag(string field, bool otherwise)
    {
        if (!Has(field))
            return otherwise;
        switch (Text(field).ToLowerInvariant())
        {
            case "yes"
            or "y"
            or "true"
            or "1"
            or "x"
            or "ja"
            or "jah"
            or "oui"
            or "sí"
            or "si"
            or "sì"
            or "sim"
            or "tak"
            or "kyllä"
            or "wahr"
            or "vrai":
                return true;
            case ""
            or "no"
            or "n"
            or "false"
            or "0"
            or "nein"
            or "ei"
            or "non"
            or "não"
            or "nie"
            or "nee"
            or "nej"
            or "falsch"
            or "faux":
                return false;
            default:
                Refused.Add(field, $"“{Short(Text(field))}” is neither yes nor no.");
                return otherwise;
        }
    }

    /// <summary>One of several words; the first of a pair is what is kept.</summary>
    public T Choice<T>(string field, T otherwise, params (T Value, string[] Words)[] choices)
    {
        if (Text(field).Length == 0)
            return otherwise;
        var typed = Text(field).ToLowerInvariant();
        foreach (var (value, words) in choices)
            if (words.Contains(typed))
                return value;
        Refused.Add(
            field,
            $"“{Short(Text(field))}” is not one of {string.Join(", ", choices.Select(c => c.Words[0]))}."
        );
        return otherwise;
    }

    private static string Short(string text) => text.Length > 30 ? text[..30] + "…" : text;
}
