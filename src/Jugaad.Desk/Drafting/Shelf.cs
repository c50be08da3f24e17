using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Drafting;

/// <summary>What an editor held when it was put away or left.</summary>
/// <param name="Form">The cells as they were typed.</param>
public sealed record TypedEditor(DocumentKind Kind, int? DocumentId, string Form, string Customer, string Total);

/// <summary>
/// Keeps half-written documents: on the shelf, for anybody to go on with, or as unsaved typing of one person. Nothing
/// is asked of them; they are kept as they were typed.
/// </summary>
public sealed class Shelf(BooksContext db, BookWriter writer, BooksHead head)
{
    private const int LongestForm = 2_000_000;

    /// <summary>What is on the shelf, newest first.</summary>
    public async Task<IReadOnlyList<ShelfEntry>> ListAsync(CancellationToken stop = default) =>
        await db
            .Shelf.AsNoTracking()
            .Where(s => s.OnShelf)
            .OrderByDescending(s => s.Since)
            .ThenByDescending(s => s.Id)
            .ToListAsync(stop);

    /// <summary>What the same person typed there before and did not save; null where there is nothing.</summary>
    public Task<ShelfEntry?> UnsavedAsync(DocumentKind kind, int? documentId, CancellationToken stop = default) =>
        db
            .Shelf.AsNoTracking()
            .Where(s => !s.OnShelf && s.Who == writer.Who && s.Kind == kind && s.DocumentId == documentId)
            .OrderByDescending(s => s.Id)
            .FirstOrDefaultAsync(stop);

    /// <returns>Null where it is not there any more.</returns>
    public Task<ShelfEntry?> FindAsync(int id, CancellationToken stop = default) =>
        db.Shelf.AsNoTracking().SingleOrDefaultAsync(s => s.Id == id && (s.OnShelf || s.Who == writer.Who), stop);

    /// <summary>Puts a document on the shelf as it stands.</summary>
    public Task<int> PutAsync(TypedEditor typed, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                await ForgetAsync(typed.Kind, typed.DocumentId, stop);
                return await AddAsync(typed, true, stop);
            }
        );

    /// <summary>Keeps what is being typed, in place of what was kept of it before.</summary>
    public Task<int> KeepAsync(TypedEditor typed, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Draft,
            stop,
            async () =>
            {
                await ForgetAsync(typed.Kind, typed.DocumentId, stop);
                return await AddAsync(typed, false, stop);
            }
        );

    /// <summary>
    /// Takes something off the shelf: it becomes the unsaved typing of whoever took it, so that it is not lost on the
    /// way.
    /// </summary>
    public Task<int> ReopenAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var entry =
                    await db.Shelf.SingleOrDefaultAsync(s => s.Id == id && s.OnShelf, stop)
                    ?? throw new RefusalException("", "Somebody else took this off the shelf a moment ago.");
                await ForgetAsync(entry.Kind, entry.DocumentId, stop);
                db.Shelf.Remove(entry);
                return await AddAsync(
                    new TypedEditor(entry.Kind, entry.DocumentId, entry.Form, entry.Customer, entry.Total),
                    false,
                    stop
                );
            }
        );

    /// <summary>Throws away what was typed, as it has been saved or is not wanted.</summary>
    public Task<int> ForgetAsync(int id, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Draft,
            stop,
            async () =>
            {
                if (
                    await db.Shelf.SingleOrDefaultAsync(s => s.Id == id && (s.OnShelf || s.Who == writer.Who), stop) is
                    { } entry
                )
                    db.Shelf.Remove(entry);
                return id;
            }
        );

    private async Task<int> AddAsync(TypedEditor typed, bool onShelf, CancellationToken stop)
    {
        if (typed.Form.Length > LongestForm)
            throw new RefusalException("", "This is more than can be kept aside. Save it as a draft.");
        var entry = new ShelfEntry
        {
            Who = writer.Who,
            Kind = typed.Kind,
            DocumentId = typed.DocumentId,
            Form = typed.Form,
            Customer = Cut(typed.Customer, 200),
            Total = Cut(typed.Total, 40),
            Since = (await head.NowAsync(stop)).DateTime,
            OnShelf = onShelf,
        };
        db.Shelf.Add(entry);
        await writer.SaveAsync(stop);
        return entry.Id;
    }

    private async Task ForgetAsync(DocumentKind kind, int? documentId, CancellationToken stop) =>
        db.Shelf.RemoveRange(
            await db
                .Shelf.Where(s => !s.OnShelf && s.Who == writer.Who && s.Kind == kind && s.DocumentId == documentId)
                .ToListAsync(stop)
        );

    private static string Cut(string text, int most) => text.Length > most ? text[..most] : text;
}
