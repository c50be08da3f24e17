using System.Globalization;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>Reads the post tray.</summary>
public sealed class PostScreens(BooksContext db)
{
    // Two thousand million ids have room in each rank.
    private const long Rank = 1L << 32;

    private static readonly ListOrders<PostItem> Orders = new ListOrders<PostItem>(p => p.Id, "-urgent").By(
        "urgent",
        p =>
            (
                p.State == PostState.Unknown || p.State == PostState.Failed ? 2 * Rank
                : p.State == PostState.Sent || p.State == PostState.Withdrawn ? 0
                : Rank
            ) + p.Id
    );

    /// <summary>What has not gone first, then the newest.</summary>
    public async Task<Stretch<PostItem>> ListAsync(string search, ListPlace place, CancellationToken stop = default) =>
        await Orders.ReadAsync(await NarrowAsync(search, stop), "", p => p, place, stop);

    /// <inheritdoc cref="ListOrders{TRow}.IdsAsync"/>
    public async Task<IReadOnlyList<int>> IdsAsync(string search, int most, CancellationToken stop = default) =>
        await Orders.IdsAsync(await NarrowAsync(search, stop), "", most, stop);

    /// <summary>What posts are about.</summary>
    public async Task<IReadOnlyDictionary<int, string>> SubjectsAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop = default
    ) => await db.Post.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Subject, stop);

    public async Task<ListTotals> TotalsAsync(string search, CancellationToken stop = default) =>
        ListTotals.Of(await (await NarrowAsync(search, stop)).CountAsync(stop));

    /// <summary>All that a search finds, for a file.</summary>
    /// <param name="only">The rows that were picked; null for all.</param>
    public async Task<Report> ReportAsync(
        string search,
        IReadOnlyCollection<int>? only = null,
        CancellationToken stop = default
    )
    {
        var rows = await Orders.Sorted(await NarrowAsync(search, stop), "", only).ToListAsync(stop);
        return new Report(
            "post",
            "Post",
            "",
            [
                new("day", "Day"),
                new("way", "Way"),
                new("kind", "Kind"),
                new("to", "To"),
                new("subject", "Subject"),
                new("state", "State"),
                new("sent", "Sent (UTC)"),
            ],
            rows.ConvertAll(p => new ReportRow([
                p.Day,
                p.Way.ToString().ToLowerInvariant(),
                p.Kind.ToString().ToLowerInvariant(),
                p.To,
                p.Subject,
                p.State.ToString().ToLowerInvariant(),
                p.SentAt?.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
            ]))
        );
    }

    private async Task<IQueryable<PostItem>> NarrowAsync(string search, CancellationToken stop)
    {
        var post = db.Post.AsNoTracking();
        if (search.Trim().Length == 0)
            return post;
        var found = await WordSearch.PostAsync(db, search, stop);
        return post.Where(found.Among<PostItem>(p => p.Id));
    }

    /// <summary>What waits to be printed, oldest first.</summary>
    public async Task<IReadOnlyList<int>> PileAsync(CancellationToken stop = default) =>
        await db
            .Post.Where(p => p.Way == PostWay.Print && p.State == PostState.Waiting)
            .OrderBy(p => p.Id)
            .Select(p => p.Id)
            .ToListAsync(stop);

    public Task<PostItem?> FindAsync(int id, CancellationToken stop = default) =>
        db
            .Post.AsNoTracking()
            .Include(p => p.Attachments)
            .Include(p => p.History)
            .SingleOrDefaultAsync(p => p.Id == id, stop);
}
