using Jugaad.Core.Amounts;

namespace Jugaad.Core.Collecting;

/// <summary>One of the items that a plan divides.</summary>
public sealed class PlanItem
{
    public int PlanId { get; init; }

    public int ItemId { get; init; }
}

/// <summary>A part of a plan as it is kept.</summary>
public sealed class AgreedPart
{
    public int PlanId { get; init; }

    /// <summary>Counted from 1.</summary>
    public int Position { get; init; }

    public DateOnly Day { get; init; }

    /// <summary>Minor units of the plan's currency.</summary>
    public long Amount { get; init; }
}

/// <summary>A plan as it is kept. Whether it is kept to follows from the money that came, on any day.</summary>
public sealed class AgreedPlan
{
    private readonly List<PlanItem> _items = [];
    private readonly List<AgreedPart> _parts = [];

    private AgreedPlan() => Currency = null!;

    /// <param name="items">What it divides.</param>
    /// <param name="open">What is open of that, in minor units.</param>
    /// <param name="after">The last allocation of the books when it was made: those up to it are of before.</param>
    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public AgreedPlan(
        int customerId,
        Currency currency,
        PaymentPlan plan,
        IReadOnlyCollection<int> items,
        long open,
        int after,
        string by
    )
    {
        var refusals = new Refusals();
        if (items.Count == 0)
            refusals.Add("items", "Choose what the plan is for.");
        plan.Check(refusals, open, currency);
        refusals.ThrowIfAny();
        (CustomerId, Currency, Made, Amount, After, By) = (customerId, currency, plan.Made, open, after, by);
        _items.AddRange(items.Distinct().Select(i => new PlanItem { ItemId = i }));
        _parts.AddRange(
            plan.Parts.Select(
                (part, i) =>
                    new AgreedPart
                    {
                        Position = i + 1,
                        Day = part.Day,
                        Amount = part.Amount,
                    }
            )
        );
    }

    public int Id { get; private set; }

    public int CustomerId { get; private set; }

    public Currency Currency { get; private set; }

    public DateOnly Made { get; private set; }

    /// <summary>All that it divides, in minor units: what its parts come to.</summary>
    public long Amount { get; private set; }

    /// <summary>The last allocation that is of before it.</summary>
    public int After { get; private set; }

    public string By { get; private set; } = "";

    /// <summary>The day from which it holds no more, since somebody ended it; null while nobody did.</summary>
    public DateOnly? EndedOn { get; private set; }

    public IReadOnlyList<PlanItem> Items => _items;

    public IReadOnlyList<AgreedPart> Parts => _parts;

    public PaymentPlan Plan =>
        new(Made, [.. _parts.OrderBy(p => p.Position).Select(p => new PlanPart(p.Day, p.Amount))]);

    /// <summary>Whether it was there at the end of a day.</summary>
    public bool IsThereOn(DateOnly day) => Made <= day && (EndedOn is null || day < EndedOn);

    /// <exception cref="RefusalException">When it has ended already.</exception>
    public void End(DateOnly day)
    {
        if (EndedOn is not null)
            throw new RefusalException("", "This plan has ended already.");
        EndedOn = day < Made ? Made : day;
    }
}
