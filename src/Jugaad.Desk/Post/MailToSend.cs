namespace Jugaad.Desk.Post;

/// <summary>A mail as it was composed.</summary>
/// <param name="To">One mail address or several with commas between them; a telephone number for a message; empty for the pile to print.</param>
public sealed record MailToSend(string To, string Subject, string Body)
{
    public PostKind Kind { get; init; }

    public PostWay Way { get; init; }

    /// <inheritdoc cref="PostItem.LinkOnly"/>
    public bool LinkOnly { get; init; }

    /// <inheritdoc cref="PostItem.Marks"/>
    public string Marks { get; init; } = "";

    /// <summary>Files kept with the documents that go along too.</summary>
    public IReadOnlyList<int> FileIds { get; init; } = [];

    public int? CustomerId { get; init; }

    /// <summary>The papers that go along.</summary>
    public IReadOnlyList<int> DocumentIds { get; init; } = [];
}
