using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Everything in the post tray was put there once, as the threads of its papers tell, and says rightly how far it got.
/// </summary>
internal sealed class PostProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        // By paper and by what the trail says of it, so that none can be hung on another item.
        var put = (
            await db
                .Post.SelectMany(
                    p => p.Attachments,
                    (p, a) =>
                        new
                        {
                            a.DocumentId,
                            p.Way,
                            p.Kind,
                            p.To,
                        }
                )
                .ToListAsync(stop)
        ).CountBy(p => (p.DocumentId, Words: PostTray.WordsOf(p.Way, p.Kind, p.To))).ToDictionary();
        var told = (
            await db
                .Trail.Where(t =>
                    t.DocumentId != null
                    && (t.Text.EndsWith(" put in the post tray") || t.Text == "Put into the pile to print")
                )
                .Select(t => new { t.DocumentId, t.Text })
                .ToListAsync(stop)
        )
            .CountBy(t => (DocumentId: t.DocumentId!.Value, Words: t.Text))
            .ToDictionary();
        foreach (
            var (document, words) in put
                .Keys.Union(told.Keys)
                .Where(d => put.GetValueOrDefault(d) != told.GetValueOrDefault(d))
                .Order()
        )
        {
            var number = await db
                .Documents.Where(d => d.Id == document)
                .Select(d => d.Number)
                .SingleOrDefaultAsync(stop);
            findings.Add(
                $"{number ?? $"Document {document}"}: is {put.GetValueOrDefault((document, words))} times in the post, and was put there {told.GetValueOrDefault((document, words))} times ({words})"
            );
        }

        findings.AddRange(
            (
                await db
                    .Post.Where(p => (p.State == PostState.Sent) != (p.SentAt != null))
                    .Select(p => p.Id)
                    .ToListAsync(stop)
            ).Select(p => $"Post item {p}: is called sent and was not, or the other way round")
        );
        findings.AddRange(
            (
                await db
                    .Post.Where(p =>
                        p.Tries < 0
                        || (
                            (p.State == PostState.Sent || p.State == PostState.OnItsWay)
                            && p.Way != PostWay.Print
                            && p.Tries == 0
                            && p.SettledBy == ""
                        )
                    )
                    .Select(p => p.Id)
                    .ToListAsync(stop)
            ).Select(p => $"Post item {p}: went without a try")
        );
        var unproved = await db
            .Post.Where(p =>
                p.State == PostState.Sent
                && p.SettledBy == ""
                && p.History.Any()
                && !p.History.Any(t => t.Outcome == PostState.Sent)
            )
            .Select(p => p.Id)
            .ToListAsync(stop);
        findings.AddRange(unproved.Select(p => $"Post item {p}: is called sent, and no try of it was taken over"));
        var unsaid = await db
            .Post.Where(p =>
                p.SettledBy != "" && !db.Trail.Any(t => t.Text.EndsWith(" arrived, as " + p.SettledBy + " says"))
            )
            .Select(p => p.Id)
            .ToListAsync(stop);
        findings.AddRange(unsaid.Select(p => $"Post item {p}: is said to have arrived, and nobody said so"));
        var twice = await db
            .Post.Where(p => p.History.Count(t => t.Outcome == PostState.Sent) > 1)
            .Select(p => p.Id)
            .ToListAsync(stop);
        findings.AddRange(twice.Select(p => $"Post item {p}: was taken over more than once"));
        await SentAsync(findings, stop);
        findings.Count("post items", await db.Post.LongCountAsync(stop));
    }

    /// <summary>What went along with mails is there, and is what went.</summary>
    private async Task SentAsync(Findings findings, CancellationToken stop)
    {
        foreach (
            var id in await db
                .Post.Where(p =>
                    db.SentPapers.Count(s => s.PostItemId == p.Id) != (p.FilesCarried ?? 0)
                    || db.SentPapers.Any(s => s.PostItemId == p.Id && s.Position >= p.FilesCarried)
                )
                .Select(p => p.Id)
                .Take(20)
                .ToListAsync(stop)
        )
            findings.Add($"Post item {id}: a file that went along with it is not kept");
        foreach (
            var paper in await db
                .SentPapers.Where(s => !db.SentFiles.Any(f => f.Id == s.FileId))
                .Select(s => new { s.PostItemId, s.Name })
                .Take(20)
                .ToListAsync(stop)
        )
            findings.Add($"Post item {paper.PostItemId}: {paper.Name} went along with it and is gone");
        foreach (var id in await db.SentFiles.Select(f => f.Id).ToListAsync(stop))
        {
            // One at a time: years of mails do not fit into the memory together.
            var file = await db.SentFiles.AsNoTracking().SingleAsync(f => f.Id == id, stop);
            if (file.Hash != LayoutState.HashOf(file.Data))
                findings.Add($"File {id} of mails: it was changed after it went");
        }
    }
}
