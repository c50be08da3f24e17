using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Derives every entry of the journal anew from what it was posted for, by its posting rule, and compares: the event,
/// the day, the customer, and each side. What nothing stands behind is a difference too.
/// </summary>
internal sealed class JournalProof(BooksContext db) : IProof
{
    private const int Batch = 300;

    private readonly HashSet<int> _proved = [];
    private PostingAccounts _accounts = null!;
    private HashSet<int> _taxAccounts = [];
    private Currency _home = null!;

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        findings.Count("journal entries", await db.Journal.LongCountAsync(stop));
        if (await db.Businesses.FirstOrDefaultAsync(stop) is not { } business)
            return;
        (_home, _accounts) = (business.HomeCurrency, await db.PostingAccountsAsync(stop));
        _taxAccounts =
        [
            .. await db
                .LedgerAccounts.Where(a => a.Role == AccountRole.TaxOwed || a.Role == AccountRole.TaxNotDue)
                .Select(a => a.Id)
                .ToListAsync(stop),
        ];
        await ShapeAsync(findings, stop);
        await ReceivablesAsync(findings, stop);
        await DocumentsAsync(findings, stop);
        await ReceiptsAsync(findings, stop);
        await BookingsAsync(findings, stop);
        await ReturnsAsync(findings, stop);
        await OpeningAsync(findings, stop);
        await ExchangeAsync(findings, stop);
        await ForeignAccountsAsync(findings, stop);
        var unproved = await db
            .Journal.Where(e =>
                !e.IsMirrored
                && e.Event != JournalEvent.ExchangeDifference
                && e.Event != JournalEvent.ExchangeDifferenceTakenBack
                && e.Event != JournalEvent.TaxMoved
                && e.Event != JournalEvent.AccountEmptied
            )
            .Select(e => new { e.Id, e.Text })
            .ToListAsync(stop);
        findings.AddRange(
            unproved
                .Where(e => !_proved.Contains(e.Id))
                .Select(e => $"Journal entry {e.Id} ({e.Text}): does not follow from anything in the books")
        );
    }

    private async Task ShapeAsync(Findings findings, CancellationToken stop)
    {
        var sums = await db.Set<JournalLine>()
            .GroupBy(l => l.EntryId)
            .Select(g => new
            {
                g.Key,
                Debit = g.Sum(l => l.Debit),
                Credit = g.Sum(l => l.Credit),
            })
            .ToListAsync(stop);
        findings.AddRange(
            sums.Where(s => s.Debit != s.Credit)
                .Select(s => $"Journal entry {s.Key}: debits {s.Debit}, credits {s.Credit} (minor units)")
        );
        if (await db.Journal.LongCountAsync(stop) != sums.Count)
            findings.Add("A journal entry has no lines.");
        var wrong = await db.Set<JournalLine>()
            .Where(l =>
                l.Debit < 0
                || l.Credit < 0
                || (l.Debit != 0 && l.Credit != 0)
                || (l.Debit == 0 && l.Credit == 0 && (l.OriginalAmount == null || l.OriginalAmount == 0))
                || (l.Currency == null) != (l.OriginalAmount == null)
                || (l.Currency == null) != (l.Rate == null)
            )
            .Select(l => l.EntryId)
            .Distinct()
            .ToListAsync(stop);
        findings.AddRange(wrong.Select(e => $"Journal entry {e}: a line is not either a debit or a credit"));
        // What was taken back stays in the journal beside the entry that took it back.
        var mirrored = await (
            from entry in db.Journal
            where entry.IsMirrored
            from line in entry.Lines
            group line by new
            {
                entry.BookingId,
                entry.CustomerId,
                entry.Date,
                line.AccountId,
            } into same
            where same.Sum(l => l.Debit - l.Credit) != 0
            select same.Key
        ).ToListAsync(stop);
        findings.AddRange(
            mirrored.Select(m =>
                $"What was taken back on {m.Date:yyyy-MM-dd}{(m.BookingId is { } b ? $" (booking {b})" : "")} leaves something in the journal"
            )
        );
        findings.AddRange(
            (
                await db
                    .Journal.Where(e => e.Event == JournalEvent.Undone && !e.IsMirrored)
                    .Select(e => e.Id)
                    .ToListAsync(stop)
            ).Select(e => $"Journal entry {e}: takes something back and does not say so")
        );
    }

    private async Task ReceivablesAsync(Findings findings, CancellationToken stop)
    {
        var owed = await db.AccountItems.SumAsync(i => i.Sign * i.HomeOpen, stop);
        var journal = await db.Set<JournalLine>()
            .Where(l => l.AccountId == _accounts.Receivables)
            .SumAsync(l => l.Debit - l.Credit, stop);
        findings.Unless(
            owed == journal,
            $"Receivables in the journal are {journal}, the customers' accounts come to {owed} (minor units of the home currency)"
        );
    }

    private async Task DocumentsAsync(Findings findings, CancellationToken stop)
    {
        var last = 0;
        while (true)
        {
            var batch = await db
                .Documents.Where(d =>
                    d.Id > last
                    && d.Number != null
                    && d.State != DocumentState.Draft
                    && (
                        d.Kind == DocumentKind.Invoice
                        || d.Kind == DocumentKind.CreditNote
                        || d.Kind == DocumentKind.DebitNote
                    )
                )
                .OrderBy(d => d.Id)
                .Take(Batch)
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Taxes)
                .ToListAsync(stop);
            if (batch.Count == 0)
                return;
            var ids = batch.ConvertAll(d => d.Id);
            var entries = (
                await db
                    .Journal.Include(e => e.Lines)
                    .Where(e =>
                        e.Event == JournalEvent.Document && e.DocumentId != null && ids.Contains(e.DocumentId.Value)
                    )
                    .ToListAsync(stop)
            ).ToLookup(e => e.DocumentId);
            foreach (var document in batch)
            {
                var expected = PostingRules.ForDocument(document, _accounts, _home);
                if (expected.Lines.Count == 0)
                    continue;
                if (!entries[document.Id].Any())
                    findings.Add($"{document.Number}: has no journal entry");
                else
                    Compare(findings, document.Number!, [expected], [.. entries[document.Id]]);
            }

            last = batch[^1].Id;
        }
    }

    private async Task ReceiptsAsync(Findings findings, CancellationToken stop)
    {
        var last = 0;
        while (true)
        {
            var batch = await db
                .Receipts.Where(r => r.Id > last && !r.IsUndone)
                .OrderBy(r => r.Id)
                .Take(Batch)
                .ToListAsync(stop);
            if (batch.Count == 0)
                return;
            var ids = batch.ConvertAll(r => r.Id);
            var entries = (
                await db
                    .Journal.Include(e => e.Lines)
                    .Where(e =>
                        e.Event == JournalEvent.Receipt && e.ReceiptId != null && ids.Contains(e.ReceiptId.Value)
                    )
                    .ToListAsync(stop)
            ).ToLookup(e => e.ReceiptId);
            foreach (var receipt in batch)
                Compare(
                    findings,
                    receipt.Number,
                    [PostingRules.ForReceipt(receipt, _accounts, _home)],
                    [.. entries[receipt.Id]]
                );
            last = batch[^1].Id;
        }
    }

    /// <summary>
    /// Refunds, returned and moved payments, other money and what was taken off: each by the booking that made it.
    /// </summary>
    private async Task BookingsAsync(Findings findings, CancellationToken stop)
    {
        JournalEvent[] events =
        [
            JournalEvent.Refund,
            JournalEvent.Returned,
            JournalEvent.Transfer,
            JournalEvent.OtherMoney,
            JournalEvent.Settlement,
            JournalEvent.Conversion,
            JournalEvent.Valuation,
            JournalEvent.ValuationReversed,
        ];
        var entries = (
            await db
                .Journal.Include(e => e.Lines)
                .Where(e => !e.IsMirrored && events.Contains(e.Event))
                .ToListAsync(stop)
        ).ToLookup(e => e.BookingId ?? 0);
        var expected = new List<(int BookingId, string What, JournalEntry Entry)>();
        foreach (var refund in await db.Refunds.Where(r => r.Booking!.UndoneOn == null).ToListAsync(stop))
            expected.Add((refund.BookingId, refund.Number, PostingRules.ForRefund(refund, _accounts, _home)));
        foreach (var money in await db.OtherMoney.Where(m => m.Booking!.UndoneOn == null).ToListAsync(stop))
            expected.Add((money.BookingId, money.Text, PostingRules.ForOtherMoney(money, _accounts, _home)));
        foreach (
            var valuation in await db
                .Valuations.AsNoTracking()
                .Where(v => db.Bookings.Any(b => b.Id == v.BookingId && b.UndoneOn == null))
                .ToListAsync(stop)
        )
        {
            var what = $"Valuation on {valuation.Day:yyyy-MM-dd}";
            findings.Unless(valuation.AddsUp(_home), $"{what}: a part is not worth what its rate says");
            expected.AddRange(
                PostingRules
                    .ForValuation(valuation, _accounts.ExchangeDifferences)
                    .Select(e => (valuation.BookingId, what, e))
            );
        }

        foreach (var conversion in await db.Conversions.Where(c => c.Booking!.UndoneOn == null).ToListAsync(stop))
            expected.Add((conversion.BookingId, conversion.Text, PostingRules.ForConversion(conversion, _home)));
        var items = (
            await db
                .AccountItems.Where(i =>
                    i.BookingId != null
                    && (
                        i.Kind == AccountItemKind.Returned
                        || i.Kind == AccountItemKind.MovedOut
                        || i.Kind == AccountItemKind.SmallGain
                        || i.Kind == AccountItemKind.Recovery
                        || i.Kind == AccountItemKind.WriteOff
                        || i.Kind == AccountItemKind.EarlyPayment
                        || i.Kind == AccountItemKind.SmallDifference
                    )
                )
                .ToListAsync(stop)
        ).ToLookup(i => i.BookingId!.Value);
        var receipts = (await db.Receipts.Where(r => !r.IsUndone).ToListAsync(stop)).ToLookup(r => r.Number);
        foreach (var item in items.SelectMany(i => i))
        {
            var receipt = receipts[item.Number].FirstOrDefault();
            if (item.Kind == AccountItemKind.Returned && receipt is not null)
                expected.Add(
                    (item.BookingId!.Value, item.Number, PostingRules.ForReturn(receipt, item.Date, _accounts, _home))
                );
            if (item.Kind == AccountItemKind.MovedOut && receipt is not null)
                expected.Add(
                    (item.BookingId!.Value, item.Number, PostingRules.ForTransfer(item, _accounts, receipt.Id, _home))
                );
            if (item.Kind == AccountItemKind.SmallGain)
                expected.Add(
                    (item.BookingId!.Value, item.Number, PostingRules.ForSmallGain(item, item.Number, _accounts, _home))
                );
        }

        foreach (
            var booking in (
                await db.Settlements.Include(s => s.Taxes).Where(s => s.Booking!.UndoneOn == null).ToListAsync(stop)
            ).GroupBy(s => s.BookingId)
        )
        {
            var left = items[booking.Key].ToList();
            foreach (var settlement in booking)
            {
                // A settlement's item has its amount; of several with one amount, any one does, as all of them are
                // compared.
                if (
                    left.Find(i => i.Kind == settlement.Kind.OnAccount() && i.Amount == settlement.Amount)
                    is not { } item
                )
                    continue;
                left.Remove(item);
                expected.Add(
                    (
                        booking.Key,
                        item.Number,
                        PostingRules.ForSettlement(settlement, item.HomeAmount, item.Number, _accounts, _home)
                    )
                );
            }
        }

        foreach (var booking in expected.GroupBy(e => e.BookingId))
            Compare(findings, booking.First().What, [.. booking.Select(e => e.Entry)], [.. entries[booking.Key]]);
    }

    /// <summary>What filing a return posted: what was typed in, and rounding.</summary>
    private async Task ReturnsAsync(Findings findings, CancellationToken stop)
    {
        var entries = (
            await db.Journal.Include(e => e.Lines).Where(e => e.ReturnId != null && !e.IsMirrored).ToListAsync(stop)
        ).ToLookup(e => e.ReturnId!.Value);
        var owedOf = await db.TaxAuthorities.ToDictionaryAsync(a => a.Id, a => a.OwedAccountId, stop);
        var charges = (await db.TaxCharges.AsNoTracking().Where(c => c.UndoneOn == null).ToListAsync(stop)).ToLookup(
            c => c.ReturnId
        );
        foreach (var filed in await db.TaxReturns.AsNoTracking().ToListAsync(stop))
        {
            var owed = Core.Returns.ReturnOwed.Of(filed.BoxSet, filed.Boxes, filed.Typed, filed.Tax);
            var should = PostingRules.ForFiling(
                filed.Title,
                filed.FiledOn,
                owedOf[filed.AuthorityId] ?? 0,
                owed.Typed.Select(t => (t.Box.AccountId, t.Adds)),
                owed.Rounding,
                _accounts
            );
            Compare(
                findings,
                $"{filed.Title} to {filed.Authority} for {filed.From:yyyy-MM-dd}",
                [
                    .. should is null ? (JournalEntry[])[] : [should],
                    .. charges[filed.Id].Select(c => PostingRules.ForCharge(c, owedOf[filed.AuthorityId] ?? 0)),
                ],
                [.. entries[filed.Id]]
            );
        }
    }

    private async Task OpeningAsync(Findings findings, CancellationToken stop)
    {
        var opening = await db
            .LedgerAccounts.Where(a => a.Role == AccountRole.OpeningBalances)
            .OrderBy(a => a.Id)
            .Select(a => a.Id)
            .FirstOrDefaultAsync(stop);
        var entries = (
            await db
                .Journal.Include(e => e.Lines)
                .Where(e => e.Event == JournalEvent.OpeningItem && !e.IsMirrored)
                .ToListAsync(stop)
        ).ToLookup(e => e.ItemId);
        var taxes = (
            await db
                .TaxFigures.Where(f => f.DocumentId == null && f.BookingId == null && f.ItemId != null)
                .Select(f => new { f.ItemId, f.Tax })
                .ToListAsync(stop)
        ).ToLookup(f => f.ItemId!.Value, f => f.Tax);
        foreach (
            var item in await db
                .AccountItems.Where(i => i.DocumentId == null && i.ReceiptId == null && i.BookingId == null)
                .ToListAsync(stop)
        )
            Compare(
                findings,
                item.Number,
                [
                    PostingRules.ForOpeningItem(
                        item,
                        _accounts.Receivables,
                        opening,
                        _home,
                        _accounts.TaxOwed,
                        taxes[item.Id].Sum()
                    ),
                ],
                [.. entries[item.Id]]
            );
        // A balance that was taken over has no source but itself: it stands against opening balances, and once for its
        // account.
        var balances = await db
            .Journal.Include(e => e.Lines)
            .Where(e => e.Event == JournalEvent.OpeningBalance && !e.IsMirrored)
            .ToListAsync(stop);
        foreach (var balance in balances)
        {
            findings.Unless(
                balance.Lines.Count == 2
                    && balance.Lines.Count(l => l.AccountId == opening) == 1
                    && balance is { CustomerId: 0, DocumentId: null, ReceiptId: null, BookingId: null },
                $"Journal entry {balance.Id} ({balance.Text}): is no balance against opening balances"
            );
            _proved.Add(balance.Id);
        }

        var twice = balances
            .SelectMany(b => b.Lines)
            .Where(l => l.AccountId != opening)
            .GroupBy(l => l.AccountId)
            .Where(g => g.Count() > 1)
            .Select(g => g.Key)
            .ToList();
        findings.AddRange(
            twice.Select(a =>
                $"Ledger account {a}: has an opening balance {balances.Count(b => b.Lines.Any(l => l.AccountId == a))} times"
            )
        );
    }

    /// <summary>
    /// Accounts in another currency: whatever moved on them has its amount in it, one that came to nothing stands for
    /// nothing at home, and what customers owe in a currency is what receivables say of it.
    /// </summary>
    private async Task ForeignAccountsAsync(Findings findings, CancellationToken stop)
    {
        var money = await db.LedgerAccounts.AsNoTracking().Where(a => a.Role == AccountRole.Money).ToListAsync(stop);
        var of = money.ToDictionary(a => a.Id, a => a.Currency);
        var ids = of.Keys.ToList();
        var lines = await (
            from entry in db.Journal
            from line in entry.Lines
            where ids.Contains(line.AccountId)
            where entry.Event != JournalEvent.AccountEmptied
            select new
            {
                entry.Id,
                line.AccountId,
                line.Currency,
            }
        )
            .Distinct()
            .ToListAsync(stop);
        findings.AddRange(
            lines
                .Where(l => !Equals(l.Currency, of[l.AccountId]))
                .Select(l =>
                    $"Journal entry {l.Id}: moves {l.Currency?.Code ?? "home currency"} on an account in {of[l.AccountId]?.Code ?? "home currency"}"
                )
        );
        foreach (var account in money.Where(a => a.Currency is not null))
        foreach (var (day, should, taken) in await new EmptiedAccounts(db).OfAsync(account.Id, stop))
            if (should != taken)
                findings.Add(
                    $"{account.Code} {account.Name}: at its end {day:yyyy-MM-dd} leaves {should} at home, and {taken} is posted as an exchange difference (minor units)"
                );
        var wrong = await (
            from entry in db.Journal
            where
                entry.Event == JournalEvent.AccountEmptied
                && (
                    entry.Lines.Count != 2
                    || !entry.Lines.Any(l => l.AccountId == _accounts.ExchangeDifferences)
                    || entry.Lines.Any(l => l.Currency != null)
                    || entry.CustomerId != 0
                    || entry.BookingId != null
                )
            select entry.Id
        ).ToListAsync(stop);
        findings.AddRange(wrong.Select(e => $"Journal entry {e}: is no rest of an account that came to nothing"));
        var owed = (
            await db
                .AccountItems.Where(i => i.Currency != _home)
                .GroupBy(i => i.Currency)
                .Select(g => new { g.Key, Sum = g.Sum(i => i.Sign * i.Amount) })
                .ToListAsync(stop)
        ).ToDictionary(g => g.Key.Code, g => g.Sum);
        var posted = (
            await db.Set<JournalLine>()
                .Where(l => l.AccountId == _accounts.Receivables && l.Currency != null)
                .GroupBy(l => l.Currency)
                .Select(g => new { g.Key, Sum = g.Sum(l => l.OriginalAmount ?? 0) })
                .ToListAsync(stop)
        ).ToDictionary(g => g.Key!.Code, g => g.Sum);
        foreach (var code in owed.Keys.Union(posted.Keys).Order(StringComparer.Ordinal))
            findings.Unless(
                owed.GetValueOrDefault(code) == posted.GetValueOrDefault(code),
                $"Receivables in {code} in the journal are {posted.GetValueOrDefault(code)}, the customers' accounts come to {owed.GetValueOrDefault(code)} (minor units)"
            );
    }

    /// <summary>
    /// What exchange differences come to is what the allocations that count bring, for each customer.
    /// </summary>
    private async Task ExchangeAsync(Findings findings, CancellationToken stop)
    {
        var posted = await (
            from entry in db.Journal
            where
                entry.Event == JournalEvent.ExchangeDifference
                || entry.Event == JournalEvent.ExchangeDifferenceTakenBack
                || (entry.Event == JournalEvent.Undone && entry.IsMirrored)
            from line in entry.Lines
            where line.AccountId == _accounts.ExchangeDifferences
            group line by entry.CustomerId into same
            select new { same.Key, Gain = same.Sum(l => l.Credit - l.Debit) }
        ).ToDictionaryAsync(g => g.Key, g => g.Gain, stop);
        var brought = await (
            from allocation in db.Allocations
            group allocation by allocation.Raising.CustomerId into same
            select new { same.Key, Gain = same.Sum(a => a.HomeLowering - a.HomeRaising) }
        ).ToDictionaryAsync(g => g.Key, g => g.Gain, stop);
        foreach (var customer in posted.Keys.Union(brought.Keys).Order())
            if (posted.GetValueOrDefault(customer) != brought.GetValueOrDefault(customer))
                findings.Add(
                    $"Customer {customer}: exchange differences of {posted.GetValueOrDefault(customer)} are posted, the allocations bring {brought.GetValueOrDefault(customer)} (minor units of the home currency)"
                );
        var mixed = await (
            from entry in db.Journal
            where
                entry.Event == JournalEvent.ExchangeDifference
                || entry.Event == JournalEvent.ExchangeDifferenceTakenBack
            where
                entry.Lines.Count != 2
                || !entry.Lines.Any(l => l.AccountId == _accounts.ExchangeDifferences)
                || !entry.Lines.Any(l => l.AccountId == _accounts.Receivables)
            select entry.Id
        ).ToListAsync(stop);
        findings.AddRange(
            mixed.Select(e => $"Journal entry {e}: is no exchange difference between receivables and its account")
        );
    }

    /// <summary>Compares as many entries as there should be, whatever their order.</summary>
    private void Compare(
        Findings findings,
        string what,
        IReadOnlyList<JournalEntry> expected,
        IReadOnlyList<JournalEntry> entries
    )
    {
        var left = entries.Where(e => !e.IsMirrored).ToList();
        foreach (var should in expected.Where(e => e.Lines.Count > 0))
        {
            var same = left.Find(e => Told(e) == Told(should));
            if (same is null)
                findings.Add($"{what}: its journal entry does not follow from it by the rule for {should.Event}");
            else
            {
                left.Remove(same);
                _proved.Add(same.Id);
                findings.Unless(
                    should.DocumentId is null || should.DocumentId == same.DocumentId,
                    $"{what}: its journal entry {same.Id} names another document"
                );
            }
        }
    }

    /// <summary>Accounts of tax count as one here; which of them it is, is proved with its figures.</summary>
    private string Told(JournalEntry entry)
    {
        var lines = entry
            .Lines.Select(l => (Account: _taxAccounts.Contains(l.AccountId) ? _accounts.TaxOwed : l.AccountId, Line: l))
            .GroupBy(l => l.Account)
            .SelectMany(g =>
                g.Key == _accounts.TaxOwed
                    ?
                    [
                        (
                            Account: g.Key,
                            Debit: g.Sum(l => l.Line.Debit - l.Line.Credit),
                            Credit: 0L,
                            Original: g.Sum(l => l.Line.OriginalAmount ?? 0),
                            Of: g.Select(l => l.Line.Original).OfType<Original>().FirstOrDefault()
                        ),
                    ]
                    : g.Select(l =>
                        (
                            Account: g.Key,
                            l.Line.Debit,
                            l.Line.Credit,
                            Original: l.Line.OriginalAmount ?? 0,
                            Of: l.Line.Original
                        )
                    )
            )
            .OrderBy(l => l.Account)
            .ThenBy(l => l.Debit)
            .ThenBy(l => l.Original);
        return string.Create(
            System.Globalization.CultureInfo.InvariantCulture,
            $"{entry.Event} {entry.Date:O} {entry.CustomerId} {string.Join(',', lines.Select(l => $"{l.Account}:{l.Debit}:{l.Credit}:{l.Original}:{l.Of?.Currency}:{l.Of?.Rate}"))}"
        );
    }
}
