using Jugaad.Core.Accounts;

namespace Jugaad.Desk.Reference;

/// <summary>A part of what is open of an item, in minor units, and the day on which it is due.</summary>
/// <param name="Disputed">The customer says that it is not owed.</param>
public sealed record DuePart(int ItemId, DateOnly Due, long Open, bool Disputed = false);

/// <summary>
/// What was agreed with customers about what was open at the end of a day: a plan that is kept goes before the
/// document's due day, and what is in dispute stands apart.
/// </summary>
/// <param name="ByDate">Whether the business ages by the document's date, which no agreement changes.</param>
/// <param name="Parts">By item, those of which something was agreed; they add up to what was open of each.</param>
public sealed record Agreed(DateOnly Day, bool ByDate, ILookup<int, DuePart> Parts)
{
    /// <summary>What was open of an item by how it is aged.</summary>
    public IEnumerable<AgedPart> Aged(OpenOnDay item) =>
        item.Sign > 0 && Parts.Contains(item.ItemId)
            ? Parts[item.ItemId].Select(p => new AgedPart(true, ByDate ? item.Date : p.Due, p.Open, p.Disputed))
            : [new AgedPart(item.Sign > 0, ByDate ? item.Date : item.Due, item.Open)];

    /// <summary>The same on a side of the account.</summary>
    public IEnumerable<AgedPart> Aged(OpenOnDay item, AccountSide side) =>
        side.Of([.. Aged(item)], item.Open, item.HomeOpen);

    /// <summary>The day on which something of an item is due next, or was first.</summary>
    /// <param name="due">As its document says.</param>
    public DateOnly Due(int itemId, DateOnly due)
    {
        var asked = Parts[itemId].Where(p => !p.Disputed).ToList();
        return asked.Count == 0 ? due : asked.Min(p => p.Due);
    }

    /// <summary>An item with the day on which something of it is due as agreed.</summary>
    public OpenOnDay Due(OpenOnDay item) => item with { Due = Due(item.ItemId, item.Due) };

    /// <summary>What of an item is past its day and not in dispute, in minor units.</summary>
    public long Late(OpenOnDay item) =>
        item.Sign < 0 ? 0
        : Parts.Contains(item.ItemId) ? Parts[item.ItemId].Where(p => !p.Disputed && p.Due < Day).Sum(p => p.Open)
        : item.Due < Day ? item.Open
        : 0;

    /// <summary>Items of which nothing is past its day, whatever their documents say.</summary>
    public IReadOnlyList<int> NotLate { get; } = [.. Parts.Where(i => i.All(p => p.Due >= Day)).Select(i => i.Key)];
}

/// <summary>Tells what was agreed about what is open. Kept by who collects; read by whoever tells what is due.</summary>
public interface IAgreements
{
    /// <param name="day">At its end; a past day is told by what held then.</param>
    /// <param name="customerId">Of one customer only.</param>
    Task<Agreed> OnAsync(DateOnly day, int? customerId = null, CancellationToken stop = default);
}
