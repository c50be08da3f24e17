using Jugaad.Core.Trade;

namespace Jugaad.Core.Documents;

/// <summary>The address at which a customer sees a document.</summary>
public sealed class DocumentLink : CustomerLink
{
    private DocumentLink() { }

    public DocumentLink(int documentId, string token)
        : base(token) => DocumentId = documentId;

    public int DocumentId { get; private set; }
}
