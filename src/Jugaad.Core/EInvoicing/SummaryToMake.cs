using Jugaad.Core.Documents;

namespace Jugaad.Core.EInvoicing;

/// <summary>Sales that one summary will tell of, or what came back of some. Amounts are minor units.</summary>
/// <param name="From">The first day of the day or month.</param>
/// <param name="Until">Its last day.</param>
/// <param name="Documents">In the order of their days; there is at least one.</param>
public sealed record SummaryToMake(SummaryKind Kind, DateOnly From, DateOnly Until, IReadOnlyList<Document> Documents)
{
    public long Net => Documents.Sum(d => d.Net);

    public long Tax => Documents.Sum(d => d.Tax);

    public long Total => Documents.Sum(d => d.Total);

    public long Payable => Documents.Sum(d => d.Payable);
}
