namespace Jugaad.Core.Collecting;

/// <summary>How the business collects.</summary>
public sealed class CollectingSettings
{
    public int Id { get; private set; }

    /// <summary>Days that a promise waits for the bank after its day.</summary>
    public int Grace { get; private set; } = 2;

    /// <summary>So many days late a part of a plan may be.</summary>
    public int PlanDaysLate { get; private set; } = 5;

    /// <summary>By what a contact is worth more.</summary>
    public ContactWeights Weights { get; private set; } = ContactWeights.Usual;

    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public void Set(int grace, int planDaysLate, ContactWeights weights)
    {
        var refusals = new Refusals();
        if (grace is < 0 or > 60)
            refusals.Add("grace", "Give a whole number of days from 0 to 60.");
        if (planDaysLate is < 0 or > 60)
            refusals.Add("planDaysLate", "Give a whole number of days from 0 to 60.");
        weights.Check(refusals);
        refusals.ThrowIfAny();
        (Grace, PlanDaysLate, Weights) = (grace, planDaysLate, weights);
    }
}
