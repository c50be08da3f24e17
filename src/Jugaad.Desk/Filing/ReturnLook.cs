using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Returns;
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
    QuotedRate ExchangeRate
);

/// <summary>A return with what is worth a look before it is filed.</summary>
/// <param name="Drafts">Written and not issued, with a tax date in the period: they are not told.</param>
/// <param name="Foreign">In another currency, with their rates.</param>
/// <param name="Journal">What the journal says of the same days.</param>
/// <param name="Doubts">What may be wrong with papers of the period.</param>
/// <param name="Told">The return of the period and its amendments, where it is filed.</param>
/// <param name="NotTold">What counts in the period and was told in none of them; null where it is not filed.</param>
/// <param name="PaperOf">By figure, the document to look at.</param>
public sealed record ReturnLook(
    ReturnThen Then,
    ReturnDue? Next,
    IReadOnlyList<PaperToSee> Drafts,
    IReadOnlyList<PaperToSee> Foreign,
    ReturnJournal Journal,
    ReturnDoubts Doubts,
    IReadOnlyList<TaxReturn> Told,
    LateOfPeriod? NotTold,
    IReadOnlyDictionary<int, int> PaperOf
)
{
    /// <summary>Whether this is the return to be filed next, and its period has ended.</summary>
    public bool CanBeFiled =>
        Then.Filed is null && Next is { HasEnded: true } && (Next.From, Next.To) == (Then.From, Then.To);
}

/// <summary>Reads a return for a person: filed, or as the books stand.</summary>
public sealed class ReturnLooks(
    BooksContext db,
    TaxReturns returns,
    ReturnFiling filing,
    ReturnJournals journal,
    ReturnDoubting doubts
)
{
    /// <returns>Null where there is no such authority.</returns>
    /// <param name="amendment">Which of the returns for the period; 0 for the return itself.</param>
    public async Task<ReturnLook?> LookAsync(
        int authorityId,
        DateOnly first,
        DateOnly last,
        int amendment = 0,
        CancellationToken stop = default
    )
    {
        // What it tells and what the journal says of it are held against each other.
        await using var moment = await ReadMoment.BeginAsync(db, stop);
        var authority = await db.TaxAuthorities.AsNoTracking().SingleOrDefaultAsync(a => a.Id == authorityId, stop);
        if (authority is null)
            return null;
        var told = await db
            .TaxReturns.AsNoTracking()
            .Where(r => r.AuthorityId == authorityId && r.From == first && r.To == last)
            .OrderBy(r => r.Amendment)
            .ToListAsync(stop);
        var isFiled = told.Count > 0;
        if (amendment != 0 && told.TrueForAll(r => r.Amendment != amendment))
            return null;
        var then = isFiled
            ? await returns.FiledAsync(authority, first, last, amendment, stop)
            : await returns.ComputeAsync(authority, first, last, stop);
        var next = (await filing.DueAsync(stop)).FirstOrDefault(d => d.Authority.Id == authorityId);
        var ids = then.Rows.Select(r => r.Figure).ToHashSet();
        return new ReturnLook(
            then,
            next,
            isFiled ? [] : await DraftsAsync(first, last, stop),
            await ForeignAsync(then.Home, first, last, stop),
            await journal.OfAsync(authority, then, stop),
            await doubts.OfAsync(then, stop),
            told,
            isFiled ? await returns.LateOfAsync(authority, first, last, stop) : null,
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
