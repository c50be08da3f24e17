using Jugaad.Core.Amounts;

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

    /// <summary>The other side of what is taken over when a business moves in.</summary>
    OpeningBalances,

    /// <summary>What is taken off for paying early.</summary>
    DiscountsGiven,

    /// <summary>Debts that are given up.</summary>
    BadDebts,

    /// <summary>Tax of an authority that is told by payment, until what it is on is paid.</summary>
    TaxNotDue,

    /// <summary>What claims, debts and money in other currencies gained or lost and is not realised.</summary>
    Valuation,

    /// <summary>
    /// Anything else, such as interest and bank charges: opening balances, and money that belongs to no customer.
    /// </summary>
    Other,
}

/// <summary>What kind of place money comes into.</summary>
public enum MoneyKind
{
    Bank,
    Cash,
    CardClearing,
}

/// <summary>What an account is described by.</summary>
public sealed record AccountDetails
{
    public string Code { get; init; } = "";

    public string Name { get; init; } = "";

    public AccountRole Role { get; init; }

    public MoneyKind Kind { get; init; }

    /// <summary>The code of the currency that the account is in; empty for home. For where money comes into only.</summary>
    public string Currency { get; init; } = "";

    public string BankName { get; init; } = "";

    public string Iban { get; init; } = "";

    public string Bic { get; init; } = "";

    /// <summary>Whether papers tell customers to pay into it.</summary>
    public bool OnPapers { get; init; }
}

/// <summary>An account of the journal.</summary>
public sealed class LedgerAccount : IRetirable
{
    private LedgerAccount() => (Code, Name) = ("", "");

    public LedgerAccount(string code, string name, AccountRole role, MoneyKind kind = MoneyKind.Bank)
        : this() =>
        Describe(
            new AccountDetails
            {
                Code = code,
                Name = name,
                Role = role,
                Kind = kind,
            }
        );

    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    public LedgerAccount(AccountDetails details)
        : this() => Describe(details);

    public int Id { get; private set; }

    public string Code { get; private set; }

    public string Name { get; private set; }

    /// <summary>It never changes, since what was posted counts by it.</summary>
    public AccountRole Role { get; private set; }

    public MoneyKind Kind { get; private set; }

    /// <summary>
    /// The currency that it is in; null for home. It never changes, since what was posted counts in it.
    /// </summary>
    public Currency? Currency { get; private set; }

    public string BankName { get; private set; } = "";

    public string Iban { get; private set; } = "";

    public string Bic { get; private set; } = "";

    public bool OnPapers { get; private set; }

    /// <summary>No longer offered; what was posted to it stays.</summary>
    public bool Retired { get; private set; }

    /// <exception cref="RefusalException">With every field that is wrong; nothing is changed then.</exception>
    public void Describe(AccountDetails details)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "code", details.Code, 20, "Give the account a number.");
        Texts.Required(refusals, "name", details.Name, 100, "Give the account a name.");
        if (details.Currency.Length > 0)
        {
            refusals.Try(() => Amounts.Currency.Of(details.Currency));
            if (details.Role != AccountRole.Money)
                refusals.Add("currency", "Only an account that money comes into can be in another currency.");
        }

        var bank = details.Role == AccountRole.Money && details.Kind == MoneyKind.Bank;
        if (bank)
        {
            Texts.Short(refusals, "bankName", details.BankName, 100);
            refusals.Try(() => Trade.Iban.Check(details.Iban, "iban"));
            refusals.Try(() => Trade.Iban.CheckBic(details.Bic, details.Iban, "bic"));
            if (details.OnPapers && details.Iban.Trim().Length == 0)
                refusals.Add(
                    "iban",
                    "Papers can only name an account that has its IBAN. Give it, or leave the account off papers."
                );
        }

        refusals.ThrowIfAny();
        (Code, Name) = (details.Code.Trim(), details.Name.Trim());
        if (Id == 0)
            (Role, Kind, Currency) = (
                details.Role,
                details.Kind,
                details.Currency.Length > 0 ? Amounts.Currency.Of(details.Currency) : null
            );
        (BankName, Iban, Bic, OnPapers) = bank
            ? (
                details.BankName.Trim(),
                Trade.Iban.Compact(details.Iban),
                Trade.Iban.Compact(details.Bic),
                details.OnPapers
            )
            : ("", "", "", false);
    }

    /// <exception cref="RefusalException">When the program cannot do without it.</exception>
    public void Retire(bool retired)
    {
        if (retired && Role is not (AccountRole.Money or AccountRole.Sales or AccountRole.Other))
            throw new RefusalException(
                "",
                $"{Code} {Name} is posted to by every invoice or receipt, so it stays. You can rename it."
            );
        Retired = retired;
    }

    public static string Words(AccountRole role) =>
        role switch
        {
            AccountRole.Money => "money comes in",
            AccountRole.Receivables => "what customers owe",
            AccountRole.TaxOwed => "tax owed",
            AccountRole.Sales => "sales",
            AccountRole.ExchangeDifferences => "exchange differences",
            AccountRole.RoundingDifferences => "rounding differences",
            AccountRole.OpeningBalances => "opening balances",
            AccountRole.DiscountsGiven => "early-payment discounts",
            AccountRole.BadDebts => "debts given up",
            AccountRole.TaxNotDue => "tax not due yet",
            AccountRole.Valuation => "valuation of other currencies",
            _ => "other",
        };

    public static string Words(MoneyKind kind) =>
        kind switch
        {
            MoneyKind.Bank => "bank account",
            MoneyKind.Cash => "cash box",
            _ => "card clearing",
        };
}
