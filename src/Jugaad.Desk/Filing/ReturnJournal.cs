using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>Something of which a return tells otherwise than the journal posted on the days of its period.</summary>
/// <param name="Told">Minor units of tax.</param>
/// <param name="Posted">Minor units of tax.</param>
public sealed record ToldApart(string Number, int? DocumentId, long Told, long Posted);

/// <summary>What the journal says of the days of a return.</summary>
/// <param name="Posted">What sales, credits and money put on what is owed to the authority; minor units.</param>
/// <param name="Apart">All that makes up the difference to what the return tells.</param>
public sealed record ReturnJournal(long Posted, IReadOnlyList<ToldApart> Apart);

/// <summary>Holds a return against the journal's account of what is owed to its authority.</summary>
public sealed class ReturnJournals(BooksContext db)
{
    private sealed record Source(int? DocumentId, int? BookingId, int? ItemId, int? EntryId);

    /// <summary>Of what was filed and paid nothing counts here: only what was sold, credited and received.</summary>
    public async Task<ReturnJournal> OfAsync(TaxAuthority authority, ReturnThen then, CancellationToken stop = default)
    {
        var owed = authority.OwedAccountId;
        var (first, last) = (then.From, then.To);
        var posted = await (
            from entry in db.Journal
            where
                entry.Date >= first
                && entry.Date <= last
                && entry.Event != JournalEvent.TaxFiled
                && entry.Event != JournalEvent.TaxCharged
                && !db.OtherMoney.Any(m => m.BookingId == entry.BookingId && m.LedgerAccountId == owed)
            from line in entry.Lines
            where line.AccountId == owed
            group line by new
            {
                Document = entry.BookingId == null ? entry.DocumentId : null,
                entry.BookingId,
                Taken = entry.BookingId == null && entry.DocumentId == null ? entry.ItemId : null,
                Alone = entry.BookingId == null && entry.DocumentId == null && entry.ItemId == null
                    ? entry.Id
                    : (int?)null,
            } into one
            select new
            {
                one.Key.Document,
                one.Key.BookingId,
                one.Key.Taken,
                one.Key.Alone,
                Amount = one.Sum(l => l.Credit - l.Debit),
            }
        ).ToListAsync(stop);
        var figures = await FiguresAsync(then, stop);
        var told = then.Rows.GroupBy(r => figures.GetValueOrDefault(r.Figure, new Source(null, null, null, -r.Figure)));
        var apart = new Dictionary<Source, (string Number, long Told, long Posted)>();
        foreach (var rows in told)
            apart[rows.Key] = (rows.First().Number, rows.Sum(r => r.Tax), 0);
        foreach (var one in posted)
        {
            var source = new Source(one.Document, one.BookingId, one.Taken, one.Alone);
            var before = apart.GetValueOrDefault(source, ("", 0, 0));
            apart[source] = before with { Posted = one.Amount };
        }

        var different = apart.Where(a => a.Value.Told != a.Value.Posted).ToList();
        var names = await NamesAsync([.. different.Where(d => d.Value.Number.Length == 0).Select(d => d.Key)], stop);
        return new ReturnJournal(
            posted.Sum(p => p.Amount),
            [
                .. different
                    .Select(d => new ToldApart(
                        d.Value.Number.Length > 0 ? d.Value.Number : names[d.Key],
                        d.Key.DocumentId,
                        d.Value.Told,
                        d.Value.Posted
                    ))
                    .OrderBy(a => a.Number, StringComparer.Ordinal),
            ]
        );
    }

    private async Task<Dictionary<int, Source>> FiguresAsync(ReturnThen then, CancellationToken stop)
    {
        var found = new Dictionary<int, Source>();
        foreach (var some in then.Rows.Select(r => r.Figure).Distinct().Chunk(5_000))
        {
            foreach (
                var figure in await db
                    .TaxFigures.Where(f => some.Contains(f.Id))
                    .Select(f => new
                    {
                        f.Id,
                        f.DocumentId,
                        f.BookingId,
                        f.ItemId,
                    })
                    .ToListAsync(stop)
            )
                found[figure.Id] = new Source(
                    figure.DocumentId,
                    figure.DocumentId is null ? figure.BookingId : null,
                    figure.DocumentId is null && figure.BookingId is null ? figure.ItemId : null,
                    null
                );
        }
        return found;
    }

    private async Task<Dictionary<Source, string>> NamesAsync(List<Source> sources, CancellationToken stop)
    {
        var names = new Dictionary<Source, string>();
        foreach (var source in sources)
            names[source] =
                await db
                    .Journal.Where(e =>
                        source.EntryId != null ? e.Id == source.EntryId
                        : source.BookingId != null ? e.BookingId == source.BookingId
                        : source.ItemId != null ? e.ItemId == source.ItemId
                        : e.DocumentId == source.DocumentId
                    )
                    .OrderBy(e => e.Id)
                    .Select(e => e.Text)
                    .FirstOrDefaultAsync(stop)
                ?? "";
        return names;
    }
}
