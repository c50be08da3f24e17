using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>What became of one of many drafts.</summary>
/// <param name="Refused">Why it was not issued; empty where it was.</param>
public sealed record IssuedOne(int Id, string Title, string Customer, string Refused);

/// <summary>Issues many drafts in one go. Each is one transaction of its own, so that one that is refused holds no other up.</summary>
public sealed class IssuingMany(
    BooksContext db,
    BooksHead head,
    IssuingDesk issuing,
    MailComposing compose,
    BookWriter writer
)
{
    /// <param name="versions">The drafts with the versions that the person saw.</param>
    /// <param name="send">Whether each is sent the way its customer gets papers.</param>
    /// <param name="formKey">A draft is issued only once, so a second arrival of the form tells what the first one did.</param>
    public async Task<IReadOnlyList<IssuedOne>> IssueAsync(
        IReadOnlyList<(int Id, int Version)> versions,
        bool send,
        string? formKey = null,
        CancellationToken stop = default
    )
    {
        writer.Must(Right.Draft);
        var done = new List<IssuedOne>();
        foreach (var (id, version) in versions)
        {
            db.ChangeTracker.Clear();
            var refused = "";
            try
            {
                await issuing.IssueAsync(
                    id,
                    version,
                    send ? await compose.ForDocumentAsync(id, stop) : null,
                    formKey is null ? null : $"{formKey}-{id}",
                    stop
                );
            }
            catch (RefusalException refusal)
            {
                refused = refusal.In((await head.BusinessAsync(stop)).Format);
            }

            var document = await db
                .Documents.AsNoTracking()
                .Include(d => d.Customer)
                .SingleOrDefaultAsync(d => d.Id == id, stop);
            done.Add(new IssuedOne(id, document?.Title ?? $"document {id}", document?.Customer?.Name ?? "", refused));
        }

        return done;
    }
}
