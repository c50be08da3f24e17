using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>What became of one of many drafts.</summary>
/// <param name="Refused">Why it was not issued; empty where it was.</param>
public sealed record IssuedOne(int Id, string Title, string Customer, string Refused);

/// <summary>Issues many drafts in one go, each in a transaction of its own.</summary>
public sealed class IssuingMany(BooksContext db, OneByOne many, IssuingDesk issuing, Sending sending, BookWriter writer)
{
    /// <param name="versions">The drafts with the versions that the person saw.</param>
    /// <param name="send">Whether each is sent the way its customer gets papers.</param>
    /// <param name="once">A draft is issued only once, so a second arrival of the form tells what the first one
    /// did.</param>
    public async Task<IReadOnlyList<IssuedOne>> IssueAsync(
        IReadOnlyList<(int Id, int Version)> versions,
        bool send,
        Once once = default
    )
    {
        writer.Must(Right.Draft);
        var seen = versions.DistinctBy(v => v.Id).ToDictionary(v => v.Id, v => v.Version);
        var done = await many.DoAsync(
            seen.Keys,
            once,
            (id, each) => send ? sending.IssueAsync(id, seen[id], each) : issuing.IssueAsync(id, seen[id], null, each)
        );
        var issued = await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer)
            .Where(d => seen.Keys.Contains(d.Id))
            .ToDictionaryAsync(d => d.Id, once.Stop);
        return
        [
            .. done.Select(d =>
                issued.TryGetValue(d.Id, out var document)
                    ? new IssuedOne(d.Id, document.Title, document.Customer!.Name, d.Refused)
                    : new IssuedOne(d.Id, $"document {d.Id}", "", d.Refused)
            ),
        ];
    }
}
