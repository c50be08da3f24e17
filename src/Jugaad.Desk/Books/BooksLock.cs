using Jugaad.Core;

namespace Jugaad.Desk.Books;

/// <summary>
/// Keeps a books' folder to one server: held for as long as it runs, and while books are restored, taken in or brought
/// up to date. The system lets go of it when the program ends, however it ends.
/// </summary>
public sealed class BooksLock : IDisposable
{
    private const string LockName = "books.lock";
    private const string HolderName = "books.holder";
    private readonly FileStream _held;
    private readonly string _holder;
    private readonly DateTime _since;

    private BooksLock(FileStream held, string holder, DateTime since) =>
        (_held, _holder, _since) = (held, holder, since);

    /// <summary>Makes the folder where it is not there, for its owner's eyes only.</summary>
    /// <param name="doing">What it is taken for, such as <c>serve</c>; told to whoever comes second.</param>
    /// <exception cref="RefusalException">When somebody else has the folder; it says who.</exception>
    public static BooksLock Hold(BooksFile file, string doing, TimeProvider? clock = null)
    {
        Directory.CreateDirectory(file.Folder);
        OwnersOnly.Folder(file.Folder);
        var holder = Path.Combine(file.Folder, HolderName);
        FileStream held;
        try
        {
            held = new FileStream(
                Path.Combine(file.Folder, LockName),
                FileMode.OpenOrCreate,
                FileAccess.ReadWrite,
                FileShare.None
            );
        }
        catch (IOException) when (File.Exists(Path.Combine(file.Folder, LockName)) && !DiskRoom.IsFull(file.Folder))
        {
            throw new RefusalException(
                "data",
                $"The books in {file.Folder} are in use {HolderOf(holder)}. End that first, or give another folder with --data."
            );
        }

        var books = new BooksLock(held, holder, (clock ?? TimeProvider.System).GetLocalNow().DateTime);
        books.Say(doing);
        return books;
    }

    /// <summary>Tells more of who has the folder, such as the address once it is known.</summary>
    public void Say(string doing)
    {
        File.WriteAllText(
            _holder,
            $"{doing}, process {Environment.ProcessId} on {Environment.MachineName}, since {_since:yyyy-MM-dd HH:mm}"
        );
        OwnersOnly.File(_holder);
    }

    /// <summary>Whether a file of the folder is one that the lock needs.</summary>
    public static bool IsItsFile(string path) => Path.GetFileName(path) is LockName or HolderName;

    /// <summary>
    /// The address of the server that has the folder; null where none runs, or it has not said it yet.
    /// </summary>
    public static string? AddressOf(BooksFile file)
    {
        var holder = Path.Combine(file.Folder, HolderName);
        if (!File.Exists(holder))
            return null;
        return HolderOf(holder)
            .Split([' ', ','], StringSplitOptions.RemoveEmptyEntries)
            .FirstOrDefault(w => w.StartsWith("http://", StringComparison.Ordinal));
    }

    public void Dispose()
    {
        File.Delete(_holder);
        _held.Dispose();
    }

    private static string HolderOf(string holder)
    {
        try
        {
            return File.ReadAllText(holder) is { Length: > 0 } said ? said : "by a program that did not say its name";
        }
        catch (IOException)
        {
            return "by a program that has just begun";
        }
    }
}
