namespace Jugaad.Core.Journal;

/// <summary>What an account is for, where the program itself must find it.</summary>
public enum AccountRole
{
    /// <summary>Money comes into it: a bank account, the cash box, card clearing.</summary>
    Money,
    Receivables,
    TaxOwed,
    Sales,
    ExchangeDifferences,
    RoundingDifferences,
}

/// <summary>An account of the journal.</summary>
public sealed class LedgerAccount
{
    private LedgerAccount() => (Code, Name) = ("", "");

    public LedgerAccount(string code, string name, AccountRole role) => (Code, Name, Role) = (code, name, role);

    public int Id { get; private set; }

    public string Code { get; private set; }

    public string Name { get; private set; }

    public AccountRole Role { get; private set; }
}
