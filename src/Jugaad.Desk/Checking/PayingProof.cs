using Jugaad.Core.Documents;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Card payments are what was asked for, were received once, and were paid out once; surcharges are what their debit
/// notes come to.
/// </summary>
internal sealed class PayingProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var requests = await db.PayRequests.Include(r => r.Parts).Include(r => r.Refunds).ToListAsync(stop);
        await RequestsAsync(findings, requests, stop);
        await PayoutsAsync(findings, requests, stop);
        await CallsAsync(findings, requests, stop);
        findings.Count("card payments", requests.Count(r => r.State == PayState.Paid));
    }

    private async Task RequestsAsync(Findings findings, List<PayRequest> requests, CancellationToken stop)
    {
        var receipts = await (
            from receipt in db.Receipts
            join request in db.PayRequests on receipt.Id equals request.ReceiptId
            select receipt
        ).ToDictionaryAsync(r => r.Id, stop);
        var items = await (
            from item in db.AccountItems
            where db.PayRequests.Any(r => r.Parts.Any(p => p.ItemId == item.Id))
            select new
            {
                item.Id,
                item.CustomerId,
                item.Amount,
                item.Currency,
                item.Sign,
                item.Date,
                item.DocumentId,
            }
        ).ToDictionaryAsync(i => i.Id, stop);
        var notes = await (
            from document in db.Documents
            where db.PayRequests.Any(r => r.Parts.Any(p => p.ChargedOnId == document.Id))
            select new
            {
                document.Id,
                document.Payable,
                document.FromDocumentId,
            }
        ).ToDictionaryAsync(d => d.Id, stop);
        var cancelled = (
            await db
                .Documents.Where(d =>
                    d.State == DocumentState.Cancelled
                    && db.PayRequests.Any(r => r.Parts.Any(p => p.Surcharge > 0 && p.ChargedOnId == null))
                )
                .Select(d => d.Id)
                .ToListAsync(stop)
        ).ToHashSet();
        var refunds = await (
            from refund in db.Refunds
            where db.PayRequests.Any(r => r.Refunds.Any(b => b.BookingId == refund.BookingId))
            select new { refund.BookingId, refund.Amount }
        ).ToDictionaryAsync(r => r.BookingId, r => r.Amount, stop);
        foreach (var request in requests)
        {
            var what = $"Card payment {request.Id} of {request.MadeOn:yyyy-MM-dd}";
            findings.Unless(request.Key.Length >= 20, $"{what}: has no key that nobody can guess");
            findings.Unless(request.Amount > 0, $"{what}: asks for nothing");
            findings.Unless(
                request.Parts.Sum(p => p.Amount) == request.Amount
                    && request.Parts.Sum(p => p.Surcharge) == request.Surcharge,
                $"{what}: its parts do not come to it"
            );
            foreach (var part in request.Parts)
            {
                var item = items[part.ItemId];
                findings.Unless(
                    item.CustomerId == request.CustomerId
                        && item.Sign > 0
                        && item.Currency.Equals(request.Currency)
                        && part.Amount > 0
                        && part.Amount <= item.Amount
                        && item.Date <= request.MadeOn,
                    $"{what}: a part of it is not what the customer owed then"
                );
                findings.Unless(
                    part.Surcharge >= 0
                        && (
                            part.ChargedOnId is not { } note
                            || (
                                notes[note].Payable == part.Surcharge
                                && notes[note].FromDocumentId == item.DocumentId
                                && part.Surcharge > 0
                            )
                        )
                        && (
                            request.State == PayState.Paid && part.Surcharge > 0 == part.ChargedOnId is not null
                            || request.State == PayState.Paid && cancelled.Contains(item.DocumentId ?? 0)
                            || request.State != PayState.Paid && part.ChargedOnId is null
                        ),
                    $"{what}: a surcharge was not charged as it was asked for"
                );
            }

            findings.Unless(
                Enum.IsDefined(request.State) && request.State == PayState.Paid == request.ReceiptId is not null,
                $"{what}: is paid without a receipt, or the other way round"
            );
            findings.Unless(
                request.State == PayState.Asked || request.ServiceId.Length > 0,
                $"{what}: came to something that the service was not asked for"
            );
            if (request.ReceiptId is { } id)
                findings.Unless(
                    receipts[id] is { IsUndone: false } receipt
                        && receipt.Amount == request.Total
                        && receipt.Currency.Equals(request.Currency)
                        && receipt.CustomerId == request.CustomerId
                        && receipt.Reference == request.ServiceId,
                    $"{what}: its receipt is another amount, another customer's, or was undone"
                );
            findings.Unless(
                request.Refunds.All(r => refunds.GetValueOrDefault(r.BookingId) == r.Amount && r.ServiceId.Length > 0)
                    && request.Refunds.Sum(r => r.Amount) <= (request.State == PayState.Paid ? request.Total : 0),
                $"{what}: what went back to the card is not what was refunded"
            );
        }

        findings.Unless(
            requests.Where(r => r.ReceiptId is not null).Select(r => r.ReceiptId).Distinct().Count()
                == requests.Count(r => r.ReceiptId is not null),
            "Card payments: two have the same receipt"
        );
        findings.Unless(
            requests.Where(r => r.ServiceId.Length > 0).Select(r => r.ServiceId).Distinct().Count()
                == requests.Count(r => r.ServiceId.Length > 0),
            "Card payments: two are the same to the service"
        );
    }

    private async Task PayoutsAsync(Findings findings, List<PayRequest> requests, CancellationToken stop)
    {
        var byId = requests.ToDictionary(r => r.Id);
        var payouts = await db.CardPayouts.Include(p => p.Parts).ToListAsync(stop);
        var arrived = await (
            from money in db.OtherMoney
            join booking in db.Bookings on money.BookingId equals booking.Id
            where db.CardPayouts.Any(p => p.BookingId == booking.Id)
            select new
            {
                booking.Id,
                money.Amount,
                Undone = booking.UndoneOn != null,
            }
        ).ToDictionaryAsync(b => b.Id, stop);
        var lines = (
            await db
                .BankLines.SelectMany(l => l.Placements, (l, p) => new { l.Amount, p.BookingId })
                .Where(l => db.CardPayouts.Any(p => p.BookingId == l.BookingId))
                .ToListAsync(stop)
        ).ToLookup(l => l.BookingId, l => l.Amount);
        foreach (var payout in payouts)
        {
            var what = $"Payout {payout.Reference}";
            findings.Unless(
                payout.Parts.Count > 0
                    && payout.Gross == payout.Parts.Sum(p => p.Amount)
                    && payout.Fees == payout.Parts.Sum(p => p.Fee)
                    && payout.Parts.All(p => p.Fee >= 0),
                $"{what}: its payments do not come to it"
            );
            foreach (var part in payout.Parts)
            {
                var request = byId[part.RequestId];
                findings.Unless(
                    request.State == PayState.Paid
                        && (part.Amount > 0 ? part.Amount == request.Total : -part.Amount <= request.Total)
                        && request.MadeOn <= payout.Day,
                    $"{what}: pays out another amount than was paid"
                );
            }

            if (payout.BookingId is { } id)
                findings.Unless(
                    arrived.TryGetValue(id, out var booking)
                        && (booking.Undone || (booking.Amount == payout.Gross && lines[id].Contains(payout.Net))),
                    $"{what}: another amount arrived at the bank"
                );
        }

        findings.Unless(
            payouts
                .SelectMany(p => p.Parts)
                .Where(p => p.Amount > 0)
                .GroupBy(p => p.RequestId)
                .All(g => g.Count() == 1),
            "Payouts: a payment was paid out twice"
        );
        findings.Count("card payouts", payouts.Count);
    }

    private static CardNews Of(PayState state) =>
        state switch
        {
            PayState.Paid => CardNews.Paid,
            PayState.Declined => CardNews.Declined,
            _ => CardNews.Left,
        };

    private async Task CallsAsync(Findings findings, List<PayRequest> requests, CancellationToken stop)
    {
        var calls = await db.CardCalls.ToListAsync(stop);
        var payouts = await db.CardPayouts.Select(p => p.Reference).ToListAsync(stop);
        foreach (var request in requests.Where(r => r.State != PayState.Asked))
            findings.Unless(
                calls.Exists(c =>
                    c.About == request.ServiceId
                    && c.News == Of(request.State)
                    && (c.Problem.Length == 0 || request.Parts.Any(p => p.Surcharge > 0 && p.ChargedOnId is null))
                ),
                $"Card payment {request.Id}: nobody told what came of it"
            );
        foreach (var call in calls)
        {
            var what = $"News {call.Key} of the card service";
            findings.Unless(Enum.IsDefined(call.News) && call.Key.Length > 0, $"{what}: tells nothing that there is");
            findings.Unless(
                call.SeenToOn is null || (call.Problem.Length > 0 && call.SeenToOn >= call.Day),
                $"{what}: was seen to before it came, or without need"
            );
            if (call.Problem.Length == 0 && call.News == CardNews.PaidOut)
                findings.Unless(payouts.Contains(call.About), $"{what}: its payout is not there");
            if (call.Problem.Length == 0 && call.News == CardNews.Paid)
                findings.Unless(
                    requests.Exists(r => r.ServiceId == call.About && r.State == PayState.Paid),
                    $"{what}: what was paid is not there"
                );
        }
    }
}
