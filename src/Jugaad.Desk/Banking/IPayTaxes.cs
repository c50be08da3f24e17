namespace Jugaad.Desk.Banking;

/// <summary>A filed tax return of which something is left.</summary>
/// <param name="Words">Which one it is.</param>
/// <param name="Signs">What names it or its authority in a bank's text: its reference, our number, the name.</param>
/// <param name="Left">Minor units of the home currency; below zero for what is to come back.</param>
public sealed record TaxToPay(int ReturnId, string Words, IReadOnlyList<string> Signs, long Left);

/// <summary>Tells which tax returns money at the bank may belong to, and notes that it does.</summary>
public interface IPayTaxes
{
    /// <summary>All of which something is left, the oldest first.</summary>
    Task<IReadOnlyList<TaxToPay>> LeftAsync(CancellationToken stop);

    /// <param name="amount">Minor units of the home currency, above zero, at most what is left.</param>
    /// <returns>The booking's id.</returns>
    Task<int> PaidAsync(int returnId, DateOnly date, int moneyAccountId, long amount, CancellationToken stop);
}
