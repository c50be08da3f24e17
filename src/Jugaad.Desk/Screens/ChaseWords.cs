using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Collecting;

namespace Jugaad.Desk.Screens;

/// <summary>What the reason for a contact is told from.</summary>
/// <param name="Late">What is late and can be asked for.</param>
/// <param name="MostDays">By how many days the oldest of it is late.</param>
/// <param name="UsualDays">How late they pay as a rule; null where nothing can be said.</param>
/// <param name="DaysSince">Days since the last contact; null where there was none.</param>
/// <param name="CallOn">The day on which a step asked for a call that nobody has made yet.</param>
/// <param name="FailedOn">The day of a letter that could not be delivered.</param>
internal sealed record ChaseFacts(
    Sums Late,
    int MostDays,
    PromiseThen? Broke,
    int? UsualDays,
    string Grade,
    int RiskPercent,
    ContactWeights Weights,
    int? DaysSince,
    DateOnly? CallOn,
    DateOnly? FailedOn
);

/// <summary>The reason for a contact as a sentence.</summary>
internal static class ChaseWords
{
    internal static Phrase Why(DisplayFormat format, ChaseFacts facts)
    {
        if (facts.Late.Count == 0)
            return facts.Broke is { } only ? Broken(only) : "nothing late that can be asked for";
        Phrase late = $"{facts.Late} late by {Days(facts.MostDays)}";
        // What makes most of it comes first.
        var reasons = new List<(int Percent, Phrase Words)>();
        if (facts.Broke is { } broke)
            reasons.Add((facts.Weights.BrokenPercent, Broken(broke)));
        if (facts.RiskPercent > 100)
            reasons.Add((facts.RiskPercent, $"grade {facts.Grade} in the register"));
        Phrase call = $"the ladder asks for a call since {facts.CallOn}";
        Phrase failed = $"the letter of {facts.FailedOn} could not be delivered";
        var words = reasons.OrderByDescending(r => r.Percent).Select(r => r.Words).Prepend(late).ToList();
        if (facts.CallOn is not null)
            words.Add(call);
        if (facts.FailedOn is not null)
            words.Add(failed);
        if (facts.UsualDays is { } usual)
            words.Add(Usual(usual));
        if (facts.DaysSince is null)
            words.Add("nobody has spoken to them yet");
        else if (facts.DaysSince >= facts.Weights.IntervalDays)
            words.Add($"last spoken to {Days(facts.DaysSince.Value)} ago");
        return Phrase.Join("; ", words).In(format);
    }

    private static Phrase Broken(PromiseThen broke)
    {
        Phrase none = $"promised by {broke.Promise.Until} and did not pay";
        Phrase part =
            $"promised by {broke.Promise.Until} and paid only {new Money(broke.Judged.Paid, broke.Promise.Currency)}";
        return broke.Judged.State == PromiseState.InPart ? part : none;
    }

    internal static string Usual(int days) =>
        days switch
        {
            0 => "usually pays on the due day",
            > 0 => $"usually pays {Days(days)} late",
            _ => $"usually pays {Days(-days)} early",
        };

    private static string Days(int days) => days == 1 ? "1 day" : $"{days} days";
}

/// <summary>How a customer pays, as a sentence.</summary>
public static class ChaseHabits
{
    public static string Words(ChaseRow row) =>
        row.HasOwnHabit
            ? $"{char.ToUpperInvariant(ChaseWords.Usual(row.Habit.Mean)[0])}{ChaseWords.Usual(row.Habit.Mean)[1..]}."
            : "Too few payments to say how they pay.";
}
