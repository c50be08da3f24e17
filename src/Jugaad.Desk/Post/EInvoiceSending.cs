using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Post;

/// <summary>Where a document would go as an e-invoice.</summary>
/// <param name="To">Scheme and number, such as <c>0191:10118834</c>; empty where the customer has no address.</param>
/// <param name="Receiver">As the directory names them.</param>
/// <param name="Problem">Why it cannot go so; null where it can.</param>
public sealed record EInvoiceRoute(string To, string Receiver, Phrase? Problem)
{
    /// <summary>In which form the customer wants papers.</summary>
    public PaperForm Takes { get; init; }

    public bool CanGo => Problem is null;
}

/// <summary>Sends issued documents as e-invoices, each once, through the post tray.</summary>
public sealed class EInvoiceSending(
    BooksContext db,
    BookWriter writer,
    EInvoices einvoices,
    PostTray tray,
    IAccessPoint network
)
{
    /// <summary>Looks the receiver up in the directory, and checks the e-invoice by every rule.</summary>
    public async Task<EInvoiceRoute> RouteAsync(int documentId, CancellationToken stop = default)
    {
        var document = await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer)
            .SingleOrDefaultAsync(d => d.Id == documentId, stop);
        return document is null
            ? new("", "", $"There is no document {documentId}.")
            : await RouteAsync(document, stop) with
            {
                Takes = document.Customer!.Takes,
            };
    }

    private async Task<EInvoiceRoute> RouteAsync(Document document, CancellationToken stop)
    {
        if (!document.Policy.Posts)
            return new("", "", $"{document.Policy.Title} is nothing that goes as an e-invoice.");
        var address = AddressOf(document);
        var to = address.ToString();
        if (!address.IsGiven)
            return new("", "", $"{document.Customer!.Name} has no electronic address. Add it on the customer's page.");
        if (await network.FindAsync(address.Scheme, address.Value, stop) is not { } receiver)
            return new(
                to,
                "",
                $"The directory of the network has no receiver {to}. Compare the number, or send the paper by mail."
            );
        if (document.IsDraft)
            return new(to, receiver.Name, null);
        if (await ToldInAsync(document.Id, stop) is { } summary)
            return new(to, receiver.Name, InSummary(summary));
        if (await LiveAsync(document.Id, stop))
            return new(to, receiver.Name, $"It went to {receiver.Name} as an e-invoice already.");
        try
        {
            var made = await einvoices.OfAsync(document.Id, stop);
            return new(
                to,
                receiver.Name,
                made.Breaches.Count == 0
                    ? null
                    : (Phrase)$"It breaks {made.Breaches[0].Rule}: {made.Breaches[0].Problem}"
            );
        }
        catch (RefusalException refused)
        {
            return new(to, receiver.Name, refused.Refusals[0].Phrase);
        }
    }

    /// <summary>Puts an issued document into the tray as an e-invoice.</summary>
    /// <exception cref="RefusalException">With why it cannot go; nothing is put there then.</exception>
    public async Task<int> SendAsync(int documentId, Once once = default)
    {
        // The directory is asked before the books are held.
        var route = await RouteAsync(documentId);
        return await writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                if (route.Problem is { } problem)
                    throw new RefusalException("", problem);
                if (await LiveAsync(documentId, stop))
                    throw new RefusalException("", $"It went to {route.Receiver} as an e-invoice already.");
                if (await ToldInAsync(documentId, stop) is { } summary)
                    throw new RefusalException("", InSummary(summary));
                var document = await db.Documents.AsNoTracking().SingleAsync(d => d.Id == documentId, stop);
                return await tray.AddOurOwnAsync(Letter(document, route), stop);
            }
        );
    }

    /// <summary>
    /// Within a use case, for whoever may do that: puts it into the tray where it keeps every rule. The directory is asked
    /// when it is carried, so that the books are not held meanwhile.
    /// </summary>
    /// <returns>Whether it goes so.</returns>
    internal async Task<bool> PutOurOwnAsync(int documentId, CancellationToken stop)
    {
        var document = await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer)
            .SingleAsync(d => d.Id == documentId, stop);
        var address = AddressOf(document);
        if (
            !address.IsGiven
            || await LiveAsync(documentId, stop)
            || await ToldInAsync(documentId, stop) is not null
            || await einvoices.ProblemAsync(documentId, stop) is not null
        )
            return false;
        await tray.AddOurOwnAsync(Letter(document, new(address.ToString(), document.Customer!.Name, null)), stop);
        return true;
    }

    /// <summary>
    /// Where the customer is reached now: one who moved is not looked for at the address of the day of issue, which the
    /// file goes on telling. That one is taken where there is no other any more.
    /// </summary>
    private static ElectronicAddress AddressOf(Document document) =>
        document.Customer!.Electronic is { IsGiven: true } now
            ? now
            : document.Addressee?.Parts?.Electronic ?? ElectronicAddress.None;

    /// <summary>Puts many into the tray, each by itself.</summary>
    /// <returns>How many went, and what did not, with the reason.</returns>
    public async Task<(int Sent, IReadOnlyList<Phrase> Refused)> SendAllAsync(
        IReadOnlyList<int> ids,
        Once once = default
    )
    {
        var (sent, refused) = (0, new List<Phrase>());
        foreach (var id in ids.Distinct())
        {
            var number = await db.Documents.Where(d => d.Id == id).Select(d => d.Number).SingleOrDefaultAsync() ?? "";
            try
            {
                await SendAsync(id, once.Of(id));
                sent++;
            }
            catch (RefusalException cannot)
            {
                refused.Add($"{number}: {cannot.Refusals[0].Phrase}");
            }
        }

        return (sent, refused);
    }

    internal static MailToSend Letter(Document document, EInvoiceRoute route) =>
        new(
            route.To,
            $"{document.Policy.Title} {document.Number}",
            $"E-invoice of {document.Policy.Title.ToLowerInvariant()} {document.Number} to {route.Receiver}, by EN 16931."
        )
        {
            Kind = PostKind.Document,
            Way = PostWay.Network,
            CustomerId = document.CustomerId,
            DocumentIds = [document.Id],
        };

    /// <summary>The number of the summary in which a sale at the counter is told; null where it is in none.</summary>
    private Task<string?> ToldInAsync(int documentId, CancellationToken stop) =>
        (
            from sale in db.SummarySales
            join summary in db.SalesSummaries on sale.SummaryId equals summary.Id
            where sale.Counts && sale.DocumentId == documentId
            select summary.Number
        ).FirstOrDefaultAsync(stop);

    private static Phrase InSummary(string summary) =>
        $"It is told in {summary} already, with other sales at the counter.";

    /// <summary>Whether it went, or is on its way, and was not refused.</summary>
    private async Task<bool> LiveAsync(int documentId, CancellationToken stop)
    {
        var live = db.Post.OnNetwork().Where(p => p.Attachments.Any(a => a.DocumentId == documentId));
        return await db.Documents.AnyAsync(d => d.Id == documentId && d.Kind == DocumentKind.CreditNote, stop)
            ? await live.NotRefused(db).AnyAsync(stop)
            : await live.AnyAsync(stop);
    }
}
