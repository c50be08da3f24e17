namespace Jugaad.Core.Paying;

/// <summary>What the card service tells.</summary>
public enum CardNews
{
    Paid,
    Declined,
    Left,
    PaidBack,
    PaidOut,
}

/// <summary>
/// Something that the card service told, signed by it, and what was made of it. Each is taken once, however often it
/// is told.
/// </summary>
public sealed class CardCall
{
    private CardCall() { }

    /// <param name="key">The service's own name for what happened.</param>
    /// <param name="problem">Why nothing was booked of it although it speaks of money; empty where all is well.</param>
    public CardCall(string key, CardNews news, string about, DateOnly day, string problem) =>
        (Key, News, About, Day, Problem) = (key, news, about, day, problem);

    public int Id { get; private set; }

    public string Key { get; private set; } = "";

    public CardNews News { get; private set; }

    /// <summary>The service's name for the payment or payout that it is about.</summary>
    public string About { get; private set; } = "";

    public DateOnly Day { get; private set; }

    public string Problem { get; private set; } = "";

    /// <summary>The day on which somebody said that they saw to the problem; null while nobody has.</summary>
    public DateOnly? SeenToOn { get; private set; }

    public bool IsOpen => Problem.Length > 0 && SeenToOn is null;

    public void SeeTo(DateOnly day) => SeenToOn = day;
}
