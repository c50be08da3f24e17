using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>Numbers that no paper of the books has, since they were given elsewhere.</summary>
/// <param name="Numbers">The first and the last of them, as they would be written.</param>
public sealed record LeftOutNumbers(int Id, string Series, string Numbers, string Because);

/// <summary>Tells which numbers of invoices, credit notes and debit notes were left out, and why.</summary>
public sealed class GapsInNumbers(BooksContext db, BooksHead head)
{
    /// <summary>Those of the years that some days belong to.</summary>
    public async Task<IReadOnlyList<LeftOutNumbers>> OfAsync(
        DateOnly from,
        DateOnly until,
        CancellationToken stop = default
    )
    {
        var business = await head.BusinessAsync(stop);
        var series = await db.Series.AsNoTracking().ToDictionaryAsync(s => s.Id, stop);
        return
        [
            .. (await db.NumberGaps.AsNoTracking().OrderBy(g => g.Id).ToListAsync(stop))
                .Where(g =>
                    series.TryGetValue(g.SeriesId, out var of)
                    && of.UsedFor is "Invoice" or "CreditNote" or "DebitNote"
                    && (g.Year == 0 || (g.Year >= from.Year && g.Year <= until.Year))
                )
                .Select(g =>
                {
                    var of = series[g.SeriesId];
                    var day = g.Year == 0 ? from : new DateOnly(g.Year, business.YearBegins, 1);
                    string Write(int count) => of.Write(day, count, business.YearBegins);
                    return new LeftOutNumbers(g.Id, of.Name, $"{Write(g.From)} to {Write(g.To)}", g.Because);
                }),
        ];
    }
}
