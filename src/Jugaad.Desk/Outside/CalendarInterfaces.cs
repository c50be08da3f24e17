namespace Jugaad.Desk.Outside;

/// <summary>Something that a day is kept for.</summary>
/// <param name="Key">The same for the same thing, however often the calendar is read.</param>
/// <param name="NotedOn">The day on which it was noted.</param>
/// <param name="Address">Where it is looked at.</param>
public sealed record CalendarEntry(
    string Key,
    DateOnly Day,
    DateOnly NotedOn,
    string Title,
    string Words,
    string Address
);

/// <summary>Writes days to keep as a calendar that other programs read.</summary>
public interface ICalendarFile
{
    /// <returns>An iCalendar object (RFC 5545) of events that last all day, in UTF-8.</returns>
    byte[] Write(string name, IReadOnlyList<CalendarEntry> entries);
}
