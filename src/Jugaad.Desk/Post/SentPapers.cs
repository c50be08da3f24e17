using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Post;

/// <summary>Keeps what went along with each mail, byte for byte, whatever papers look like later.</summary>
public sealed class SentPapers(BooksContext db)
{
    /// <summary>
    /// Keeps it before the mail is handed over, in place of what went along with an earlier try: should the program be
    /// stopped in between, what may have gone is known.
    /// </summary>
    internal async Task KeepAsync(
        PostItem item,
        IReadOnlyList<(string Name, byte[] Data)> files,
        CancellationToken stop
    )
    {
        await using var all = await db.Database.BeginTransactionAsync(stop);
        await db.SentPapers.Where(p => p.PostItemId == item.Id).ExecuteDeleteAsync(stop);
        for (var i = 0; i < files.Count; i++)
            db.SentPapers.Add(new SentPaper(item.Id, i, files[i].Name, await FileAsync(files[i].Data, stop)));
        item.Carries(files.Count);
        await db.SaveChangesAsync(stop);
        await all.CommitAsync(stop);
    }

    private async Task<int> FileAsync(byte[] data, CancellationToken stop)
    {
        var hash = LayoutState.HashOf(data);
        if (await db.SentFiles.Where(f => f.Hash == hash).Select(f => (int?)f.Id).SingleOrDefaultAsync(stop) is { } id)
            return id;
        var file = new SentFile(data);
        db.SentFiles.Add(file);
        await db.SaveChangesAsync(stop);
        return file.Id;
    }

    /// <summary>The files that went along with a mail, in their order.</summary>
    public async Task<IReadOnlyList<SentPaper>> OfAsync(int postItemId, CancellationToken stop = default) =>
        await db
            .SentPapers.AsNoTracking()
            .Where(p => p.PostItemId == postItemId)
            .OrderBy(p => p.Position)
            .ToListAsync(stop);

    /// <returns>Null where no such file went along.</returns>
    public async Task<(string Name, byte[] Data)?> FindAsync(
        int postItemId,
        int position,
        CancellationToken stop = default
    ) =>
        await db
            .SentPapers.Where(p => p.PostItemId == postItemId && p.Position == position)
            .Join(db.SentFiles, p => p.FileId, f => f.Id, (p, f) => new { p.Name, f.Data })
            .SingleOrDefaultAsync(stop)
            is { } found
            ? (found.Name, found.Data)
            : null;
}
