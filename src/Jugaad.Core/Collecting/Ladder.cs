using System.Collections.Immutable;

namespace Jugaad.Core.Collecting;

/// <summary>A step of a ladder.</summary>
/// <param name="Number">Counted from 1; a higher one is sterner.</param>
/// <param name="Days">So many days after the due day, or before it where below zero.</param>
public sealed record LadderStep(int Number, int Days);

/// <summary>Something of a customer that is open on the day of a run.</summary>
/// <param name="Askable">What of it can be asked for, in minor units of the home currency: what is open, less what is
/// promised, planned or in dispute.</param>
/// <param name="Had">The highest step that it has had; 0 for none.</param>
public sealed record LadderItem(int Id, DateOnly Due, long Askable, int Had)
{
    /// <summary>
    /// Whether it was charged because another is late that can still be asked for: it goes along with that one's
    /// letters and makes none of its own.
    /// </summary>
    public bool FollowsAnother { get; init; }
}

/// <summary>Why nothing goes to a customer.</summary>
public enum NoLetter
{
    /// <summary>Nothing can be asked for.</summary>
    NothingToAsk,

    /// <summary>It is less than what is worth a letter.</summary>
    UnderTolerance,

    /// <summary>Nothing has reached a step that it has not had.</summary>
    NoStepReached,

    /// <summary>The last letter is too recent.</summary>
    TooSoon,

    /// <summary>The day is not a working day.</summary>
    NoWorkingDay,

    /// <summary>Money of theirs waits to be placed and may pay it: a person decides.</summary>
    MoneyWaits,
}

/// <summary>What a run decides for one customer: a letter, or why none.</summary>
/// <param name="Step">The step whose text goes; 0 where none does.</param>
/// <param name="Items">What stands in the letter, by id.</param>
/// <param name="Noted">The step that each item has had with it, by id; steps below are had too.</param>
/// <param name="Why">Why none goes; null where one does.</param>
public sealed record LadderDecision(
    int Step,
    ImmutableArray<int> Items,
    ImmutableDictionary<int, int> Noted,
    NoLetter? Why
)
{
    public static LadderDecision None(NoLetter why) => new(0, [], ImmutableDictionary<int, int>.Empty, why);
}

/// <summary>
/// The steps by which a customer is written to. One letter goes for all that they owe, at the highest step that any of
/// it has reached and not had; after days on which nothing ran only that one goes, not all that were missed.
/// </summary>
/// <param name="Steps">In the order of their days.</param>
/// <param name="Tolerance">Where what has reached a step is less than this together, nobody is written to; minor units of
/// the home currency.</param>
/// <param name="DaysBetween">At least so many days lie between two letters to a customer.</param>
public sealed record Ladder(IReadOnlyList<LadderStep> Steps, WorkingDays Days, long Tolerance, int DaysBetween)
{
    public const int MostSteps = 20;

    /// <summary>A week, unless the business sets another.</summary>
    public const int UsualDaysBetween = 7;

    /// <summary>Refuses steps that are out of order or too many.</summary>
    public void Check(Refusals refusals)
    {
        if (Steps.Count > MostSteps)
            refusals.Add("steps", $"Give at most {MostSteps} steps.");
        for (var i = 1; i < Steps.Count; i++)
            if (Steps[i].Days <= Steps[i - 1].Days || Steps[i].Number <= Steps[i - 1].Number)
                refusals.Add($"steps[{i}].days", "The step comes no later than the one before it. Give more days.");
        if (Tolerance < 0)
            refusals.Add("tolerance", "Give an amount from zero on.");
        if (DaysBetween is < 1 or > 365)
            refusals.Add("daysBetween", "Give a whole number from 1 to 365.");
    }

    /// <summary>The day on which something reaches a step: a working day.</summary>
    public DateOnly DayOf(LadderStep step, DateOnly due) => Days.From(due.AddDays(step.Days));

    /// <summary>The highest step that something has reached by the end of a day; 0 for none.</summary>
    public int ReachedBy(DateOnly day, DateOnly due) => Steps.LastOrDefault(s => DayOf(s, due) <= day)?.Number ?? 0;

    /// <summary>Decides for one customer.</summary>
    /// <param name="items">All of the customer's that are open.</param>
    /// <param name="lastLetter">The day of the last letter; null where there was none.</param>
    /// <param name="moneyWaits">Whether money of theirs is not placed yet that could pay any of it.</param>
    public LadderDecision Decide(
        DateOnly day,
        IReadOnlyCollection<LadderItem> items,
        DateOnly? lastLetter,
        bool moneyWaits
    )
    {
        var asked = items.Where(i => i.Askable > 0).OrderBy(i => i.Due).ThenBy(i => i.Id).ToList();
        if (asked.Count == 0)
            return LadderDecision.None(NoLetter.NothingToAsk);
        var reached = asked
            .Select(i => (Item: i, Step: ReachedBy(day, i.Due)))
            .Where(r => r.Step > r.Item.Had && !r.Item.FollowsAnother)
            .ToList();
        if (reached.Count == 0)
            return LadderDecision.None(NoLetter.NoStepReached);
        // What has reached no step yet is listed, but makes no letter worth its stamp.
        if (asked.Where(i => ReachedBy(day, i.Due) > 0).Aggregate((Int128)0, (sum, i) => sum + i.Askable) < Tolerance)
            return LadderDecision.None(NoLetter.UnderTolerance);
        if (!Days.Has(day))
            return LadderDecision.None(NoLetter.NoWorkingDay);
        if (lastLetter is { } last && day.DayNumber - last.DayNumber < DaysBetween)
            return LadderDecision.None(NoLetter.TooSoon);
        if (moneyWaits)
            return LadderDecision.None(NoLetter.MoneyWaits);
        // The tone never falls while something stands at a higher step.
        var step = Math.Max(reached.Max(r => r.Step), asked.Max(i => i.Had));
        return new LadderDecision(
            step,
            [.. asked.Select(i => i.Id)],
            reached.ToImmutableDictionary(r => r.Item.Id, r => r.Step),
            null
        );
    }
}
