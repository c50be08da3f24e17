using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Post;

/// <summary>Makes what leaves with an e-invoice in it, at the moment when it leaves.</summary>
public sealed class EInvoiceCarrying(
    EInvoices einvoices,
    IEInvoiceFiles files,
    IAccessPoint network,
    PaperRoom papers,
    SentPapers sent,
    BooksHead head,
    SummaryEInvoices summaries
)
{
    /// <summary>A paper as PDF with its e-invoice inside; a plain one where it can have none.</summary>
    internal async Task<(string Name, byte[] Content)> HybridAsync(int documentId, CancellationToken stop)
    {
        var (name, pdf) = await papers.PdfAsync(documentId, stop);
        return await einvoices.ProblemAsync(documentId, stop) is null
            ? (name, files.Hybrid(pdf, (await einvoices.OfAsync(documentId, stop)).Invoice))
            : (name, pdf);
    }

    /// <summary>Looks the receiver up, makes the file in what they take, and keeps it before it is handed over.</summary>
    /// <returns>What hands it over.</returns>
    internal async Task<Func<Task<string>>> ReadyAsync(PostItem item, CancellationToken stop)
    {
        var (scheme, number) = AddressOf(item.To);
        var receiver =
            await network.FindAsync(scheme, number, stop)
            ?? throw new CarrierException(
                $"The directory has no receiver {item.To} any more. Look the customer's electronic address up again.",
                CarrierFate.Refused
            );
        EInvoice made;
        try
        {
            made = MustKeepAll(
                item.SummaryId is { } summary
                    ? await summaries.OfAsync(summary, stop)
                    : await einvoices.OfAsync(item.Attachments.Single().DocumentId, stop)
            );
        }
        catch (RefusalException refused)
        {
            // It was right when it was put here; what it is made of was changed since.
            throw new CarrierException(refused.Message, CarrierFate.Refused, refused);
        }

        var syntax = SyntaxFor(receiver);
        var name = $"{made.Number.Replace('/', '-')}.xml";
        var content = files.Write(made, syntax);
        // The file itself is looked at once more, as its receiver will.
        if (files.Check(content) is [var wrong, ..])
            throw new CarrierException(
                $"Its file breaks {wrong.Rule} at {wrong.Place}: {wrong.Problem}",
                CarrierFate.Refused
            );
        await sent.KeepAsync(item, [(name, content)], stop);
        var message = new NetworkMessage(item.Key, await head.NowAsync(stop), scheme, number, syntax, name, content);
        return () => network.SendAsync(message, stop);
    }

    internal static (string Scheme, string Number) AddressOf(string to)
    {
        var colon = to.IndexOf(':', StringComparison.Ordinal);
        return colon < 0 ? ("", to) : (to[..colon], to[(colon + 1)..]);
    }

    /// <summary>UBL where the receiver takes both.</summary>
    internal static EInvoiceSyntax SyntaxFor(NetworkReceiver receiver) =>
        receiver.Takes.Contains(EInvoiceSyntax.Ubl) ? EInvoiceSyntax.Ubl : EInvoiceSyntax.Cii;

    private static EInvoice MustKeepAll(CheckedEInvoice made) =>
        made.Breaches.Count == 0
            ? made.Invoice
            : throw new RefusalException(
                "",
                $"Its e-invoice breaks {made.Breaches[0].Rule}: {made.Breaches[0].Problem}"
            );
}
