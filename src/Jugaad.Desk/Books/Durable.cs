namespace Jugaad.Desk.Books;

/// <summary>Files that are there whole or not at all, also when the power goes.</summary>
internal static class Durable
{
    /// <summary>Has a finished file take the place of another, or take a name.</summary>
    internal static void Replace(string finished, string path)
    {
        using (var handle = File.OpenHandle(finished, FileMode.Open, FileAccess.ReadWrite))
            RandomAccess.FlushToDisk(handle);
        File.Move(finished, path, overwrite: true);
    }
}
