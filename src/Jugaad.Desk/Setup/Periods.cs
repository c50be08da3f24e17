using Jugaad.Core;
using Jugaad.Desk.Books;

namespace Jugaad.Desk.Setup;

/// <summary>Closes the books up to a day, and opens them again.</summary>
public sealed class Periods(BookWriter writer, BooksHead head)
{
    /// <param name="day">The last day that is closed; null for none.</param>
    /// <exception cref="RefusalException">When the day is today or later.</exception>
    public Task<int> CloseUpToAsync(DateOnly? day, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        var business = await head.BusinessAsync(stop);
        var before = business.ClosedUpTo;
        business.CloseUpTo(day, await head.TodayAsync(stop));
        if (before != day) await writer.TrailAsync(day is { } to ? $"Books closed up to {to:yyyy-MM-dd}{(before > to ? $", opened again from {before:yyyy-MM-dd}" : "")}" : $"Books opened again; they were closed up to {before:yyyy-MM-dd}");
        return business.Id;
    }, stop);
}
