namespace Jugaad.Core.Collecting;

/// <summary>What became of a promise.</summary>
public enum PromiseState
{
    /// <summary>Its day has not passed.</summary>
    Open,

    /// <summary>Its day has passed, but money came that is not placed yet and may be what was promised.</summary>
    Waits,

    /// <summary>All of it came in time, or nothing of what it is for was open any more.</summary>
    Kept,

    /// <summary>Some of it came in time.</summary>
    InPart,

    /// <summary>None of it came in time.</summary>
    Broken,
}

/// <summary>Money that was set against something on a day of booking; minor units.</summary>
public sealed record Came(DateOnly Day, long Amount);

/// <summary>What a promise has come to on a day.</summary>
/// <param name="Paid">What came in time, in minor units; may be more than was promised.</param>
/// <param name="Missing">What of the promise did not, not below zero.</param>
public sealed record PromiseJudgement(PromiseState State, long Paid, long Missing)
{
    /// <summary>Whether what was promised is left alone for now.</summary>
    public bool Holds => State is PromiseState.Open or PromiseState.Waits;

    public bool IsBroken => State is PromiseState.InPart or PromiseState.Broken;
}

/// <summary>What a customer said that they would pay, and by when.</summary>
/// <param name="Made">The day on which they said so; what came before it does not count.</param>
/// <param name="Until">The day by which they will pay.</param>
/// <param name="Amount">Minor units, above zero.</param>
public sealed record Promised(DateOnly Made, DateOnly Until, long Amount)
{
    /// <summary>Refuses a promise that cannot be.</summary>
    /// <param name="open">What is open of what it is for, in minor units.</param>
    public void Check(Refusals refusals, long open)
    {
        if (Amount <= 0)
            refusals.Add("amount", "Give what they promised to pay, above zero.");
        else if (Amount > open)
            refusals.Add("amount", "That is more than is open. Give what is open, or less.");
        if (Until < Made)
            refusals.Add("until", "The day has passed. Give the day by which they will pay, today or later.");
        else if (Until > Made.AddYears(1))
            refusals.Add("until", "That is more than a year away. Give a nearer day, or agree a plan.");
    }

    /// <summary>The last day on which money is in time.</summary>
    /// <param name="grace">Days that the business gives to the bank.</param>
    public DateOnly LastDay(int grace) => Until.AddDays(grace);

    /// <summary>Judges the promise at the end of a day, by what was booked up to it.</summary>
    /// <param name="came">What was set against the items that it is for, or against any where it names none.</param>
    /// <param name="unplaced">What of the customer's money is not set against anything yet, in minor units.</param>
    /// <param name="openAtLast">What was open of what it is for at the end of <paramref name="day"/>, or of the last day
    /// on which money is in time where that came before; minor units. Nobody breaks a promise to pay what is not owed:
    /// it may have been credited, or paid by money that came before.</param>
    public PromiseJudgement On(
        DateOnly day,
        int grace,
        IEnumerable<Came> came,
        long unplaced,
        long openAtLast = long.MaxValue
    )
    {
        var last = LastDay(grace);
        var paid = came.Where(c => c.Day >= Made && c.Day <= last && c.Day <= day).Sum(c => c.Amount);
        var missing = Math.Min(Math.Max(0, Amount - paid), openAtLast);
        var state =
            missing == 0 ? PromiseState.Kept
            : day <= last ? PromiseState.Open
            : unplaced > 0 ? PromiseState.Waits
            : paid > 0 ? PromiseState.InPart
            : PromiseState.Broken;
        return new PromiseJudgement(state, paid, missing);
    }
}
