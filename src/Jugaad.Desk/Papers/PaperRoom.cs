using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>How a paper is set.</summary>
/// <param name="Mark">Such as <c>Copy</c>; empty for none.</param>
/// <param name="WithoutPrices">As a packing list, for whoever packs or drives.</param>
/// <param name="Slip">On a strip of 80 mm, as a till prints.</param>
public sealed record PaperStyle(string Mark = "", bool WithoutPrices = false, bool Slip = false)
{
    /// <summary>The mark of a paper that was paid whole; no other gets it.</summary>
    public const string Paid = "Paid";

    /// <summary>The language that is asked for; null for that of the document, or of its customer.</summary>
    public string? Language { get; init; }

    /// <summary>The layout that is asked for; null for the one that is chosen for such a paper.</summary>
    public Layout? Layout { get; init; }

    /// <summary>Whether it is printed here; what lies beneath it may be on the paper in the printer already.</summary>
    public bool ForPrint { get; init; }
}

/// <summary>Makes a document's paper, for the screen and as a PDF, from the same display list.</summary>
public sealed class PaperRoom(
    BooksContext db,
    BooksHead head,
    IssuedLooks looks,
    LayoutChoice choice,
    Wordings wordings,
    IPaperPrinter printer
)
{
    /// <param name="style">How it is set.</param>
    /// <exception cref="RefusalException">When there is no such document.</exception>
    public async Task<DisplayList> ComposeAsync(int id, PaperStyle? style = null, CancellationToken stop = default)
    {
        return await ComposeAsync(await LoadAsync(id, stop), style ?? new PaperStyle(), stop);
    }

    /// <summary>A document with all that its paper tells.</summary>
    internal async Task<Document> LoadAsync(int id, CancellationToken stop) =>
        await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Include(d => d.Taxes)
            .Include(d => d.Customer)
            .SingleOrDefaultAsync(d => d.Id == id, stop)
        ?? throw new RefusalException("", $"There is no document {id}.");

    public Task<(string Name, byte[] Content)> PdfAsync(int id, CancellationToken stop = default) =>
        PdfAsync(id, [new PaperStyle()], stop);

    /// <summary>The same document in each of several styles, one after the other in one file.</summary>
    public async Task<(string Name, byte[] Content)> PdfAsync(
        int id,
        IReadOnlyList<PaperStyle> styles,
        CancellationToken stop = default
    )
    {
        var papers = new List<DisplayList>();
        foreach (var style in styles)
            papers.Add(await ComposeAsync(id, style, stop));
        var date = await db.Documents.Where(d => d.Id == id).Select(d => d.Date).SingleAsync(stop);
        return ($"{FileName(papers[0].Title)}.pdf", await PrintAsync(papers, date, stop));
    }

    /// <summary>Papers of several documents as one file.</summary>
    /// <exception cref="RefusalException">When there is none.</exception>
    public async Task<byte[]> PileAsync(
        IReadOnlyList<(int DocumentId, PaperStyle Style)> pile,
        CancellationToken stop = default
    )
    {
        if (pile.Count == 0)
            throw new RefusalException("", "There is nothing to print.");
        var papers = new List<DisplayList>();
        foreach (var (id, style) in pile)
            papers.Add(await ComposeAsync(id, style, stop));
        return await PrintAsync(papers, await head.TodayAsync(stop), stop);
    }

    /// <param name="picturesAt">The address below which the business's pictures are; the person who is signed in sees
    /// them at the root.</param>
    public async Task<IReadOnlyList<string>> SvgAsync(
        int id,
        string picturesAt = "",
        PaperStyle? style = null,
        CancellationToken stop = default
    ) => await DrawAsync(await ComposeAsync(id, style, stop), picturesAt, stop);

    /// <summary>The pages of a paper as SVG.</summary>
    internal async Task<IReadOnlyList<string>> DrawAsync(DisplayList paper, string picturesAt, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        return printer.Svg(
            paper,
            picture =>
                picture switch
                {
                    PaperPicture.Logo when business.Logo is not null => $"{picturesAt}/pictures/logo",
                    PaperPicture.Signature when business.Signature is not null => $"{picturesAt}/pictures/signature",
                    _ => null,
                }
        );
    }

    internal async Task<byte[]> PrintAsync(IReadOnlyList<DisplayList> papers, DateOnly date, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        return printer.Pdf(papers, new PaperPictures(business.Logo, business.Signature), date, business.Name);
    }

    private async Task<DisplayList> ComposeAsync(Document document, PaperStyle style, CancellationToken stop)
    {
        if (style.Mark == PaperStyle.Paid)
            await MustBePaidAsync(document, stop);
        var business = await head.BusinessAsync(stop);
        var language = style.Language ?? document.WrittenIn(document.Customer!);
        var look = await looks.OfAsync(document, document.Customer!, language, stop);
        // Neither a packing list nor a slip is what was issued; they follow the rules of their own kinds.
        if (style.WithoutPrices || style.Slip)
        {
            var kind = style.Slip ? PaperKinds.Slip : PaperKinds.PackingList;
            var ask = LayoutChoice.AskOf(document, document.Customer!, language) with { Kind = kind };
            look = look with { Layout = (await choice.ForAsync(ask, stop)).Layout };
        }

        var layout = style.Layout ?? look.Layout;
        // In the words of its day, unless it is asked for otherwise than it was issued.
        var words =
            look.Words is { } kept && kept.Language == language && style.Layout is null && !style.Slip
                ? kept
                : await wordings.InAsync(language, layout.SecondLanguage, stop);
        var content = await ContentAsync(document, words, stop) with
        {
            HasLogo = look.Logo is not null,
            HasSignature = look.Signature is not null && !document.IsDraft,
            ForPrint = style.ForPrint,
        };
        content = content with { Mark = content.Words.Mark(style.Mark) };
        if (style.WithoutPrices)
            content = content with
            {
                ShowsPrices = false,
                Heading = content.Words[PaperWord.PackingList],
                Kind = PaperKinds.PackingList,
            };
        return Pictured(Composer.Compose(layout, content, printer.Measure), look, business);
    }

    /// <summary>No paper says that it is paid while anything of it is open, or was given up.</summary>
    private async Task MustBePaidAsync(Document document, CancellationToken stop)
    {
        if (!await IsPaidAsync(document.Id, stop))
            throw new RefusalException(
                "mark",
                $"{document.Title} is not paid, so no paper of it can say so. Print it without that mark."
            );
    }

    /// <summary>Whether a document was paid whole: money was set against it, nothing is open and nothing was given
    /// up.</summary>
    public Task<bool> IsPaidAsync(int id, CancellationToken stop = default) =>
        db.AccountItems.AnyAsync(
            i =>
                i.DocumentId == id
                && i.Sign > 0
                && i.Open == 0
                && db.Allocations.Any(a =>
                    a.RaisingId == i.Id && a.Until == null && a.Lowering.Kind == AccountItemKind.Receipt
                )
                && !db.Allocations.Any(a =>
                    a.RaisingId == i.Id && a.Until == null && a.Lowering.Kind == AccountItemKind.WriteOff
                ),
            stop
        );

    /// <summary>What a document says, in a language and with the words of a layout.</summary>
    internal async Task<PaperContent> ContentAsync(
        Document document,
        string language,
        Layout layout,
        CancellationToken stop
    ) => await ContentAsync(document, await wordings.InAsync(language, layout.SecondLanguage, stop), stop);

    private async Task<PaperContent> ContentAsync(Document document, PaperWords words, CancellationToken stop) =>
        PaperContent.Of(
            document,
            await head.BusinessAsync(stop),
            document.Customer!,
            document.Sender ?? await SenderAsync(document, document.Customer!, stop),
            words,
            document.IsDraft
                ? await TheirNumbers.OfAsync(
                    db,
                    document.CustomerId,
                    [.. document.Lines.Select(l => l.ItemId).OfType<int>()],
                    stop
                )
                : null
        );

    /// <summary>With the pictures of the day on which it was issued, where the business has others now.</summary>
    private static DisplayList Pictured(DisplayList paper, PaperLook look, Business business)
    {
        var pictures = new Dictionary<string, LayoutPicture>(paper.Pictures);
        foreach (
            var (key, then, now) in new[]
            {
                (PaperPicture.Logo, look.Logo, business.Logo),
                (PaperPicture.Signature, look.Signature, business.Signature),
            }
        )
            if (then is not null && (now is null || !then.AsSpan().SequenceEqual(now)))
                pictures[key] = LayoutPicture.Kept(then);
        return pictures.Count == paper.Pictures.Count ? paper : paper with { Pictures = pictures };
    }

    /// <summary>A paper that is no document, in the layout that is chosen for its kind.</summary>
    /// <param name="kind">Of <see cref="PaperKinds"/>.</param>
    /// <param name="contentIn">What it says, in the words that it is given.</param>
    internal async Task<DisplayList> SetAsync(
        string kind,
        Customer customer,
        Currency currency,
        Func<PaperWords, PaperContent> contentIn,
        CancellationToken stop
    )
    {
        var chosen = await choice.ForAsync(
            new PaperAsk(kind, null, customer.Language, customer.Id, currency.Code),
            stop
        );
        var words = await wordings.InAsync(customer.Language, chosen.Layout.SecondLanguage, stop);
        return Composer.Compose(chosen.Layout, contentIn(words), printer.Measure);
    }

    /// <summary>Which layout a document has, and why.</summary>
    public async Task<(string Layout, string Why)> WhyAsync(int id, CancellationToken stop = default)
    {
        var document = await LoadAsync(id, stop);
        var look = await looks.OfAsync(document, document.Customer!, document.WrittenIn(document.Customer!), stop);
        return (look.Layout.Name, look.Why);
    }

    /// <summary>
    /// What no typeface that ships can print, each with its place; a mark would stand in its stead on the paper.
    /// </summary>
    internal async Task<IReadOnlyList<Refusal>> UnprintableAsync(Document document, CancellationToken stop)
    {
        var customer = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == document.CustomerId, stop);
        var addressee = document.Addressee ?? Parties.AddresseeOf(customer, await head.BusinessAsync(stop));
        var texts = PrintedTexts.Of(
            document,
            addressee,
            document.Sender ?? await SenderAsync(document, customer, stop)
        );
        return
        [
            .. from text in texts
            let missing = printer.Measure.Unprintable(text.Text)
            where missing.Count > 0
            select new Refusal(
                text.Field,
                $"{string.Join(" ", missing.Take(8))} in {text.Place} cannot be printed: no typeface has {(missing.Count == 1 ? "it" : "them")}. Write it in other letters."
            ),
        ];
    }

    /// <summary>Who a document is from, as things stand now.</summary>
    internal Task<Sender> SenderAsync(Document document, Customer customer, CancellationToken stop) =>
        SenderAsync(
            document.TaxDate ?? document.Date,
            document.Kind,
            document.WrittenIn(customer),
            document.Currency,
            stop
        );

    /// <summary>Who a paper of a day is from.</summary>
    /// <param name="day">By which it is told for which taxes the business is registered.</param>
    /// <param name="kind">Whose footer it has; null for the business's own.</param>
    /// <param name="language">In which it is written.</param>
    /// <param name="currency">In which it asks to be paid; null for home.</param>
    internal async Task<Sender> SenderAsync(
        DateOnly day,
        DocumentKind? kind,
        string language,
        Currency? currency,
        CancellationToken stop
    )
    {
        var authorities = await db.TaxAuthorities.AsNoTracking().OrderBy(a => a.Id).ToListAsync(stop);
        var business = await head.BusinessAsync(stop);
        var banks = (await db.ToPayIntoAsync(currency ?? business.HomeCurrency, stop))
            .Select(a => new SenderBank(a.BankName, a.Iban, a.Bic))
            .ToList();
        var footer = await wordings.FooterAsync(kind, language, stop);
        return Parties.SenderOf(
            business,
            banks,
            authorities.Where(a => a.IsRegisteredOn(day)),
            TaxStanding.With(authorities).IsRegisteredOn(day),
            footer
        );
    }

    internal static string FileName(string title) =>
        string.Concat(title.Select(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or '.' ? c : '-')).Trim('-');
}
