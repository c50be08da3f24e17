using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// A thing that was posted with taxes: by its document, by its booking, or, taken over, by its account item.
/// </summary>
internal sealed record TaxSource(int? DocumentId, int? BookingId, int? OpeningId)
{
    internal static TaxSource Of(int? documentId, int? bookingId, int? itemId) =>
        documentId is not null ? new(documentId, null, null)
        : bookingId is not null ? new(null, bookingId, null)
        : new(null, null, itemId);
}

/// <summary>
/// Keeps each tax on the ledger account of its authority: as it is posted, as it is paid or no longer paid, and as the
/// authority is told otherwise. Where what is posted and what should be differ, an entry makes up the difference.
/// </summary>
public sealed class TaxPlaces(BooksContext db)
{
    private const int Batch = 500;

    private static readonly AccountRole[] TaxRoles = [AccountRole.TaxOwed, AccountRole.TaxNotDue];

    private Dictionary<int, TaxAuthority>? _authorities;

    /// <summary>Gives each authority the ledger accounts that it needs and has not.</summary>
    /// <returns>Whether any was given.</returns>
    public async Task<bool> EnsureAsync(CancellationToken stop = default)
    {
        _authorities = null;
        var authorities = await db.TaxAuthorities.OrderBy(a => a.Id).ToListAsync(stop);
        var lacking = authorities
            .Where(a => a.OwedAccountId is null || (a.NotDueAccountId is null && CountingRule.Of(a).HasPayment))
            .ToList();
        if (lacking.Count == 0)
            return false;
        var taken = authorities.SelectMany(a => new[] { a.OwedAccountId, a.NotDueAccountId }).OfType<int>().ToHashSet();
        var accounts = await db.LedgerAccounts.ToListAsync(stop);
        foreach (var authority in lacking)
        {
            var owed = authority.OwedAccountId is null
                ? accounts.Where(a => a.Role == AccountRole.TaxOwed && !taken.Contains(a.Id)).MinBy(a => a.Id)
                    ?? New(accounts, "2200", $"Tax owed, {authority.Name}", AccountRole.TaxOwed)
                : null;
            var notDue =
                authority.NotDueAccountId is null && CountingRule.Of(authority).HasPayment
                    ? New(accounts, "2250", $"Tax not due yet, {authority.Name}", AccountRole.TaxNotDue)
                    : null;
            await db.SaveChangesAsync(stop);
            authority.PostTo(owed?.Id ?? authority.OwedAccountId!.Value, notDue?.Id);
            taken.Add(authority.OwedAccountId!.Value);
        }

        await db.SaveChangesAsync(stop);
        return true;
    }

    private LedgerAccount New(List<LedgerAccount> accounts, string first, string name, AccountRole role)
    {
        var code = int.Parse(first, System.Globalization.CultureInfo.InvariantCulture);
        while (accounts.Exists(a => a.Code == $"{code}"))
            code++;
        var made = new LedgerAccount($"{code}", name[..Math.Min(name.Length, 100)], role);
        db.LedgerAccounts.Add(made);
        accounts.Add(made);
        return made;
    }

    /// <summary>Puts the taxes of what is being posted where they belong.</summary>
    /// <param name="entry">With all of them on one account.</param>
    /// <param name="usual">That account.</param>
    internal async Task PutAsync(
        JournalEntry entry,
        int usual,
        IEnumerable<TaxFigure> figures,
        long payable,
        CancellationToken stop
    )
    {
        var authorities = await AuthoritiesAsync(stop);
        foreach (var figure in figures)
            entry.Put(usual, TaxPlacing.AccountAtFirst(figure, payable, authorities[figure.AuthorityId]), figure.Tax);
    }

    /// <summary>Lets taxes follow what was posted, set against each other, or taken apart.</summary>
    internal async Task FollowAsync(IEnumerable<int> items, CancellationToken stop)
    {
        if (!(await AuthoritiesAsync(stop)).Values.Any(a => a.NotDueAccountId is not null))
            return;
        foreach (var some in items.Distinct().Chunk(Batch))
            await PlaceAsync(db.TaxFigures.Where(f => f.ItemId != null && some.Contains(f.ItemId.Value)), stop);
    }

    /// <summary>Puts right where taxes stand, of all that these figures came from.</summary>
    internal async Task PlaceAsync(IQueryable<TaxFigure> of, CancellationToken stop)
    {
        var sources = await SourcesAsync(of, stop);
        if (sources.Count == 0)
            return;
        var business = await db.Businesses.AsNoTracking().SingleAsync(stop);
        foreach (var some in sources.Distinct().Chunk(Batch))
        {
            foreach (var compared in await CompareAsync(some, stop))
                Move(compared, business);
            await db.SaveChangesAsync(stop);
        }
    }

    /// <summary>All that figures came from.</summary>
    internal static async Task<List<TaxSource>> SourcesAsync(IQueryable<TaxFigure> of, CancellationToken stop) => [.. (
                await of.Select(f => new
                    {
                        f.DocumentId,
                        f.BookingId,
                        ItemId = f.DocumentId == null && f.BookingId == null ? f.ItemId : null,
                    })
                    .Distinct()
                    .ToListAsync(stop)
            ).Select(s => TaxSource.Of(s.DocumentId, s.BookingId, s.ItemId)).Distinct()];

    /// <summary>What stands behind a source, what should stand on accounts of tax for it, and what does.</summary>
    internal sealed record Compared(
        TaxSource Source,
        TaxFigure Of,
        IReadOnlyList<TaxPlace> Should,
        IReadOnlyList<TaxPlace> Does
    );

    /// <param name="sources">Some few hundred at most.</param>
    internal async Task<IReadOnlyList<Compared>> CompareAsync(
        IReadOnlyCollection<TaxSource> sources,
        CancellationToken stop
    )
    {
        var authorities = await AuthoritiesAsync(stop);
        var documents = sources.Select(s => s.DocumentId).OfType<int>().ToList();
        var bookings = sources.Select(s => s.BookingId).OfType<int>().ToList();
        var openings = sources.Select(s => s.OpeningId).OfType<int>().ToList();
        var figures = await db
            .TaxFigures.AsNoTracking()
            .Include(f => f.Item)
            .Where(f =>
                (f.DocumentId != null && documents.Contains(f.DocumentId.Value))
                || (f.DocumentId == null && f.BookingId != null && bookings.Contains(f.BookingId.Value))
                || (
                    f.DocumentId == null && f.BookingId == null && f.ItemId != null && openings.Contains(f.ItemId.Value)
                )
            )
            .ToListAsync(stop);
        var items = figures.Select(f => f.ItemId).OfType<int>().Distinct().ToList();
        var sets = await db.SetsAsync(db.AccountItems.Where(i => items.Contains(i.Id)).Select(i => i.Id), null, stop);
        var lines = await (
            from entry in db.Journal
            where
                (entry.BookingId == null && entry.DocumentId != null && documents.Contains(entry.DocumentId.Value))
                || (entry.BookingId != null && bookings.Contains(entry.BookingId.Value))
                || (entry.ItemId != null && openings.Contains(entry.ItemId.Value))
            from line in entry.Lines
            join account in db.LedgerAccounts on line.AccountId equals account.Id
            where TaxRoles.Contains(account.Role)
            select new
            {
                entry.DocumentId,
                entry.BookingId,
                entry.ItemId,
                entry.Date,
                line.AccountId,
                Amount = line.Credit - line.Debit,
            }
        ).ToListAsync(stop);
        var does = lines.ToLookup(
            l => TaxSource.Of(l.BookingId is null ? l.DocumentId : null, l.BookingId, l.ItemId),
            l => new TaxPlace(l.Date, l.AccountId, l.Amount)
        );
        var usual = await db.LedgerAccounts.Where(a => a.Role == AccountRole.TaxOwed).MinAsync(a => a.Id, stop);
        return
        [
            .. figures
                .GroupBy(f => TaxSource.Of(f.DocumentId, f.BookingId, f.ItemId))
                .Select(source => new Compared(
                    source.Key,
                    source.First(),
                    WithRest(
                        [
                            .. source
                                .GroupBy(f => (f.ItemId, f.AuthorityId))
                                .SelectMany(same =>
                                    TaxPlacing.Of(
                                        [.. same],
                                        same.First().Item?.Date ?? same.First().Date,
                                        same.First().Item?.Amount ?? 0,
                                        same.Key.ItemId is { } item ? [.. sets[item]] : [],
                                        authorities[same.Key.AuthorityId]
                                    )
                                ),
                        ],
                        [.. does[source.Key]],
                        usual
                    ),
                    [.. does[source.Key]]
                )),
        ];
    }

    /// <summary>What no authority is told of stays on the usual account, on which it was posted.</summary>
    private static List<TaxPlace> WithRest(List<TaxPlace> should, List<TaxPlace> does, int usual)
    {
        var rest = does.Sum(d => d.Amount) - should.Sum(s => s.Amount);
        if (rest != 0)
            should.Add(new TaxPlace(does.Min(d => d.Day), usual, rest));
        return should;
    }

    private void Move(Compared compared, Business business)
    {
        var (source, of) = (compared.Source, compared.Of);
        var missing = compared
            .Should.Concat(compared.Does.Select(d => d with { Amount = -d.Amount }))
            .GroupBy(p => business.OpenDay(p.Day))
            .OrderBy(g => g.Key);
        foreach (var day in missing)
        {
            var moves = day.GroupBy(p => p.AccountId)
                .Select(g => (Account: g.Key, Amount: g.Sum(p => p.Amount)))
                .Where(m => m.Amount != 0)
                .OrderBy(m => m.Account)
                .ToList();
            if (moves.Count == 0 || moves.Sum(m => m.Amount) != 0)
                continue;
            var entry = PostingRules.ForTaxMoved(moves, day.Key, of.Number, of.Item?.CustomerId ?? 0)!;
            entry.DocumentId = source.DocumentId;
            if (source.BookingId is { } booking)
                entry.Belong(db.Bookings.Find(booking)!);
            if (source.OpeningId is { } opening)
                entry.Of(db.AccountItems.Find(opening)!);
            db.Journal.Add(entry);
        }
    }

    private async Task<Dictionary<int, TaxAuthority>> AuthoritiesAsync(CancellationToken stop) =>
        _authorities ??= await db.TaxAuthorities.AsNoTracking().ToDictionaryAsync(a => a.Id, stop);

    /// <summary>Reads the authorities anew, as one may have been changed.</summary>
    internal void Forget() => _authorities = null;
}
