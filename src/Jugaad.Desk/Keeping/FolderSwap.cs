using System.Globalization;
using Jugaad.Desk.Books;

namespace Jugaad.Desk.Keeping;

/// <summary>
/// Has books that lie ready take the place of those that are there, which are put aside. A program that is stopped in
/// between goes on at the next start: marks tell what lies ready, and when what was there is out of the way.
/// </summary>
public static class FolderSwap
{
    private const string MarkName = "READY";
    private const string OutName = "OUT";

    private static readonly string[] Parts =
    [
        "books.db",
        "books.db-wal",
        "books.db-shm",
        "books.db-journal",
        "keys",
        "mail",
    ];

    /// <summary>Where books are made ready. It is emptied.</summary>
    public static string Begin(BooksFile file)
    {
        var ready = Ready(file);
        if (Directory.Exists(ready))
            Directory.Delete(ready, recursive: true);
        Directory.CreateDirectory(ready);
        OwnersOnly.Folder(ready);
        return ready;
    }

    /// <summary>Throws away what was being made ready.</summary>
    public static void GiveUp(BooksFile file)
    {
        if (Directory.Exists(Ready(file)))
            Directory.Delete(Ready(file), recursive: true);
    }

    /// <summary>From here on the books that lie ready are the ones.</summary>
    /// <returns>Where the ones before lie now; null where there were none.</returns>
    public static string? Finish(BooksFile file, DateTime now)
    {
        var aside = Path.Combine(
            file.Folder,
            $"before-{now.ToString("yyyyMMdd-HHmmss", CultureInfo.InvariantCulture)}"
        );
        var part = Path.Combine(Ready(file), $"{MarkName}.part");
        File.WriteAllText(part, aside);
        Durable.Replace(part, Path.Combine(Ready(file), MarkName));
        return GoOn(file);
    }

    /// <summary>Finishes what a program that was stopped had begun, or throws it away where it was not ready.</summary>
    /// <returns>Where the books before lie now; null where there were none, or nothing was to be finished.</returns>
    public static string? GoOn(BooksFile file)
    {
        var ready = Ready(file);
        if (!Directory.Exists(ready))
            return null;
        var mark = Path.Combine(ready, MarkName);
        if (!File.Exists(mark))
        {
            GiveUp(file);
            return null;
        }

        var aside = File.ReadAllText(mark);
        var isOut = Path.Combine(ready, OutName);
        if (!File.Exists(isOut))
        {
            foreach (var part in Parts)
                Move(Path.Combine(file.Folder, part), Path.Combine(aside, part));
            File.WriteAllText(isOut, "");
        }

        // From here on nothing of the books before is in the way. Their file comes last, so that keys are there when it
        // is.
        foreach (var part in Parts.Reverse())
            Move(Path.Combine(ready, part), Path.Combine(file.Folder, part));
        Directory.Delete(ready, recursive: true);
        return Directory.Exists(aside) ? aside : null;
    }

    private static string Ready(BooksFile file) => Path.Combine(file.Folder, "restoring");

    private static void Move(string from, string to)
    {
        if (!Path.Exists(from))
            return;
        Directory.CreateDirectory(Path.GetDirectoryName(to)!);
        OwnersOnly.Folder(Path.GetDirectoryName(to)!);
        Directory.Move(from, to);
    }
}
