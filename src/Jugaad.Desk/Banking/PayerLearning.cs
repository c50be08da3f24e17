using Jugaad.Core.Banking;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>
/// Learns from placed lines whose money comes from where, and forgets it again with the last line that spoke for it.
/// </summary>
public sealed class PayerLearning(BooksContext db, BooksHead head)
{
    /// <summary>Remembers whose money, or what for, lines of this payer are.</summary>
    internal async Task LearnAsync(BankLine line, int? customerId, int? ledgerAccountId, CancellationToken stop)
    {
        var account = StructuredReference.Plain(line.Account);
        if (account.Length == 0 && line.Name.Length == 0)
            return;
        var known = await RulesAsync(account, line.Name, stop);
        if (
            known.Exists(r =>
                r.CustomerId == customerId && r.LedgerAccountId == ledgerAccountId && r.WentOut == line.Amount < 0
            )
        )
            return;
        // An account that pays for several customers is no sign of any one of them by itself, and both stay known.
        db.PayerRules.Add(
            new PayerRule(account, line.Name, customerId, ledgerAccountId, await head.TodayAsync(stop), line.Amount < 0)
        );
    }

    /// <summary>
    /// Forgets what a line taught that is not placed any more, unless another line still says the same. What is placed
    /// now must be saved.
    /// </summary>
    internal async Task UnlearnAsync(BankLine line, CancellationToken stop)
    {
        var account = StructuredReference.Plain(line.Account);
        var rules = (await RulesAsync(account, line.Name, stop)).Where(r => r.WentOut == line.Amount < 0).ToList();
        if (rules.Count == 0)
            return;
        var out_ = line.Amount < 0;
        var alike = await db
            .BankLines.Where(l =>
                l.Placements.Any()
                && l.Amount < 0 == out_
                && (account.Length > 0 ? l.Account != "" : l.Account == "" && l.Name == line.Name)
            )
            .Select(l => new { l.Id, l.Account })
            .ToListAsync(stop);
        var ids = alike.Where(l => StructuredReference.Plain(l.Account) == account).Select(l => l.Id).ToList();
        var customers = await (
            from placement in db.Set<LinePlacement>()
            where ids.Contains(placement.LineId)
            join booking in db.Bookings on placement.BookingId equals booking.Id into booked
            from booking in booked.DefaultIfEmpty()
            join receipt in db.Receipts on placement.ReceiptId equals receipt.Id into joined
            from receipt in joined.DefaultIfEmpty()
            select booking != null ? booking.CustomerId
            : receipt != null ? receipt.CustomerId
            : null
        )
            .Distinct()
            .ToListAsync(stop);
        var ledgers = await (
            from placement in db.Set<LinePlacement>()
            where ids.Contains(placement.LineId)
            join money in db.OtherMoney on placement.BookingId equals money.BookingId
            select money.LedgerAccountId
        )
            .Distinct()
            .ToListAsync(stop);
        db.PayerRules.RemoveRange(
            rules.Where(r =>
                r.CustomerId is { } customer
                    ? !customers.Contains(customer)
                    : r.LedgerAccountId is not { } ledger || !ledgers.Contains(ledger)
            )
        );
    }

    private Task<List<PayerRule>> RulesAsync(string account, string name, CancellationToken stop) =>
        db
            .PayerRules.Where(r => account.Length > 0 ? r.Account == account : r.Account == "" && r.Name == name)
            .ToListAsync(stop);
}
