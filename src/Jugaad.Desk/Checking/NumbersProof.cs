using Jugaad.Core.Numbering;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Each number is there once for its kind, over all series, hands and other books; and none is missing from a series.
/// </summary>
internal sealed class NumbersProof(BooksContext db) : IProof
{
    /// <summary>So far before the first number of a series one of it is looked for.</summary>
    private const int MostBefore = 12;

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var begins = (await db.Businesses.FirstOrDefaultAsync(stop))?.YearBegins ?? 1;
        var documents = await db
            .Documents.Where(d => d.Number != null)
            .Select(d => new
            {
                UsedFor = d.Kind.ToString(),
                Number = d.Number!,
                d.Date,
                d.SeriesId,
            })
            .ToListAsync(stop);
        var all = documents
            .Select(d => new GivenNumber(d.UsedFor, d.Number, d.Date, d.SeriesId))
            .Concat(
                (
                    await db
                        .Receipts.Select(r => new
                        {
                            r.Number,
                            r.Date,
                            r.SeriesId,
                        })
                        .ToListAsync(stop)
                ).Select(r => new GivenNumber("Receipt", r.Number, r.Date, r.SeriesId))
            )
            .Concat(
                (
                    await db
                        .Refunds.Select(r => new
                        {
                            r.Number,
                            r.Date,
                            r.SeriesId,
                        })
                        .ToListAsync(stop)
                ).Select(r => new GivenNumber("Refund", r.Number, r.Date, r.SeriesId))
            )
            .Concat(
                (
                    await db
                        .SalesSummaries.Select(s => new
                        {
                            s.Number,
                            s.Date,
                            s.SeriesId,
                        })
                        .ToListAsync(stop)
                ).Select(s => new GivenNumber(Numbers.Summary, s.Number, s.Date, s.SeriesId))
            )
            .Concat(
                (
                    await db
                        .AccountItems.Where(i => i.DocumentId == null && i.ReceiptId == null && i.BookingId == null)
                        .Select(i => new
                        {
                            i.Kind,
                            i.Number,
                            i.Date,
                        })
                        .ToListAsync(stop)
                ).Select(i => new GivenNumber(i.Kind.ToString(), i.Number, i.Date, null))
            )
            .ToLookup(n => n.UsedFor);
        foreach (var kind in all)
        {
            foreach (
                var doubled in kind.GroupBy(n => n.Number)
                    .Where(g => g.Count() > 1 && g.Any(n => n.SeriesId is not null))
            )
                findings.Add($"{doubled.Key}: the number is there {doubled.Count()} times");
        }
        var kept = await db.Series.ToListAsync(stop);
        foreach (
            var lost in all.SelectMany(k => k).Where(n => n.SeriesId is { } id && kept.TrueForAll(s => s.Id != id))
        )
            findings.Add($"{lost.Number}: is of a series that is not there");
        var gaps = await db.NumberGaps.ToListAsync(stop);
        await GivenElsewhereAsync(findings, gaps, kept, stop);
        foreach (var series in kept)
        {
            foreach (
                var strange in all.SelectMany(k => k).Where(n => n.SeriesId == series.Id && n.UsedFor != series.UsedFor)
            )
                findings.Add($"{strange.Number}: is of the series {series.Name}, which is for others");
            foreach (var counter in series.Counters)
                Gaps(
                    findings,
                    series,
                    counter,
                    [.. all[series.UsedFor]],
                    begins,
                    gaps.FindAll(g => g.SeriesId == series.Id)
                );
            findings.Count(
                $"numbers of {series.Name.ToLowerInvariant()}",
                all[series.UsedFor].Count(n => n.SeriesId == series.Id)
            );
        }
    }

    /// <summary>
    /// Counts that were stepped over are ones that the trail tells of, and none that the series did not come past.
    /// </summary>
    private async Task GivenElsewhereAsync(
        Findings findings,
        IReadOnlyList<NumberGap> gaps,
        IReadOnlyList<Series> kept,
        CancellationToken stop
    )
    {
        foreach (var gap in gaps)
        {
            var series = kept.FirstOrDefault(s => s.Id == gap.SeriesId);
            var counter = series?.Counters.FirstOrDefault(c => c.Year == gap.Year);
            var told = $"were given elsewhere ({gap.Words})";
            if (gap.From < 1 || gap.To < gap.From || counter is null || gap.To >= counter.Next)
                findings.Add(
                    $"{series?.Name ?? "A series"}: {gap.Words} are said to be given elsewhere, and it did not come past them"
                );
            else if (!await db.Trail.AnyAsync(t => t.Text.EndsWith(told), stop))
                findings.Add($"{series!.Name}: {gap.Words} are said to be given elsewhere, and nobody said so");
            if (
                gaps.Any(g =>
                    g.Id < gap.Id
                    && g.SeriesId == gap.SeriesId
                    && g.Year == gap.Year
                    && g.From <= gap.To
                    && gap.From <= g.To
                )
            )
                findings.Add($"{series?.Name ?? "A series"}: {gap.Words} are said twice to be given elsewhere");
        }
    }

    /// <param name="SeriesId">Null where it was given by other books.</param>
    private sealed record GivenNumber(string UsedFor, string Number, DateOnly Date, int? SeriesId);

    /// <summary>
    /// A count that the series stepped over is one that is there from elsewhere; all others must be its own.
    /// </summary>
    private static void Gaps(
        Findings findings,
        Series series,
        SeriesCounter counter,
        IReadOnlyList<GivenNumber> all,
        int begins,
        List<NumberGap> elsewhere
    )
    {
        // A pattern with the month writes each count with its own date's month, so all months of the year are looked
        // through.
        var used = all.Select(a => a.Number).ToHashSet();
        var days =
            counter.Year == 0
                ? all.Where(a => a.SeriesId == series.Id)
                    .Select(a => new DateOnly(a.Date.Year, a.Date.Month, 1))
                    .Distinct()
                    .ToList()
                : Enumerable
                    .Range(0, 12)
                    .Select(m =>
                        new DateOnly(
                            counter.Year,
                            series.Restarts == SeriesRestart.FinancialYear ? begins : 1,
                            1
                        ).AddMonths(m)
                    )
                    .ToList();
        for (var count = Math.Max(1, counter.First - MostBefore); count < counter.First; count++)
            if (days.Exists(d => all.Any(a => a.SeriesId == series.Id && a.Number == series.Write(d, count, begins))))
                findings.Add(
                    $"{series.Write(days[0], count, begins)}: is of the series {series.Name}, which began after it"
                );
        for (var count = counter.First; count < counter.Next; count++)
            if (
                !elsewhere.Exists(g => g.Covers(counter.Year, count))
                && !days.Exists(d => used.Contains(series.Write(d, count, begins)))
            )
                findings.Add(
                    $"{series.Write(days.Count > 0 ? days[0] : default, count, begins)}: the number is missing from the series {series.Name}"
                );
    }
}
