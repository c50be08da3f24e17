namespace Jugaad.Core.Returns;

/// <summary>Why an authority asks for more than a return tells.</summary>
public enum TaxChargeKind
{
    LateFiling,
    Interest,
    Other,
}

/// <summary>
/// What an authority asks for besides what a filed return tells, such as for filing late; owed to it with the return.
/// </summary>
public sealed class TaxCharge
{
    private TaxCharge() => Text = "";

    /// <param name="date">The day from which it is owed; posted on it.</param>
    /// <param name="amount">Minor units of the home currency, above zero.</param>
    /// <param name="accountId">The ledger account against which it is posted.</param>
    /// <param name="text">What the authority wrote, such as the number of its letter; may be empty.</param>
    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    public TaxCharge(int returnId, TaxChargeKind kind, DateOnly date, long amount, int accountId, string text)
        : this()
    {
        var refusals = new Refusals();
        if (amount <= 0)
            refusals.Add("charge", "Give what they ask for, above zero.");
        Texts.Short(refusals, "chargeText", text, 200);
        refusals.ThrowIfAny();
        (ReturnId, Kind, Date, Amount, AccountId, Text) = (returnId, kind, date, amount, accountId, text.Trim());
    }

    public int Id { get; private set; }

    public int ReturnId { get; private set; }

    public TaxChargeKind Kind { get; private set; }

    public DateOnly Date { get; private set; }

    public long Amount { get; private set; }

    public int AccountId { get; private set; }

    public string Text { get; private set; }

    /// <summary>The business day on which it was taken back; null while it stands.</summary>
    public DateOnly? UndoneOn { get; private set; }

    /// <exception cref="RefusalException">When it was taken back already.</exception>
    public void Undo(DateOnly day)
    {
        if (UndoneOn is { } undone)
            throw new RefusalException("", $"This charge was taken back on {undone:yyyy-MM-dd}.");
        UndoneOn = day;
    }

    /// <summary>What it is for, in words.</summary>
    public static string Words(TaxChargeKind kind) =>
        kind switch
        {
            TaxChargeKind.LateFiling => "for filing late",
            TaxChargeKind.Interest => "interest",
            _ => "other charge",
        };
}
