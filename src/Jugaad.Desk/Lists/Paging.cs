using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lists;

/// <summary>One page of a list.</summary>
/// <param name="Number">From 1.</param>
public sealed record ListPage<T>(IReadOnlyList<T> Rows, int Number, int Size, int Total)
{
    public int Last => Math.Max(1, (Total + Size - 1) / Size);
}

internal static class Paging
{
    internal const int Size = 40;

    internal static async Task<ListPage<T>> PageAsync<T>(
        this IQueryable<T> rows,
        int number,
        CancellationToken stop,
        int size = Size
    )
    {
        var total = await rows.CountAsync(stop);
        var page = Math.Clamp(number, 1, Math.Max(1, (total + size - 1) / size));
        return new ListPage<T>(await rows.Skip((page - 1) * size).Take(size).ToListAsync(stop), page, size, total);
    }
}
