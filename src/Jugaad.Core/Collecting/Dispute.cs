using Jugaad.Core.Amounts;

namespace Jugaad.Core.Collecting;

/// <summary>What a dispute has come to.</summary>
public enum DisputeOutcome
{
    Open,

    /// <summary>The customer was right: it was credited, or will be.</summary>
    Granted,

    /// <summary>The customer was not right, or gave in: it is owed.</summary>
    Owed,

    /// <summary>It was noted by mistake.</summary>
    Mistake,
}

/// <summary>How outcomes are told.</summary>
public static class DisputeOutcomes
{
    public static string Words(this DisputeOutcome outcome) =>
        outcome switch
        {
            DisputeOutcome.Open => "not settled yet",
            DisputeOutcome.Granted => "they were right",
            DisputeOutcome.Owed => "it is owed",
            _ => "noted by mistake",
        };
}

/// <summary>What a customer says that they do not owe, or not yet.</summary>
public sealed class Dispute
{
    private Dispute() { }

    /// <param name="amount">What of the item is in dispute, in minor units of its currency.</param>
    /// <param name="open">What is open of it and in no dispute yet.</param>
    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public Dispute(
        int customerId,
        int itemId,
        DateOnly from,
        long amount,
        Money open,
        string reason,
        int? seesToId,
        ContactNote? note
    )
    {
        var refusals = new Refusals();
        if (amount <= 0)
            refusals.Add("disputed", "Give what they do not agree to, above zero.");
        else if (amount > open.Minor)
            refusals.Add("disputed", $"Only {open} is open and not in dispute yet. Give that, or less.");
        Texts.Required(refusals, "reason", reason, 300, "Say in a few words what they do not agree to.");
        refusals.ThrowIfAny();
        (CustomerId, ItemId, From, Amount, Reason) = (customerId, itemId, from, amount, reason.Trim());
        (SeesToId, Note) = (seesToId, note);
    }

    public int Id { get; private set; }

    public int CustomerId { get; private set; }

    public int ItemId { get; private set; }

    /// <summary>The first day on which it holds.</summary>
    public DateOnly From { get; private set; }

    /// <summary>The day from which it holds no more; null while it holds.</summary>
    public DateOnly? Until { get; private set; }

    /// <summary>Minor units of the item's currency.</summary>
    public long Amount { get; private set; }

    public string Reason { get; private set; } = "";

    /// <summary>Who of the business sees to it.</summary>
    public int? SeesToId { get; private set; }

    public int? NoteId { get; private set; }

    public ContactNote? Note { get; private set; }

    public DisputeOutcome Outcome { get; private set; }

    /// <summary>What was found; empty while it holds.</summary>
    public string Found { get; private set; } = "";

    public bool HoldsOn(DateOnly day) => From <= day && (Until is null || day < Until);

    public void HandTo(int? personId) => SeesToId = personId;

    /// <exception cref="RefusalException">When it has ended already, or nothing is said of how.</exception>
    public void End(DateOnly day, DisputeOutcome outcome, string found)
    {
        if (Until is not null)
            throw new RefusalException("", "This dispute has ended already.");
        var refusals = new Refusals();
        if (outcome == DisputeOutcome.Open)
            refusals.Add("outcome", "Say how it ended.");
        Texts.Short(refusals, "found", found, 300);
        refusals.ThrowIfAny();
        (Until, Outcome, Found) = (day < From ? From : day, outcome, found.Trim());
    }
}
