namespace Jugaad.Core.Documents;

/// <summary>A file that is kept with a document, such as a drawing or a photograph of the damage.</summary>
public sealed class DocumentFile
{
    /// <summary>The largest file that is kept, in bytes.</summary>
    public const int MostBytes = 10 * 1024 * 1024;

    private DocumentFile() { }

    /// <exception cref="RefusalException">When it is empty, too large, or has no name that can be kept.</exception>
    public DocumentFile(int documentId, string name, byte[] content, string addedBy)
    {
        var plain = string.Concat(
                Path.GetFileName(name.Replace('\\', '/'))
                    .Where(c => !char.IsControl(c) && c is not ('"' or '<' or '>' or '|' or ':' or '*' or '?'))
            )
            .Trim();
        if (content.Length == 0)
            throw new RefusalException("file", "Choose a file that is not empty.");
        if (content.Length > MostBytes)
            throw new RefusalException("file", "The file is larger than 10 MB. Make it smaller, or split it.");
        if (plain.Length is 0 or > 120)
            throw new RefusalException("file", "Give the file a name of 1 to 120 characters.");
        (DocumentId, Name, Content, AddedBy) = (documentId, plain, content, addedBy);
    }

    public int Id { get; private set; }

    public int DocumentId { get; private set; }

    public string Name { get; private set; } = "";

    public byte[] Content { get; private set; } = [];

    public string AddedBy { get; private set; } = "";

    /// <summary>Whether it goes along when the document is mailed.</summary>
    public bool GoesAlong { get; private set; }

    public void Send(bool goesAlong) => GoesAlong = goesAlong;
}
