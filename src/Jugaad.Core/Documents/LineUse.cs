using Jugaad.Core.Amounts;

namespace Jugaad.Core.Documents;

/// <summary>
/// What has been made from a line, of documents that are not cancelled. Quantities are the line's; amounts are minor units
/// in the price mode of the document.
/// </summary>
/// <param name="Quantity">The line's own.</param>
/// <param name="Base">The line's own amount less its share of the document's discount.</param>
public sealed record LineUse(decimal Quantity, long Base)
{
    /// <summary>On orders that were made from it.</summary>
    public decimal Ordered { get; init; }

    /// <summary>On delivery notes that were made from it.</summary>
    public decimal Delivered { get; init; }

    /// <summary>On invoices, by quantity, directly or through delivery notes.</summary>
    public decimal Billed { get; init; }

    /// <summary>On invoices, by amount, in stages.</summary>
    public long Staged { get; init; }

    /// <summary>On credit notes.</summary>
    public decimal Credited { get; init; }

    /// <summary>Whether it is billed in stages, and so cannot be billed by quantity too.</summary>
    public bool InStages => Staged != 0;

    public decimal LeftToOrder => Left(Quantity - Ordered - Billed);

    public decimal LeftToDeliver => Left(Quantity - Delivered);

    public decimal LeftToBill => InStages ? 0 : Left(Quantity - Ordered - Billed);

    public decimal LeftToCredit => Left(Quantity - Credited);

    /// <summary>What may still be billed by amount; 0 where some of it was billed by quantity.</summary>
    public long LeftToStage => Billed != 0 || Ordered != 0 ? 0 : Base - Staged;

    /// <summary>What has been billed of it in money, with the share that a quantity has of the whole.</summary>
    public long BilledAmount => InStages ? Staged : Quantity == 0 ? 0 : Billed == Quantity ? Base : PartOf(Billed);

    private long PartOf(decimal quantity) =>
        (long)Rounding.Divide((Int128)Base * Rounding.Scaled(Math.Abs(quantity), Limits.FigureDecimals), Rounding.Scaled(Math.Abs(Quantity), Limits.FigureDecimals));

    /// <summary>A returned quantity is below zero, and what is left of it is too; what is left never changes sign.</summary>
    private decimal Left(decimal rest) => Quantity < 0 ? Math.Min(rest, 0) : Math.Max(rest, 0);
}
