using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Post;

/// <summary>What waits to be printed, as one file: letters, statements and papers, each item's together.</summary>
public sealed class PrintPile(BooksContext db, BooksHead head, PaperRoom papers, Statements statements)
{
    /// <returns>Null where nothing waits.</returns>
    public async Task<byte[]?> PdfAsync(CancellationToken stop = default)
    {
        var pile = await db
            .Post.AsNoTracking()
            .Include(p => p.Attachments)
            .Where(p => p.Way == PostWay.Print && p.State == PostState.Waiting)
            .OrderBy(p => p.Id)
            .ToListAsync(stop);
        var sheets = new List<DisplayList>();
        foreach (var item in pile)
        {
            // What goes with an invoice is said on the invoice; a reminder or a statement says it in its letter.
            if (item.Kind is PostKind.Reminder && item.CustomerId is { } written)
                sheets.Add(await statements.LetterAsync(written, item.Subject, item.Body, item.Day, stop));
            if (item.CustomerId is { } customer && StatementWish.Read(item.Statement) is { } wish)
                sheets.AddRange(await statements.ComposeAsync(customer, wish, null, stop));
            foreach (var attachment in item.Attachments.OrderBy(a => a.Id))
            {
                foreach (var mark in item.Marks.Split(',', StringSplitOptions.TrimEntries))
                    sheets.Add(
                        await papers.ComposeAsync(attachment.DocumentId, new PaperStyle(mark) { ForPrint = true }, stop)
                    );
            }
        }

        return sheets.Count == 0 ? null : await papers.PrintAsync(sheets, await head.TodayAsync(stop), stop);
    }
}
