namespace Jugaad.Core.Collecting;

/// <summary>How a part of something open stands.</summary>
public enum PortionKind
{
    /// <summary>Nothing was agreed: it can be asked for.</summary>
    Free,

    /// <summary>Promised for a day that has not passed.</summary>
    Promised,

    /// <summary>A part of a plan that is kept.</summary>
    Planned,

    /// <summary>The customer says that it is not owed.</summary>
    Disputed,
}

/// <summary>Something that a customer owes on a day; minor units.</summary>
public sealed record OwedItem(int Id, DateOnly Due, long Open);

/// <summary>What is missing yet of a promise that holds.</summary>
/// <param name="Items">What it is for, by id; all that they owe where it names none.</param>
/// <param name="Missing">Minor units.</param>
public sealed record PromisedNow(IReadOnlyCollection<int> Items, DateOnly Until, long Missing);

/// <summary>What is left of a plan that is kept.</summary>
/// <param name="Items">What is divided, by id.</param>
public sealed record PlannedNow(IReadOnlyCollection<int> Items, IReadOnlyList<PlanPartNow> Parts);

/// <summary>What of an item is in dispute, in minor units.</summary>
public sealed record DisputedNow(int Item, long Amount);

/// <summary>A part of something open, and how it stands.</summary>
/// <param name="Day">The day for which it is promised or planned; null otherwise.</param>
/// <param name="Amount">Minor units, above zero.</param>
public sealed record Portion(int Item, PortionKind Kind, DateOnly? Day, long Amount);

/// <summary>
/// Divides what a customer owes into what is in dispute, planned, promised, and free to be asked for, in this order of
/// precedence. The portions of each item add up to what is open of it; none is counted twice.
/// </summary>
public static class Portions
{
    public static IReadOnlyList<Portion> Of(
        IEnumerable<OwedItem> items,
        IEnumerable<DisputedNow> disputes,
        IEnumerable<PlannedNow> plans,
        IEnumerable<PromisedNow> promises
    )
    {
        var owed = items.Where(i => i.Open > 0).OrderBy(i => i.Due).ThenBy(i => i.Id).ToList();
        var left = owed.ToDictionary(i => i.Id, i => i.Open);
        var portions = new List<Portion>();

        void Take(int item, long most, PortionKind kind, DateOnly? day)
        {
            var amount = Math.Min(most, left[item]);
            if (amount <= 0)
                return;
            left[item] -= amount;
            portions.Add(new Portion(item, kind, day, amount));
        }

        void Spread(IReadOnlyCollection<int> over, long amount, PortionKind kind, DateOnly day)
        {
            foreach (var item in owed.Where(i => over.Count == 0 || over.Contains(i.Id)))
            {
                var before = left[item.Id];
                Take(item.Id, amount, kind, day);
                amount -= before - left[item.Id];
            }
        }

        foreach (var disputed in disputes.Where(d => left.ContainsKey(d.Item)))
            Take(disputed.Item, disputed.Amount, PortionKind.Disputed, null);
        foreach (var plan in plans.Where(p => p.Items.Count > 0))
        {
            foreach (var part in plan.Parts)
                Spread(plan.Items, part.Open, PortionKind.Planned, part.Day);
        }

        // What names its items goes before what names none, which then finds what is left.
        foreach (var promise in promises.OrderBy(p => p.Items.Count == 0).ThenBy(p => p.Until))
            Spread(promise.Items, promise.Missing, PortionKind.Promised, promise.Until);
        foreach (var item in owed)
            Take(item.Id, left[item.Id], PortionKind.Free, null);
        return [.. portions.OrderBy(p => owed.FindIndex(i => i.Id == p.Item))];
    }
}
