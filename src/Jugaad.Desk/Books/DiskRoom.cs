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

    /// <summary>As people say it, in the largest unit of which there are two.</summary>
    public static string Words(long bytes) =>
        bytes switch
        {
            >= 2_000_000_000 => $"{bytes / 1_000_000_000} GB",
            >= 2_000_000 => $"{bytes / 1_000_000} MB",
            _ => $"{Math.Max(0, bytes) / 1_000} kB",
        };

    private static long SizeOf(string path) => File.Exists(path) ? new FileInfo(path).Length : 0;
}
