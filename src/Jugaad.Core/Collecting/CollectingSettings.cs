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

    /// <summary>The ladder of all customers who have none of their own; null for no ladder.</summary>
    public int? LadderId { get; private set; }

    /// <summary>Whether the ladder runs by itself each day; otherwise somebody has it run.</summary>
    public bool RunsByItself { get; private set; }

    /// <summary>Whether all who owe get a statement on the first of each month.</summary>
    public bool StatementsMonthly { get; private set; }

    /// <summary>What happens when a document would pass a customer's limit.</summary>
    public LimitCheck LimitCheck { get; private set; }

    /// <summary>So many days late, and nothing more on account is proposed; 0 for never.</summary>
    public int NoMoreAfterDays { get; private set; } = 60;

    /// <summary>So many broken promises within a year, and the same; 0 for never.</summary>
    public int NoMoreAfterBroken { get; private set; } = 2;

    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public void GiveCredit(LimitCheck check, int noMoreAfterDays, int noMoreAfterBroken)
    {
        var refusals = new Refusals();
        if (noMoreAfterDays is < 0 or > 3_650)
            refusals.Add("noMoreAfterDays", "Give a whole number of days from 0 to 3650; 0 for never.");
        if (noMoreAfterBroken is < 0 or > 100)
            refusals.Add("noMoreAfterBroken", "Give a whole number from 0 to 100; 0 for never.");
        refusals.ThrowIfAny();
        (LimitCheck, NoMoreAfterDays, NoMoreAfterBroken) = (check, noMoreAfterDays, noMoreAfterBroken);
    }

    /// <summary>What is charged once for each bill that is late, in minor units of the home currency; 0 for
    /// nothing.</summary>
    public long Compensation { get; private set; }

    /// <summary>How interest, compensation and fees are taxed; null while nothing is charged.</summary>
    public int? ChargeTaxCodeId { get; private set; }

    /// <summary>The ledger account that they go to.</summary>
    public int? ChargeAccountId { get; private set; }

    /// <exception cref="RefusalException">When the compensation is below zero or too much.</exception>
    public void ChargeLate(long compensation, int? taxCodeId, int? accountId)
    {
        if (compensation is < 0 or > 100_000)
            throw new RefusalException("compensation", "Give an amount from 0 to 1000.00.");
        (Compensation, ChargeTaxCodeId, ChargeAccountId) = (compensation, taxCodeId, accountId);
    }

    public void SendStatements(bool monthly) => StatementsMonthly = monthly;

    /// <summary>Less than this together is not written about; minor units of the home currency.</summary>
    public long Tolerance { get; private set; } = 500;

    /// <summary>At least so many days lie between two letters to a customer.</summary>
    public int DaysBetween { get; private set; } = Ladder.UsualDaysBetween;

    /// <summary>The days of the week on which the business writes, 1 for Monday to 7 for Sunday.</summary>
    public string Weekdays { get; private set; } = "12345";

    public IEnumerable<DayOfWeek> WritesOn => Weekdays.Select(d => (DayOfWeek)((d - '0') % 7));

    /// <summary>Says by which ladder customers are written to, and when.</summary>
    /// <exception cref="RefusalException">With all that is wrong; nothing is changed then.</exception>
    public void Climb(int? ladderId, bool byItself, long tolerance, int daysBetween, IEnumerable<int> weekdays)
    {
        var refusals = new Refusals();
        var days = weekdays.Where(d => d is >= 1 and <= 7).Distinct().Order().ToList();
        if (tolerance < 0)
            refusals.Add("tolerance", "Give an amount from zero on.");
        if (daysBetween is < 1 or > 365)
            refusals.Add("daysBetween", "Give a whole number of days from 1 to 365.");
        if (days.Count == 0)
            refusals.Add("weekdays", "Choose at least one day of the week on which you write.");
        refusals.ThrowIfAny();
        (LadderId, RunsByItself, Tolerance, DaysBetween) = (ladderId, byItself, tolerance, daysBetween);
        Weekdays = string.Concat(days);
    }

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
