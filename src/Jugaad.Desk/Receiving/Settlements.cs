using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>
/// Takes something off an invoice without a credit note: early-payment discounts, small differences, debts given up.
/// </summary>
public sealed class Settlements(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    AccountBook book,
    TaxTelling telling,
    TaxPlaces places
)
{
    /// <summary>
    /// What the early-payment discount of an invoice comes to when the money came on a day, and whether it is offered.
    /// </summary>
    public async Task<EarlyOffer> OfferAsync(AccountItem item, DateOnly day, CancellationToken stop = default)
    {
        if (item.DocumentId is not { } id)
            return EarlyOffer.None;
        var terms = await db
            .Documents.Where(d => d.Id == id)
            .Select(d => new
            {
                d.Payable,
                d.EarlyPercent,
                d.EarlyUntil,
            })
            .SingleAsync(stop);
        var against = await db
            .Allocations.Where(a => a.RaisingId == item.Id)
            .GroupBy(a => a.Lowering.Kind)
            .Select(g => new { g.Key, Sum = g.Sum(a => a.Amount) })
            .ToListAsync(stop);
        var credited = against.Where(a => a.Key == AccountItemKind.CreditNote).Sum(a => a.Sum);
        var given = against.Exists(a => a.Key == AccountItemKind.EarlyPayment);
        return EarlyPayment.Of(
            terms.Payable - credited,
            terms.EarlyPercent,
            terms.EarlyUntil,
            against.Where(a => a.Key is AccountItemKind.Receipt or AccountItemKind.MovedIn).Sum(a => a.Sum),
            given,
            day
        );
    }

    /// <summary>
    /// Gives the early-payment discount of an invoice afterwards, with a reason where it is not offered any more.
    /// </summary>
    public Task<int> GiveEarlyAsync(int itemId, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var item = await book.ItemAsync(itemId, "", stop);
                var today = await head.TodayAsync(stop);
                var booking = await book.BeginAsync(BookingKind.EarlyPayment, today, item.CustomerId, stop);
                await GiveEarlyAsync(booking, item, today, item.Open, reason, "reason", stop);
                booking.Say($"Early-payment discount given on {item.Number}");
                return booking.Id;
            }
        );

    /// <param name="day">The day on which the money came.</param>
    /// <param name="paid">What is paid on it now; only what is paid in time earns its part. Who gives it with a reason
    /// gives all of it.</param>
    internal async Task GiveEarlyAsync(
        Booking booking,
        AccountItem item,
        DateOnly day,
        long paid,
        string reason,
        string field,
        CancellationToken stop
    )
    {
        var offer = await OfferAsync(item, day, stop);
        if (offer.Amount == 0)
            throw new RefusalException(field, offer.NotOffered!);
        if (offer.NotOffered is { } not && reason.Trim().Length == 0)
            throw new RefusalException(field, $"{not} Give the reason for giving it all the same.");
        var percent = await db
            .Documents.Where(d => d.Id == item.DocumentId)
            .Select(d => d.EarlyPercent)
            .SingleAsync(stop);
        var earned =
            reason.Trim().Length > 0
                ? Math.Min(offer.Amount, item.Open)
                : EarlyPayment.EarnedBy(offer.Amount, percent, item.Open, paid);
        if (earned <= 0)
            throw new RefusalException(
                field,
                $"Nothing is paid on {item.Number} that the discount could be given for. Set some of the money against it."
            );
        await MakeAsync(
            booking,
            SettlementKind.EarlyPayment,
            item,
            earned,
            reason,
            !(await head.BusinessAsync(stop)).EarlyPaymentLeavesTax,
            field,
            stop
        );
    }

    /// <summary>
    /// Takes a discount back where the payment that earned it goes away: what it took off is owed again, with its tax.
    /// </summary>
    /// <param name="paying">The allocations that end.</param>
    internal async Task LoseEarlyAsync(Booking booking, IReadOnlyList<Allocation> paying, CancellationToken stop)
    {
        foreach (
            var allocation in paying
                .Where(a => a.Raising.DocumentId is not null)
                .DistinctBy(a => (a.RaisingId, a.BookingId))
        )
        {
            var given = await db
                .Settlements.Include(s => s.Taxes)
                .Where(s =>
                    s.Kind == SettlementKind.EarlyPayment
                    && s.DocumentId == allocation.Raising.DocumentId
                    && s.BookingId == allocation.BookingId
                    && s.Booking!.UndoneOn == null
                    && !db.Settlements.Any(t => t.RecoversId == s.Id && t.Booking!.UndoneOn == null)
                )
                .ToListAsync(stop);
            foreach (var settlement in given)
                await TakeBackAsync(booking, settlement, [], settlement.Amount, AccountItemKind.EarlyPayment, stop);
        }
    }

    /// <summary>Gives up a debt, or a part of it.</summary>
    /// <param name="amount">Minor units; null for all that is open.</param>
    /// <param name="lowersTax">Whether the authority's conditions for taking its tax back are met; else the tax stays
    /// owed.</param>
    /// <returns>The booking's id.</returns>
    public Task<int> WriteOffAsync(
        int itemId,
        long? amount,
        string reason,
        DateOnly? date = null,
        Once once = default,
        bool lowersTax = true
    ) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var item = await book.ItemAsync(itemId, "", stop);
                var (today, refusals) = (await head.TodayAsync(stop), new Refusals());
                if (!item.Kind.IsDemand())
                    refusals.Add("", "Only an invoice or a debit note is written off.");
                Texts.Required(refusals, "reason", reason, 300, "Say why this is given up.");
                MoneyPlaces.CheckDay(refusals, date ?? today, today);
                if (amount > item.Open)
                    refusals.Add(
                        "amount",
                        $"{new Money(item.Open, item.Currency)} is open on {item.Number}. Give at most that."
                    );
                refusals.ThrowIfAny();
                var booking = await book.BeginAsync(BookingKind.WriteOff, date ?? today, item.CustomerId, stop);
                var off = amount ?? item.Open;
                await MakeAsync(booking, SettlementKind.BadDebt, item, off, reason, lowersTax, "amount", stop);
                booking.Say(
                    $"{await AsWrittenAsync(off, item.Currency, stop)} of {item.Number} written off{(lowersTax ? "" : ", its tax stays owed")}: {reason.Trim()}"
                );
                await writer.TrailAsync(booking.Words, item.CustomerId, item.DocumentId);
                return booking.Id;
            }
        );

    /// <summary>Gives up a small rest of what is owed, or keeps a small rest of credit.</summary>
    /// <returns>The booking's id.</returns>
    public Task<int> GiveUpRestAsync(int itemId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var item = await book.ItemAsync(itemId, "", stop);
                var booking = await book.BeginAsync(
                    BookingKind.SmallDifference,
                    await head.TodayAsync(stop),
                    item.CustomerId,
                    stop
                );
                booking.Say(
                    $"{await AsWrittenAsync(item.Open, item.Currency, stop)} of {item.Number} {(item.Raises ? "given up" : "kept")} as a small difference"
                );
                await GiveUpRestAsync(booking, item, "", stop);
                await writer.TrailAsync(booking.Words, item.CustomerId, item.DocumentId, item.ReceiptId);
                return booking.Id;
            }
        );

    internal async Task GiveUpRestAsync(Booking booking, AccountItem item, string field, CancellationToken stop)
    {
        var most = (await head.BusinessAsync(stop)).SmallDifference;
        if (item.Open == 0)
            return;
        if (item.Open > most)
            throw new RefusalException(
                field,
                $"{new Money(item.Open, item.Currency)} is more than the {new Money(most, item.Currency)} up to which a rest counts as small. Write it off as a debt, or leave it open."
            );
        if (item.Raises)
        {
            await MakeAsync(booking, SettlementKind.SmallDifference, item, item.Open, "", false, field, stop);
            return;
        }

        // What is kept is worth what the books keep it at, so that no exchange difference comes of it.
        var gain = book.PutMoney(
            booking,
            AccountItemKind.SmallGain,
            item.CustomerId,
            item.Number,
            item.Currency,
            item.Open,
            item.HomeOpen
        );
        book.Post(
            booking,
            PostingRules.ForSmallGain(
                gain,
                item.Number,
                await book.AccountsAsync(stop),
                (await head.BusinessAsync(stop)).HomeCurrency
            )
        );
        await writer.SaveAsync(stop);
        await book.TieAsync(booking, gain, item, item.Open, field, stop);
    }

    /// <summary>
    /// Takes back a part of a debt given up, as it is paid after all: it is open on the invoice again, with its tax.
    /// </summary>
    /// <param name="settlementId">The debt given up.</param>
    /// <param name="amount">Minor units.</param>
    /// <returns>The account item on which it is open again.</returns>
    public Task<int> RecoverAsync(int settlementId, long amount, DateOnly? date = null, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var (given, earlier) = await GivenUpAsync(settlementId, stop);
                var booking = await book.BeginAsync(
                    BookingKind.Recovery,
                    date ?? await head.TodayAsync(stop),
                    given.CustomerId,
                    stop
                );
                var invoice = await TakeBackAsync(booking, given, earlier, amount, AccountItemKind.WriteOff, stop);
                booking.Say(
                    $"{await AsWrittenAsync(amount, given.Currency, stop)} of {invoice.Number}, written off before, is owed after all"
                );
                await writer.TrailAsync(booking.Words, given.CustomerId, given.DocumentId);
                return invoice.Id;
            }
        );

    /// <summary>
    /// Takes the tax of a debt back that was given up while its tax stayed owed, from the day on which the authority's
    /// conditions are met: what did not come back of it is open again, and given up with its tax on that day.
    /// </summary>
    /// <param name="settlementId">The debt given up.</param>
    /// <param name="reason">What meets the conditions, such as that the customer's estate is wound up.</param>
    /// <returns>The booking's id.</returns>
    public Task<int> TakeTaxOffAsync(int settlementId, string reason, DateOnly? date = null, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var (given, earlier) = await GivenUpAsync(settlementId, stop);
                var (today, refusals) = (await head.TodayAsync(stop), new Refusals());
                var (day, left) = (date ?? today, given.Amount - earlier.Sum(e => e.Amount));
                Texts.Required(refusals, "reason", reason, 300, "Say what meets the authority's conditions.");
                MoneyPlaces.CheckDay(refusals, day, today);
                var since = earlier.Select(e => e.Date).Append(given.Date).Max();
                if (day < since)
                    refusals.Add(
                        "date",
                        $"It was given up, or paid in part, on {since:yyyy-MM-dd}. Choose a day from then on."
                    );
                if (given.Taxes.Count > 0)
                    refusals.Add("", "Its tax was taken back when it was written off.");
                else if (earlier.Find(e => e.Booking!.Kind == BookingKind.TaxOfBadDebt) is { } taken)
                    refusals.Add("", $"Its tax was taken back on {taken.Date:yyyy-MM-dd}.");
                else if (left == 0)
                    refusals.Add("", "All of it was paid after all, so its tax is owed.");
                else if (
                    !await db.Set<DocumentTax>().AnyAsync(t => t.DocumentId == given.DocumentId && t.Tax != 0, stop)
                )
                    refusals.Add("", "There is no tax in it that could be taken back.");
                refusals.ThrowIfAny();
                var booking = await book.BeginAsync(BookingKind.TaxOfBadDebt, day, given.CustomerId, stop);
                var invoice = await TakeBackAsync(booking, given, earlier, left, AccountItemKind.WriteOff, stop);
                await MakeAsync(booking, SettlementKind.BadDebt, invoice, left, reason, true, "", stop);
                booking.Say(
                    $"Tax taken back of {await AsWrittenAsync(left, given.Currency, stop)} of {invoice.Number} written off before: {reason.Trim()}"
                );
                await writer.TrailAsync(booking.Words, given.CustomerId, given.DocumentId);
                return booking.Id;
            }
        );

    /// <summary>A debt given up that stands, with what came back of it.</summary>
    private async Task<(Settlement Given, List<Settlement> Earlier)> GivenUpAsync(int id, CancellationToken stop)
    {
        var given = await db
            .Settlements.Include(s => s.Taxes)
            .Include(s => s.Booking)
            .SingleOrDefaultAsync(s => s.Id == id && s.Kind == SettlementKind.BadDebt, stop);
        if (given is null || given.Booking!.IsUndone)
            throw new RefusalException("", "This write-off is not there any more.");
        var earlier = await db
            .Settlements.Include(s => s.Taxes)
            .Include(s => s.Booking)
            .Where(s => s.RecoversId == id && s.Booking!.UndoneOn == null)
            .ToListAsync(stop);
        return (given, earlier);
    }

    /// <summary>Opens a part of what was taken off again, on the invoice that it was taken off.</summary>
    private async Task<AccountItem> TakeBackAsync(
        Booking booking,
        Settlement given,
        IReadOnlyList<Settlement> earlier,
        long amount,
        AccountItemKind kind,
        CancellationToken stop
    )
    {
        var lowering = await db.AccountItems.SingleAsync(
            i =>
                i.BookingId == given.BookingId
                && i.Kind == kind
                && db.Allocations.Any(a =>
                    a.LoweringId == i.Id
                    && (
                        given.DocumentId == null
                        || a.Raising.DocumentId == given.DocumentId
                        || a.Raising.Kind == AccountItemKind.Recovery
                    )
                ),
            stop
        );
        var allocation =
            await db
                .Allocations.Include(a => a.Raising)
                .Include(a => a.Lowering)
                .SingleOrDefaultAsync(
                    a => a.LoweringId == lowering.Id && a.Raising.Kind != AccountItemKind.Recovery,
                    stop
                )
            ?? throw new RefusalException("", "All of this was taken back already.");
        var settlement = Settlement.Recover(given, earlier, booking.Date, amount, booking);
        var invoice = allocation.Raising;
        var left = allocation.Amount - amount;
        await book.EndAsync(booking, allocation, booking.Date, stop);
        var back = await book.PutAsync(
            booking,
            AccountItemKind.Recovery,
            given.CustomerId,
            lowering.Number,
            given.Currency,
            amount,
            given.ExchangeRate,
            stop
        );
        db.Settlements.Add(settlement);
        await PostAsync(booking, settlement, back, invoice.Number, stop);
        await book.TieAsync(booking, back, lowering, amount, "amount", stop);
        if (left > 0)
            await book.TieAsync(booking, invoice, lowering, left, "amount", stop);
        return invoice;
    }

    private async Task MakeAsync(
        Booking booking,
        SettlementKind kind,
        AccountItem of,
        long amount,
        string reason,
        bool lowersTax,
        string field,
        CancellationToken stop
    )
    {
        var taxes = of.DocumentId is { } id
            ? await db.Set<DocumentTax>().Where(t => t.DocumentId == id).OrderBy(t => t.Position).ToListAsync(stop)
            : [];
        var shares =
            taxes.Count == 0 || kind == SettlementKind.SmallDifference || (kind == SettlementKind.BadDebt && !lowersTax)
                ? []
                : TaxShares.Of(
                    taxes,
                    amount,
                    lowersTax,
                    lowersTax ? await TakenOffAsync(of.DocumentId!.Value, stop) : null
                );
        var rate = await RateOfAsync(of, stop);
        var settlement = new Settlement(kind, of, booking.Date, amount, rate, reason, shares, taxes, booking);
        db.Settlements.Add(settlement);
        var itemKind = kind switch
        {
            SettlementKind.EarlyPayment => AccountItemKind.EarlyPayment,
            SettlementKind.SmallDifference => AccountItemKind.SmallDifference,
            _ => AccountItemKind.WriteOff,
        };
        var item = await book.PutAsync(booking, itemKind, of.CustomerId, of.Number, of.Currency, amount, rate, stop);
        await PostAsync(booking, settlement, item, of.Number, stop);
        await book.TieAsync(booking, of, item, amount, field, stop);
    }

    /// <summary>Posts what was taken off, or came back, and keeps what it tells which authority.</summary>
    private async Task PostAsync(
        Booking booking,
        Settlement settlement,
        AccountItem item,
        string number,
        CancellationToken stop
    )
    {
        await writer.SaveAsync(stop);
        var told = await telling.AddAsync(settlement, item, stop);
        var accounts = await book.AccountsAsync(stop);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var entry = PostingRules.ForSettlement(settlement, item.HomeAmount, number, accounts, home);
        await places.PutAsync(entry, accounts.TaxOwed, told, item.Amount, stop);
        book.Post(booking, entry);
    }

    /// <summary>What was taken off a document with its tax before, and did not come back.</summary>
    private async Task<IReadOnlyList<TaxShare>> TakenOffAsync(int documentId, CancellationToken stop)
    {
        var settlements = await db
            .Settlements.AsNoTracking()
            .Include(s => s.Taxes)
            .Where(s => s.DocumentId == documentId && s.Booking!.UndoneOn == null)
            .ToListAsync(stop);
        return TaxShares.TakenOff(settlements);
    }

    /// <summary>What is taken off goes at the rate at which it was billed or came.</summary>
    private async Task<QuotedRate> RateOfAsync(AccountItem item, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (item.Currency.Equals(home))
            return 1;
        if (item.DocumentId is { } document)
            return await db.Documents.Where(d => d.Id == document).Select(d => d.ExchangeRate).SingleAsync(stop);
        // Money, or what was taken over: the rate that its own two amounts give.
        return item.Amount == 0 || item.HomeAmount == 0
            ? QuotedRate.One
            : QuotedRate.Between(item.Amount, item.Currency, item.HomeAmount, home);
    }

    private async Task<string> AsWrittenAsync(long minor, Currency currency, CancellationToken stop) =>
        (await head.BusinessAsync(stop)).Format.WithCode(minor, currency);
}
