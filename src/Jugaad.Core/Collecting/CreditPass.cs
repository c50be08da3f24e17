namespace Jugaad.Core.Collecting;

/// <summary>What happens when a document would pass a customer's credit limit.</summary>
public enum LimitCheck
{
    /// <summary>It is said, and goes on.</summary>
    Warn,

    /// <summary>It is not issued unless somebody who may let it pass gives a reason.</summary>
    Stop,

    /// <summary>Nothing is said.</summary>
    Off,
}

/// <summary>Somebody let a document pass the limit, up to an amount in use, and said why.</summary>
public sealed class CreditPass
{
    private CreditPass() { }

    /// <param name="upTo">What is in use with it, in minor units of the customer's currency.</param>
    /// <exception cref="RefusalException">When no reason is given.</exception>
    public CreditPass(int documentId, long upTo, DateOnly day, string by, string reason)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "reason", reason, 300, "Say why it may pass the limit.");
        refusals.ThrowIfAny();
        (DocumentId, UpTo, Day, By, Reason) = (documentId, upTo, day, by, reason.Trim());
    }

    public int Id { get; private set; }

    public int DocumentId { get; private set; }

    public long UpTo { get; private set; }

    public DateOnly Day { get; private set; }

    public string By { get; private set; } = "";

    public string Reason { get; private set; } = "";
}
