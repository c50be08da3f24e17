namespace Jugaad.Desk.Post;

/// <summary>A mail as it was composed.</summary>
/// <param name="DocumentIds">The papers that go along as PDFs.</param>
public sealed record MailToSend(string To, string Subject, string Body)
{
    public PostKind Kind { get; init; }

    public int? CustomerId { get; init; }

    public IReadOnlyList<int> DocumentIds { get; init; } = [];
}
