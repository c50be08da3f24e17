using Jugaad.Core.Amounts;

namespace Jugaad.Core.Banking;

/// <summary>A line of a bank statement, as the file says it.</summary>
/// <param name="Date">The booking day.</param>
/// <param name="Amount">Minor units; above zero for money that came in.</param>
/// <param name="Name">The other side; empty where the file does not say.</param>
/// <param name="Account">The other side's account.</param>
/// <param name="Reference">A structured reference, where it came in a field of its own.</param>
/// <param name="BankReference">The bank's own name for the line, which tells it from all others; empty where it gives
/// none.</param>
public sealed record StatementLine(
    DateOnly Date,
    long Amount,
    string Name,
    string Account,
    string Text,
    string Reference,
    string BankReference
)
{
    /// <summary>Whether it is a payment that came back.</summary>
    public bool Returned { get; init; }

    /// <summary>
    /// What the payer gave, in minor units of <see cref="GivenIn"/>; 0 where that was the account's own currency.
    /// </summary>
    public long Given { get; init; }

    /// <summary>The other currency in which the payer gave it; null where there was none.</summary>
    public Currency? GivenIn { get; init; }

    /// <summary>What banks kept of it on the way, in minor units of the account's currency.</summary>
    public long Charge { get; init; }
}

/// <summary>One statement of one account, as a file says it.</summary>
/// <param name="Account">The account's number; empty where the file does not say.</param>
/// <param name="Opening">Minor units; null where the file does not say.</param>
/// <param name="Remarks">What the reader left out or took to mean, in words.</param>
public sealed record StatementFile(
    string Account,
    Currency Currency,
    string Number,
    DateOnly? From,
    DateOnly? Until,
    long? Opening,
    long? Closing,
    IReadOnlyList<StatementLine> Lines,
    IReadOnlyList<string> Remarks
)
{
    /// <summary>The format that it was written in, such as <c>CAMT</c>.</summary>
    public string Format { get; init; } = "";

    /// <summary>
    /// What is wrong with the figures, in words; null where opening and lines come to the closing balance, or it is not
    /// given.
    /// </summary>
    public string? Difference(DisplayFormat format)
    {
        if (Opening is not { } opening || Closing is not { } closing)
            return null;
        var comesTo = opening + Lines.Sum(l => l.Amount);
        return comesTo == closing
            ? null
            : $"The opening balance of {format.WithCode(opening, Currency)} and the lines come to {format.WithCode(comesTo, Currency)}, and the closing balance is {format.WithCode(closing, Currency)}: {format.WithCode(closing - comesTo, Currency)} is not in the file.";
    }
}
