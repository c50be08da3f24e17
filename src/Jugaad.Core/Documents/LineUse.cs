namespace Jugaad.Core.Documents;

/// <summary>
/// What has been made from a line, of documents that are not cancelled. Quantities are the line's; amounts are minor
/// units in the price mode of the document.
/// </summary>
/// <param name="Quantity">The line's own.</param>
/// <param name="Base">The line's own amount less its share of the document's discount.</param>
public sealed record LineUse(decimal Quantity, long Base)
{
    /// <summary>On orders that were made from it.</summary>
    public decimal Ordered { get; init; }

    /// <summary>What those orders come to of it.</summary>
    public long OrderedAmount { get; init; }

    /// <summary>On delivery notes that were made from it.</summary>
    public decimal Delivered { get; init; }

    /// <summary>
    /// On invoices, by quantity, directly or through delivery notes; less what was credited again by quantity.
    /// </summary>
    public decimal Billed { get; init; }

    /// <summary>What that comes to.</summary>
    public long BilledByQuantity { get; init; }

    /// <summary>On invoices, by amount, in stages; less what was credited again.</summary>
    public long Staged { get; init; }

    /// <summary>Taken off on bills, of a deposit.</summary>
    public long Deducted { get; init; }

    /// <summary>On credit notes, by quantity.</summary>
    public decimal Credited { get; init; }

    /// <summary>What that comes to.</summary>
    public long CreditedByQuantity { get; init; }

    /// <summary>What it was only made cheaper by, on credit notes: the goods stay sold.</summary>
    public long Cheaper { get; init; }

    /// <summary>Whether it is billed in stages, and so cannot be billed by quantity too.</summary>
    public bool InStages => Staged != 0;

    public decimal LeftToOrder => InStages ? 0 : Left(Quantity - Ordered - Billed);

    public decimal LeftToDeliver => Left(Quantity - Delivered);

    public decimal LeftToBill => InStages ? 0 : Left(Quantity - Ordered - Billed);

    public decimal LeftToCredit => Left(Quantity - Credited);

    /// <summary>What may still be credited of it in money.</summary>
    public long LeftToCreditAmount => Base - CreditedByQuantity - Cheaper;

    /// <summary>What of a deposit is neither taken off nor credited.</summary>
    public long LeftToDeduct => Base - Deducted - CreditedByQuantity - Cheaper;

    /// <summary>What may still be billed by amount; 0 where some of it was billed by quantity.</summary>
    public long LeftToStage => Billed != 0 || Ordered != 0 ? 0 : Base - Staged;

    /// <summary>What has been billed of it in money.</summary>
    public long BilledAmount => Staged + BilledByQuantity;

    /// <summary>The share of its amount that a quantity has, rounded.</summary>
    public long PartOf(decimal quantity) => SharedParts.Share(Base, quantity, Quantity);

    /// <summary>
    /// A returned quantity is below zero, and what is left of it is too; what is left never changes sign.
    /// </summary>
    private decimal Left(decimal rest) => Quantity < 0 ? Math.Min(rest, 0) : Math.Max(rest, 0);
}
