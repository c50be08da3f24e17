namespace Jugaad.Core.Documents;

/// <summary>What a line of a document is for.</summary>
public enum LineRole
{
    /// <summary>A quantity of something at a price.</summary>
    Item,

    /// <summary>Words only.</summary>
    Text,

    /// <summary>The heading of a section; the lines below it, up to the next, belong to it.</summary>
    Section,

    /// <summary>Shows what the lines since the last heading or subtotal come to.</summary>
    Subtotal,

    /// <summary>A part of another document's line or charge, billed by amount.</summary>
    Stage,

    /// <summary>A part of a whole that is asked for beforehand.</summary>
    Deposit,

    /// <summary>Takes off what was asked for beforehand, with the tax that it had.</summary>
    Deduction,
}

/// <summary>Whether a line of a quote is part of the offer, or the customer's to choose.</summary>
public enum LineChoice
{
    Firm,

    /// <summary>The customer may add it.</summary>
    Optional,

    /// <summary>One of several neighbouring lines, of which one is chosen.</summary>
    Alternative,
}

/// <summary>What can be told of a line by its role.</summary>
public static class LineRoles
{
    /// <summary>Whether it has a quantity and a price; otherwise it is only shown.</summary>
    public static bool HasFigures(this LineRole role) =>
        role is not (LineRole.Text or LineRole.Section or LineRole.Subtotal);

    /// <summary>Whether what is billed with it is measured by amount, not by quantity.</summary>
    public static bool ByAmount(this LineRole role) => role is LineRole.Stage or LineRole.Deposit or LineRole.Deduction;
}
