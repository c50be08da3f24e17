using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>A paper that is worth a look before a return is filed.</summary>
public sealed record PaperToSee(
    int Id,
    string Title,
    DateOnly Date,
    string Customer,
    long Payable,
    Currency Currency,
    decimal ExchangeRate
);

/// <summary>A return with what is worth a look before it is filed.</summary>
/// <param name="Drafts">Written and not issued, with a tax date in the period: they are not told.</param>
/// <param name="Foreign">In another currency, with their rates.</param>
/// <param name="Journal">What the journal says of the same days.</param>
/// <param name="PaperOf">By figure, the document to look at.</param>
public sealed record ReturnLook(
    ReturnThen Then,
    ReturnDue? Next,
    IReadOnlyList<PaperToSee> Drafts,
    IReadOnlyList<PaperToSee> Foreign,
    ReturnJournal Journal,
    IReadOnlyDictionary<int, int> PaperOf
)
{
    /// <summary>Whether this is the return to be filed next, and its period has ended.</summary>
    public bool CanBeFiled =>
        Then.Filed is null && Next is { HasEnded: true } && (Next.From, Next.To) == (Then.From, Then.To);
}

/// <summary>Reads a return for a person: filed, or as the books stand.</summary>
public sealed class ReturnLooks(BooksContext db, TaxReturns returns, ReturnFiling filing, ReturnJournals journal)
{
    /// <returns>Null where there is no such authority.</returns>
    public async Task<ReturnLook?> LookAsync(
        int authorityId,
        DateOnly first,
        DateOnly last,
        CancellationToken stop = default
    )
    {
        var authority = await db.TaxAuthorities.AsNoTracking().SingleOrDefaultAsync(a => a.Id == authorityId, stop);
        if (authority is null)
            return null;
        var isFiled = await db.TaxReturns.AnyAsync(
            r => r.AuthorityId == authorityId && r.From == first && r.To == last,
            stop
        );
        var then = isFiled
            ? await returns.FiledAsync(authority, first, last, 0, stop)
            : await returns.ComputeAsync(authority, first, last, stop);
        var next = (await filing.DueAsync(stop)).FirstOrDefault(d => d.Authority.Id == authorityId);
        var ids = then.Rows.Select(r => r.Figure).ToHashSet();
        return new ReturnLook(
            then,
            next,
            isFiled ? [] : await DraftsAsync(first, last, stop),
            await ForeignAsync(then.Home, first, last, stop),
            await journal.OfAsync(authority, then, stop),
            await PapersAsync(ids, stop)
        );
    }

    private async Task<IReadOnlyList<PaperToSee>> DraftsAsync(DateOnly first, DateOnly last, CancellationToken stop) =>
        await Shown(
                db.Documents.Where(d =>
                    d.State == DocumentState.Draft
                    && (
                        d.Kind == DocumentKind.Invoice
                        || d.Kind == DocumentKind.CreditNote
                        || d.Kind == DocumentKind.DebitNote
                    )
                    && (d.TaxDate ?? d.Date) >= first
                    && (d.TaxDate ?? d.Date) <= last
                )
            )
            .ToListAsync(stop);

    private async Task<IReadOnlyList<PaperToSee>> ForeignAsync(
        Currency home,
        DateOnly first,
        DateOnly last,
        CancellationToken stop
    ) =>
        await Shown(
                db.Documents.Where(d =>
                    d.Currency != home
                    && (d.TaxDate ?? d.Date) >= first
                    && (d.TaxDate ?? d.Date) <= last
                    && db.AccountItems.Any(i => i.DocumentId == d.Id)
                )
            )
            .ToListAsync(stop);

    private static IQueryable<PaperToSee> Shown(IQueryable<Document> documents) =>
        documents
            .OrderBy(d => d.Date)
            .ThenBy(d => d.Id)
            .Select(d => new PaperToSee(
                d.Id,
                d.Number ?? "draft",
                d.Date,
                d.Customer!.Name,
                d.Payable,
                d.Currency,
                d.ExchangeRate
            ));

    private async Task<IReadOnlyDictionary<int, int>> PapersAsync(HashSet<int> figures, CancellationToken stop)
    {
        var papers = await db
            .TaxFigures.Where(f => figures.Contains(f.Id))
            .Select(f => new
            {
                f.Id,
                Paper = f.DocumentId
                    ?? db.Settlements.Where(s => s.Id == f.SettlementId).Select(s => s.DocumentId).FirstOrDefault(),
            })
            .ToListAsync(stop);
        return papers.Where(p => p.Paper is not null).ToDictionary(p => p.Id, p => p.Paper!.Value);
    }
}
