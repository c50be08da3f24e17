using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>A paper that a layout is drawn with while it is worked on.</summary>
/// <param name="Key">A document's id, or <c>long</c> or <c>empty</c>.</param>
public sealed record LayoutSample(string Key, string Words);

/// <summary>A layout as it is drawn with real content.</summary>
/// <param name="Pages">As SVG, each piece in a group of its own.</param>
/// <param name="Found">What a reader would stumble over.</param>
/// <param name="Examples">What each field says on this paper.</param>
public sealed record DrawnLayout(
    IReadOnlyList<string> Pages,
    double Width,
    double Height,
    IReadOnlyList<Spot> Spots,
    IReadOnlyList<BandSpot> Bands,
    IReadOnlyList<LayoutFinding> Found,
    IReadOnlyDictionary<string, string> Examples
);

/// <summary>Draws a layout with a paper of one's choice while it is worked on.</summary>
public sealed class LayoutStudio(
    BooksContext db,
    PaperRoom papers,
    BooksHead head,
    Wordings wordings,
    IPaperPrinter printer
)
{
    private const int LongLines = 70;

    /// <summary>Papers of each kind, in another currency, long and empty ones.</summary>
    public async Task<IReadOnlyList<LayoutSample>> SamplesAsync(CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var filled = db.Documents.AsNoTracking().Where(d => d.Lines.Any());
        var samples = new List<LayoutSample>();
        async Task AddAsync(string words, IQueryable<Document> some)
        {
            if (await some.OrderByDescending(d => d.Id).FirstOrDefaultAsync(stop) is { } found)
                samples.Add(new LayoutSample($"{found.Id}", $"{words}{(found.Number is { } n ? $" {n}" : "")}"));
        }

        var counter = (await head.BusinessAsync(stop)).CounterCustomerId;
        await AddAsync(
            "the newest invoice",
            filled.Where(d => d.Kind == DocumentKind.Invoice && d.Number != null && d.CustomerId != counter)
        );
        await AddAsync(
            "an invoice in another currency",
            filled.Where(d => d.Kind == DocumentKind.Invoice && d.Currency != home && d.Number != null)
        );
        foreach (var kind in Enum.GetValues<DocumentKind>().Where(k => k != DocumentKind.Invoice))
            await AddAsync(KindPolicy.Of(kind).Title, filled.Where(d => d.Kind == kind && d.Number != null));
        await AddAsync("a draft", filled.Where(d => d.Number == null));
        if (samples.Count > 0)
            samples.Add(new LayoutSample("long", "a long one, of several pages"));
        samples.Add(new LayoutSample("empty", "an empty one"));
        return samples;
    }

    /// <exception cref="RefusalException">When the layout cannot be read, or there is no such paper.</exception>
    public async Task<DrawnLayout> DrawAsync(string json, string sample, CancellationToken stop = default)
    {
        var layout = LayoutFile.Parse(json);
        var content = await ContentAsync(layout, sample, stop);
        var paper = Composer.Compose(layout, content, printer.Measure);
        var business = await head.BusinessAsync(stop);
        var wrong = LayoutCheck.Of(layout);
        return new DrawnLayout(
            printer.Svg(
                paper,
                picture =>
                    picture switch
                    {
                        PaperPicture.Logo when business.Logo is not null => "/pictures/logo",
                        PaperPicture.Signature when business.Signature is not null => "/pictures/signature",
                        _ => null,
                    },
                pieces: true
            ),
            paper.Width,
            paper.Height,
            paper.Spots,
            paper.Bands,
            [
                .. wrong.Select(w => new LayoutFinding(true, PieceOf(layout, w.Field), w.Message)),
                .. LayoutTrial.Of(layout, content, paper, printer.Measure).OrderByDescending(f => f.Refused).Take(20),
            ],
            PaperFields.Examples(content)
        );
    }

    /// <summary>The same as a PDF.</summary>
    /// <exception cref="RefusalException">When there is no such paper.</exception>
    public async Task<byte[]> PdfAsync(string json, string sample, CancellationToken stop = default)
    {
        var layout = LayoutFile.Parse(json);
        var paper = Composer.Compose(layout, await ContentAsync(layout, sample, stop), printer.Measure);
        return await papers.PrintAsync([paper], await head.TodayAsync(stop), stop);
    }

    private async Task<PaperContent> ContentAsync(Layout layout, string sample, CancellationToken stop)
    {
        var (id, repeated, empty) = sample switch
        {
            "long" or "empty" => (
                await db
                    .Documents.Where(d => d.Lines.Any())
                    .OrderByDescending(d => d.Number != null)
                    .ThenByDescending(d => d.Kind == DocumentKind.Invoice)
                    .ThenByDescending(d => d.Id)
                    .Select(d => d.Id)
                    .FirstOrDefaultAsync(stop),
                sample == "long",
                sample == "empty"
            ),
            _ => (int.TryParse(sample, out var one) ? one : 0, false, false),
        };
        if (empty)
            return await EmptyAsync(layout, stop);
        var document = await papers.LoadAsync(id, stop);
        var business = await head.BusinessAsync(stop);
        var content = await papers.ContentAsync(document, document.WrittenIn(document.Customer!), layout, stop) with
        {
            HasLogo = business.Logo is not null,
            HasSignature = business.Signature is not null,
        };
        return repeated ? Long(content) : content;
    }

    /// <summary>Its lines again and again, and what they come to: the sums of the paper itself would not be theirs.</summary>
    private static PaperContent Long(PaperContent content)
    {
        List<PaperLine> lines = [.. Repeated(content.Lines)];
        var sum = content.Amount(lines.Count == 0 ? 0 : lines[^1].Running);
        return content with
        {
            Lines = lines,
            Taxes = [],
            Totals = [new PaperTotal($"{content.Words[PaperWord.Total]} {content.CurrencyCode}", sum, true)],
            Values = new Dictionary<string, string>(content.Values)
            {
                ["Total"] = $"{sum} {content.CurrencyCode}",
                ["TotalNumber"] = sum,
                ["TotalInWords"] = "",
            },
        };
    }

    private static IEnumerable<PaperLine> Repeated(IReadOnlyList<PaperLine> lines)
    {
        var (running, sum) = (0L, lines.Count == 0 ? 0 : lines[^1].Running);
        for (var i = 0; i < LongLines && lines.Count > 0; i++)
        {
            var line = lines[i % lines.Count];
            if (i > 0 && i % lines.Count == 0)
                running += sum;
            yield return line with
            {
                Running = running + line.Running,
            };
        }
    }

    /// <summary>Nothing that may be left out is on it.</summary>
    private async Task<PaperContent> EmptyAsync(Layout layout, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var words = await wordings.InAsync("en", layout.SecondLanguage, stop);
        return new PaperContent
        {
            Words = words,
            Heading = words[PaperWord.Invoice],
            Number = "",
            IsDraft = true,
            Sender = new Sender(business.PaperName, "", "", "", "", "", "", "", ""),
            Addressee = new Addressee("Customer", "", "", "", "", ""),
            CurrencyCode = business.HomeCurrency.Code,
            Amount = minor => business.Format.Amount(minor, business.HomeCurrency),
            Facts = [(words[PaperWord.Date], business.Format.Date(await head.TodayAsync(stop)))],
            Totals =
            [
                new PaperTotal(
                    $"{words[PaperWord.ToPay]} {business.HomeCurrency}",
                    business.Format.Amount(0, business.HomeCurrency),
                    true
                ),
            ],
        };
    }

    /// <summary>The id of the piece at a place such as <c>bands[0].pieces[2].width</c>; empty where it is of none.</summary>
    private static string PieceOf(Layout layout, string place)
    {
        var parts = place.Split(['[', ']', '.'], StringSplitOptions.RemoveEmptyEntries);
        return
            parts is ["bands", var band, "pieces", var piece, ..]
            && int.TryParse(band, out var b)
            && int.TryParse(piece, out var p)
            && b < layout.Bands.Count
            && p < layout.Bands[b].Pieces.Count
            ? layout.Bands[b].Pieces[p].Id
            : "";
    }
}
