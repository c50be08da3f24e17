using Jugaad.Core.Banking;

namespace Jugaad.Desk.Outside;

/// <summary>Reads bank statements of every format that we know.</summary>
public interface IStatementReader
{
    /// <param name="file">It can be set back to its beginning.</param>
    /// <param name="columns">How a CSV is read; null where nobody said yet.</param>
    /// <exception cref="Core.RefusalException">When it is no statement, or a broken one, with where; field
    /// <c>columns</c> where a CSV needs its columns said.</exception>
    IReadOnlyList<StatementFile> Read(Stream file, string name, CsvColumns? columns, Core.Amounts.Currency otherwise);

    /// <summary>The heads of a CSV's columns; none where it is no CSV.</summary>
    IReadOnlyList<string> HeadsOf(Stream file);
}

/// <summary>A bill that lies on a customer's desk.</summary>
/// <param name="Open">Minor units.</param>
public sealed record OpenBill(string Number, int CustomerId, string Customer, long Open, DateOnly Due);

/// <summary>What the bank is asked for: the statement of an account over some days.</summary>
/// <param name="Opening">What it ended with before, in minor units.</param>
/// <param name="Bills">What customers have to pay. A real bank has no use for it; the stand-in plays the customers as
/// well.</param>
public sealed record StatementAsked(
    string Iban,
    Core.Amounts.Currency Currency,
    DateOnly From,
    DateOnly Until,
    long Opening,
    IReadOnlyList<OpenBill> Bills
)
{
    /// <summary>What the card service said that it pays out; for the stand-in, like the bills.</summary>
    public IReadOnlyList<PlayedPayout> Payouts { get; init; } = [];
}

/// <summary>A payout that is on its way to the bank.</summary>
/// <param name="Net">Minor units.</param>
public sealed record PlayedPayout(string Reference, DateOnly Day, long Net);

/// <summary>A bank that gives statements.</summary>
public interface IBank
{
    /// <returns>A camt.053 file; null where nothing moved.</returns>
    Task<byte[]?> StatementAsync(StatementAsked asked, CancellationToken stop);
}
