using System.Text;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Jugaad.Desk.Outside;

namespace Jugaad.Formats.Calendars;

/// <summary>Writes an iCalendar object (RFC 5545).</summary>
public sealed class CalendarFile : ICalendarFile
{
    /// <inheritdoc/>
    public byte[] Write(string name, IReadOnlyList<CalendarEntry> entries)
    {
        var calendar = new Ical.Net.Calendar { ProductId = "-//Jugaad//EN" };
        calendar.AddProperty("X-WR-CALNAME", name);
        foreach (var entry in entries)
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = entry.Key,
                    DtStamp = new CalDateTime(entry.NotedOn.ToDateTime(TimeOnly.MinValue), "UTC"),
                    Start = new CalDateTime(entry.Day),
                    Summary = entry.Title,
                    Description = entry.Words,
                    Url = new Uri(entry.Address),
                }
            );
        return Encoding.UTF8.GetBytes(new CalendarSerializer().SerializeToString(calendar) ?? "");
    }
}
