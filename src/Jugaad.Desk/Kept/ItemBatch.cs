namespace Jugaad.Desk.Kept;

/// <summary>One item within a change of many: how it was before, and the version that the change made.</summary>
public sealed class ItemBatchRow
{
    public int Id { get; init; }

    public int ItemId { get; init; }

    /// <summary>The item's details before, as JSON.</summary>
    public string Before { get; init; } = "";

    public int VersionAfter { get; init; }
}

/// <summary>A change of many items at once, kept so that it can be undone.</summary>
public sealed class ItemBatch
{
    public int Id { get; init; }

    public DateOnly Day { get; init; }

    public string Who { get; init; } = "";

    public string Words { get; init; } = "";

    public bool Undone { get; set; }

    public IList<ItemBatchRow> Rows { get; init; } = [];
}
