using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>Takes something off an invoice without a credit note: early-payment discounts, small differences, debts given up.</summary>
public sealed class Settlements(BooksContext db, BookWriter writer, BooksHead head, AccountBook book)
{
    /// <summary>What the early-payment discount of an invoice comes to when the money came on a day, and whether it is offered.</summary>
    public async Task<EarlyOffer> OfferAsync(AccountItem item, DateOnly day, CancellationToken stop = default)
    {
        if (item.DocumentId is not { } id) return EarlyOffer.None;
        var terms = await db.Documents.Where(d => d.Id == id).Select(d => new { d.Payable, d.EarlyPercent, d.EarlyUntil }).SingleAsync(stop);
        return EarlyPayment.Of(terms.Payable, terms.EarlyPercent, terms.EarlyUntil, item.Amount - item.Open, day);
    }

    /// <summary>Gives the early-payment discount of an invoice afterwards, with a reason where it is not offered any more.</summary>
    public Task<int> GiveEarlyAsync(int itemId, string reason, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Money, formKey, async () =>
    {
        var item = await book.ItemAsync(itemId, "", stop);
        var today = await head.TodayAsync(stop);
        var booking = await book.BeginAsync(BookingKind.EarlyPayment, today, item.CustomerId, stop);
        await GiveEarlyAsync(booking, item, today, reason, "reason", stop);
        booking.Say($"Early-payment discount given on {item.Number}");
        return booking.Id;
    }, stop);

    internal async Task GiveEarlyAsync(Booking booking, AccountItem item, DateOnly day, string reason, string field, CancellationToken stop)
    {
        var offer = await OfferAsync(item, day, stop);
        if (offer.Amount == 0) throw new RefusalException(field, offer.NotOffered!);
        if (offer.NotOffered is { } not && reason.Trim().Length == 0) throw new RefusalException(field, $"{not} Give the reason for giving it all the same.");
        await MakeAsync(booking, SettlementKind.EarlyPayment, item, Math.Min(offer.Amount, item.Open), reason, !(await head.BusinessAsync(stop)).EarlyPaymentLeavesTax, field, stop);
    }

    /// <summary>Gives up a debt, or a part of it, with its tax.</summary>
    /// <param name="amount">Minor units; null for all that is open.</param>
    /// <returns>The booking's id.</returns>
    public Task<int> WriteOffAsync(int itemId, long? amount, string reason, DateOnly? date = null, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Money, formKey, async () =>
    {
        var item = await book.ItemAsync(itemId, "", stop);
        var (today, refusals) = (await head.TodayAsync(stop), new Refusals());
        if (!item.Kind.IsDemand()) refusals.Add("", "Only an invoice or a debit note is written off.");
        Texts.Required(refusals, "reason", reason, 300, "Say why this is given up.");
        MoneyPlaces.CheckDay(refusals, date ?? today, today);
        if (amount > item.Open) refusals.Add("amount", $"{new Money(item.Open, item.Currency)} is open on {item.Number}. Give at most that.");
        refusals.ThrowIfAny();
        var booking = await book.BeginAsync(BookingKind.WriteOff, date ?? today, item.CustomerId, stop);
        var off = amount ?? item.Open;
        await MakeAsync(booking, SettlementKind.BadDebt, item, off, reason, true, "amount", stop);
        booking.Say($"{new Money(off, item.Currency)} {item.Currency} of {item.Number} written off: {reason.Trim()}");
        await writer.TrailAsync(booking.Words, item.CustomerId, item.DocumentId);
        return booking.Id;
    }, stop);

    /// <summary>Gives up a small rest of what is owed, or keeps a small rest of credit.</summary>
    /// <returns>The booking's id.</returns>
    public Task<int> GiveUpRestAsync(int itemId, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Money, formKey, async () =>
    {
        var item = await book.ItemAsync(itemId, "", stop);
        var booking = await book.BeginAsync(BookingKind.SmallDifference, await head.TodayAsync(stop), item.CustomerId, stop);
        booking.Say($"{new Money(item.Open, item.Currency)} {item.Currency} of {item.Number} {(item.Raises ? "given up" : "kept")} as a small difference");
        await GiveUpRestAsync(booking, item, "", stop);
        await writer.TrailAsync(booking.Words, item.CustomerId, item.DocumentId, item.ReceiptId);
        return booking.Id;
    }, stop);

    internal async Task GiveUpRestAsync(Booking booking, AccountItem item, string field, CancellationToken stop)
    {
        var most = (await head.BusinessAsync(stop)).SmallDifference;
        if (item.Open == 0) return;
        if (item.Open > most) throw new RefusalException(field, $"{new Money(item.Open, item.Currency)} is more than the {new Money(most, item.Currency)} up to which a rest counts as small. Write it off as a debt, or leave it open.");
        if (item.Raises)
        {
            await MakeAsync(booking, SettlementKind.SmallDifference, item, item.Open, "", false, field, stop);
            return;
        }

        var rate = await RateOfAsync(item, stop);
        var gain = await book.PutAsync(booking, AccountItemKind.SmallGain, item.CustomerId, item.Number, item.Currency, item.Open, rate, stop);
        book.Post(booking, PostingRules.ForSmallGain(gain, item.Number, await book.AccountsAsync(stop)));
        await writer.SaveAsync(stop);
        await book.TieAsync(booking, gain, item, item.Open, field, stop);
    }

    /// <summary>Takes back a part of a debt given up, as it is paid after all: it is open on the invoice again, with its tax.</summary>
    /// <param name="settlementId">The debt given up.</param>
    /// <param name="amount">Minor units.</param>
    /// <returns>The account item on which it is open again.</returns>
    public Task<int> RecoverAsync(int settlementId, long amount, DateOnly? date = null, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Money, formKey, async () =>
    {
        var given = await db.Settlements.Include(s => s.Taxes).Include(s => s.Booking).SingleOrDefaultAsync(s => s.Id == settlementId && s.Kind == SettlementKind.BadDebt, stop);
        if (given is null || given.Booking!.IsUndone) throw new RefusalException("", "This write-off is not there any more.");
        var earlier = await db.Settlements.Include(s => s.Taxes).Where(s => s.RecoversId == settlementId && s.Booking!.UndoneOn == null).ToListAsync(stop);
        var lowering = await db.AccountItems.SingleAsync(i => i.BookingId == given.BookingId && i.Kind == AccountItemKind.WriteOff, stop);
        var allocation = await db.Allocations.Include(a => a.Raising).SingleOrDefaultAsync(a => a.LoweringId == lowering.Id && a.Raising.Kind != AccountItemKind.Recovery, stop)
            ?? throw new RefusalException("", "All of this write-off was taken back already.");
        var booking = await book.BeginAsync(BookingKind.Recovery, date ?? await head.TodayAsync(stop), given.CustomerId, stop);
        var settlement = Settlement.Recover(given, earlier, booking.Date, amount, booking);
        var invoice = allocation.Raising;
        var left = allocation.Amount - amount;
        await book.EndAsync(booking, allocation, booking.Date, stop);
        var back = await book.PutAsync(booking, AccountItemKind.Recovery, given.CustomerId, lowering.Number, given.Currency, amount, given.ExchangeRate, stop);
        db.Settlements.Add(settlement);
        book.Post(booking, PostingRules.ForSettlement(settlement, back.HomeAmount, invoice.Number, await book.AccountsAsync(stop), (await head.BusinessAsync(stop)).HomeCurrency));
        await writer.SaveAsync(stop);
        await book.TieAsync(booking, back, lowering, amount, "amount", stop);
        if (left > 0) await book.TieAsync(booking, invoice, lowering, left, "amount", stop);
        booking.Say($"{new Money(amount, given.Currency)} {given.Currency} of {invoice.Number}, written off before, is owed after all");
        await writer.TrailAsync(booking.Words, given.CustomerId, given.DocumentId);
        return invoice.Id;
    }, stop);

    private async Task MakeAsync(Booking booking, SettlementKind kind, AccountItem of, long amount, string reason, bool lowersTax, string field, CancellationToken stop)
    {
        var taxes = of.DocumentId is { } id ? await db.Set<DocumentTax>().Where(t => t.DocumentId == id).OrderBy(t => t.Position).ToListAsync(stop) : [];
        var shares = taxes.Count == 0 || kind == SettlementKind.SmallDifference ? [] : TaxShares.Of(taxes, amount, lowersTax);
        var rate = await RateOfAsync(of, stop);
        var settlement = new Settlement(kind, of, booking.Date, amount, rate, reason, shares, taxes, booking);
        db.Settlements.Add(settlement);
        var itemKind = kind switch { SettlementKind.EarlyPayment => AccountItemKind.EarlyPayment, SettlementKind.SmallDifference => AccountItemKind.SmallDifference, _ => AccountItemKind.WriteOff };
        var item = await book.PutAsync(booking, itemKind, of.CustomerId, of.Number, of.Currency, amount, rate, stop);
        book.Post(booking, PostingRules.ForSettlement(settlement, item.HomeAmount, of.Number, await book.AccountsAsync(stop), (await head.BusinessAsync(stop)).HomeCurrency));
        await writer.SaveAsync(stop);
        await book.TieAsync(booking, of, item, amount, field, stop);
    }

    /// <summary>What is taken off goes at the rate at which it was billed or came.</summary>
    private async Task<decimal> RateOfAsync(AccountItem item, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (item.Currency.Equals(home)) return 1;
        if (item.DocumentId is { } document) return await db.Documents.Where(d => d.Id == document).Select(d => d.ExchangeRate).SingleAsync(stop);
        if (item.ReceiptId is { } receipt) return await db.Receipts.Where(r => r.Id == receipt).Select(r => r.ExchangeRate).SingleAsync(stop);
        // Taken over, or moved here: the rate that its own home amount was made with, as near as ten decimals come.
        return item.Amount == 0 ? 1 : Math.Round((decimal)item.HomeAmount * item.Currency.MinorPerUnit / (item.Amount * (decimal)home.MinorPerUnit), 10);
    }
}
