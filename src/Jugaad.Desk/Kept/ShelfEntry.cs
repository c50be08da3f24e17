using Jugaad.Core.Documents;

namespace Jugaad.Desk.Kept;

/// <summary>
/// An editor as it was typed, whole or half, kept as it stood: on the shelf, or because it was left unsaved.
/// </summary>
public sealed class ShelfEntry
{
    public int Id { get; init; }

    public required string Who { get; init; }

    public DocumentKind Kind { get; init; }

    /// <summary>The draft that it belongs to; null for one that was never saved.</summary>
    public int? DocumentId { get; init; }

    /// <summary>The editor's cells, as they were typed.</summary>
    public required string Form { get; set; }

    public string Customer { get; set; } = "";

    public string Total { get; set; } = "";

    /// <summary>The business day and the time of day here.</summary>
    public DateTime Since { get; set; }

    /// <summary>On the shelf for anybody to go on with; otherwise unsaved typing of one person.</summary>
    public bool OnShelf { get; init; }
}
