using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Selling;

/// <summary>Makes a document's paper, for the screen and as a PDF, from the same display list.</summary>
public sealed class PaperRoom(BooksContext db, BooksHead head, IPaperPrinter printer)
{
    /// <exception cref="RefusalException">When there is no such document.</exception>
    public async Task<DisplayList> ComposeAsync(int id, CancellationToken stop = default)
    {
        var document = await db.Documents.AsNoTracking().Include(d => d.Lines).Include(d => d.Charges).Include(d => d.Taxes).Include(d => d.Customer)
            .SingleOrDefaultAsync(d => d.Id == id, stop) ?? throw new RefusalException("", $"There is no document {id}.");
        return await ComposeAsync(document, stop);
    }

    public async Task<(string Name, byte[] Content)> PdfAsync(int id, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var paper = await ComposeAsync(id, stop);
        var date = await db.Documents.Where(d => d.Id == id).Select(d => d.Date).SingleAsync(stop);
        return ($"{FileName(paper.Title)}.pdf", printer.Pdf(paper, business.Logo, date, business.Name));
    }

    public async Task<IReadOnlyList<string>> SvgAsync(int id, string logoAddress, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        return printer.Svg(await ComposeAsync(id, stop), business.Logo is null ? null : logoAddress);
    }

    private async Task<DisplayList> ComposeAsync(Document document, CancellationToken stop)
    {
        var reasons = await db.TaxCodes.Where(c => c.Reason != null).ToDictionaryAsync(c => c.Code, c => c.Reason!, stop);
        return Composer.Compose(Layout.BuiltIn, PaperContent.Of(document, await head.BusinessAsync(stop), document.Customer!, reasons), printer.Measure);
    }

    private static string FileName(string title) =>
        string.Concat(title.Select(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or '.' ? c : '-')).Trim('-');
}
