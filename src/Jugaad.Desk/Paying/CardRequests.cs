using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Machine;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Paying;

/// <summary>Asks the card service for payments, and tells a payer on the way back what came of it.</summary>
public sealed class CardRequests(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    PayOffer offer,
    PaySetup setup,
    ICardService service,
    OutsideAddress outside
)
{
    /// <summary>Asks for the payment of some items of an account.</summary>
    /// <param name="seen">What the payer saw that it comes to, so that nobody pays another amount unseen.</param>
    /// <param name="most"><inheritdoc cref="PayOffer.OfAsync" path="/param[@name='most']"/></param>
    /// <param name="cameFrom">Where the payer goes back to, from the root of the site.</param>
    /// <returns>The service's page to which the payer goes.</returns>
    /// <exception cref="RefusalException">When it comes to something else by now, or the service cannot be
    /// asked.</exception>
    public async Task<string> AskAsync(
        int customerId,
        IReadOnlyCollection<int> items,
        long seen,
        string cameFrom,
        IReadOnlyDictionary<int, long>? most = null,
        CancellationToken stop = default
    )
    {
        var made = await offer.OfAsync(customerId, items, most, stop);
        if (made.Total != seen)
            throw new RefusalException("", PaperWords.English[PaperWord.SiteOpenChanged]);
        var request = new PayRequest(
            customerId,
            CustomerLinks.NewToken(),
            made.Currency,
            made.Amount,
            await head.TodayAsync(stop),
            [.. made.Parts.Select(p => (p.Item.ItemId, p.Item.Pays, p.Surcharge))]
        );
        return await SendAsync(request, string.Join(", ", made.Parts.Select(p => p.Item.Number)), cameFrom, stop);
    }

    private async Task<string> SendAsync(PayRequest request, string purpose, string cameFrom, CancellationToken stop)
    {
        var secret = await setup.SecretAsync(stop);
        request.ComeFrom(cameFrom);
        await writer.WriteAsync(
            Right.Customer,
            stop,
            async () =>
            {
                db.PayRequests.Add(request);
                await writer.SaveAsync(stop);
                return request.Id;
            }
        );
        CardAsked asked;
        try
        {
            asked = await service.AskAsync(
                new CardAsk(
                    request.Key,
                    request.Total,
                    request.Currency,
                    (await head.BusinessAsync(stop)).PaperName,
                    purpose.Length > 120 ? purpose[..117] + "..." : purpose,
                    $"{await outside.NowAsync(stop)}/paid/{request.Key}",
                    request.MadeOn
                ),
                secret,
                stop
            );
        }
        catch (CarrierException)
        {
            throw new RefusalException("", PaperWords.English[PaperWord.SiteNoService]);
        }

        await writer.WriteAsync(
            Right.Customer,
            stop,
            async () =>
            {
                var kept = await db.PayRequests.SingleAsync(r => r.Key == request.Key, stop);
                kept.AskedAs(asked.ServiceId);
                return kept.Id;
            }
        );
        return asked.Page;
    }

    /// <summary>The request behind a payer's way back; null where there is none.</summary>
    public async Task<PayRequest?> FindAsync(string key, CancellationToken stop = default) =>
        key.Length is < 20 or > 64
            ? null
            : await db.PayRequests.AsNoTracking().SingleOrDefaultAsync(r => r.Key == key, stop);
}
