using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Paying;

/// <summary>What was done with something that the card service told.</summary>
public enum Taking
{
    /// <summary>Booked, or noted.</summary>
    Done,

    /// <summary>It was told before.</summary>
    Known,

    /// <summary>Something it builds on was not told yet; it should be told again.</summary>
    Later,

    /// <summary>Nothing was booked, and somebody has to see to it.</summary>
    Problem,
}

/// <summary>
/// Takes what the card service tells, once, however often, late or out of order it comes: a payment becomes a receipt
/// in card clearing that is set against what was chosen, and is confirmed by mail.
/// </summary>
public sealed class CardMessages(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    PaySetup setup,
    PayLinks pay,
    Receipts receipts,
    SurchargeNotes surcharges,
    CardPayouts payouts,
    MailComposing compose,
    PostTray tray,
    ICardService service
)
{
    private const string Way = "Card, online";

    /// <exception cref="RefusalException">When the signature is wrong, or it is nothing that we read.</exception>
    public async Task<Taking> TakeAsync(CardMessage message, CancellationToken stop = default)
    {
        var told = service.Read(message, await setup.SecretAsync(stop));
        var taking = await TakeOrTellAsync(told, stop);
        if (taking != Taking.Later)
            await service.TakenAsync(told.Key, stop);
        return taking;
    }

    /// <summary>
    /// Takes it; what was paid and cannot be booked is told to somebody, since the money is there all the same.
    /// </summary>
    private async Task<Taking> TakeOrTellAsync(CardTold told, CancellationToken stop)
    {
        try
        {
            return (Taking)await writer.WriteAsync(Right.Customer, stop, async () => (int)await TakeAsync(told, stop));
        }
        catch (RefusalException not) when (told.News == CardNews.Paid)
        {
            return (Taking)
                await writer.WriteAsync(
                    Right.Customer,
                    stop,
                    async () =>
                        (int)
                            await KeepAsync(
                                told,
                                $"{Told(told)} was paid and could not be booked: {not.In((await head.BusinessAsync(stop)).Format)} Book it by hand.",
                                stop
                            )
                );
        }
    }

    private async Task<Taking> KeepAsync(CardTold told, string problem, CancellationToken stop)
    {
        db.CardCalls.Add(new CardCall(told.Key, told.News, told.About, await head.TodayAsync(stop), problem));
        await writer.SaveAsync(stop);
        return problem.Length > 0 ? Taking.Problem : Taking.Done;
    }

    /// <summary>Asks the service for what it told and nobody took.</summary>
    /// <returns>How much of it changed anything.</returns>
    public async Task<int> CatchUpAsync(CancellationToken stop = default)
    {
        if (!(await pay.SettingsAsync(stop)).Card)
            return 0;
        IReadOnlyList<CardMessage> missed;
        try
        {
            missed = await service.MissedAsync(await head.TodayAsync(stop), await setup.SecretAsync(stop), stop);
        }
        catch (CarrierException)
        {
            // It is asked again tomorrow.
            return 0;
        }

        var done = 0;
        foreach (var message in missed)
            if (await TakeAsync(message, stop) is Taking.Done or Taking.Problem)
                done++;
        return done;
    }

    private async Task<Taking> TakeAsync(CardTold told, CancellationToken stop)
    {
        if (await db.CardCalls.AnyAsync(c => c.Key == told.Key, stop))
            return Taking.Known;
        var problem =
            told.News == CardNews.PaidOut ? await payouts.TakeAsync(told, stop) : await PaymentAsync(told, stop);
        return problem is null ? Taking.Later : await KeepAsync(told, problem, stop);
    }

    /// <returns>Why nothing was booked; empty where all is well; null where it should be told again.</returns>
    private async Task<string?> PaymentAsync(CardTold told, CancellationToken stop)
    {
        var request = await db
            .PayRequests.Include(r => r.Parts)
            .Include(r => r.Refunds)
            .SingleOrDefaultAsync(r => r.ServiceId == told.About, stop);
        if (request is null)
            return told.News == CardNews.Paid
                ? $"A payment of {Told(told)} was told that we never asked for. Ask the service what it is."
                : "";
        switch (told.News)
        {
            case CardNews.Declined:
                request.Fail(PayState.Declined);
                return "";
            case CardNews.Left:
                request.Fail(PayState.Left);
                return "";
            case CardNews.PaidBack:
                return request.Refunds.Any(r => r.ServiceId == told.Key)
                    ? ""
                    : $"{Told(told)} went back to the card of a payment, and not from here. Book the refund by hand.";
            default:
                if (request.State == PayState.Paid)
                    return $"A payment that was made already was told once more, as another one of {Told(told)}. Ask the service.";
                if (told.Amount != request.Total || told.Currency != request.Currency.Code)
                    return $"{Told(told)} was paid where {new Money(request.Total, request.Currency)} {request.Currency} was asked for. Nothing was booked; ask the service.";
                return await BookAsync(request, stop);
        }
    }

    private static string Told(CardTold told) =>
        Currency.TryOf(told.Currency, out var currency)
            ? $"{new Money(told.Amount, currency)} {currency}"
            : $"{told.Amount} of an unknown currency";

    /// <returns>What could not be charged, for somebody to see to; empty where all is well.</returns>
    private async Task<string> BookAsync(PayRequest request, CancellationToken stop)
    {
        var problem = "";
        var settings = await pay.SettingsAsync(stop);
        var against = new List<(int ItemId, long Amount)>();
        foreach (var part in request.Parts)
        {
            var item = await db.AccountItems.SingleOrDefaultAsync(
                i => i.Id == part.ItemId && i.CustomerId == request.CustomerId,
                stop
            );
            // What was paid otherwise meanwhile leaves the money as the customer's credit.
            if (item is { Open: > 0 })
                against.Add((item.Id, Math.Min(part.Amount, item.Open)));
            if (part.Surcharge > 0 && item?.DocumentId is { } invoice)
            {
                // What was cancelled meanwhile is not charged on: all that was paid is the customer's.
                if (await db.Documents.AnyAsync(d => d.Id == invoice && d.State == DocumentState.Cancelled, stop))
                {
                    problem =
                        $"{item.Number} was cancelled before it was paid by card: the money, with the surcharge, is the customer's credit. Pay it back.";
                    continue;
                }

                var charge = await surcharges.ChargeAsync(invoice, part.Surcharge, settings.SurchargeAccountId, stop);
                part.ChargeOn(charge.DocumentId!.Value);
                against.Add((charge.Id, part.Surcharge));
            }
        }

        var receipt = await receipts.PostAsync(
            new ReceiptToPost(
                request.CustomerId,
                await head.TodayAsync(stop),
                await setup.ClearingAsync(stop)
                    ?? throw new RefusalException("", "There is no account for card clearing. Add one under Setup."),
                request.Total,
                request.ServiceId,
                against
            )
            {
                Way = Way,
                Currency = (await head.BusinessAsync(stop)).HomeCurrency,
            },
            stop
        );
        request.Pay(receipt);
        await writer.SaveAsync(stop);
        var mail = await compose.ForReceiptAsync(receipt, stop);
        if (PostTray.Addresses(mail.To).Count > 0)
            await tray.AddOurOwnAsync(mail, stop);
        return problem;
    }

    /// <summary>What the service told of money that nobody has seen to.</summary>
    public async Task<IReadOnlyList<CardCall>> ProblemsAsync(CancellationToken stop = default) =>
        await db
            .CardCalls.AsNoTracking()
            .Where(c => c.Problem != "" && c.SeenToOn == null)
            .OrderBy(c => c.Id)
            .ToListAsync(stop);

    /// <summary>Says that somebody saw to a problem.</summary>
    public Task<int> SeeToAsync(int callId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var call =
                    await db.CardCalls.SingleOrDefaultAsync(c => c.Id == callId, stop)
                    ?? throw new RefusalException("", "This is not there any more.");
                if (call.IsOpen)
                    call.SeeTo(await head.TodayAsync(stop));
                await writer.TrailAsync($"Seen to: {call.Problem}");
                return callId;
            }
        );
}
