using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>Reads the post tray.</summary>
public sealed class PostScreens(BooksContext db)
{
    /// <summary>What has not gone first, then the newest.</summary>
    public Task<ListPage<PostItem>> ListAsync(int page, CancellationToken stop = default) =>
        db
            .Post.AsNoTracking()
            .OrderBy(p => p.State == PostState.Sent || p.State == PostState.Withdrawn)
            .ThenBy(p => p.State == PostState.Unknown || p.State == PostState.Failed ? 0 : 1)
            .ThenByDescending(p => p.Id)
            .PageAsync(page, stop);

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
