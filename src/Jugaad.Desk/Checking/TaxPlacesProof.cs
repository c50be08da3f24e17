using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Derives, for all that was posted with a tax, which account of which authority it belongs on, from its figures and
/// from what was set against it, and compares with the journal: account by account, and day by day where the books were
/// never closed.
/// </summary>
internal sealed class TaxPlacesProof(BooksContext db, TaxPlaces places) : IProof
{
    private const int Batch = 500;

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        if (await db.Businesses.FirstOrDefaultAsync(stop) is not { } business)
            return;
        await AccountsAsync(findings, stop);
        var accounts = await db
            .LedgerAccounts.Where(a => a.Role == AccountRole.TaxOwed || a.Role == AccountRole.TaxNotDue)
            .Select(a => a.Id)
            .ToListAsync(stop);
        foreach (
            var odd in await db
                .Journal.Where(e =>
                    e.Event == JournalEvent.TaxMoved && e.Lines.Any(l => !accounts.Contains(l.AccountId))
                )
                .Select(e => e.Id)
                .ToListAsync(stop)
        )
            findings.Add($"Journal entry {odd}: moves a tax to an account that is none of tax");
        // On one account there is nothing that could stand on another.
        if (accounts.Count < 2)
            return;
        var sources = await TaxPlaces.SourcesAsync(db.TaxFigures, stop);
        foreach (var some in sources.Chunk(Batch))
        {
            foreach (var compared in await places.CompareAsync(some, stop))
            {
                var byDay = business.ClosedUpTo is null;
                var wrong = compared
                    .Should.Concat(compared.Does.Select(d => d with { Amount = -d.Amount }))
                    .GroupBy(p => (p.AccountId, Day: byDay ? p.Day : default))
                    .Any(g => g.Sum(p => p.Amount) != 0);
                findings.Unless(!wrong, $"{compared.Of.Number}: its tax is not on the accounts of its authorities");
            }
        }

        await StrangersAsync(findings, accounts, stop);
    }

    private async Task AccountsAsync(Findings findings, CancellationToken stop)
    {
        var authorities = await db.TaxAuthorities.AsNoTracking().ToListAsync(stop);
        var roles = await db.LedgerAccounts.ToDictionaryAsync(a => a.Id, a => a.Role, stop);
        foreach (var authority in authorities)
            findings.Unless(
                authority.OwedAccountId is { } owed
                    && roles.GetValueOrDefault(owed) == AccountRole.TaxOwed
                    && (
                        authority.NotDueAccountId is { } notDue
                            ? roles.GetValueOrDefault(notDue) == AccountRole.TaxNotDue
                            : !Core.Returns.CountingRule.Of(authority).HasPayment
                    ),
                $"{authority.Name}: has not its own accounts of tax"
            );
        findings.Unless(
            authorities
                .SelectMany(a => new[] { a.OwedAccountId, a.NotDueAccountId })
                .OfType<int>()
                .GroupBy(a => a)
                .All(g => g.Count() == 1),
            "Two authorities share an account of tax"
        );
    }

    /// <summary>What no authority is told of stands on the usual account alone.</summary>
    private async Task StrangersAsync(Findings findings, List<int> accounts, CancellationToken stop)
    {
        var usual = accounts.Min();
        foreach (
            var stranger in await (
                from entry in db.Journal
                from line in entry.Lines
                where
                    accounts.Contains(line.AccountId)
                    && line.AccountId != usual
                    && !entry.IsMirrored
                    && entry.Event != JournalEvent.OpeningBalance
                    && entry.Event != JournalEvent.TaxFiled
                    && entry.Event != JournalEvent.TaxCharged
                    && !db.OtherMoney.Any(m => m.BookingId == entry.BookingId && m.LedgerAccountId == line.AccountId)
                    && !db.TaxFigures.Any(f =>
                        entry.BookingId != null ? f.BookingId == entry.BookingId
                        : entry.ItemId != null ? f.ItemId == entry.ItemId
                        : f.DocumentId != null && f.DocumentId == entry.DocumentId
                    )
                select entry.Id
            )
                .Distinct()
                .ToListAsync(stop)
        )
            findings.Add($"Journal entry {stranger}: has a tax of which no authority is told");
    }
}
