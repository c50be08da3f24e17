using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>
/// Has a report in home currency say that it is, and where a row is of one paper in another currency, what that paper
/// comes to in its own.
/// </summary>
public sealed class Originals(BooksContext db, BooksHead head)
{
    private const string Papers = "/papers/";

    /// <returns>The same where it tells of currencies by itself, or has no amounts at home.</returns>
    internal async Task<Report> WithAsync(Report report, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (!report.Rows.Any(r => r.Cells.Any(c => c is Money money && money.Currency.Equals(home))))
            return report;
        if (!report.About.Contains(home.Code, StringComparison.Ordinal))
            report = report with { About = report.About.Length == 0 ? $"in {home}" : $"{report.About}, in {home}" };
        // A book of an account tells of lines of entries, whose originals the journal has.
        if (report.Columns.Any(c => c.Key is "currency" or "balance"))
            return report;
        var ids = report.Rows.Select(PaperOf).OfType<int>().Distinct().ToList();
        var foreign = new Dictionary<int, Money>();
        foreach (var some in ids.Chunk(2_000))
        {
            foreach (
                var paper in await db
                    .Documents.Where(d => some.Contains(d.Id) && d.Currency != home)
                    .Select(d => new
                    {
                        d.Id,
                        d.Payable,
                        d.Currency,
                    })
                    .ToListAsync(stop)
            )
                foreign[paper.Id] = new Money(paper.Payable, paper.Currency);
        }

        return foreign.Count == 0
            ? report
            : report with
            {
                Columns = [.. report.Columns, new("billedIn", "Billed in"), new("original", "Its total", true)],
                Rows =
                [
                    .. report.Rows.Select(r =>
                        r with
                        {
                            Cells =
                                PaperOf(r) is { } id && foreign.TryGetValue(id, out var paper)
                                    ? [.. r.Cells, paper.Currency.Code, paper]
                                    : [.. r.Cells, null, null],
                        }
                    ),
                ],
            };
    }

    private static int? PaperOf(ReportRow row) =>
        row.Address is { } address
        && address.StartsWith(Papers, StringComparison.Ordinal)
        && int.TryParse(address.AsSpan(Papers.Length), CultureInfo.InvariantCulture, out var id)
            ? id
            : null;
}
