using Jugaad.Core.Accounts;
using Jugaad.Core.Banking;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// What of each bank line is placed follows from its placements, and each of these is what was booked for it.
/// </summary>
internal sealed class BankProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var wrong = await db
            .BankLines.Where(l => l.Placed != l.Placements.Sum(p => p.Amount))
            .Select(l => new { l.Date, l.Name })
            .ToListAsync(stop);
        findings.AddRange(
            wrong.Select(l =>
                $"Bank line of {l.Date:yyyy-MM-dd}, {l.Name}: what is kept as placed does not follow from its placements"
            )
        );
        var over = await db
            .BankLines.Where(l =>
                (l.Amount > 0 && (l.Placed < 0 || l.Placed > l.Amount))
                || (l.Amount < 0 && (l.Placed > 0 || l.Placed < l.Amount))
                || l.Amount == 0
            )
            .Select(l => new { l.Date, l.Name })
            .ToListAsync(stop);
        findings.AddRange(
            over.Select(l => $"Bank line of {l.Date:yyyy-MM-dd}, {l.Name}: more of it is placed than there is")
        );
        var strange = await (
            from line in db.BankLines
            join statement in db.BankStatements on line.StatementId equals statement.Id
            where line.AccountId != statement.AccountId || line.Currency != statement.Currency
            select line.Id
        ).ToListAsync(stop);
        findings.AddRange(strange.Select(l => $"Bank line {l}: is of another account than its statement"));
        var outside = await (
            from line in db.BankLines
            join statement in db.BankStatements on line.StatementId equals statement.Id
            where line.Date < statement.From || line.Date > statement.Until
            select new
            {
                line.Id,
                statement.From,
                statement.Until,
                line.Date,
            }
        ).ToListAsync(stop);
        // A bank may date the statement by its balances; a line lies near its days all the same.
        findings.AddRange(
            outside
                .Where(l => l.Date.DayNumber < l.From.DayNumber - 7 || l.Date.DayNumber > l.Until.DayNumber + 7)
                .Select(l =>
                    $"Bank line {l.Id}: is of {l.Date:yyyy-MM-dd}, and its statement of {l.From:yyyy-MM-dd} to {l.Until:yyyy-MM-dd}"
                )
        );
        findings.AddRange(
            (await db.BankStatements.Where(s => s.Until < s.From).Select(s => s.Id).ToListAsync(stop)).Select(s =>
                $"Bank statement {s}: ends before it begins"
            )
        );
        await BalancesAsync(findings, stop);
        await PlacementsAsync(findings, stop);
        findings.Count("bank lines", await db.BankLines.LongCountAsync(stop));
    }

    /// <summary>
    /// A statement whose lines are all its own says with its balances what they come to; what did not add up when it
    /// came was said then.
    /// </summary>
    private async Task BalancesAsync(Findings findings, CancellationToken stop)
    {
        var statements = await db
            .BankStatements.Where(s => s.Opening != null && s.Closing != null && s.Remarks == "")
            .Select(s => new
            {
                s.Id,
                s.Number,
                s.From,
                Opening = s.Opening!.Value,
                Closing = s.Closing!.Value,
                Sum = s.Lines.Sum(l => l.Amount),
                First = s.Lines.Min(l => (int?)l.Position),
                Last = s.Lines.Max(l => (int?)l.Position),
                Lines = s.Lines.Count,
            })
            .ToListAsync(stop);
        foreach (
            var statement in statements.Where(s =>
                s.Lines == 0
                    ? s.Opening != s.Closing
                    : s.First == 0 && s.Last == s.Lines - 1 && s.Opening + s.Sum != s.Closing
            )
        )
            findings.Add(
                $"Bank statement {statement.Number} from {statement.From:yyyy-MM-dd}: its lines do not come to its balances"
            );
    }

    private async Task PlacementsAsync(Findings findings, CancellationToken stop)
    {
        var placements = await (
            from placement in db.Set<LinePlacement>()
            join line in db.BankLines on placement.LineId equals line.Id
            select new
            {
                placement.Id,
                placement.LineId,
                placement.Amount,
                placement.BookingId,
                placement.ReceiptId,
                placement.JoinedBookingId,
                line.AccountId,
                line.Date,
                line.Name,
            }
        ).ToListAsync(stop);
        var bookings = await db.Bookings.ToDictionaryAsync(b => b.Id, stop);
        var items = (
            await db
                .AccountItems.Where(i =>
                    i.Kind == AccountItemKind.Receipt
                    || i.Kind == AccountItemKind.Refund
                    || i.Kind == AccountItemKind.Returned
                )
                .Select(i => new
                {
                    i.Kind,
                    i.BookingId,
                    i.ReceiptId,
                    i.HomeAmount,
                    i.Number,
                })
                .ToListAsync(stop)
        ).ToList();
        var byReceipt = items.Where(i => i.ReceiptId != null).ToLookup(i => i.ReceiptId!.Value);
        var money = await db.OtherMoney.ToDictionaryAsync(m => m.BookingId, stop);
        var conversions = await db.Conversions.AsNoTracking().ToDictionaryAsync(c => c.BookingId, stop);
        var receipts = await db.Receipts.AsNoTracking().ToDictionaryAsync(r => r.Id, stop);
        var returned = items
            .Where(i => i.Kind == AccountItemKind.Returned && i.BookingId != null)
            .Join(receipts.Values, i => i.Number, r => r.Number, (i, r) => (Booking: i.BookingId!.Value, Receipt: r))
            .ToLookup(r => r.Booking, r => r.Receipt);
        var receiptOf = (await db.Receipts.Where(r => r.BookingId != null).ToListAsync(stop)).ToLookup(r =>
            r.BookingId!.Value
        );
        var refundOf = (await db.Refunds.ToListAsync(stop)).ToLookup(r => r.BookingId);
        foreach (var placement in placements)
        {
            var what = $"Bank line of {placement.Date:yyyy-MM-dd}, {placement.Name}";
            var pointers = new[] { placement.BookingId, placement.ReceiptId, placement.JoinedBookingId }.Count(p =>
                p is not null
            );
            if (pointers != 1)
            {
                findings.Add($"{what}: a part of it is placed as {(pointers == 0 ? "nothing" : "two things at once")}");
                continue;
            }

            long? booked = null;
            if (placement.ReceiptId is { } receipt)
                booked =
                    byReceipt[receipt].Any() && receipts[receipt].MoneyAccountId == placement.AccountId
                        ? receipts[receipt].Money.Amount
                        : null;
            else if (
                (placement.BookingId ?? placement.JoinedBookingId) is { } id
                && bookings.TryGetValue(id, out var booking)
                && !booking.IsUndone
            )
            {
                booked = booking.Kind switch
                {
                    BookingKind.Receipt => receiptOf[id]
                        .FirstOrDefault(r => r.MoneyAccountId == placement.AccountId)
                        ?.Money.Amount,
                    BookingKind.Refund => -refundOf[id]
                        .FirstOrDefault(r => r.MoneyAccountId == placement.AccountId)
                        ?.Money.Amount,
                    BookingKind.Returned => -returned[id].FirstOrDefault()?.Money.Amount,
                    BookingKind.OtherMoney => !money.TryGetValue(id, out var other) ? null
                    : other.MoneyAccountId == placement.AccountId ? Math.Sign(other.Amount) * other.Money.Amount
                    : other.LedgerAccountId == placement.AccountId ? -other.Amount
                    : null,
                    BookingKind.Conversion => !conversions.TryGetValue(id, out var conversion) ? null
                    : conversion.FromAccountId == placement.AccountId ? -conversion.Given
                    : conversion.ToAccountId == placement.AccountId ? conversion.Got
                    : null,
                    _ => null,
                };
            }

            // Money counts from its day on, or from the first open one after it; what was entered by hand may lie a
            // little before or after.
            if (placement.BookingId is { } own && bookings.TryGetValue(own, out var made))
                findings.Unless(
                    made.Date >= placement.Date,
                    $"{what}: was booked on {made.Date:yyyy-MM-dd}, before it came"
                );
            findings.Unless(booked == placement.Amount, $"{what}: a part of it is placed as what was not booked so");
        }

        foreach (
            var twice in placements
                .Where(p => p.ReceiptId is not null)
                .GroupBy(p => p.ReceiptId!.Value)
                .Where(g => g.Count() > 1)
        )
            findings.Add($"Receipt {twice.Key}: was seen on {twice.Count()} bank lines");
        foreach (
            var twice in placements
                .GroupBy(p => (p.BookingId ?? p.JoinedBookingId, p.AccountId))
                .Where(g => g.Key.Item1 is not null && g.Count() > 1)
        )
            findings.Add($"Booking {twice.Key.Item1}: was seen on {twice.Count()} bank lines of one account");
    }
}
