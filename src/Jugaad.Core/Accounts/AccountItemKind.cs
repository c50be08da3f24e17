namespace Jugaad.Core.Accounts;

/// <summary>What kind of thing stands on a customer's account.</summary>
public enum AccountItemKind
{
    Invoice,
    DebitNote,
    Refund,
    Receipt,
    CreditNote,
    WriteOff,

    /// <summary>An early-payment discount that was taken.</summary>
    EarlyPayment,

    /// <summary>A small rest of what is owed that is not asked for.</summary>
    SmallDifference,

    /// <summary>A small rest of credit that is not given back.</summary>
    SmallGain,

    /// <summary>A receipt that the bank took back.</summary>
    Returned,

    /// <summary>A receipt that turned out to be another customer's.</summary>
    MovedOut,

    /// <summary>Money that first stood on another customer's account.</summary>
    MovedIn,

    /// <summary>Something that was taken off and is owed after all.</summary>
    Recovery,
}

/// <summary>What the kinds do to a balance.</summary>
public static class AccountItemKinds
{
    /// <summary>Whether it raises what the customer owes.</summary>
    public static bool Raises(this AccountItemKind kind) =>
        kind
            is AccountItemKind.Invoice
                or AccountItemKind.DebitNote
                or AccountItemKind.Refund
                or AccountItemKind.SmallGain
                or AccountItemKind.Returned
                or AccountItemKind.MovedOut
                or AccountItemKind.Recovery;

    /// <summary>Whether it asks for money; the other kinds that raise only take back what lowered.</summary>
    public static bool IsDemand(this AccountItemKind kind) =>
        kind is AccountItemKind.Invoice or AccountItemKind.DebitNote;

    /// <summary>
    /// Whether it is money or credit that can be placed as one likes; the other kinds that lower belong to the one
    /// invoice that they were made on.
    /// </summary>
    public static bool CanBePlaced(this AccountItemKind kind) =>
        kind is AccountItemKind.Receipt or AccountItemKind.CreditNote or AccountItemKind.MovedIn;

    public static string Word(this AccountItemKind kind) =>
        kind switch
        {
            AccountItemKind.Invoice => "invoice",
            AccountItemKind.DebitNote => "debit note",
            AccountItemKind.Refund => "refund",
            AccountItemKind.Receipt => "receipt",
            AccountItemKind.CreditNote => "credit note",
            AccountItemKind.WriteOff => "write-off",
            AccountItemKind.EarlyPayment => "early-payment discount",
            AccountItemKind.SmallDifference => "small difference, given up",
            AccountItemKind.SmallGain => "small difference, kept",
            AccountItemKind.Returned => "payment returned by the bank",
            AccountItemKind.MovedOut => "moved to another customer",
            AccountItemKind.MovedIn => "moved from another customer",
            _ => "owed after all",
        };
}
