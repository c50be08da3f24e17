namespace Jugaad.Desk.Kept;

/// <summary>Who did what, when, to what. Written with the change itself and never changed.</summary>
public sealed class TrailEntry
{
    public int Id { get; init; }

    /// <summary>The instant, in UTC.</summary>
    public DateTime At { get; init; }

    /// <summary>The business day.</summary>
    public DateOnly Day { get; init; }

    public string Who { get; init; } = "";

    public string Text { get; init; } = "";

    public int? CustomerId { get; init; }

    public int? DocumentId { get; init; }

    public int? ReceiptId { get; init; }

    /// <summary>The draft's version that this change made, so that a later save can be told what it missed.</summary>
    public int? DraftVersion { get; init; }
}

/// <summary>The key of a form that has been answered, with the answer.</summary>
public sealed class AnsweredForm
{
    public string Key { get; init; } = "";

    public DateTime At { get; init; }

    /// <summary>The id that the first arrival got.</summary>
    public int Answer { get; init; }
}
