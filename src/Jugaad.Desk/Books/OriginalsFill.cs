using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// Notes on the entries of books that were kept before lines had their own currency what each line is in it, by the
/// rules that posted them.
/// </summary>
internal sealed class OriginalsFill(BooksContext db, Currency home, PostingAccounts accounts)
{
    private HashSet<int> _taxes = [];

    internal static async Task RunAsync(BooksContext db, CancellationToken stop)
    {
        if (
            await db.Businesses.FirstOrDefaultAsync(stop) is not { HomeCurrency: var home }
            || !await db.AccountItems.AnyAsync(i => i.Currency != home, stop)
            || await db.Set<JournalLine>().AnyAsync(l => l.Currency != null, stop)
        )
            return;
        var byRole = (await db.LedgerAccounts.AsNoTracking().ToListAsync(stop)).ToLookup(a => a.Role, a => a.Id);
        var accounts = new PostingAccounts(
            byRole[AccountRole.Receivables].FirstOrDefault(),
            byRole[AccountRole.TaxOwed].FirstOrDefault(),
            byRole[AccountRole.ExchangeDifferences].FirstOrDefault(),
            byRole[AccountRole.RoundingDifferences].FirstOrDefault(),
            byRole[AccountRole.DiscountsGiven].FirstOrDefault(),
            byRole[AccountRole.BadDebts].FirstOrDefault()
        );
        await new OriginalsFill(db, home, accounts)
        {
            _taxes = [.. byRole[AccountRole.TaxOwed], .. byRole[AccountRole.TaxNotDue]],
        }.FillAsync(stop);
        await db.SaveChangesAsync(stop);
        db.ChangeTracker.Clear();
    }

    private async Task FillAsync(CancellationToken stop)
    {
        var documents = await db
            .Documents.AsNoTracking()
            .AsSplitQuery()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Include(d => d.Taxes)
            .Where(d => d.Currency != home && d.Number != null)
            .ToDictionaryAsync(d => d.Id, stop);
        var receipts = await db.Receipts.AsNoTracking().Where(r => r.Currency != home).ToListAsync(stop);
        var (byId, byNumber) = (receipts.ToDictionary(r => r.Id), receipts.ToDictionary(r => r.Number));
        var refunds = (await db.Refunds.AsNoTracking().Where(r => r.Currency != home).ToListAsync(stop)).ToLookup(r =>
            r.BookingId
        );
        var settlements = (
            await db.Settlements.AsNoTracking().Include(s => s.Taxes).Where(s => s.Currency != home).ToListAsync(stop)
        ).ToLookup(s => s.BookingId);
        var items = await db.AccountItems.AsNoTracking().Where(i => i.Currency != home).ToListAsync(stop);
        var ofBooking = items.Where(i => i.BookingId is not null).ToLookup(i => i.BookingId!.Value);
        var ofEntry = items.ToDictionary(i => i.Id);
        var opening = await db
            .LedgerAccounts.Where(a => a.Role == AccountRole.OpeningBalances)
            .Select(a => a.Id)
            .FirstOrDefaultAsync(stop);
        var entries = await db.Journal.Include(e => e.Lines).OrderBy(e => e.Id).ToListAsync(stop);
        foreach (var entry in entries)
        {
            var (booking, receipt) = (entry.BookingId ?? 0, byId.GetValueOrDefault(entry.ReceiptId ?? 0));
            IEnumerable<JournalEntry> rules = entry.Event switch
            {
                JournalEvent.Document when documents.TryGetValue(entry.DocumentId ?? 0, out var document) =>
                [
                    PostingRules.ForDocument(document, accounts, home),
                ],
                JournalEvent.Receipt when receipt is not null => [PostingRules.ForReceipt(receipt, accounts, home)],
                JournalEvent.Returned when receipt is not null =>
                [
                    PostingRules.ForReturn(receipt, entry.Date, accounts, home),
                ],
                JournalEvent.Refund => refunds[booking].Select(r => PostingRules.ForRefund(r, accounts, home)),
                JournalEvent.Transfer => ofBooking[booking]
                    .Where(i => i.Kind == AccountItemKind.MovedOut && byNumber.ContainsKey(i.Number))
                    .Select(i => PostingRules.ForTransfer(i, accounts, byNumber[i.Number].Id, home)),
                JournalEvent.Settlement => settlements[booking]
                    .SelectMany(s =>
                        ofBooking[booking]
                            .Where(i => i.Kind == s.Kind.OnAccount() && i.Amount == s.Amount)
                            .Select(i => PostingRules.ForSettlement(s, i.HomeAmount, i.Number, accounts, home))
                    )
                    .Concat(
                        ofBooking[booking]
                            .Where(i => i.Kind == AccountItemKind.SmallGain)
                            .Select(i => PostingRules.ForSmallGain(i, i.Number, accounts, home))
                    ),
                JournalEvent.OpeningItem when ofEntry.TryGetValue(entry.ItemId ?? 0, out var item) =>
                [
                    PostingRules.ForOpeningItem(
                        item,
                        accounts.Receivables,
                        opening,
                        home,
                        accounts.TaxOwed,
                        entry.Lines.Where(l => _taxes.Contains(l.AccountId)).Sum(l => l.Credit - l.Debit)
                    ),
                ],
                _ => [],
            };
            if (rules.FirstOrDefault(r => Same(r, entry)) is { } rule)
                Copy(rule, entry);
        }

        foreach (var mirror in entries.Where(e => e.Event == JournalEvent.Undone))
            if (
                entries.Find(e =>
                    e.IsMirrored && e.BookingId == mirror.BookingId && $"{e.Text}, undone" == mirror.Text
                ) is
                { } of
            )
                foreach (var (line, back) in of.Lines.Zip(mirror.Lines))
                    if (line.AccountId == back.AccountId && line.Debit == back.Credit)
                        back.Keep(line.Original?.Negated);
    }

    private bool Same(JournalEntry rule, JournalEntry entry) => Told(rule) == Told(entry);

    private string Told(JournalEntry entry) =>
        string.Join(
            ',',
            entry
                .Lines.GroupBy(l => _taxes.Contains(l.AccountId) ? accounts.TaxOwed : l.AccountId)
                .Select(g => $"{g.Key}:{g.Sum(l => l.Debit - l.Credit)}")
                .Order(StringComparer.Ordinal)
        );

    private void Copy(JournalEntry rule, JournalEntry entry)
    {
        var left = entry.Lines.ToList();
        foreach (var should in rule.Lines.Where(l => !_taxes.Contains(l.AccountId)))
            if (
                left.Find(l =>
                    l.AccountId == should.AccountId && l.Debit == should.Debit && l.Credit == should.Credit
                ) is
                { } line
            )
            {
                line.Keep(should.Original);
                left.Remove(line);
            }

        // Which accounts a tax was put on since does not change what it is: each has its share, and the last the rest.
        var (whole, home, lines) = (
            rule.Lines.Where(l => _taxes.Contains(l.AccountId)).ToList(),
            0L,
            left.Where(l => _taxes.Contains(l.AccountId)).ToList()
        );
        if (whole.FirstOrDefault()?.Original is not { } original)
            return;
        home = whole.Sum(l => l.Debit - l.Credit);
        var rest = whole.Sum(l => l.OriginalAmount ?? 0);
        foreach (var line in lines)
        {
            var part = line.Debit - line.Credit;
            var share = part == home || home == 0 ? rest : Rounding.Share(rest, part, home);
            line.Keep(original with { Amount = share });
            (rest, home) = (rest - share, home - part);
        }
    }
}
