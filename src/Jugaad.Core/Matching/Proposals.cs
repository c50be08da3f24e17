using Jugaad.Core.Amounts;

namespace Jugaad.Core.Matching;

/// <summary>Money that came in, as the bank describes it.</summary>
/// <param name="Amount">Minor units, above zero.</param>
/// <param name="Text">What the payer wrote.</param>
/// <param name="Reference">What came in the field for a structured reference; empty where none did.</param>
/// <param name="PayerAccount">IBAN or another number; empty where the bank does not say.</param>
public sealed record IncomingMoney(
    DateOnly Date,
    long Amount,
    Currency Currency,
    string Text,
    string Reference,
    string PayerName,
    string PayerAccount
)
{
    /// <summary>What the payer gave, in minor units of <see cref="GivenIn"/>, where the bank says so.</summary>
    public long Given { get; init; }

    /// <summary>The other currency in which the payer gave it; null where that is not known.</summary>
    public Currency? GivenIn { get; init; }
}

/// <summary>Something that is owed, as matching sees it. Amounts are minor units.</summary>
/// <param name="Id">The account item.</param>
/// <param name="Early">The early-payment discount; 0 where there is none, or something has been paid.</param>
/// <param name="EarlyUntil">The last day on which that is offered.</param>
public sealed record Owed(
    int Id,
    int CustomerId,
    string Number,
    string TheirNumber,
    Currency Currency,
    long Open,
    DateOnly Date,
    DateOnly Due,
    long Early = 0,
    DateOnly? EarlyUntil = null
)
{
    /// <summary>What clears it when the money came on a day, with the discount where it is offered then.</summary>
    public long WithEarly(DateOnly day) => Early > 0 && day <= EarlyUntil ? Open - Early : Open;
}

/// <summary>A customer, as matching knows them.</summary>
/// <param name="Currencies">In which they are billed.</param>
/// <param name="Accounts">The accounts that their money is known to come from.</param>
/// <param name="Names">Names under which their money is known to come, besides their own.</param>
public sealed record Payer(
    int CustomerId,
    string Name,
    string OtherName,
    IReadOnlyList<Currency> Currencies,
    IReadOnlyList<string> Accounts,
    IReadOnlyList<string> Names
);

/// <summary>A receipt that was entered by hand and has not been seen at the bank yet.</summary>
public sealed record Expected(
    int ReceiptId,
    int CustomerId,
    string Number,
    DateOnly Date,
    Currency Currency,
    long Amount,
    string Reference
);

/// <summary>
/// Money that went out by something entered by hand, and has not been seen at the bank yet: a refund, or a payment that
/// the bank took back.
/// </summary>
/// <param name="Amount">Minor units, above zero.</param>
/// <param name="Account">Where it went; empty where that is not known.</param>
public sealed record GoneOut(
    int BookingId,
    int CustomerId,
    string Number,
    string What,
    DateOnly Date,
    long Amount,
    string Account
);

/// <summary>How certain a proposal is.</summary>
public enum Certainty
{
    /// <summary>Nothing else can be meant; it may be placed without a look.</summary>
    Sure,

    /// <summary>Much speaks for it; worth a look.</summary>
    Likely,

    /// <summary>Something speaks for it.</summary>
    Possible,
}

/// <summary>A part of a proposal.</summary>
/// <param name="Amount">What of the money goes to it, in minor units.</param>
/// <param name="Early">Whether its early-payment discount is given with it.</param>
public sealed record ProposedPart(int ItemId, string Number, long Amount, bool Early);

/// <summary>What may become of money that came in.</summary>
/// <param name="Parts">What it is set against; none where all of it stays as credit.</param>
/// <param name="Credit">What stays as the customer's credit, in minor units.</param>
/// <param name="JoinsReceiptId">The receipt entered by hand that is the same money; null otherwise.</param>
/// <param name="Why">The reason, in words.</param>
public sealed record Proposal(
    Certainty Certainty,
    int CustomerId,
    IReadOnlyList<ProposedPart> Parts,
    long Credit,
    int? JoinsReceiptId,
    string Why
)
{
    /// <summary>
    /// What a bank or card company kept of the money before it came, in minor units: the parts come to that much more
    /// than the line.
    /// </summary>
    public long Fee { get; init; }

    /// <summary>
    /// What it pays in the currency of the parts, in its minor units, where that is another than the money's; null
    /// otherwise.
    /// </summary>
    public long? TheirAmount { get; init; }

    /// <summary>The currency of the parts, where it is another than the money's; null otherwise.</summary>
    public Currency? TheirCurrency { get; init; }

    /// <summary>
    /// The refund, or returned payment, entered by hand that is the same money gone out; null otherwise.
    /// </summary>
    public int? JoinsBookingId { get; init; }

    /// <summary>The card service's payout that it is; null otherwise.</summary>
    public int? PayoutId { get; init; }

    /// <summary>The tax return that it pays; null otherwise.</summary>
    public int? PaysReturnId { get; init; }

    /// <summary>Whether what it is joined with went between two of our own accounts.</summary>
    public bool IsTransfer { get; init; }

    /// <summary>
    /// The bank line of another own account that is the other side of a conversion with it; null otherwise.
    /// </summary>
    public int? PairsLineId { get; init; }
}
