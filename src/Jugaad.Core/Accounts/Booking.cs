namespace Jugaad.Core.Accounts;

/// <summary>What was done on the accounts.</summary>
public enum BookingKind
{
    /// <summary>Money from a customer, with what it was set against in the same go.</summary>
    Receipt,
    SetAgainst,
    TakenAway,
    EarlyPayment,
    SmallDifference,
    WriteOff,
    Recovery,

    /// <summary>The tax of a debt given up before, taken back from a later day.</summary>
    TaxOfBadDebt,

    /// <summary>A receipt that the bank took back.</summary>
    Returned,

    /// <summary>A receipt moved to another customer's account.</summary>
    Transfer,
    Refund,

    /// <summary>Money that belongs to no customer.</summary>
    OtherMoney,

    /// <summary>Money moved between own accounts of different currencies.</summary>
    Conversion,

    /// <summary>What is not realised of other currencies, at a period's end.</summary>
    Valuation,
}

/// <summary>
/// One thing done on the accounts: what it put on them, set against each other, took apart and posted is noted with it,
/// so that it can be undone as one.
/// </summary>
public sealed class Booking
{
    private Booking() { }

    /// <param name="customerId">Null where it is about no customer.</param>
    public Booking(BookingKind kind, DateOnly date, int? customerId, string by) =>
        (Kind, Date, CustomerId, By) = (kind, date, customerId, by);

    public int Id { get; private set; }

    public BookingKind Kind { get; private set; }

    /// <summary>The day on which it counts.</summary>
    public DateOnly Date { get; private set; }

    public int? CustomerId { get; private set; }

    /// <summary>What was done, in words.</summary>
    public string Words { get; private set; } = "";

    public string By { get; private set; } = "";

    public DateOnly? UndoneOn { get; private set; }

    public bool IsUndone => UndoneOn is not null;

    public void Say(string words) => Words = words;

    /// <exception cref="RefusalException">When it was undone already.</exception>
    public void Undo(DateOnly day) =>
        UndoneOn = UndoneOn is null ? day : throw new RefusalException("", "This was undone already.");
}
