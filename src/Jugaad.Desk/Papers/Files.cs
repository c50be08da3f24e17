using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>Keeps files with documents.</summary>
public sealed class Files(BooksContext db, BookWriter writer)
{
    private const int MostFiles = 20;

    /// <exception cref="RefusalException">When there is no such document, or the file cannot be kept.</exception>
    public Task<int> AddAsync(int documentId, string name, byte[] content, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var document =
                    await db.Documents.SingleOrDefaultAsync(d => d.Id == documentId, stop)
                    ?? throw new RefusalException("", $"There is no document {documentId}.");
                writer.Must(RightFor(document));
                if (await db.DocumentFiles.CountAsync(f => f.DocumentId == documentId, stop) >= MostFiles)
                    throw new RefusalException(
                        "file",
                        $"There are {MostFiles} files with it already. Take one away first."
                    );
                var file = new DocumentFile(documentId, name, content, writer.Who);
                db.DocumentFiles.Add(file);
                await writer.TrailAsync($"File {file.Name} added", document.CustomerId, documentId);
                await writer.SaveAsync(stop);
                return file.Id;
            }
        );

    /// <summary>Says whether a file goes along with the mail.</summary>
    public Task<int> SendAsync(int id, bool goesAlong, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                (await FindAsync(id, stop)).Send(goesAlong);
                return id;
            }
        );

    public Task<int> RemoveAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var file = await FindAsync(id, stop);
                db.DocumentFiles.Remove(file);
                await writer.TrailAsync($"File {file.Name} taken away", null, file.DocumentId);
                return id;
            }
        );

    /// <summary>A file of a document, for whoever may see it.</summary>
    /// <returns>Null where there is none.</returns>
    /// <exception cref="NotAllowedException">When whoever asks has not to do with such papers.</exception>
    public async Task<DocumentFile?> OpenAsync(int documentId, int id, CancellationToken stop = default)
    {
        if (
            !writer.May(Right.See)
            && await db.Documents.AsNoTracking().SingleOrDefaultAsync(d => d.Id == documentId, stop) is { } document
        )
            writer.Must(RightFor(document));
        return await db
            .DocumentFiles.AsNoTracking()
            .SingleOrDefaultAsync(f => f.Id == id && f.DocumentId == documentId, stop);
    }

    /// <summary>Sellers have to do with drafts and quotes; with what was issued, who issues it.</summary>
    private static Right RightFor(Document document) =>
        document.IsDraft || document.Kind == DocumentKind.Quote ? Right.Draft : Right.Issue;

    private async Task<DocumentFile> FindAsync(int id, CancellationToken stop)
    {
        var file =
            await db.DocumentFiles.SingleOrDefaultAsync(f => f.Id == id, stop)
            ?? throw new RefusalException("", "This file was taken away already.");
        writer.Must(RightFor(await db.Documents.SingleAsync(d => d.Id == file.DocumentId, stop)));
        return file;
    }
}
