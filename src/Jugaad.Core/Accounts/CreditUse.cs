namespace Jugaad.Core.Accounts;

/// <summary>
/// How much of a customer's credit is used. Amounts are minor units of the customer's currency, with tax.
/// </summary>
/// <param name="Open">What is open on the account, less credit.</param>
/// <param name="Delivered">Delivered and not billed.</param>
/// <param name="Ordered">Ordered, neither delivered nor billed.</param>
/// <param name="Drafts">Bills that are written and not issued.</param>
/// <param name="Limit">Null where there is none.</param>
public sealed record CreditUse(long Open, long Delivered, long Ordered, long Drafts, long? Limit)
{
    /// <summary>What they have had, or were promised; credit of theirs gives room.</summary>
    public long Firm => Open + Delivered + Ordered;

    public long Used => Firm + Drafts;

    /// <summary>Null where there is no limit; below zero where it is passed.</summary>
    public long? Left => Limit - Used;
}

/// <summary>What is left to bill of a line, and how much of that was delivered. Minor units.</summary>
/// <param name="Whole">What the line comes to.</param>
/// <param name="Delivered">What was delivered of it comes to.</param>
/// <param name="Billed">What was billed of it.</param>
public sealed record UnbilledLine(long Whole, long Delivered, long Billed)
{
    public long DeliveredLeft => Math.Clamp(Delivered - Billed, 0, Left);

    public long OrderedLeft => Left - DeliveredLeft;

    private long Left => Math.Max(0, Whole - Billed);
}
