using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>What is told, or would be told, to an authority for a period. Minor units of the home currency.</summary>
/// <param name="Filed">The return that was filed; null where this is what the books say.</param>
public sealed record ReturnThen(
    TaxAuthority Authority,
    DateOnly From,
    DateOnly To,
    TaxBasis Basis,
    Currency Home,
    IReadOnlyList<ReturnRow> Rows,
    IReadOnlyList<BoxFigure> Boxes,
    TaxReturn? Filed
)
{
    /// <summary>What comes late and goes into amendments of its own periods, as the authority wants it.</summary>
    public IReadOnlyList<LateOfPeriod> ToAmend { get; init; } = [];

    public IReadOnlyList<ReturnSum> Summary { get; } = ReturnRows.Summary(Rows);

    /// <summary>What of <see cref="Summary"/> counts on days before the period.</summary>
    public IReadOnlyList<ReturnSum> Late { get; } = ReturnRows.Summary(Rows.Where(r => r.IsLate));

    public long Tax => Rows.Sum(r => r.Tax);
}

/// <summary>What counts in a period that was told, and was not told.</summary>
public sealed record LateOfPeriod(DateOnly From, DateOnly To, IReadOnlyList<ReturnRow> Rows)
{
    public long Tax => Rows.Sum(r => r.Tax);
}

/// <summary>Works out what each authority is to be told, from what was posted and what was told before.</summary>
public sealed class TaxReturns(BooksContext db, BooksHead head)
{
    private sealed record Read(
        int Id,
        int? ItemId,
        string Number,
        DateOnly Date,
        TaxCategory Category,
        string Component,
        decimal Percent,
        Place Place,
        Supply Supply,
        long Taxable,
        long Tax,
        long Payable,
        RowOrigin Origin
    )
    {
        internal TaxKey Key => new(Category, Component, Percent, Place, Supply);
    }

    /// <exception cref="RefusalException">When there is no such authority.</exception>
    public async Task<TaxAuthority> AuthorityAsync(string name, CancellationToken stop = default)
    {
        var all = await db.TaxAuthorities.AsNoTracking().OrderBy(a => a.Id).ToListAsync(stop);
        return all.Find(a => string.Equals(a.Name, name.Trim(), StringComparison.OrdinalIgnoreCase))
            ?? throw new RefusalException(
                "authority",
                all.Count == 0
                    ? "There is no tax authority in the books. Add one under Setup, taxes."
                    : (Phrase)
                        $"There is no tax authority “{name}”. There is {string.Join(", ", all.Select(a => a.Name))}."
            );
    }

    /// <summary>Whether tax counts as it is paid for any authority, so that what is never paid is never owed.</summary>
    public async Task<bool> AnyByPaymentAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        return (await db.TaxAuthorities.AsNoTracking().ToListAsync(stop)).Exists(a =>
            a.BasisOn(today) == TaxBasis.ByPayment
        );
    }

    /// <summary>
    /// What a return of a period tells by the books as they stand: all that counts up to its last day and was not told
    /// in a return of an earlier period. Nothing is kept.
    /// </summary>
    public async Task<ReturnThen> ComputeAsync(
        TaxAuthority authority,
        DateOnly from,
        DateOnly to,
        CancellationToken stop = default
    )
    {
        if (to < from)
            throw new RefusalException("to", "The period would end before it begins.");
        var rule = CountingRule.Of(authority);
        var rows = await RowsAsync(authority, from, to, r => r.To < from, stop);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var amend = authority.AmendsLate ? await ToAmendAsync(authority, rows, from, stop) : [];
        if (amend.Count > 0)
        {
            var taken = amend.SelectMany(a => a.Rows).ToHashSet();
            rows = [.. rows.Where(r => !taken.Contains(r))];
        }

        return new ReturnThen(
            authority,
            from,
            to,
            rule.On(to),
            home,
            rows,
            BoxFigure.Of(authority.Boxes, rows, home),
            null
        )
        {
            ToAmend = amend,
        };
    }

    /// <summary>Late rows by the periods to which they belong, but for what is small enough for the next return.</summary>
    private async Task<IReadOnlyList<LateOfPeriod>> ToAmendAsync(
        TaxAuthority authority,
        IReadOnlyList<ReturnRow> rows,
        DateOnly from,
        CancellationToken stop
    )
    {
        var told = await db
            .TaxReturns.Where(r => r.AuthorityId == authority.Id && r.Amendment == 0 && r.To < from)
            .OrderBy(r => r.From)
            .Select(r => new { r.From, r.To })
            .ToListAsync(stop);
        return
        [
            .. told.Select(p => new LateOfPeriod(p.From, p.To, [.. rows.Where(r => r.Day >= p.From && r.Day <= p.To)]))
                .Where(l => l.Rows.Count > 0 && (authority.AmendsAbove is not { } above || Math.Abs(l.Tax) > above)),
        ];
    }

    /// <summary>What counts in a period and was told in no return, whichever it was.</summary>
    public async Task<LateOfPeriod> LateOfAsync(
        TaxAuthority authority,
        DateOnly from,
        DateOnly to,
        CancellationToken stop = default
    )
    {
        var rows = await RowsAsync(authority, from, to, _ => true, stop);
        return new LateOfPeriod(from, to, [.. rows.Where(r => r.Day >= from)]);
    }

    /// <summary>All that counts up to a day, less what some returns told.</summary>
    private async Task<IReadOnlyList<ReturnRow>> RowsAsync(
        TaxAuthority authority,
        DateOnly from,
        DateOnly to,
        System.Linq.Expressions.Expression<Func<TaxReturn, bool>> which,
        CancellationToken stop
    )
    {
        var told = db
            .TaxReturns.Where(r => r.AuthorityId == authority.Id)
            .Where(which)
            .SelectMany(r => r.Rows)
            .Where(r => r.Day <= to);
        var figures = db.TaxFigures.Where(f => f.AuthorityId == authority.Id && f.Date <= to);
        var rule = CountingRule.Of(authority);
        var byPayment = rule.HasPayment;
        // By invoice a figure counts once and as a whole, so that what was told of it needs no second look.
        if (!byPayment)
        {
            var done = told;
            figures = figures.Where(f => !done.Any(r => r.FigureId == f.Id));
            told = told.Where(r => !db.TaxFigures.Any(f => f.Id == r.FigureId));
        }

        var read = await figures
            .Select(f => new Read(
                f.Id,
                f.ItemId,
                f.Number,
                f.Date,
                f.Category,
                f.Component,
                f.Percent,
                f.Place,
                f.Supply,
                f.Taxable,
                f.Tax,
                f.Item == null ? 0 : f.Item.Amount,
                f.SettlementId != null ? RowOrigin.TakenOff
                    : f.Item != null && f.Item.Kind == AccountItemKind.CreditNote ? RowOrigin.Credits
                    : RowOrigin.Sales
            ))
            .ToListAsync(stop);
        var sets = byPayment
            ? await db.SetsAsync(
                db.TaxFigures.Where(f => f.AuthorityId == authority.Id && f.ItemId != null)
                    .Select(f => f.ItemId!.Value),
                to,
                stop
            )
            : null;
        var counted = read.GroupBy(f => f.ItemId ?? -f.Id)
            .SelectMany(g =>
                TaxCounting.Of(
                    [.. g.Select(f => new FigureToCount(f.Id, f.Date, f.Key, f.Taxable, f.Tax))],
                    g.First().Payable,
                    sets is null ? [] : [.. sets[g.Key]],
                    rule
                )
            );
        var before = await told.ToListAsync(stop);
        return ReturnRows.Of(
            counted,
            read.ToDictionary(f => f.Id, f => (f.Number, f.Date, f.Key, f.Origin)),
            before.Select(r => new ToldBefore(
                r.FigureId,
                r.Day,
                r.Row().Key,
                r.Number,
                r.Date,
                r.Taxable,
                r.Tax,
                r.Origin
            )),
            from,
            to
        );
    }

    /// <summary>The return that was filed for a period, as it was told.</summary>
    /// <exception cref="RefusalException">When none was filed for exactly that period.</exception>
    public async Task<ReturnThen> FiledAsync(
        TaxAuthority authority,
        DateOnly from,
        DateOnly to,
        int amendment = 0,
        CancellationToken stop = default
    )
    {
        var filed =
            await db
                .TaxReturns.AsNoTracking()
                .Include(r => r.Rows)
                .SingleOrDefaultAsync(
                    r => r.AuthorityId == authority.Id && r.From == from && r.To == to && r.Amendment == amendment,
                    stop
                )
            ?? throw new RefusalException(
                "filed",
                $"No return to {authority.Name} is filed for {from:yyyy-MM-dd} to {to:yyyy-MM-dd}."
            );
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        return new ReturnThen(
            authority,
            from,
            to,
            filed.Basis,
            home,
            [.. filed.Rows.OrderBy(r => r.Id).Select(r => r.Row())],
            filed.Boxes,
            filed
        );
    }
}
