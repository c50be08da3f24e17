namespace Jugaad.Core.Accounts;

/// <summary>Something open as it is aged; minor units.</summary>
/// <param name="Raises">Whether it raises the balance; what lowers it is credit.</param>
/// <param name="By">The day that it is aged by.</param>
/// <param name="Disputed">The customer says that it is not owed: it stands apart, however old.</param>
public readonly record struct AgedPart(bool Raises, DateOnly By, long Open, bool Disputed = false);

/// <summary>
/// Open amounts by how late they are, in minor units, with unallocated credit and what is in dispute apart.
/// </summary>
/// <param name="Late">One for each edge's span, and a last one for all beyond: 1–30, 31–60, 61–90, over 90.</param>
/// <param name="Credit">What is unallocated, not below zero.</param>
public sealed record AgedBalance(long NotYetDue, IReadOnlyList<long> Late, long Credit)
{
    /// <summary>What is open and in dispute; in none of the spans.</summary>
    public long Disputed { get; init; }

    /// <summary>All that is late.</summary>
    public long Overdue => Late.Sum();

    /// <summary>The balance: what is open less the credit.</summary>
    public long Balance => NotYetDue + Overdue + Disputed - Credit;

    public static AgedBalance operator +(AgedBalance a, AgedBalance b) =>
        new(a.NotYetDue + b.NotYetDue, a.Late.Zip(b.Late, (x, y) => x + y).ToList(), a.Credit + b.Credit)
        {
            Disputed = a.Disputed + b.Disputed,
        };

    public static AgedBalance Add(AgedBalance a, AgedBalance b) => a + b;
}

/// <summary>Aged balances on a day.</summary>
public static class Ageing
{
    /// <summary>The edges where none are set: 30, 60 and 90 days.</summary>
    public static IReadOnlyList<int> UsualEdges { get; } = [30, 60, 90];

    /// <summary>Ages what was open at the end of a day.</summary>
    /// <param name="edges">The last day of each span, ascending.</param>
    public static AgedBalance On(DateOnly day, IEnumerable<AgedPart> open, IReadOnlyList<int> edges)
    {
        var notYet = 0L;
        var credit = 0L;
        var disputed = 0L;
        var late = new long[edges.Count + 1];
        foreach (var (raises, by, amount, isDisputed) in open)
        {
            var days = day.DayNumber - by.DayNumber;
            if (!raises)
                credit += amount;
            else if (isDisputed)
                disputed += amount;
            else if (days <= 0)
                notYet += amount;
            else
                late[SpanOf(days, edges)] += amount;
        }

        return new AgedBalance(notYet, late, credit) { Disputed = disputed };
    }

    /// <inheritdoc cref="On(DateOnly, IEnumerable{AgedPart}, IReadOnlyList{int})"/>
    public static AgedBalance On(DateOnly day, IEnumerable<AccountItem> items) =>
        On(day, items.Select(i => new AgedPart(i.Raises, i.Due, i.OpenOn(day))), UsualEdges);

    /// <summary>Such as <c>1–30</c> and <c>over 90</c>.</summary>
    public static IReadOnlyList<string> Heads(IReadOnlyList<int> edges) =>
        [.. edges.Select((e, i) => $"{(i == 0 ? 1 : edges[i - 1] + 1)}–{e}"), $"over {edges[^1]}"];

    private static int SpanOf(int days, IReadOnlyList<int> edges)
    {
        var span = 0;
        while (span < edges.Count && days > edges[span])
            span++;
        return span;
    }
}
