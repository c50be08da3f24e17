using Jugaad.Core.Amounts;

namespace Jugaad.Core.Collecting;

/// <summary>A part of a plan: what is to be paid by a day, in minor units.</summary>
public sealed record PlanPart(DateOnly Day, long Amount);

/// <summary>What is left of a part.</summary>
/// <param name="Open">Minor units, not below zero.</param>
/// <param name="PaidOn">The day on which the last of it came; null while something is open.</param>
public sealed record PlanPartNow(DateOnly Day, long Amount, long Open, DateOnly? PaidOn);

/// <summary>How a plan stands on a day.</summary>
/// <param name="BrokenOn">The day from which the original due days hold again; null while it is kept.</param>
public sealed record PlanNow(IReadOnlyList<PlanPartNow> Parts, DateOnly? BrokenOn)
{
    public bool IsKept => BrokenOn is null;

    public bool IsPaid => Parts.All(p => p.Open == 0);

    /// <summary>The first part that is not paid; null where all are.</summary>
    public PlanPartNow? Next => Parts.FirstOrDefault(p => p.Open > 0);
}

/// <summary>
/// An open amount divided into parts, each with its day. Money fills the parts in their order; a part that was too
/// late breaks the plan for good.
/// </summary>
/// <param name="Made">The day from which it holds; what came before does not count.</param>
/// <param name="Parts">The earliest first.</param>
public sealed record PaymentPlan(DateOnly Made, IReadOnlyList<PlanPart> Parts)
{
    public const int MostParts = 120;

    /// <summary>Equal parts, to the minor unit: those that are one unit larger come first.</summary>
    /// <param name="day">The day of each part, counted from 0.</param>
    /// <exception cref="RefusalException">When there would be less than a unit for each part.</exception>
    public static PaymentPlan Equally(DateOnly made, long amount, int parts, Func<int, DateOnly> day)
    {
        if (parts is < 1 or > MostParts)
            throw new RefusalException("parts", $"Give how many parts, from 1 to {MostParts}.");
        if (amount < parts)
            throw new RefusalException("parts", "There is not enough open for so many parts. Give fewer.");
        var shares = Apportion.ByWeight(amount, [.. Enumerable.Repeat(1L, parts)]);
        return new PaymentPlan(made, [.. shares.Select((share, i) => new PlanPart(day(i), share))]);
    }

    /// <summary>Refuses parts that are none, are out of order or do not add up.</summary>
    /// <param name="open">What is open of what is divided, in minor units.</param>
    public void Check(Refusals refusals, long open, Currency currency)
    {
        if (Parts.Count is 0 or > MostParts)
            refusals.Add("parts", $"Give from 1 to {MostParts} parts.");
        for (var i = 0; i < Parts.Count; i++)
        {
            if (Parts[i].Amount <= 0)
                refusals.Add($"parts[{i}].amount", "Give what is to be paid, above zero.");
            if (Parts[i].Day < Made)
                refusals.Add($"parts[{i}].day", "The day has passed. Give today or a later one.");
            else if (i > 0 && Parts[i].Day <= Parts[i - 1].Day)
                refusals.Add($"parts[{i}].day", "The day is not after that of the part before. Put them in order.");
        }

        var sum = Parts.Aggregate((Int128)0, (s, p) => s + p.Amount);
        if (sum != open)
            refusals.Add(
                "parts",
                $"The parts are {new Money((long)Int128.Abs(sum - open), currency)} {(sum > open ? "more" : "less")} than is open. Make them add up to {new Money(open, currency)}."
            );
    }

    /// <summary>How the plan stands at the end of a day.</summary>
    /// <param name="came">What was set against what is divided.</param>
    /// <param name="mostDaysLate">How late a part may be without breaking the plan.</param>
    public PlanNow On(DateOnly day, int mostDaysLate, IEnumerable<Came> came)
    {
        var money = new Queue<Came>(came.Where(c => c.Day >= Made && c.Day <= day && c.Amount > 0).OrderBy(c => c.Day));
        var left = 0L;
        DateOnly? lastCame = null;
        var parts = new List<PlanPartNow>();
        DateOnly? broken = null;
        foreach (var part in Parts)
        {
            var open = part.Amount;
            while (open > 0 && (left > 0 || money.Count > 0))
            {
                if (left == 0)
                    (left, lastCame) = (money.Peek().Amount, money.Dequeue().Day);
                var taken = Math.Min(open, left);
                (open, left) = (open - taken, left - taken);
            }

            var paidOn = open == 0 ? lastCame : null;
            parts.Add(new PlanPartNow(part.Day, part.Amount, open, paidOn));
            var tooLate = part.Day.AddDays(mostDaysLate + 1);
            if ((paidOn ?? day) >= tooLate)
                broken ??= tooLate;
        }

        return new PlanNow(parts, broken);
    }
}
