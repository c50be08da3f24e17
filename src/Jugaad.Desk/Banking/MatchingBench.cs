using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Exchange;
using Jugaad.Core.Matching;
using Jugaad.Core.Paying;
using Jugaad.Core.Returns;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>A bank line with what may become of it.</summary>
/// <param name="Proposals">The best first; none for money that went out, or where nothing speaks for anything.</param>
/// <param name="LedgerAccountId">What such money was for before; null where that is not known.</param>
public sealed record BenchLine(BankLine Line, IReadOnlyList<Proposal> Proposals, int? LedgerAccountId);

/// <summary>A part into which a bank line is placed.</summary>
/// <param name="Amount">Minor units, of the line's sign.</param>
/// <param name="CustomerId">Whose receipt it is; null where it goes to a ledger account.</param>
/// <param name="Against">What of it is set against which account item; the rest is the customer's credit.</param>
/// <param name="Early">Invoices on which the early-payment discount is given.</param>
/// <param name="TheirAmount">What it is in the customer's currency, where that is another, in its minor units; null for
/// the rate of the day.</param>
public sealed record LinePart(
    long Amount,
    int? CustomerId,
    IReadOnlyList<(int ItemId, long Amount)> Against,
    IReadOnlyList<int> Early,
    int? LedgerAccountId = null,
    int? TaxCodeId = null,
    long? TheirAmount = null
)
{
    /// <summary>The currency of what it pays, where it is set against nothing; null for the usual one.</summary>
    public Currency? Currency { get; init; }

    /// <summary>Invoices whose small rest is given up.</summary>
    public IReadOnlyList<int> GiveUp { get; init; } = [];

    /// <summary>Credit of the customer that is used in the same go, before the money.</summary>
    public IReadOnlyList<int> Credits { get; init; } = [];
}

/// <summary>What came of placing all that was sure.</summary>
/// <param name="Refused">Why a line could not be placed, each with which line it is.</param>
public sealed record PlacedAll(int Placed, IReadOnlyList<string> Refused);

/// <summary>Where bank lines meet what is open: proposes, places, joins, and puts back.</summary>
public sealed class MatchingBench(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Receipts receipts,
    OtherMoneyDesk other,
    Undoing undoing,
    BankConversion conversion,
    PayerLearning learning,
    OwnTransfers transfers,
    Conversions conversions,
    CardPayouts payouts,
    IPayTaxes taxes
)
{
    private const int PayoutDays = 7;

    // Read once for all lines of a page.
    private IReadOnlyList<TaxToPay>? _taxesLeft;

    /// <summary>The lines that are not placed yet, oldest first, with their proposals.</summary>
    public async Task<IReadOnlyList<BenchLine>> ToPlaceAsync(
        int? accountId = null,
        int most = 200,
        CancellationToken stop = default
    )
    {
        var lines = await db
            .BankLines.AsNoTracking()
            .Include(l => l.Placements)
            .Where(l => l.Placed != l.Amount && (accountId == null || l.AccountId == accountId))
            .OrderBy(l => l.Date)
            .ThenBy(l => l.Id)
            .Take(most)
            .ToListAsync(stop);
        if (lines.Count == 0)
            return [];
        var matchers = new Dictionary<int, Matcher>();
        foreach (var account in lines.Select(l => l.AccountId).Distinct())
            matchers[account] = await MatcherAsync(account, stop);
        var rules = await db.PayerRules.AsNoTracking().Where(r => r.LedgerAccountId != null).ToListAsync(stop);
        var gone = await GoneOutAsync(stop);
        var business = await head.BusinessAsync(stop);
        var bench = new List<BenchLine>();
        foreach (var line in lines)
        {
            var proposals =
                line.Left < 0
                    ? OutgoingMatcher.Propose(MoneyOf(line), [.. gone[line.AccountId]], business.Format)
                    : Possible(matchers[line.AccountId].Propose(MoneyOf(line)), business);
            bench.Add(
                new BenchLine(
                    line,
                    await WithTransfersAsync(proposals, line, business.Format, stop),
                    LedgerOf(rules, line)
                )
            );
        }

        return bench;
    }

    /// <summary>Places a line as one of its proposals says.</summary>
    public async Task<int> AcceptAsync(int lineId, Proposal proposal, Once once = default) =>
        await writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                if (proposal.JoinsReceiptId is { } receipt)
                    return await JoinAsync(lineId, receipt, stop);
                if (proposal.JoinsBookingId is { } booking)
                    return !proposal.IsTransfer ? await JoinGoneAsync(lineId, booking, stop)
                        : await conversions.JoinAsync(lineId, booking, stop) ? lineId
                        : await transfers.JoinAsync(lineId, booking, stop);
                if (proposal.PairsLineId is { } pair)
                    return await conversions.PairAsync(lineId, pair, once: stop);
                var line = await LineAsync(lineId, stop);
                if (proposal.PayoutId is { } payout)
                    return await PlacePayoutAsync(line, payout, stop);
                if (proposal.PaysReturnId is { } filed)
                    return await PlaceTaxAsync(line, filed, stop);
                if (proposal.Fee > 0)
                    await PlaceFeeAsync(line, proposal.Fee, stop);
                return await PlaceAsync(
                    lineId,
                    [
                        new LinePart(
                            line.Left,
                            proposal.CustomerId,
                            [.. proposal.Parts.Select(p => (p.ItemId, p.Amount))],
                            [.. proposal.Parts.Where(p => p.Early).Select(p => p.ItemId)],
                            TheirAmount: proposal.TheirAmount
                        ),
                    ],
                    true,
                    stop
                );
            }
        );

    /// <summary>Places all lines whose best proposal is sure.</summary>
    /// <returns>How many were placed. One that cannot be does not stop the others.</returns>
    public async Task<PlacedAll> AcceptAllSureAsync(int? accountId = null, Once once = default)
    {
        var (done, refused) = (0, new List<string>());
        // After each, what is open is another: a line that was sure may not be so any more.
        foreach (
            var id in (await ToPlaceAsync(accountId, 500, once.Stop))
                .Where(b => b.Proposals is [{ Certainty: Certainty.Sure }, ..])
                .Select(b => b.Line.Id)
                .ToList()
        )
        {
            var now = (await ProposeAsync(id, once.Stop)) is [{ Certainty: Certainty.Sure } best, ..] ? best : null;
            if (now is null)
                continue;
            try
            {
                await AcceptAsync(id, now, once.Of(id));
                done++;
            }
            catch (RefusalException not)
            {
                var line = await db.BankLines.AsNoTracking().SingleAsync(l => l.Id == id, once.Stop);
                var format = (await head.BusinessAsync(once.Stop)).Format;
                refused.Add(
                    $"{(line.Name.Length > 0 ? line.Name : "The line")} of {format.Date(line.Date)}: {not.In(format)}"
                );
            }
        }

        return new PlacedAll(done, refused);
    }

    public async Task<IReadOnlyList<Proposal>> ProposeAsync(int lineId, CancellationToken stop = default)
    {
        var line = await db.BankLines.AsNoTracking().SingleOrDefaultAsync(l => l.Id == lineId, stop);
        if (line is null || line.Left == 0)
            return [];
        var business = await head.BusinessAsync(stop);
        var proposals =
            line.Left < 0
                ? OutgoingMatcher.Propose(
                    MoneyOf(line),
                    [.. (await GoneOutAsync(stop))[line.AccountId]],
                    business.Format
                )
                : Possible((await MatcherAsync(line.AccountId, stop)).Propose(MoneyOf(line)), business);
        return await WithTransfersAsync(proposals, line, business.Format, stop);
    }

    /// <summary>What is sure stays alone; else transfers between our own accounts are proposed too.</summary>
    private async Task<IReadOnlyList<Proposal>> WithTransfersAsync(
        IReadOnlyList<Proposal> proposals,
        BankLine line,
        Core.Amounts.DisplayFormat format,
        CancellationToken stop
    ) =>
        await PayoutsAsync(line, format, stop) is [{ Certainty: Certainty.Sure }] payout ? payout
        : proposals is [{ Certainty: Certainty.Sure }, ..] ? proposals
        :
        [
            .. await PayoutsAsync(line, format, stop),
            .. await transfers.ProposeAsync(line, format, stop),
            .. await conversions.ProposeAsync(line, format, stop),
            .. proposals,
            // What was entered by hand already is the same money, and not to be paid again.
            .. proposals.Any(p => p.JoinsBookingId is not null) ? [] : await TaxesAsync(line, format, stop),
        ];

    /// <summary>Tax returns that a line may pay.</summary>
    private async Task<IReadOnlyList<Proposal>> TaxesAsync(
        BankLine line,
        Core.Amounts.DisplayFormat format,
        CancellationToken stop
    ) =>
        line.Placed == 0 && line.Currency.Equals((await head.BusinessAsync(stop)).HomeCurrency)
            ? TaxMatcher.Propose(
                MoneyOf(line),
                line.Left < 0,
                [
                    .. (_taxesLeft ??= await taxes.LeftAsync(stop)).Select(t => new TaxLeft(
                        t.ReturnId,
                        t.Words,
                        t.Signs,
                        t.Left
                    )),
                ],
                format
            )
            : [];

    /// <summary>Places a line as the payment of a tax return, or of a part of it.</summary>
    private async Task<int> PlaceTaxAsync(BankLine line, int returnId, CancellationToken stop)
    {
        var of =
            (await taxes.LeftAsync(stop)).FirstOrDefault(t => t.ReturnId == returnId)
            ?? throw new RefusalException("", "Nothing is left of this return any more.");
        var amount = line.Left;
        var booking = await taxes.PaidAsync(returnId, line.Date, line.AccountId, Math.Abs(amount), stop);
        line.Place(amount, booking, null, of.Words);
        _taxesLeft = null;
        await writer.TrailAsync($"Bank line of {line.Date:yyyy-MM-dd} placed: {of.Words}");
        return line.Id;
    }

    /// <summary>
    /// A payout of the card service that a line is: sure where the line names it, likely where it is the same amount
    /// within some days.
    /// </summary>
    private async Task<IReadOnlyList<Proposal>> PayoutsAsync(
        BankLine line,
        Core.Amounts.DisplayFormat format,
        CancellationToken stop
    )
    {
        if (line.Amount <= 0 || line.Placed != 0)
            return [];
        var found = (await payouts.OnTheWayAsync(stop))
            .Where(p => p.Net == line.Amount)
            .Where(p => CardPayouts.Names(line, p) || Math.Abs(p.Day.DayNumber - line.Date.DayNumber) <= PayoutDays)
            .OrderByDescending(p => CardPayouts.Names(line, p))
            .Take(1);
        return
        [
            .. found.Select(p =>
            {
                var payments = p.Parts.Count == 1 ? "1 payment" : $"{p.Parts.Count} payments";
                Phrase why =
                    $"The card service's payout {p.Reference} of {format.Date(p.Day)}: {payments}, {format.WithCode(p.Gross, line.Currency)} less {format.WithCode(p.Fees, line.Currency)} of fees";
                return new Proposal(
                    CardPayouts.Names(line, p) ? Certainty.Sure : Certainty.Likely,
                    0,
                    [],
                    0,
                    null,
                    why.In(format)
                )
                {
                    PayoutId = p.Id,
                };
            }),
        ];
    }

    /// <summary>The payments leave card clearing; the fee is kept of them.</summary>
    private async Task<int> PlacePayoutAsync(BankLine line, int payoutId, CancellationToken stop)
    {
        var payout =
            (await payouts.OnTheWayAsync(stop)).FirstOrDefault(p => p.Id == payoutId)
            ?? throw new RefusalException("", "This payout was seen on another line already.");
        if (payout.Net != line.Left)
            throw new RefusalException("", "This line is not what the card service paid out.");
        if (payout.Fees > 0)
            await PlaceFeeAsync(line, payout.Fees, stop);
        var clearing = await db
            .PayRequests.Where(r => r.Id == payout.Parts[0].RequestId)
            .Join(db.Receipts, r => r.ReceiptId, r => r.Id, (_, r) => r.MoneyAccountId)
            .SingleAsync(stop);
        await transfers.PlaceAsync(line.Id, clearing, payout.Gross, stop);
        var kept = await db.CardPayouts.SingleAsync(p => p.Id == payoutId, stop);
        kept.Arrive(line.Placements[^1].BookingId!.Value);
        await writer.TrailAsync($"Payout {payout.Reference} of the card service arrived at the bank");
        return line.Id;
    }

    private static IncomingMoney MoneyOf(BankLine line) =>
        new(line.Date, Math.Abs(line.Left), line.Currency, line.Text, line.Reference, line.Name, line.Account)
        {
            // What was given counts for the whole line only.
            Given = line.Placed == 0 ? line.Given : 0,
            GivenIn = line.Placed == 0 ? line.GivenIn : null,
        };

    /// <summary>A fee can only be placed where the business said on which account such fees go.</summary>
    private static IReadOnlyList<Proposal> Possible(IReadOnlyList<Proposal> proposals, Core.Trade.Business business) =>
        business.FeeAccountId is null ? [.. proposals.Where(p => p.Fee == 0)] : proposals;

    /// <summary>
    /// Refunds and returned payments that were entered by hand and not seen at the bank yet, by the account that they
    /// went out of.
    /// </summary>
    private async Task<ILookup<int, GoneOut>> GoneOutAsync(CancellationToken stop)
    {
        var unseen = db
            .Bookings.AsNoTracking()
            .Where(b => b.UndoneOn == null && !db.Set<LinePlacement>().Any(p => p.JoinedBookingId == b.Id));
        var refunds = await (
            from refund in db.Refunds
            join booking in unseen on refund.BookingId equals booking.Id
            join item in db.AccountItems on booking.Id equals item.BookingId
            where refund.Iban != "" && item.Kind == AccountItemKind.Refund
            select new
            {
                refund.MoneyAccountId,
                Gone = new GoneOut(
                    booking.Id,
                    refund.CustomerId,
                    refund.Number,
                    "refund",
                    refund.Date,
                    refund.Money.Amount,
                    refund.Iban
                ),
            }
        ).ToListAsync(stop);
        var returned = await (
            from booking in unseen
            where booking.Kind == BookingKind.Returned
            join item in db.AccountItems on booking.Id equals item.BookingId
            where item.Kind == AccountItemKind.Returned
            join tie in db.Allocations on item.Id equals tie.RaisingId
            join receipt in db.Receipts on tie.Lowering.ReceiptId equals receipt.Id
            select new
            {
                receipt.MoneyAccountId,
                Gone = new GoneOut(
                    booking.Id,
                    item.CustomerId,
                    item.Number,
                    "returned payment",
                    booking.Date,
                    receipt.Money.Amount,
                    ""
                ),
            }
        ).ToListAsync(stop);
        var taxes = await (
            from booking in unseen
            join money in db.OtherMoney on booking.Id equals money.BookingId
            where money.Amount < 0 && db.Set<TaxPayment>().Any(p => p.OtherMoneyId == money.Id)
            select new
            {
                money.MoneyAccountId,
                Gone = new GoneOut(booking.Id, 0, money.Text, "payment", money.Date, money.Money.Amount, ""),
            }
        ).ToListAsync(stop);
        return refunds.Concat(returned).Concat(taxes).ToLookup(g => g.MoneyAccountId, g => g.Gone);
    }

    /// <summary>
    /// Says that money which went out is a refund, a returned payment, or what was paid of a tax return, that was
    /// entered by hand; nothing is booked again.
    /// </summary>
    public Task<int> JoinGoneAsync(int lineId, int bookingId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line = await LineAsync(lineId, stop);
                var gone =
                    (await GoneOutAsync(stop))[line.AccountId].FirstOrDefault(g => g.BookingId == bookingId)
                    ?? throw new RefusalException(
                        "",
                        "This was seen on another bank line already, was undone, or went out of another account."
                    );
                line.Place(-gone.Amount, null, null, $"the same money as {gone.What} {gone.Number}", bookingId);
                await writer.TrailAsync(
                    $"{gone.What[..1].ToUpperInvariant()}{gone.What[1..]} {gone.Number} seen at the bank on {line.Date:yyyy-MM-dd}",
                    gone.CustomerId == 0 ? null : gone.CustomerId
                );
                return lineId;
            }
        );

    private async Task PlaceFeeAsync(BankLine line, long fee, CancellationToken stop)
    {
        var account =
            (await head.BusinessAsync(stop)).FeeAccountId
            ?? throw new RefusalException(
                "",
                "Say under Setup, ways of payment and closing, on which account fees go that banks and card companies keep."
            );
        var booking = await other.PostAsync(
            new OtherMoneyToPost(
                line.Date,
                line.AccountId,
                account,
                -fee,
                null,
                $"Kept of: {Shortened(line)}"[..Math.Min(200, $"Kept of: {Shortened(line)}".Length)]
            ),
            stop
        );
        line.PlaceFee(fee, booking, "a fee kept of it");
    }

    /// <summary>Places a line in one or several parts: over customers, invoices, credit and ledger accounts.</summary>
    /// <param name="learn">Whether to remember whose money, or what for, such lines are.</param>
    /// <exception cref="RefusalException">When the parts come to more than is left of the line.</exception>
    public Task<int> PlaceAsync(int lineId, IReadOnlyList<LinePart> parts, bool learn, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line = await LineAsync(lineId, stop);
                if (parts.Count == 0)
                    throw new RefusalException("", "Say what the money is for.");
                foreach (var part in parts)
                {
                    if (part.CustomerId is { } customer)
                        await PlaceAsReceiptAsync(line, part, customer, stop);
                    else
                        await PlaceAsOtherAsync(line, part, stop);
                }

                if (learn && parts.Count == 1)
                    await learning.LearnAsync(line, parts[0].CustomerId, parts[0].LedgerAccountId, stop);
                return lineId;
            }
        );

    /// <summary>Says that a line is the money of a receipt that was entered by hand; nothing is booked again.</summary>
    public Task<int> JoinAsync(int lineId, int receiptId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line = await LineAsync(lineId, stop);
                var receipt =
                    await db.Receipts.SingleOrDefaultAsync(r => r.Id == receiptId && !r.IsUndone, stop)
                    ?? throw new RefusalException("", "This receipt is not there any more.");
                if (await db.Set<LinePlacement>().AnyAsync(p => p.ReceiptId == receiptId, stop))
                    throw new RefusalException("", $"{receipt.Number} was seen on another bank line already.");
                if (receipt.MoneyAccountId != line.AccountId)
                    throw new RefusalException("", $"{receipt.Number} came into another account.");
                line.Place(receipt.Money.Amount, null, receiptId, $"the same money as {receipt.Number}");
                await learning.LearnAsync(line, receipt.CustomerId, null, stop);
                await writer.TrailAsync(
                    $"Seen at the bank on {line.Date:yyyy-MM-dd}",
                    receipt.CustomerId,
                    null,
                    receiptId
                );
                return lineId;
            }
        );

    /// <summary>
    /// Puts back what a line was placed as: what was booked for it is undone, what was joined is parted.
    /// </summary>
    /// <exception cref="RefusalException">When something was done with it since, or its day is closed.</exception>
    public Task<int> PutBackAsync(int lineId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line = await LineAsync(lineId, stop);
                if (line.Placements.Count == 0)
                    throw new RefusalException("", "Nothing of this line is placed.");
                foreach (var placement in line.Placements.OrderByDescending(p => p.Id).ToList())
                {
                    line.TakeBack(placement);
                    await writer.SaveAsync(stop);
                    if (
                        placement.BookingId is { } booking
                        && !await db
                            .Bookings.Where(b => b.Id == booking)
                            .Select(b => b.UndoneOn != null)
                            .SingleAsync(stop)
                    )
                        await undoing.UndoAsync(booking, stop);
                }

                await learning.UnlearnAsync(line, stop);
                await writer.TrailAsync($"Bank line of {line.Date:yyyy-MM-dd} put back");
                return lineId;
            }
        );

    /// <summary>Forgets something that was learned of a payer.</summary>
    public Task<int> ForgetAsync(int ruleId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var rule =
                    await db.PayerRules.FindAsync([ruleId], stop)
                    ?? throw new RefusalException("", "This was forgotten already.");
                db.PayerRules.Remove(rule);
                await writer.TrailAsync(
                    $"No longer taken for granted whose money comes from {(rule.Account.Length > 0 ? rule.Account : rule.Name)}"
                );
                return ruleId;
            }
        );

    private async Task PlaceAsReceiptAsync(BankLine line, LinePart part, int customer, CancellationToken stop)
    {
        if (line.Amount < 0)
            throw new RefusalException(
                "",
                "Money that went out is no receipt. Place it to a ledger account, or pay a customer back from their credit."
            );
        var way =
            await db
                .PayWays.Where(w => w.MoneyAccountId == line.AccountId && !w.Retired)
                .OrderBy(w => w.Id)
                .Select(w => w.Name)
                .FirstOrDefaultAsync(stop)
            ?? "";
        var currency = await conversion.PaysInAsync(customer, part.Against, part.Currency, stop);
        // Where the bank says what was given, and what it kept, no rate of a day is needed.
        var isWhole = part.Amount == line.Amount && !currency.Equals(line.Currency);
        var given = isWhole && currency.Equals(line.GivenIn) ? line.Given : (long?)null;
        var charge = isWhole ? line.Charge : 0;
        var amount = await conversion.OfAsync(line, currency, part.Amount + charge, part.TheirAmount ?? given, stop);
        if (part.TheirAmount is null && given is null && part.Against.Count > 0)
            amount = await conversion.MeantAsync(line, currency, amount, [part.Against.Sum(a => a.Amount)], stop);
        var id = await receipts.PostAsync(
            new ReceiptToPost(customer, line.Date, line.AccountId, amount, Shortened(line), part.Against)
            {
                Way = way,
                Early = [.. part.Early.Select(e => (e, ""))],
                GiveUp = part.GiveUp,
                Credits = part.Credits,
                Currency = currency,
                Arrived = part.Amount,
                Charge = charge,
            },
            stop
        );
        var made = await db
            .Receipts.Where(r => r.Id == id)
            .Select(r => new { r.Number, r.BookingId })
            .SingleAsync(stop);
        line.Place(part.Amount, made.BookingId, null, made.Number);
    }

    private async Task PlaceAsOtherAsync(BankLine line, LinePart part, CancellationToken stop)
    {
        var booking = await other.PostAsync(
            new OtherMoneyToPost(
                line.Date,
                line.AccountId,
                part.LedgerAccountId ?? 0,
                part.Amount,
                part.TaxCodeId,
                Shortened(line)
            ),
            stop
        );
        var account = await db
            .LedgerAccounts.Where(a => a.Id == part.LedgerAccountId)
            .Select(a => a.Code + " " + a.Name)
            .SingleAsync(stop);
        line.Place(part.Amount, booking, null, account);
    }

    private static string Shortened(BankLine line)
    {
        var text = string.Join(
            ' ',
            new[] { line.Reference, line.Text, line.Text.Length == 0 ? line.Name : "" }.Where(t => t.Length > 0)
        );
        return text.Length == 0 ? "bank line"
            : text.Length > 200 ? text[..200]
            : text;
    }

    private static int? LedgerOf(List<PayerRule> rules, BankLine line)
    {
        var account = StructuredReference.Plain(line.Account);
        return rules
            .Find(r =>
                r.WentOut == line.Amount < 0
                && (
                    r.Account.Length > 0
                        ? r.Account == account
                        : r.Name.Length > 0 && r.Name.Equals(line.Name, StringComparison.OrdinalIgnoreCase)
                )
            )
            ?.LedgerAccountId;
    }

    private async Task<BankLine> LineAsync(int id, CancellationToken stop) =>
        await db.BankLines.Include(l => l.Placements).SingleOrDefaultAsync(l => l.Id == id, stop)
        ?? throw new RefusalException("", "This bank line is not there.");

    private async Task<Matcher> MatcherAsync(int accountId, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var open = await (
            from item in db.AccountItems
            where item.Open > 0 && (item.Kind == AccountItemKind.Invoice || item.Kind == AccountItemKind.DebitNote)
            join found in db.Documents on item.DocumentId equals found.Id into there
            from document in there.DefaultIfEmpty()
            select new
            {
                item.Id,
                item.CustomerId,
                item.Number,
                item.Currency,
                item.Open,
                item.Amount,
                item.Date,
                item.Due,
                Their = document == null ? "" : document.PurchaseOrder,
                Percent = document == null ? 0 : document.EarlyPercent,
                Until = document == null ? null : document.EarlyUntil,
                Payable = document == null ? 0 : document.Payable,
            }
        )
            .AsNoTracking()
            .ToListAsync(stop);
        var currency =
            await db.LedgerAccounts.Where(a => a.Id == accountId).Select(a => a.Currency).SingleOrDefaultAsync(stop)
            ?? business.HomeCurrency;
        var abroad = open.Where(i => !i.Currency.Equals(currency))
            .Select(i => new Owed(i.Id, i.CustomerId, i.Number, i.Their, i.Currency, i.Open, i.Date, i.Due))
            .ToList();
        var owed = open.Where(i => i.Currency.Equals(currency))
            .Select(i => new Owed(
                i.Id,
                i.CustomerId,
                i.Number,
                i.Their,
                i.Currency,
                i.Open,
                i.Date,
                i.Due,
                i.Percent > 0 && i.Open == i.Amount
                    ? EarlyPayment.Of(i.Payable, i.Percent, i.Until, 0, false, i.Date).Amount
                    : 0,
                i.Until
            ))
            .ToList();
        var rules = (await db.PayerRules.AsNoTracking().Where(r => r.CustomerId != null).ToListAsync(stop)).ToLookup(
            r => r.CustomerId!.Value
        );
        var customers = await db.Customers.AsNoTracking().Where(c => c.MergedIntoId == null).ToListAsync(stop);
        var payers = customers.ConvertAll(c => new Payer(
            c.Id,
            c.Name,
            c.OtherName,
            c.Currencies,
            [.. rules[c.Id].Select(r => r.Account).Where(a => a.Length > 0)],
            [.. rules[c.Id].Where(r => r.Account.Length == 0).Select(r => r.Name)]
        ));
        var byHand = await db
            .Receipts.AsNoTracking()
            .Where(r =>
                r.MoneyAccountId == accountId
                && !r.IsUndone
                && !db.Set<LinePlacement>()
                    .Any(p => p.ReceiptId == r.Id || (p.BookingId != null && p.BookingId == r.BookingId))
            )
            .Select(r => new
            {
                r.Id,
                r.CustomerId,
                r.Number,
                r.Date,
                r.Money.Currency,
                r.Money.Amount,
                r.Reference,
            })
            .ToListAsync(stop);
        var prefixes = await db.Series.Select(s => s.Pattern).ToListAsync(stop);
        return new Matcher(
            owed,
            payers,
            byHand.ConvertAll(r => new Expected(
                r.Id,
                r.CustomerId,
                r.Number,
                r.Date,
                r.Currency,
                r.Amount,
                r.Reference
            )),
            business.Format,
            prefixes.ConvertAll(p => p.Split('{')[0]),
            abroad.Count == 0
                ? null
                : new ElsewhereMatcher(abroad, await WorthAsync(business.HomeCurrency, currency, stop), business.Format)
        );
    }

    /// <summary>Tells what something owed comes to in the currency of an account, at the rates of a day.</summary>
    private async Task<Func<Owed, long, DateOnly, long?>> WorthAsync(
        Currency home,
        Currency account,
        CancellationToken stop
    )
    {
        var use = (await db.RateRules.AsNoTracking().FirstOrDefaultAsync(stop) ?? new RateRules()).For(RateUse.Money);
        var rates = (await db.ExchangeRates.AsNoTracking().ToListAsync(stop)).ToLookup(r => r.Currency);
        QuotedRate? RateOf(Currency currency, DateOnly day) =>
            currency.Equals(home)
                ? QuotedRate.One
                : rates[currency].Where(r => r.From <= day).MaxBy(r => r.From)?.Of(use);
        return (one, amount, day) =>
            RateOf(one.Currency, day) is { } theirs && RateOf(account, day) is { } own
                ? HomeAmount.Back(HomeAmount.Of(amount, one.Currency, theirs, home), home, own, account)
                : null;
    }
}
