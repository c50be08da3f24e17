using Jugaad.Core.Accounts;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>A paper with which something may be wrong.</summary>
public sealed record DoubtedPaper(int Id, string Number, string Why);

/// <summary>What may be wrong with what a return tells.</summary>
/// <param name="WithoutNumber">Their buyers account for the tax, and papers do not say by which tax number.</param>
/// <param name="Unusual">At another rate than the tax has on their day.</param>
/// <param name="MoneyWaiting">By payment: money that came and is set against nothing, so that its tax may be
/// missing.</param>
public sealed record ReturnDoubts(
    IReadOnlyList<DoubtedPaper> WithoutNumber,
    IReadOnlyList<DoubtedPaper> Unusual,
    IReadOnlyList<DoubtedPaper> MoneyWaiting
)
{
    /// <summary>Numbers of invoices, credit and debit notes that no paper of the books has, with why.</summary>
    public IReadOnlyList<LeftOutNumbers> Gaps { get; init; } = [];

    public bool Any => WithoutNumber.Count + Unusual.Count + MoneyWaiting.Count + Gaps.Count > 0;
}

/// <summary>Looks for what a bookkeeper would ask about before filing.</summary>
public sealed class ReturnDoubting(BooksContext db, GapsInNumbers gaps)
{
    public async Task<ReturnDoubts> OfAsync(ReturnThen then, CancellationToken stop = default)
    {
        var papers = new Dictionary<int, (int Id, string Number, string TaxNumber)>();
        foreach (var some in then.Rows.Select(r => r.Figure).Distinct().Chunk(5_000))
        {
            foreach (
                var paper in await (
                    from figure in db.TaxFigures
                    join document in db.Documents on figure.DocumentId equals document.Id
                    where some.Contains(figure.Id)
                    select new
                    {
                        figure.Id,
                        Paper = document.Id,
                        document.Number,
                        TaxNumber = document.Addressee == null ? "" : document.Addressee.TaxNumber,
                    }
                ).ToListAsync(stop)
            )
                papers[paper.Id] = (paper.Paper, paper.Number!, paper.TaxNumber);
        }
        var components = (await db.TaxComponents.AsNoTracking().ToListAsync(stop))
            .GroupBy(c => c.Name)
            .ToDictionary(c => c.Key, c => c.First());
        var (without, unusual) = (new List<DoubtedPaper>(), new List<DoubtedPaper>());
        foreach (var row in then.Rows.Where(r => papers.ContainsKey(r.Figure)))
        {
            var (id, number, taxNumber) = papers[row.Figure];
            if (row.Key.Category is TaxCategory.IntraUnion or TaxCategory.ReverseCharge && taxNumber.Length == 0)
                without.Add(new DoubtedPaper(id, number, "its buyer has no tax number"));
            if (
                components.TryGetValue(row.Key.Component, out var component)
                && component.RateOn(row.Date)?.Percent is { } usual
                && usual != row.Key.Percent
            )
                unusual.Add(
                    new DoubtedPaper(
                        id,
                        number,
                        $"{row.Key.Component} at {Core.Amounts.PlainDecimal.Text(row.Key.Percent)} %, usually {Core.Amounts.PlainDecimal.Text(usual)} %"
                    )
                );
        }

        return new ReturnDoubts(
            [.. without.DistinctBy(d => d.Id)],
            [.. unusual.DistinctBy(d => (d.Id, d.Why))],
            then is { Basis: TaxBasis.ByPayment, Filed: null } ? await WaitingAsync(then, stop) : []
        )
        {
            Gaps = await gaps.OfAsync(then.From, then.To, stop),
        };
    }

    private async Task<IReadOnlyList<DoubtedPaper>> WaitingAsync(ReturnThen then, CancellationToken stop) =>
        await db
            .AccountItems.Where(i =>
                i.Kind == AccountItemKind.Receipt
                && i.ReceiptId != null
                && i.Open > 0
                && i.Date >= then.From
                && i.Date <= then.To
            )
            .OrderBy(i => i.Date)
            .Select(i => new DoubtedPaper(i.ReceiptId!.Value, i.Number, "is set against nothing"))
            .ToListAsync(stop);
}
