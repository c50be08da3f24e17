using System.Globalization;
using System.Text.RegularExpressions;

namespace Jugaad.Core.Amounts;

/// <summary>Which part of a date the business writes first.</summary>
public enum DatePart
{
    Day,
    Month,
    Year,
}

/// <summary>
/// A day as people type it: <c>17</c>, <c>17.9</c>, <c>17 sep</c>, <c>1709</c>, <c>+14</c>, <c>-1</c>, <c>+2w</c>,
/// <c>today</c>, <c>fri</c>, <c>end of month</c>, and every whole date, ISO 8601's always among them. Whether the day
/// or the month stands first follows the business alone. What could be read in two ways is refused.
/// </summary>
/// <param name="first">What the business writes first.</param>
/// <param name="from">The day that <c>+14</c> counts from and that lends its month and year to what has none.</param>
public sealed partial class TypedDay(DatePart first, DateOnly from)
{
    private const int LongestText = 40;
    private const int EarliestYear = 1900;
    private const int LatestYear = 2199;

    // "28.12" typed in January is of last year: this year's is too far off, and that one is close.
    private const int FarDays = 270;

    private static readonly string[] Months = CultureInfo.InvariantCulture.DateTimeFormat.MonthNames[..12];
    private static readonly string[] Weekdays = CultureInfo.InvariantCulture.DateTimeFormat.DayNames;

    /// <exception cref="RefusalException">When it is no date, or not surely one.</exception>
    public DateOnly Read(string text, string field)
    {
        var typed = text.Trim();
        if (typed.Length > LongestText)
            throw NoDate(typed, field);
        var plain = Blanks().Replace(typed.Replace('\u2212', '-'), " ").ToLowerInvariant();
        return InWords(plain)
            ?? Counted(plain, field)
            ?? Digits(plain, field)
            ?? Named(plain, field)
            ?? Parts(plain, typed, field)
            ?? throw NoDate(typed, field);
    }

    private DateOnly? InWords(string text) =>
        text switch
        {
            "today" or "now" => from,
            "tomorrow" => from.AddDays(1),
            "yesterday" => from.AddDays(-1),
            "end of month" or "end of the month" or "month end" or "eom" => EndOfMonth(from),
            "end of next month" => EndOfMonth(from.AddDays(1 - from.Day).AddMonths(1)),
            "end of last month" => from.AddDays(-from.Day),
            "end of year" or "end of the year" or "year end" => new DateOnly(from.Year, 12, 31),
            _ => Weekday(text),
        };

    // The coming one; on a Friday, "fri" is a week from now and "last fri" a week ago.
    private DateOnly? Weekday(string text)
    {
        var back = text.StartsWith("last ", StringComparison.Ordinal);
        var name =
            back || text.StartsWith("next ", StringComparison.Ordinal) ? text[5..]
            : text.StartsWith("on ", StringComparison.Ordinal) ? text[3..]
            : text;
        var weekday = Among(Weekdays, name);
        if (weekday < 0)
            return null;
        var ahead = (weekday - (int)from.DayOfWeek + 7) % 7;
        return back ? from.AddDays(ahead - 7)
            : ahead == 0 ? from.AddDays(7)
            : from.AddDays(ahead);
    }

    private DateOnly? Counted(string text, string field)
    {
        if (CountedText().Match(text) is not { Success: true } found)
            return null;
        var count = int.Parse(found.Groups["count"].Value, CultureInfo.InvariantCulture);
        if (found.Groups["sign"].Value == "-")
            count = -count;
        var unit = found.Groups["unit"].Value;
        var months = unit == "y" ? 12 * count : count;
        // What would leave the calendar altogether is told by its year as any other is.
        if (unit is "m" or "y" && !InRange(from.Year + (from.Month - 1 + months) / 12, field))
            return null;
        var day = unit switch
        {
            "m" or "y" => from.AddMonths(months),
            "w" => from.AddDays(7 * count),
            _ => from.AddDays(count),
        };
        return InRange(day.Year, field) ? day : null;
    }

    private DateOnly? Digits(string text, string field)
    {
        if (!text.All(char.IsAsciiDigit) || text.Length == 0)
            return null;
        int Number(int at, int length) => int.Parse(text.AsSpan(at, length), CultureInfo.InvariantCulture);
        switch (text.Length)
        {
            case 1 or 2:
                return Day(from.Year, from.Month, Number(0, text.Length), field);
            case 4:
                return WithoutYear(Number(0, 2), Number(2, 2), field);
            case 6 when first == DatePart.Year:
                return Day(Century(Number(0, 2)), Number(2, 2), Number(4, 2), field);
            case 6:
                return Whole(Number(0, 2), Number(2, 2), Century(Number(4, 2)), field);
            case 8 when first == DatePart.Year:
                return Day(Number(0, 4), Number(4, 2), Number(6, 2), field);
            case 8:
                return Whole(Number(0, 2), Number(2, 2), Number(4, 4), field);
            default:
                return null;
        }
    }

    private DateOnly? Named(string text, string field)
    {
        var found = DayThenName().Match(text);
        if (!found.Success)
            found = NameThenDay().Match(text);
        if (!found.Success)
            return null;
        var month = Among(Months, found.Groups["month"].Value) + 1;
        if (month == 0)
            return null;
        var day = int.Parse(found.Groups["day"].Value, CultureInfo.InvariantCulture);
        var year = found.Groups["year"].Value;
        return year.Length == 0 ? Nearest(month, day, field) : Day(Year(year), month, day, field);
    }

    private DateOnly? Parts(string text, string typed, string field)
    {
        if (Numbers().Match(text) is not { Success: true } found)
            return null;
        var (a, b, c) = (found.Groups["a"].Value, found.Groups["b"].Value, found.Groups["c"].Value);
        static int Number(string part) => int.Parse(part, CultureInfo.InvariantCulture);
        if (c.Length == 0)
            return a.Length > 2 || b.Length > 2 ? null : WithoutYear(Number(a), Number(b), field);
        if (a.Length == 4 && c.Length <= 2)
            return Day(Number(a), Number(b), Number(c), field);
        if (a.Length > 2 || b.Length > 2 || c.Length == 3)
            return null;
        if (first != DatePart.Year)
            return Whole(Number(a), Number(b), Year(c), field);
        throw new RefusalException(
            field,
            $"“{typed}” could be read in two ways. Here the year is written first, as in {from.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)}."
        );
    }

    /// <summary>A day and a month in the business's order.</summary>
    private DateOnly WithoutYear(int one, int other, string field) =>
        first == DatePart.Day ? Nearest(other, one, field) : Nearest(one, other, field);

    private DateOnly Whole(int one, int other, int year, string field) =>
        first == DatePart.Day ? Day(year, other, one, field) : Day(year, one, other, field);

    /// <summary>In this year, or in the one beside it where this year's is far off and that one is near.</summary>
    private DateOnly Nearest(int month, int day, string field)
    {
        var thisYear = Day(from.Year, month, day, field);
        var off = thisYear.DayNumber - from.DayNumber;
        return off > FarDays ? thisYear.AddYears(-1)
            : off < -FarDays ? thisYear.AddYears(1)
            : thisYear;
    }

    private DateOnly Day(int year, int month, int day, string field)
    {
        if (!InRange(year, field))
            throw new InvalidOperationException("A year out of range was let through.");
        if (month is < 1 or > 12)
            throw new RefusalException(
                field,
                $"There is no month {month}. Here the {(first == DatePart.Day ? "day" : "month")} is written before the {(first == DatePart.Day ? "month" : "day")}."
            );
        var days = DateTime.DaysInMonth(year, month);
        if (day < 1 || day > days)
            throw new RefusalException(
                field,
                $"{Months[month - 1]} {year.ToString(CultureInfo.InvariantCulture)} has {days} days, and no day {day}."
            );
        return new DateOnly(year, month, day);
    }

    private static bool InRange(int year, string field) =>
        year is >= EarliestYear and <= LatestYear
            ? true
            : throw new RefusalException(
                field,
                $"The year {year.ToString(CultureInfo.InvariantCulture)} is too far off. Give a day between {EarliestYear.ToString(CultureInfo.InvariantCulture)} and {LatestYear.ToString(CultureInfo.InvariantCulture)}."
            );

    private static int Year(string typed)
    {
        var year = int.Parse(typed, CultureInfo.InvariantCulture);
        return typed.Length == 4 ? year : Century(year);
    }

    private static int Century(int year) => 2000 + year;

    private static DateOnly EndOfMonth(DateOnly day) =>
        new(day.Year, day.Month, DateTime.DaysInMonth(day.Year, day.Month));

    // By its name or by at least the first three letters of it.
    private static int Among(string[] names, string typed) =>
        typed.Length < 3 ? -1 : Array.FindIndex(names, n => n.StartsWith(typed, StringComparison.OrdinalIgnoreCase));

    private static RefusalException NoDate(string typed, string field) =>
        new(
            field,
            $"“{(typed.Length > 20 ? typed[..20] + "…" : typed)}” is not a date. Type one like 17, 17 sep, +14, fri or end of month, or choose it from the calendar."
        );

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blanks();

    [GeneratedRegex("^(?<sign>[+-]) ?(?<count>[0-9]{1,4}) ?(?<unit>[dwmy])?$")]
    private static partial Regex CountedText();

    [GeneratedRegex("^(?<day>[0-9]{1,2})[ .-]*(?<month>[a-z]{3,9})[ .,-]*(?<year>[0-9]{2}|[0-9]{4})?$")]
    private static partial Regex DayThenName();

    [GeneratedRegex("^(?<month>[a-z]{3,9})[ .-]*(?<day>[0-9]{1,2})(?:[ .,-]+(?<year>[0-9]{2}|[0-9]{4}))?$")]
    private static partial Regex NameThenDay();

    [GeneratedRegex("^(?<a>[0-9]{1,4}) ?[./ -] ?(?<b>[0-9]{1,2})(?: ?[./ -] ?(?<c>[0-9]{1,4}))?[.]?$")]
    private static partial Regex Numbers();
}
