namespace Jugaad.Core.Documents;

/// <summary>The address at which a customer sees a document. Whoever has it may see the paper, and nobody can guess it.</summary>
public sealed class DocumentLink
{
    private DocumentLink() { }

    /// <param name="token">At least 128 bits from a source of chance that cannot be foretold.</param>
    public DocumentLink(int documentId, string token) => (DocumentId, Token) = (documentId, token);

    public int Id { get; private set; }

    public int DocumentId { get; private set; }

    public string Token { get; private set; } = "";

    /// <summary>The business day and the time of day; null while nobody has looked.</summary>
    public DateTime? FirstSeen { get; private set; }

    /// <inheritdoc cref="FirstSeen"/>
    public DateTime? LastSeen { get; private set; }

    public int TimesSeen { get; private set; }

    /// <summary>Notes a look; tells whether it was the first.</summary>
    public bool See(DateTime at)
    {
        var first = FirstSeen is null;
        FirstSeen ??= at;
        (LastSeen, TimesSeen) = (at, TimesSeen + 1);
        return first;
    }
}
