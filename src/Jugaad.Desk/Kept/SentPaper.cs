namespace Jugaad.Desk.Kept;

/// <summary>A file that went along with a mail, as it went.</summary>
public sealed class SentPaper
{
    private SentPaper() => Name = "";

    public SentPaper(int postItemId, int position, string name, int fileId) =>
        (PostItemId, Position, Name, FileId) = (postItemId, position, name, fileId);

    public int Id { get; private set; }

    public int PostItemId { get; private set; }

    /// <summary>Counts the files of one mail from 0 on.</summary>
    public int Position { get; private set; }

    public string Name { get; private set; }

    public int FileId { get; private set; }
}

/// <summary>The bytes of a file that went along; the same paper sent again is kept once.</summary>
public sealed class SentFile
{
    private SentFile() => (Data, Hash) = ([], "");

    public SentFile(byte[] data) => (Data, Hash) = (data, LayoutState.HashOf(data));

    public int Id { get; private set; }

    public byte[] Data { get; private set; }

    /// <summary>SHA-256 of the data, in hexadecimal.</summary>
    public string Hash { get; private set; }
}
