using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Taxes;
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
        return ($"{FileName(paper.Title)}.pdf", printer.Pdf(paper, new PaperPictures(business.Logo, business.Signature), date, business.Name));
    }

    public async Task<IReadOnlyList<string>> SvgAsync(int id, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        return printer.Svg(await ComposeAsync(id, stop), picture => picture switch
        {
            PaperPicture.Logo when business.Logo is not null => "/logo.png",
            PaperPicture.Signature when business.Signature is not null => "/signature.png",
            _ => null,
        });
    }

    private async Task<DisplayList> ComposeAsync(Document document, CancellationToken stop) =>
        Composer.Compose(Layout.BuiltIn, PaperContent.Of(document, await head.BusinessAsync(stop), document.Customer!, document.Sender ?? await SenderAsync(document, stop)), printer.Measure);

    /// <summary>Who a document is from, as things stand now.</summary>
    internal async Task<Sender> SenderAsync(Document document, CancellationToken stop)
    {
        var authorities = await db.TaxAuthorities.AsNoTracking().OrderBy(a => a.Id).ToListAsync(stop);
        var day = document.TaxDate ?? document.Date;
        var banks = await db.LedgerAccounts.Where(a => a.OnPapers && !a.Retired).OrderBy(a => a.Code).Select(a => new SenderBank(a.BankName, a.Iban, a.Bic)).ToListAsync(stop);
        var footer = await db.KindTexts.Where(t => t.Kind == document.Kind).Select(t => t.Footer).SingleOrDefaultAsync(stop);
        return Parties.SenderOf(await head.BusinessAsync(stop), banks, authorities.Where(a => a.IsRegisteredOn(day)), TaxStanding.With(authorities).IsRegisteredOn(day), footer);
    }

    private static string FileName(string title) =>
        string.Concat(title.Select(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or '.' ? c : '-')).Trim('-');
}
