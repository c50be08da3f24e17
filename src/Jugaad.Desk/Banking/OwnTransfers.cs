using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Journal;
using Jugaad.Core.Matching;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>Money that went from one of our accounts to another, as one of the two sees it.</summary>
/// <param name="Amount">Minor units of the home currency; above zero where this account got it.</param>
public sealed record OwnTransfer(int BookingId, DateOnly Date, long Amount, string Words);

/// <summary>A transfer as it was typed.</summary>
/// <param name="Amount">Minor units of the home currency, above zero.</param>
public sealed record TransferToMake(
    int FromAccountId,
    int ToAccountId,
    long Amount,
    DateOnly Date,
    string Text,
    string? FormKey = null
);

/// <summary>
/// Transfers between our own accounts: takings brought to the bank, a card company paying out. Each is booked once,
/// from whichever side it is seen first; the other side's bank line is then the same money.
/// </summary>
public sealed class OwnTransfers(BooksContext db, BookWriter writer, BooksHead head, OtherMoneyDesk other)
{
    private const int MostDays = 10;

    /// <returns>The booking's id.</returns>
    /// <exception cref="RefusalException">With what is wrong, each by its field.</exception>
    public Task<int> MakeAsync(TransferToMake typed, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Money,
            new Once(typed.FormKey, stop),
            async () =>
            {
                var refusals = new Refusals();
                await db.CheckAsync(refusals, typed.FromAccountId, "from", stop);
                await db.CheckAsync(refusals, typed.ToAccountId, "to", stop);
                if (typed.FromAccountId == typed.ToAccountId)
                    refusals.Add("to", "Choose two different accounts.");
                if (typed.Amount <= 0)
                    refusals.Add("amount", "Give the amount, above zero.");
                refusals.ThrowIfAny();
                var names = await db.LedgerAccounts.ToDictionaryAsync(a => a.Id, a => a.Name, stop);
                var text =
                    typed.Text.Trim().Length > 0
                        ? typed.Text
                        : $"From {names[typed.FromAccountId]} to {names[typed.ToAccountId]}";
                return await other.PostAsync(
                    new OtherMoneyToPost(typed.Date, typed.ToAccountId, typed.FromAccountId, typed.Amount, null, text),
                    stop
                );
            }
        );

    /// <summary>
    /// Transfers that one of our accounts took part in and that no bank line of it was seen for yet, newest first.
    /// </summary>
    public async Task<IReadOnlyList<OwnTransfer>> UnseenAsync(int accountId, CancellationToken stop = default)
    {
        var found = await (
            from money in db.OtherMoney.AsNoTracking()
            join ledger in db.LedgerAccounts on money.LedgerAccountId equals ledger.Id
            where
                ledger.Role == AccountRole.Money
                && (money.MoneyAccountId == accountId || money.LedgerAccountId == accountId)
                && money.Booking!.UndoneOn == null
                && !db.BankLines.Any(l =>
                    l.AccountId == accountId
                    && l.Placements.Any(p => p.BookingId == money.BookingId || p.JoinedBookingId == money.BookingId)
                )
            orderby money.Date descending, money.Id descending
            select new
            {
                money.BookingId,
                money.Date,
                money.MoneyAccountId,
                money.Amount,
                money.Text,
            }
        )
            .Take(200)
            .ToListAsync(stop);
        return found.ConvertAll(m => new OwnTransfer(
            m.BookingId,
            m.Date,
            m.MoneyAccountId == accountId ? m.Amount : -m.Amount,
            m.Text
        ));
    }

    /// <summary>Transfers that a bank line may be the other side of.</summary>
    internal async Task<IReadOnlyList<Proposal>> ProposeAsync(
        BankLine line,
        DisplayFormat format,
        CancellationToken stop
    ) =>
        [
            .. (await UnseenAsync(line.AccountId, stop))
                .Where(t => t.Amount == line.Left && Math.Abs(t.Date.DayNumber - line.Date.DayNumber) <= MostDays)
                .OrderBy(t => Math.Abs(t.Date.DayNumber - line.Date.DayNumber))
                .Take(2)
                .Select(t => new Proposal(
                    Certainty.Likely,
                    0,
                    [],
                    0,
                    null,
                    $"“{t.Words}” of {format.Date(t.Date)}, between our own accounts, is the same amount: the same money"
                )
                {
                    JoinsBookingId = t.BookingId,
                    IsTransfer = true,
                }),
        ];

    /// <summary>Says that a bank line is the other side of a transfer; nothing is booked again.</summary>
    public Task<int> JoinAsync(int lineId, int bookingId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line = await LineAsync(lineId, stop);
                var transfer =
                    (await UnseenAsync(line.AccountId, stop)).FirstOrDefault(t => t.BookingId == bookingId)
                    ?? throw new RefusalException("", "This transfer was seen on another line already, or was undone.");
                line.Place(transfer.Amount, null, null, $"the same money: {transfer.Words}", bookingId);
                await writer.TrailAsync($"Transfer seen at the bank on {line.Date:yyyy-MM-dd}: {transfer.Words}");
                return lineId;
            }
        );

    /// <summary>Books a part of a bank line as a transfer from, or to, another of our accounts.</summary>
    /// <param name="amount">Minor units, of the line's sign.</param>
    public Task<int> PlaceAsync(int lineId, int otherAccountId, long amount, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line = await LineAsync(lineId, stop);
                var refusals = new Refusals();
                await db.CheckAsync(refusals, otherAccountId, "otherAccount", stop);
                if (otherAccountId == line.AccountId)
                    refusals.Add("otherAccount", "This is the account of the line itself. Choose the other one.");
                refusals.ThrowIfAny();
                if (!line.Currency.Equals((await head.BusinessAsync(stop)).HomeCurrency))
                    throw new RefusalException(
                        "otherAccount",
                        $"The line is in {line.Currency}, and the books are not."
                    );
                var name = await db
                    .LedgerAccounts.Where(a => a.Id == otherAccountId)
                    .Select(a => a.Name)
                    .SingleAsync(stop);
                var words = amount > 0 ? $"From {name}" : $"To {name}";
                var booking = await other.PostAsync(
                    new OtherMoneyToPost(line.Date, line.AccountId, otherAccountId, amount, null, words),
                    stop
                );
                line.Place(amount, booking, null, words);
                return lineId;
            }
        );

    private async Task<BankLine> LineAsync(int id, CancellationToken stop) =>
        await db.BankLines.Include(l => l.Placements).SingleOrDefaultAsync(l => l.Id == id, stop)
        ?? throw new RefusalException("", "This bank line is not there.");
}
