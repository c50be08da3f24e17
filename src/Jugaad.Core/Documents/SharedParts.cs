using Jugaad.Core.Amounts;

namespace Jugaad.Core.Documents;

/// <summary>
/// A line that others are parts of, and what the parts before this document came to. Amounts are minor units.
/// </summary>
/// <param name="DocumentId">The document that it stands on.</param>
/// <param name="LineId">The line whose parts are added up: of an order, where a delivery note stands between.</param>
/// <param name="Amount">What the line comes to before its share of the document's discount.</param>
/// <param name="Base">What it comes to after that; less what it was made cheaper by.</param>
/// <param name="Before">The quantity of the parts before.</param>
/// <param name="BeforeAmount">What those came to.</param>
public sealed record SharedLine(
    int DocumentId,
    int LineId,
    decimal Quantity,
    decimal UnitPrice,
    long Amount,
    long Base,
    decimal Before,
    long BeforeAmount
);

/// <summary>A document that others are parts of.</summary>
/// <param name="Lines">The quantities of the lines that count, by their ids.</param>
/// <param name="Untouched">Whether nothing was made of it before.</param>
public sealed record SharedDocument(
    decimal? DiscountPercent,
    long? DiscountAmount,
    IReadOnlyDictionary<int, decimal> Lines,
    bool Untouched
)
{
    public bool HasDiscount => DiscountPercent is > 0 || DiscountAmount is > 0;
}

/// <summary>
/// What lines come to that are parts of others by quantity. One rule for billing, ordering and crediting: a part gets
/// the rounded share of the whole up to and with it, less what the parts before it got. So all parts together are the
/// whole, to the cent, in whatever order, size and number they come.
/// </summary>
internal sealed class SharedParts
{
    private readonly long?[] _shares;
    private readonly decimal?[] _folded;

    private SharedParts(DraftContent content) =>
        (Content, _shares, _folded) = (content, new long?[content.Lines.Count], new decimal?[content.Lines.Count]);

    /// <summary>The content, without the document's discount where that has gone into the lines.</summary>
    internal DraftContent Content { get; private set; }

    internal static SharedParts Of(DraftContent content, DraftMasters masters, KindPolicy policy)
    {
        var parts = new SharedParts(content);
        if (policy.Kind == DocumentKind.DeliveryNote)
            return parts;
        var sources = SourcesOf(content.Lines.Where(l => l.Role != LineRole.Deduction), masters);
        // A deposit that is taken off comes from another bill, and is not what this one bills.
        if (sources.Count == 0)
            sources = SourcesOf(content.Lines, masters);
        if (sources.Count == 0)
            return parts;
        var folds = parts.Fold(content, masters, sources);
        var shared = content
            .Lines.Select((l, i) => (Line: l, I: i, Of: SourceOf(l, masters)))
            .Where(p => p.Of is not null)
            .ToList();
        var used = new Dictionary<int, (decimal Quantity, long Amount)>();
        foreach (var (line, i, of) in shared)
        {
            var (quantity, amount) = used.GetValueOrDefault(of!.LineId);
            var now = UpTo(of, folds, of.Before + quantity + line.Quantity) - of.BeforeAmount - amount;
            parts._shares[i] = now;
            if (
                folds
                && masters.SharedDocuments.GetValueOrDefault(of.DocumentId) is { DiscountPercent: > 0 and var percent }
            )
                parts._folded[i] = percent;
            used[of.LineId] = (quantity + line.Quantity, amount + now);
        }

        return parts;
    }

    /// <summary>What a line comes to as a part; null where it has a price of its own.</summary>
    internal long? OfLine(int i) => _shares[i];

    /// <summary>The percentage of the source's discount that has gone into the line; null where none has.</summary>
    internal decimal? FoldedOf(int i) => _folded[i];

    /// <summary>The share of a whole that a quantity has, rounded; never beyond the whole.</summary>
    internal static long Share(long whole, decimal part, decimal quantity)
    {
        if (quantity == 0)
            return 0;
        var exact = (Int128)whole * Rounding.Scaled(Math.Abs(part), Limits.FigureDecimals);
        var share = (long)Rounding.Divide(exact, Rounding.Scaled(Math.Abs(quantity), Limits.FigureDecimals));
        return part != 0 && Math.Sign(part) != Math.Sign(quantity) ? -share : share;
    }

    private static long UpTo(SharedLine of, bool folds, decimal quantity) =>
        Share(folds ? of.Base : of.Amount, quantity, of.Quantity);

    private static List<int> SourcesOf(IEnumerable<DraftLine> lines, DraftMasters masters) =>
        [
            .. lines
                .Select(l => l.FromLineId is { } from ? masters.SharedLines.GetValueOrDefault(from) : null)
                .OfType<SharedLine>()
                .Select(s => s.DocumentId)
                .Distinct(),
        ];

    /// <summary>Only a line at the price of its source is a part of it; another price was typed on purpose.</summary>
    private static SharedLine? SourceOf(DraftLine line, DraftMasters masters) =>
        line is { Shares: true, FromLineId: { } from }
        && masters.SharedLines.GetValueOrDefault(from) is { } of
        && of.UnitPrice == line.UnitPrice
            ? of
            : null;

    /// <summary>
    /// A whole that goes over as it is keeps the document's discount as it was given; of anything less, each line bears
    /// its share of it.
    /// </summary>
    private bool Fold(DraftContent content, DraftMasters masters, IReadOnlyList<int> sources)
    {
        if (
            sources is not [var only]
            || !masters.SharedDocuments.TryGetValue(only, out var source)
            || !source.HasDiscount
        )
            return true;
        if (content.DiscountPercent != source.DiscountPercent || content.DiscountAmount != source.DiscountAmount)
            return true;
        var figured = content.Lines.Where(l => l.Counts).ToList();
        var whole =
            source.Untouched
            && figured.Count == source.Lines.Count
            && figured.TrueForAll(l =>
                l.FromLineId is { } from && source.Lines.TryGetValue(from, out var quantity) && quantity == l.Quantity
            );
        if (whole)
            return false;
        Content = content with { DiscountPercent = null, DiscountAmount = null };
        return true;
    }
}
