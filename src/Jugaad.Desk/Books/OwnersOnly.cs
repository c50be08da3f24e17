namespace Jugaad.Desk.Books;

/// <summary>Keeps others of the machine from what lies in the books' folder.</summary>
public static class OwnersOnly
{
    private const UnixFileMode ReadWrite = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    public static void Folder(string path)
    {
        if (!OperatingSystem.IsWindows())
            System.IO.File.SetUnixFileMode(path, ReadWrite | UnixFileMode.UserExecute);
    }

    public static void File(string path)
    {
        if (!OperatingSystem.IsWindows())
            System.IO.File.SetUnixFileMode(path, ReadWrite);
    }
}
