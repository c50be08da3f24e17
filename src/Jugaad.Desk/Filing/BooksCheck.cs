using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>What a check of the books counted, and each difference that it found.</summary>
public sealed record CheckReport(IReadOnlyList<(string What, long Count)> Counted, IReadOnlyList<string> Differences)
{
    public bool Healthy => Differences.Count == 0;
}

/// <summary>Recomputes from its sources everything that is kept for speed or frozen, and compares. It changes nothing.</summary>
public sealed class BooksCheck(BooksContext db)
{
    private readonly List<(string, long)> _counted = [];
    private readonly List<string> _differences = [];

    public async Task<CheckReport> RunAsync(CancellationToken stop = default)
    {
        db.ChangeTracker.QueryTrackingBehavior = QueryTrackingBehavior.NoTracking;
        await JournalAsync(stop);
        await AccountsAsync(stop);
        await ReceivablesAsync(stop);
        await BookingsAsync(stop);
        await DocumentsAsync(stop);
        await NumbersAsync(stop);
        await StockAsync(stop);
        await TillsAsync(stop);
        return new CheckReport(_counted, _differences);
    }

    private async Task JournalAsync(CancellationToken stop)
    {
        var sums = await db.Set<JournalLine>().GroupBy(l => l.EntryId).Select(g => new { g.Key, Debit = g.Sum(l => l.Debit), Credit = g.Sum(l => l.Credit) }).ToListAsync(stop);
        foreach (var entry in sums.Where(s => s.Debit != s.Credit))
            _differences.Add($"Journal entry {entry.Key}: debits {entry.Debit}, credits {entry.Credit} (minor units)");
        Count("journal entries", await db.Journal.LongCountAsync(stop));
        if (await db.Journal.LongCountAsync(stop) != sums.Count) _differences.Add("A journal entry has no lines.");
    }

    private async Task AccountsAsync(CancellationToken stop)
    {
        var raised = await db.Allocations.GroupBy(a => a.RaisingId).Select(g => new { g.Key, Sum = g.Sum(a => a.Amount), Home = g.Sum(a => a.HomeRaising) }).ToDictionaryAsync(g => g.Key, stop);
        var lowered = await db.Allocations.GroupBy(a => a.LoweringId).Select(g => new { g.Key, Sum = g.Sum(a => a.Amount), Home = g.Sum(a => a.HomeLowering) }).ToDictionaryAsync(g => g.Key, stop);
        long items = 0;
        await foreach (var item in db.AccountItems.AsAsyncEnumerable().WithCancellation(stop))
        {
            items++;
            var taken = (item.Raises ? raised : lowered).GetValueOrDefault(item.Id);
            var open = item.Amount - (taken?.Sum ?? 0);
            if (open != item.Open) _differences.Add($"{item.Number}: open {Text(item.Open, item)} is kept, {Text(open, item)} follows from the allocations");
            if (item.HomeAmount - (taken?.Home ?? 0) != item.HomeOpen) _differences.Add($"{item.Number}: the open home amount does not follow from the allocations");
            if (open < 0) _differences.Add($"{item.Number}: {Text(-open, item)} more is allocated than there is");
            if ((item.Raises ? lowered : raised).ContainsKey(item.Id)) _differences.Add($"{item.Number}: stands on the wrong side of an allocation");
        }

        Count("account items", items);
        Count("allocations", await db.Allocations.LongCountAsync(stop));
        var early = await db.Allocations.Where(a => a.Date < a.Raising.Date || a.Date < a.Lowering.Date).Select(a => a.Raising.Number).ToListAsync(stop);
        _differences.AddRange(early.Select(n => $"{n}: an allocation is dated before one of its items"));
        var crossed = await db.Allocations.Where(a => a.Raising.CustomerId != a.Lowering.CustomerId).Select(a => a.Raising.Number).ToListAsync(stop);
        _differences.AddRange(crossed.Select(n => $"{n}: allocated from another customer's account"));
    }

    private async Task ReceivablesAsync(CancellationToken stop)
    {
        var owed = await db.AccountItems.SumAsync(i => i.Sign * i.HomeOpen, stop);
        var journal = await (from line in db.Set<JournalLine>()
                             join account in db.LedgerAccounts on line.AccountId equals account.Id
                             where account.Role == AccountRole.Receivables
                             select line.Debit - line.Credit).SumAsync(stop);
        if (owed != journal) _differences.Add($"Receivables in the journal are {journal}, the customers' accounts come to {owed} (minor units of the home currency)");
    }

    /// <summary>What was undone has left nothing on the accounts and nothing in the journal; each settlement and refund stands there with its amount.</summary>
    private async Task BookingsAsync(CancellationToken stop)
    {
        var left = await db.AccountItems.Where(i => i.Booking!.UndoneOn != null).Select(i => i.Number).Concat(db.Allocations.Where(a => a.Booking!.UndoneOn != null).Select(a => a.Raising.Number)).ToListAsync(stop);
        _differences.AddRange(left.Select(n => $"{n}: something that was undone still stands on the account"));
        var posted = await (from entry in db.Journal
                            where entry.Booking!.UndoneOn != null
                            from line in entry.Lines
                            group line by new { entry.BookingId, line.AccountId } into same
                            where same.Sum(l => l.Debit - l.Credit) != 0
                            select same.Key.BookingId).Distinct().ToListAsync(stop);
        _differences.AddRange(posted.Select(b => $"Booking {b}: was undone, and the journal does not take all of it back"));
        var refunds = await db.Refunds.Where(r => r.Booking!.UndoneOn == null && !db.AccountItems.Any(i => i.BookingId == r.BookingId && i.Kind == AccountItemKind.Refund && i.Amount == r.Amount)).Select(r => r.Number).ToListAsync(stop);
        _differences.AddRange(refunds.Select(n => $"{n}: is not on the customer's account with its amount"));
        var settled = await db.Settlements.Where(s => s.Booking!.UndoneOn == null && !db.AccountItems.Any(i => i.BookingId == s.BookingId && i.Amount == s.Amount)).Select(s => s.Id).ToListAsync(stop);
        _differences.AddRange(settled.Select(s => $"Settlement {s}: is not on the customer's account with its amount"));
        Count("bookings", await db.Bookings.LongCountAsync(stop));
    }

    private async Task DocumentsAsync(CancellationToken stop)
    {
        var items = await db.AccountItems.Where(i => i.DocumentId != null).Select(i => new { Id = i.DocumentId!.Value, i.Amount, i.Open }).ToDictionaryAsync(i => i.Id, stop);
        var journaled = (await db.Journal.Where(e => e.DocumentId != null).Select(e => e.DocumentId!.Value).ToListAsync(stop)).ToHashSet();
        var receipts = await db.Receipts.Where(r => !r.IsUndone).Select(r => new { r.Id, r.Number, r.Amount }).ToListAsync(stop);
        var receiptItems = await db.AccountItems.Where(i => i.ReceiptId != null).Select(i => new { Id = i.ReceiptId!.Value, i.Amount }).ToDictionaryAsync(i => i.Id, i => i.Amount, stop);
        _differences.AddRange(receipts.Where(r => receiptItems.GetValueOrDefault(r.Id, -1) != r.Amount).Select(r => $"{r.Number}: is not on the customer's account with its amount"));
        Count("receipts", receipts.Count);

        var last = 0;
        long checkedDocuments = 0;
        while (true)
        {
            // A few hundred at a time, so that large books do not fill the memory.
            var batch = await db.Documents.Where(d => d.Id > last && d.Number != null).OrderBy(d => d.Id).Take(300)
                .Include(d => d.Lines).Include(d => d.Charges).Include(d => d.Taxes).ToListAsync(stop);
            if (batch.Count == 0) break;
            foreach (var document in batch)
            {
                Frozen(document);
                if (!document.Policy.Posts) continue;
                if (!items.TryGetValue(document.Id, out var item) || item.Amount != document.Payable) _differences.Add($"{document.Number}: is not on the customer's account with its amount");
                else if ((item.Open == 0) != (document.State is DocumentState.Settled or DocumentState.Cancelled)) _differences.Add($"{document.Number}: its state is {document.State}, with {Text(item.Open, document.Currency)} open");
                if (document.Payable != 0 && !journaled.Contains(document.Id)) _differences.Add($"{document.Number}: has no journal entry");
            }

            checkedDocuments += batch.Count;
            last = batch[^1].Id;
        }

        Count("issued documents", checkedDocuments);
    }

    private void Frozen(Document document)
    {
        var totals = document.Recompute();
        var taxes = totals.Treatments.SelectMany(t => t.Rows()).Select(r => (r.Taxable, r.Tax));
        if (totals.Net != document.Net || totals.Tax != document.Tax || totals.Payable != document.Payable || totals.Subtotal != document.Subtotal || totals.Discount != document.Discount)
            _differences.Add($"{document.Number}: its totals are kept as {Text(document.Payable, document.Currency)}, its lines give {Text(totals.Payable, document.Currency)}");
        if (!taxes.SequenceEqual(document.Taxes.OrderBy(t => t.Position).Select(t => (t.Taxable, t.Tax)))) _differences.Add($"{document.Number}: its taxes do not follow from its lines");
        if (!totals.LineNets.SequenceEqual(document.Lines.OrderBy(l => l.Position).Select(l => l.Net))) _differences.Add($"{document.Number}: what its lines post does not follow from them");
    }

    /// <summary>Each number once for its kind, over all series, hands and other books; and none missing from a series.</summary>
    private async Task NumbersAsync(CancellationToken stop)
    {
        var begins = (await db.Businesses.FirstOrDefaultAsync(stop))?.YearBegins ?? 1;
        var documents = await db.Documents.Where(d => d.Number != null).Select(d => new { UsedFor = d.Kind.ToString(), Number = d.Number!, d.Date, d.SeriesId }).ToListAsync(stop);
        var all = documents.Select(d => new GivenNumber(d.UsedFor, d.Number, d.Date, d.SeriesId))
            .Concat((await db.Receipts.Select(r => new { r.Number, r.Date, r.SeriesId }).ToListAsync(stop)).Select(r => new GivenNumber("Receipt", r.Number, r.Date, r.SeriesId)))
            .Concat((await db.Refunds.Select(r => new { r.Number, r.Date, r.SeriesId }).ToListAsync(stop)).Select(r => new GivenNumber("Refund", r.Number, r.Date, r.SeriesId)))
            .Concat((await db.AccountItems.Where(i => i.DocumentId == null && i.ReceiptId == null && i.BookingId == null).Select(i => new { i.Kind, i.Number, i.Date }).ToListAsync(stop)).Select(i => new GivenNumber(i.Kind.ToString(), i.Number, i.Date, null)))
            .ToLookup(n => n.UsedFor);
        foreach (var kind in all)
            foreach (var doubled in kind.GroupBy(n => n.Number).Where(g => g.Count() > 1 && g.Any(n => n.SeriesId is not null))) _differences.Add($"{doubled.Key}: the number is there {doubled.Count()} times");
        foreach (var series in await db.Series.ToListAsync(stop))
        {
            foreach (var counter in series.Counters) Gaps(series, counter, [.. all[series.UsedFor]], begins);
            Count($"numbers of {series.Name.ToLowerInvariant()}", all[series.UsedFor].Count(n => n.SeriesId == series.Id));
        }
    }

    /// <param name="SeriesId">Null where it was given by other books.</param>
    private sealed record GivenNumber(string UsedFor, string Number, DateOnly Date, int? SeriesId);

    private async Task StockAsync(CancellationToken stop)
    {
        var moved = await db.StockMoves.GroupBy(m => m.ItemId).Select(g => new { g.Key, Sum = g.Sum(m => m.Quantity) }).ToDictionaryAsync(g => g.Key, g => g.Sum, stop);
        foreach (var item in await db.Items.Select(i => new { i.Id, i.Code, i.OnHand }).ToListAsync(stop))
            if (moved.GetValueOrDefault(item.Id) != item.OnHand) _differences.Add($"{item.Code}: {PlainDecimal.Text(item.OnHand)} on hand is kept, its moves come to {PlainDecimal.Text(moved.GetValueOrDefault(item.Id))}");
        Count("stock moves", await db.StockMoves.LongCountAsync(stop));
    }

    /// <summary>What a till was said to hold follows from the entries up to then, and its difference was booked.</summary>
    private async Task TillsAsync(CancellationToken stop)
    {
        foreach (var count in await db.TillCounts.Include(c => c.Booking).ToListAsync(stop))
        {
            var held = await db.Set<JournalLine>().Where(l => l.AccountId == count.AccountId && l.EntryId <= count.UpToEntry).SumAsync(l => l.Debit - l.Credit, stop);
            if (held != count.Expected) _differences.Add($"Till count {count.Id}: {count.Expected} is kept as expected, the journal up to then comes to {held} (minor units of the home currency)");
            var booked = count.BookingId is null ? 0 : await db.OtherMoney.Where(m => m.BookingId == count.BookingId && m.MoneyAccountId == count.AccountId).SumAsync(m => m.Amount, stop);
            if (booked != count.Difference) _differences.Add($"Till count {count.Id}: its difference is {count.Difference}, and {booked} was booked for it (minor units of the home currency)");
        }

        Count("till counts", await db.TillCounts.LongCountAsync(stop));
    }

    /// <summary>A count that the series stepped over is one that is there from elsewhere; all others must be its own.</summary>
    private void Gaps(Series series, SeriesCounter counter, IReadOnlyList<GivenNumber> all, int begins)
    {
        // A pattern with the month writes each count with its own date's month, so all months of the year are looked through.
        var used = all.Select(a => a.Number).ToHashSet();
        var days = counter.Year == 0 ? all.Where(a => a.SeriesId == series.Id).Select(a => new DateOnly(a.Date.Year, a.Date.Month, 1)).Distinct().ToList()
            : Enumerable.Range(0, 12).Select(m => new DateOnly(counter.Year, series.Restarts == SeriesRestart.FinancialYear ? begins : 1, 1).AddMonths(m)).ToList();
        for (var count = counter.First; count < counter.Next; count++)
            if (!days.Exists(d => used.Contains(series.Write(d, count, begins)))) _differences.Add($"{series.Write(days.Count > 0 ? days[0] : default, count, begins)}: the number is missing from the series {series.Name}");
    }

    private void Count(string what, long count) => _counted.Add((what, count));

    private static string Text(long minor, AccountItem item) => Text(minor, item.Currency);

    private static string Text(long minor, Currency currency) => $"{new Money(minor, currency)} {currency}";
}
