using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>Money from a customer as it was typed.</summary>
/// <param name="Amount">What the payer gave, in minor units of the currency of what it pays.</param>
/// <param name="Against">What is set against which account item; what is left of the money stays as credit.</param>
public sealed record ReceiptToPost(
    int CustomerId,
    DateOnly Date,
    int MoneyAccountId,
    long Amount,
    string Reference,
    IReadOnlyList<(int ItemId, long Amount)> Against,
    string? FormKey = null
)
{
    /// <summary>The way of payment by its name.</summary>
    public string Way { get; init; } = "";

    /// <summary>Credit of the customer that is used in the same go, before the money.</summary>
    public IReadOnlyList<int> Credits { get; init; } = [];

    /// <summary>
    /// Invoices on which the early-payment discount is given, with the reason where it is not offered.
    /// </summary>
    public IReadOnlyList<(int ItemId, string Reason)> Early { get; init; } = [];

    /// <summary>Invoices whose small rest is given up.</summary>
    public IReadOnlyList<int> GiveUp { get; init; } = [];

    /// <summary>The currency of what it pays; null for the customer's usual one.</summary>
    public Currency? Currency { get; init; }

    /// <summary>
    /// What arrived on the account, in minor units of its currency; null where that is not known, for what was given at
    /// the rate of the day.
    /// </summary>
    public long? Arrived { get; init; }

    /// <summary>What banks kept on the way, in minor units of the account's currency.</summary>
    public long Charge { get; init; }
}

/// <summary>Posts receipts, and sets receipts and credits against what is open.</summary>
public sealed class Receipts(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    MoneySides sides,
    AccountBook book,
    Settlements settlements
)
{
    /// <returns>The receipt's id.</returns>
    /// <exception cref="RefusalException">With what is wrong, each by its field; fields of the allocation are
    /// <c>against[itemId]</c>.</exception>
    public Task<int> PostAsync(ReceiptToPost typed, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Money,
            new Once(typed.FormKey, stop),
            async () =>
            {
                var business = await head.BusinessAsync(stop);
                var customer =
                    await db.Customers.FindAsync([typed.CustomerId], stop)
                    ?? throw new RefusalException("customerId", "Choose the customer whose money this is.");
                var credits = await CreditsAsync(typed, stop);
                var currency = typed.Currency ?? await PaidAsync(typed, stop) ?? customer.Currency;
                await CheckAsync(typed, currency, credits, stop);
                var money = await sides.CameAsync(
                    typed.MoneyAccountId,
                    currency,
                    typed.Amount,
                    typed.Arrived,
                    typed.Charge,
                    typed.Date,
                    stop
                );
                var booking = await book.BeginAsync(BookingKind.Receipt, typed.Date, customer.Id, stop);
                var (seriesId, number) = await book.NumberAsync("Receipt", booking.Date, stop);
                var receipt = new Receipt(
                    seriesId,
                    number,
                    customer.Id,
                    booking.Date,
                    typed.MoneyAccountId,
                    currency,
                    typed.Amount,
                    money,
                    typed.Reference,
                    writer.Who
                );
                receipt.Came(typed.Way, typed.Date, booking);
                db.Receipts.Add(receipt);
                await writer.SaveAsync(stop);

                var item = book.PutMoney(
                    booking,
                    AccountItemKind.Receipt,
                    customer.Id,
                    number,
                    currency,
                    typed.Amount,
                    money.HomeWithCharge(business.HomeCurrency)
                );
                item.ReceiptId = receipt.Id;
                var entry = PostingRules.ForReceipt(receipt, await book.AccountsAsync(stop), business.HomeCurrency);
                entry.ReceiptId = receipt.Id;
                book.Post(booking, entry);
                await writer.SaveAsync(stop);
                var paid = PaidOn([.. credits, item], typed.Against);
                foreach (var (itemId, reason) in typed.Early)
                    await settlements.GiveEarlyAsync(
                        booking,
                        await book.ItemAsync(itemId, $"early[{itemId}]", stop),
                        typed.Date,
                        paid.GetValueOrDefault(itemId),
                        reason,
                        $"early[{itemId}]",
                        stop
                    );
                await PlaceAsync(booking, [.. credits, item], typed.Against, stop);
                foreach (var itemId in typed.GiveUp)
                    await settlements.GiveUpRestAsync(
                        booking,
                        await book.ItemAsync(itemId, $"giveUp[{itemId}]", stop),
                        $"giveUp[{itemId}]",
                        stop
                    );
                var words =
                    $"Receipt {number} of {business.Format.WithCode(typed.Amount, currency)} posted{(item.Open > 0 ? $"; {business.Format.WithCode(item.Open, currency)} stays as credit" : "")}";
                booking.Say(words);
                await writer.TrailAsync(words, customer.Id, null, receipt.Id);
                return receipt.Id;
            }
        );

    /// <summary>Sets a part of a receipt or credit against an open item, today.</summary>
    /// <param name="amount">Minor units.</param>
    public Task<int> SetAgainstAsync(int loweringId, int raisingId, long amount, Once once = default) =>
        SetAgainstAsync(loweringId, [(raisingId, amount)], once);

    /// <summary>Sets a receipt or credit against what its customer owes, oldest first, as far as it reaches.</summary>
    /// <exception cref="RefusalException">When nothing is left of it, or nothing is owed.</exception>
    public Task<int> PlaceOldestFirstAsync(int loweringId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var lowering = await book.ItemAsync(loweringId, "", stop);
                var owed = await db
                    .AccountItems.Where(i => i.CustomerId == lowering.CustomerId && i.Open > 0 && i.Sign > 0)
                    .ToListAsync(stop);
                var parts = OldestFirst.Propose(lowering.Open, owed);
                if (lowering.Raises || parts.Count == 0)
                    throw new RefusalException("", $"There is nothing to set {lowering.Number} against.");
                return await SetAgainstAsync(loweringId, [.. parts.Select(p => (p.Item.Id, p.Amount))], stop);
            }
        );

    /// <summary>Sets a receipt or credit against several open items, as one thing that can be undone.</summary>
    /// <param name="against">Account items with what each is to get, in minor units.</param>
    public Task<int> SetAgainstAsync(
        int loweringId,
        IReadOnlyList<(int ItemId, long Amount)> against,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var lowering = await book.ItemAsync(loweringId, "", stop);
                var booking = await book.BeginAsync(
                    BookingKind.SetAgainst,
                    await head.TodayAsync(stop),
                    lowering.CustomerId,
                    stop
                );
                var numbers = new List<string>();
                foreach (var (itemId, amount) in against)
                {
                    var raising = await book.ItemAsync(itemId, "amount", stop);
                    await book.TieAsync(booking, raising, lowering, amount, "amount", stop);
                    numbers.Add(raising.Number);
                }

                booking.Say($"{lowering.Number} set against {string.Join(", ", numbers)}");
                return loweringId;
            }
        );

    /// <summary>
    /// Takes an allocation away: both items are as they were before it, and the receipt stays. Where the books are
    /// closed by its day, it goes on counting up to the last closed one.
    /// </summary>
    public Task<int> TakeAwayAsync(int allocationId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var allocation =
                    await db
                        .Allocations.Include(a => a.Raising)
                            .ThenInclude(i => i.Booking)
                        .Include(a => a.Lowering)
                            .ThenInclude(i => i.Booking)
                        .SingleOrDefaultAsync(a => a.Id == allocationId, stop)
                    ?? throw new RefusalException("", "This allocation was taken away already.");
                if (
                    allocation.Raising.DocumentId is { } raised
                    && await db.Documents.AnyAsync(d => d.Id == raised && d.State == DocumentState.Cancelled, stop)
                )
                    throw new RefusalException("", Undoing.StayTogether(allocation));
                if (!allocation.Raising.Kind.IsDemand())
                    throw new RefusalException(
                        "",
                        $"{allocation.Lowering.Number} was used for: {allocation.Raising.Booking?.Words ?? allocation.Raising.Kind.Word()}. Undo that instead."
                    );
                if (!allocation.Lowering.Kind.CanBePlaced())
                    throw new RefusalException(
                        "",
                        $"This belongs to {allocation.Raising.Number}: {allocation.Lowering.Booking?.Words ?? allocation.Lowering.Kind.Word()}. Undo that instead."
                    );
                var booking = await book.BeginAsync(
                    BookingKind.TakenAway,
                    allocation.Date,
                    allocation.Raising.CustomerId,
                    stop
                );
                booking.Say($"{allocation.Lowering.Number} taken away from {allocation.Raising.Number}");
                await book.EndAsync(booking, allocation, booking.Date, stop);
                await settlements.LoseEarlyAsync(booking, [allocation], stop);
                return allocation.LoweringId;
            }
        );

    /// <summary>What each item gets in money; a credit note is no payment.</summary>
    private static Dictionary<int, long> PaidOn(
        IReadOnlyList<AccountItem> lowering,
        IReadOnlyList<(int ItemId, long Amount)> against
    )
    {
        var placed = against.Where(a => a.Amount != 0).ToList();
        return Pairing
            .Of([.. lowering.Select(l => l.Open)], placed.ConvertAll(a => a.Amount))
            .Where(p => lowering[p.Lowering].Kind != AccountItemKind.CreditNote)
            .GroupBy(p => placed[p.Raising].ItemId)
            .ToDictionary(g => g.Key, g => g.Sum(p => p.Amount));
    }

    private async Task PlaceAsync(
        Booking booking,
        IReadOnlyList<AccountItem> lowering,
        IReadOnlyList<(int ItemId, long Amount)> against,
        CancellationToken stop
    )
    {
        var placed = against.Where(a => a.Amount != 0).ToList();
        foreach (
            var (from, to, amount) in Pairing.Of([.. lowering.Select(l => l.Open)], placed.ConvertAll(a => a.Amount))
        )
        {
            var field = $"against[{placed[to].ItemId}]";
            await book.TieAsync(
                booking,
                await book.ItemAsync(placed[to].ItemId, field, stop),
                lowering[from],
                amount,
                field,
                stop
            );
        }
    }

    private async Task<List<AccountItem>> CreditsAsync(ReceiptToPost typed, CancellationToken stop)
    {
        var credits = await db
            .AccountItems.Where(i =>
                typed.Credits.Contains(i.Id)
                && i.CustomerId == typed.CustomerId
                && i.Open > 0
                && (
                    i.Kind == AccountItemKind.Receipt
                    || i.Kind == AccountItemKind.CreditNote
                    || i.Kind == AccountItemKind.MovedIn
                )
            )
            .ToListAsync(stop);
        return credits.Count == typed.Credits.Distinct().Count()
            ? [.. OldestFirst.Order(credits)]
            : throw new RefusalException("credits", "Some of this credit is used already. Load the page again.");
    }

    /// <summary>
    /// Posts one payment that pays in several currencies: a receipt for what it pays of each, all of them or none.
    /// </summary>
    /// <returns>The first receipt's id.</returns>
    /// <exception cref="RefusalException">As of <see cref="PostAsync"/>; what is wrong with a part after the first is
    /// told with its currency.</exception>
    public Task<int> PostTogetherAsync(IReadOnlyList<ReceiptToPost> parts, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var first = await PostAsync(parts[0] with { FormKey = null }, stop);
                foreach (var part in parts.Skip(1))
                    try
                    {
                        await PostAsync(part with { FormKey = null }, stop);
                    }
                    catch (RefusalException refused)
                    {
                        throw new RefusalException([
                            .. refused.Refusals.Select(r => new Refusal(
                                $"arrived[{part.Currency}]",
                                $"What it pays in {part.Currency}: {r.Phrase}"
                            )),
                        ]);
                    }

                return first;
            }
        );

    /// <summary>The currency of what it is set against; null where that is nothing.</summary>
    /// <exception cref="RefusalException">When that is several.</exception>
    private async Task<Currency?> PaidAsync(ReceiptToPost typed, CancellationToken stop)
    {
        var ids = typed.Against.Where(a => a.Amount != 0).Select(a => a.ItemId).Concat(typed.Credits).ToList();
        var paid = await db.AccountItems.Where(i => ids.Contains(i.Id)).Select(i => i.Currency).ToListAsync(stop);
        return paid.Distinct().ToList() switch
        {
            [] => null,
            [var one] => one,
            var several => throw new RefusalException(
                "against",
                $"These are in {string.Join(" and ", several.Select(c => c.Code).Order())}. Enter a receipt for what the money pays of each."
            ),
        };
    }

    private async Task CheckAsync(
        ReceiptToPost typed,
        Currency currency,
        IReadOnlyList<AccountItem> credits,
        CancellationToken stop
    )
    {
        var credit = credits.Sum(c => c.Open);
        var refusals = new Refusals();
        MoneyPlaces.CheckDay(refusals, typed.Date, await head.TodayAsync(stop));
        await db.CheckAsync(refusals, typed.MoneyAccountId, "moneyAccountId", stop);
        if (typed.Amount <= 0)
            refusals.Add("amount", "Give the amount that came in, above zero.");
        var against = typed.Against.Sum(a => a.Amount);
        if (typed.Amount > 0 && against > typed.Amount + credit)
            refusals.Add(
                "against",
                $"You set {new Money(against, currency)} against invoices, {new Money(against - typed.Amount - credit, currency)} more than the receipt of {new Money(typed.Amount, currency)}{(credit > 0 ? (Phrase)$" and {new Money(credit, currency)} of credit" : "")}. Lower one of the parts."
            );
        if (typed.Against.Any(a => a.Amount < 0))
            refusals.Add("against", "A part cannot be below zero. Leave it empty for none.");
        if (typed.Against.Select(a => a.ItemId).Distinct().Count() != typed.Against.Count)
            refusals.Add("against", "An invoice is named twice. Name each once.");
        if (credits.FirstOrDefault(c => !c.Currency.Equals(currency)) is { } other)
            refusals.Add("credits", $"{other.Number} is in {other.Currency}, and this receipt pays in {currency}.");
        if (typed.Arrived <= 0)
            refusals.Add("arrived", "Give what arrived, above zero; or leave it empty for the rate of the day.");
        refusals.ThrowIfAny();
    }
}
