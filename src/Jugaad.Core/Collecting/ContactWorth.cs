using System.Numerics;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Collecting;

/// <summary>Something late that can be asked for.</summary>
/// <param name="Amount">Minor units of the home currency.</param>
/// <param name="DaysLate">Days after the due day.</param>
public sealed record AskedFor(long Amount, int DaysLate);

/// <summary>What is known of a customer when one weighs whom to call next.</summary>
/// <param name="Asked">What can be asked for.</param>
/// <param name="UsualDaysLate">How late they pay as a rule, in days.</param>
/// <param name="BrokePromise">Whether their last promise was not kept.</param>
/// <param name="RiskPercent">100 for no risk in particular, up to 200.</param>
/// <param name="DaysSinceContact">Null where there was none yet.</param>
public sealed record ContactCase(
    IReadOnlyCollection<AskedFor> Asked,
    int UsualDaysLate,
    bool BrokePromise,
    int RiskPercent,
    int? DaysSinceContact
);

/// <summary>By what a contact is worth more; all of it is set by the business.</summary>
/// <param name="DaysForOne">So many days beyond their habit weigh once the amount.</param>
/// <param name="MostTimes">Later than that weighs no more than so many times the amount.</param>
/// <param name="BrokenPercent">What a broken promise makes of it, in percent.</param>
/// <param name="IntervalDays">After so many days a contact is worth all of it again.</param>
public sealed record ContactWeights(int DaysForOne, int MostTimes, int BrokenPercent, int IntervalDays)
{
    public static ContactWeights Usual { get; } = new(30, 3, 150, 14);

    /// <summary>Refuses weights that make no sense.</summary>
    public void Check(Refusals refusals)
    {
        if (DaysForOne is < 1 or > 365)
            refusals.Add("daysForOne", "Give a whole number of days from 1 to 365.");
        if (MostTimes is < 1 or > 10)
            refusals.Add("mostTimes", "Give a whole number from 1 to 10.");
        if (BrokenPercent is < 100 or > 1000)
            refusals.Add("brokenPercent", "Give a whole percentage from 100 to 1000.");
        if (IntervalDays is < 1 or > 365)
            refusals.Add("intervalDays", "Give a whole number of days from 1 to 365.");
    }
}

/// <summary>
/// What a contact with a customer is worth: the amount that can be asked for × days beyond their own habit × broken
/// promise × risk × time since the last contact. Minor units of the home currency, rounded once at the end, half away
/// from zero; only the order that it makes has a meaning.
/// </summary>
public static class ContactWorth
{
    public static long Of(ContactCase of, ContactWeights weights)
    {
        // Each amount weighs by its own days: what fell due yesterday does not ride on what is late by a year.
        var most = weights.MostTimes * weights.DaysForOne;
        var weighed = of.Asked.Aggregate(
            BigInteger.Zero,
            (sum, a) => sum + ((BigInteger)a.Amount * Math.Clamp(a.DaysLate - of.UsualDaysLate, 0, most))
        );
        var since = Math.Min(of.DaysSinceContact ?? weights.IntervalDays, weights.IntervalDays);
        var worth =
            weighed * (of.BrokePromise ? weights.BrokenPercent : 100) * Math.Clamp(of.RiskPercent, 100, 200) * since;
        var whole = (BigInteger)weights.DaysForOne * 100 * 100 * weights.IntervalDays;
        return (long)BigInteger.Min(Rounding.Divide(worth, whole), long.MaxValue);
    }
}
