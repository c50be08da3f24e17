namespace Jugaad.Core.Returns;

/// <summary>
/// What was paid too much of one return, or comes back by it, set against what another to the same authority asks for.
/// Nothing is posted: both stand on the account of what is owed to the authority.
/// </summary>
public sealed class TaxCarry
{
    private TaxCarry() { }

    /// <param name="amount">Minor units of the home currency, above zero.</param>
    public TaxCarry(int fromReturnId, int toReturnId, long amount, DateOnly on) =>
        (FromReturnId, ToReturnId, Amount, On) = (fromReturnId, toReturnId, amount, on);

    public int Id { get; private set; }

    public int FromReturnId { get; private set; }

    public int ToReturnId { get; private set; }

    public long Amount { get; private set; }

    public DateOnly On { get; private set; }
}
