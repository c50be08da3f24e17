namespace Jugaad.Core.Collecting;

/// <summary>How a customer was spoken to, or that they were not.</summary>
public enum ContactWay
{
    Call,

    /// <summary>Somebody called, and nobody answered.</summary>
    NoAnswer,

    /// <summary>They called or wrote of their own accord.</summary>
    TheyCame,

    /// <summary>Somebody went there, or they were met.</summary>
    Visit,
}

/// <summary>What is said of a contact with a customer.</summary>
/// <param name="SpokeTo">Whom one spoke to.</param>
/// <param name="Said">What they said.</param>
/// <param name="AskAgainOn">The day on which to come back to it; null for when the business does anyway.</param>
public sealed record ContactSaid(ContactWay Way, string SpokeTo, string Said, DateOnly? AskAgainOn);

/// <summary>A note of a contact about money that is owed.</summary>
public sealed class ContactNote
{
    public const int MostOfSaid = 1000;

    private ContactNote() { }

    /// <param name="day">The business day.</param>
    /// <param name="by">Who of the business it was.</param>
    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public ContactNote(int customerId, DateOnly day, string by, ContactSaid details)
    {
        var refusals = new Refusals();
        Texts.Short(refusals, "spokeTo", details.SpokeTo, 120);
        Texts.Short(refusals, "said", details.Said, MostOfSaid);
        CheckAskAgain(refusals, details.AskAgainOn, day);
        refusals.ThrowIfAny();
        (CustomerId, Day, By) = (customerId, day, by);
        (Way, SpokeTo, Said) = (details.Way, details.SpokeTo.Trim(), details.Said.Trim());
        AskAgainOn = details.AskAgainOn;
    }

    public int Id { get; private set; }

    public int CustomerId { get; private set; }

    public DateOnly Day { get; private set; }

    public string By { get; private set; } = "";

    public ContactWay Way { get; private set; }

    public string SpokeTo { get; private set; } = "";

    public string Said { get; private set; } = "";

    public DateOnly? AskAgainOn { get; private set; }

    /// <summary>Whether it was noted by mistake; it stays to be read, and counts for nothing.</summary>
    public bool TakenBack { get; private set; }

    /// <exception cref="RefusalException">When it is taken back already.</exception>
    public void TakeBack()
    {
        if (TakenBack)
            throw new RefusalException("", "This note was taken back already.");
        TakenBack = true;
    }

    /// <summary>Refuses a day to ask again that has passed, or is years away.</summary>
    public static void CheckAskAgain(Refusals refusals, DateOnly? again, DateOnly today)
    {
        if (again <= today)
            refusals.Add("again", "Give a day after today on which to ask again.");
        else if (again > today.AddYears(2))
            refusals.Add("again", "That is more than two years away. Give a nearer day.");
    }
}
