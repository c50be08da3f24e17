namespace Jugaad.Desk.Books;

/// <summary>How much room there is on the disk of a folder.</summary>
/// <param name="Free">Bytes that this program may still use.</param>
/// <param name="Needed">Bytes below which it complains: room for the books once more, and a little.</param>
public sealed record DiskRoom(long Free, long Needed)
{
    private const long Least = 200L * 1024 * 1024;

    public bool IsLow => Free < Needed;

    public static DiskRoom Of(BooksFile file) => new(FreeAt(file.Folder), Least + (2 * SizeOf(file.Database)));

    /// <summary>Whether not even a small file fits any more.</summary>
    public static bool IsFull(string folder) => FreeAt(folder) < 64 * 1024;

    /// <summary>In bytes.</summary>
    public static long FreeAt(string folder) => new DriveInfo(Path.GetFullPath(folder)).AvailableFreeSpace;

    /// <summary>Megabytes, as people say it.</summary>
    public static string Words(long bytes) => bytes < 10L * 1024 * 1024 ? $"{Math.Max(0, bytes) / 1024:N0} kB" : $"{bytes / (1024 * 1024):N0} MB";

    private static long SizeOf(string path) => File.Exists(path) ? new FileInfo(path).Length : 0;
}
