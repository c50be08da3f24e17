using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Numbering;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>
/// The one place that answers what a number will be, and gives it. A number is unique over all papers of its kind in
/// the books, whatever series or hand it came from, and over open items of that kind that were moved in.
/// </summary>
public sealed class Numbers(BooksContext db, BooksHead head)
{
    /// <summary>What number a document has or will have; it is given for good when the document is issued.</summary>
    /// <exception cref="RefusalException">When there is no series for it.</exception>
    public async Task<string> WillBeAsync(Document document, CancellationToken stop = default) =>
        await DecidedAsync(document, stop) is { } decided
            ? decided.Number
            : (await NextAsync(await SeriesForAsync(document, stop), document.Date, stop)).Number;

    /// <summary>
    /// Gives a document its number, inside the transaction that issues it. A corrected paper keeps its own.
    /// </summary>
    /// <exception cref="RefusalException">When the number typed by hand is used, or there is no series.</exception>
    internal async Task<(int SeriesId, string Number)> GiveAsync(Document document, CancellationToken stop)
    {
        if (await DecidedAsync(document, stop) is { } decided)
        {
            if (document.Number is null && Used(document.Kind.ToString())(decided.Number))
                throw Taken(decided.Number);
            return decided;
        }

        return await DrawAsync(await SeriesForAsync(document, stop), document.Date, stop);
    }

    /// <summary>What the series of summaries of small sales is for.</summary>
    public const string Summary = "Summary";

    /// <summary>Gives a summary of small sales its number; the first one begins a series, where none was made.</summary>
    internal async Task<(int SeriesId, string Number)> GiveSummaryAsync(DateOnly day, CancellationToken stop)
    {
        if (!await db.Series.AnyAsync(s => s.UsedFor == Summary && !s.Retired, stop))
        {
            var first = new Series("Sales summaries", Summary, "SUM-{yyyy}-{0000}", SeriesRestart.CalendarYear);
            first.MakeUsual(true);
            db.Series.Add(first);
            await db.SaveChangesAsync(stop);
        }

        return await GiveAsync(Summary, day, stop);
    }

    /// <summary>Gives a receipt or a refund its number.</summary>
    internal async Task<(int SeriesId, string Number)> GiveAsync(
        string usedFor,
        DateOnly day,
        CancellationToken stop
    ) => await DrawAsync(await UsualAsync(usedFor, $"{usedFor.ToLowerInvariant()}s", stop), day, stop);

    /// <summary>The number that a series would give on a day.</summary>
    public async Task<NextNumber> NextAsync(Series series, DateOnly day, CancellationToken stop = default) =>
        series.Next(day, Used(series.UsedFor), (await head.BusinessAsync(stop)).YearBegins);

    /// <summary>Whether a number typed by hand for a kind of document is taken.</summary>
    public bool IsUsed(DocumentKind kind, string number, int? exceptId) =>
        db.Documents.Any(d => d.Kind == kind && d.Number == number && d.Id != (exceptId ?? 0))
        || MovedIn(kind).Any(i => i.Number == number);

    private static RefusalException Taken(string number) =>
        new("numberByHand", $"{number} is used already. Choose another number, or leave it empty for the next one.");

    /// <summary>What needs no count: a number kept, a revision's, or one typed by hand.</summary>
    private async Task<(int SeriesId, string Number)?> DecidedAsync(Document document, CancellationToken stop)
    {
        if (document is { Number: { } kept, SeriesId: { } series })
            return (series, kept);
        if (document.RevisesId is { } earlierId)
        {
            var earlier = await db.Documents.AsNoTracking().SingleAsync(d => d.Id == earlierId, stop);
            var root = earlier.Revision == 1 ? earlier.Number! : earlier.Number![..earlier.Number!.LastIndexOf('/')];
            return (earlier.SeriesId!.Value, $"{root}/{document.Revision}");
        }

        return document.NumberByHand.Length > 0
            ? ((await SeriesForAsync(document, stop)).Id, document.NumberByHand)
            : null;
    }

    private async Task<(int SeriesId, string Number)> DrawAsync(Series series, DateOnly day, CancellationToken stop) =>
        (series.Id, series.Take(day, Used(series.UsedFor), (await head.BusinessAsync(stop)).YearBegins));

    private Func<string, bool> Used(string usedFor) =>
        usedFor switch
        {
            "Receipt" => number => db.Receipts.Any(r => r.Number == number),
            "Refund" => number => db.Refunds.Any(r => r.Number == number),
            Summary => number => db.SalesSummaries.Any(s => s.Number == number),
            _ => number => IsUsed(Enum.Parse<DocumentKind>(usedFor), number, null),
        };

    /// <summary>
    /// Open items that were taken over from other books, of the kind that such a document becomes on the account.
    /// </summary>
    private IQueryable<AccountItem> MovedIn(DocumentKind kind)
    {
        AccountItemKind? onAccount = kind switch
        {
            DocumentKind.Invoice => AccountItemKind.Invoice,
            DocumentKind.CreditNote => AccountItemKind.CreditNote,
            DocumentKind.DebitNote => AccountItemKind.DebitNote,
            _ => null,
        };
        return db.AccountItems.Where(i =>
            i.DocumentId == null && i.ReceiptId == null && i.BookingId == null && i.Kind == onAccount
        );
    }

    private async Task<Series> SeriesForAsync(Document document, CancellationToken stop)
    {
        var usedFor = document.Kind.ToString();
        if (document.SeriesByHand is { } chosen)
            return await db.Series.SingleOrDefaultAsync(s => s.Id == chosen && s.UsedFor == usedFor && !s.Retired, stop)
                ?? throw new RefusalException(
                    "seriesId",
                    $"The number series chosen is not one for {document.Policy.Word}s any more. Choose another in the editor."
                );
        return await UsualAsync(usedFor, $"{document.Policy.Word}s", stop);
    }

    private async Task<Series> UsualAsync(string usedFor, string words, CancellationToken stop) =>
        await db
            .Series.Where(s => s.UsedFor == usedFor && !s.Retired)
            .OrderByDescending(s => s.IsUsual)
            .ThenBy(s => s.Id)
            .FirstOrDefaultAsync(stop)
        ?? throw new RefusalException("", $"There is no number series for {words}. Add one under Setup.");
}
