namespace Jugaad.Desk.Kept;

/// <summary>What a row of an import touched.</summary>
public enum EffectOn
{
    Customer,
    Item,
    ItemNumber,
    PriceList,
    OpenItem,
    Balance,
}

/// <summary>What an import did to one thing in the books, kept so that the import can be taken back as one.</summary>
public sealed class ImportEffect
{
    public int Id { get; init; }

    public int RunId { get; init; }

    public EffectOn On { get; init; }

    /// <summary>The id of the thing; of a balance, that of its journal entry.</summary>
    public int TargetId { get; init; }

    /// <summary>The details before, as JSON; empty for what the import made.</summary>
    public string Before { get; init; } = "";

    /// <summary>
    /// The thing's version when the import was done: another one tells that it was changed since. Of an open item, the
    /// id of its journal entry, since another one is made when it is put right; 0 for what has no version.
    /// </summary>
    public int VersionAfter { get; set; }

    public bool MadeNew => Before.Length == 0;
}
