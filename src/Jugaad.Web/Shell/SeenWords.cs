using Jugaad.Core.Trade;

namespace Jugaad.Web.Shell;

/// <summary>Says whether a customer looked at what an address shows them, and when.</summary>
public static class SeenWords
{
    /// <param name="day">Writes a day as the business does.</param>
    public static string Of(CustomerLink link, Func<DateOnly, string> day)
    {
        if (link.FirstSeen is not { } first || link.LastSeen is not { } last)
            return "not seen yet";
        var times = link.TimesSeen == 1 ? "once" : $"{link.TimesSeen} times";
        var lately = link.TimesSeen > 1 ? $", last at {last:HH:mm} on {day(DateOnly.FromDateTime(last))}" : "";
        return $"seen {times}, first on {day(DateOnly.FromDateTime(first))} at {first:HH:mm}{lately}";
    }
}
