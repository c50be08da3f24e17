using Jugaad.Core;
using Microsoft.Data.Sqlite;

namespace Jugaad.Desk.Books;

/// <summary>SQLite's own look at a file found that it is not whole.</summary>
internal sealed class DamagedException : Exception;

/// <summary>Says in words that a books file cannot be read, and what to do.</summary>
internal static class DamagedBooks
{
    /// <exception cref="RefusalException">When <paramref name="work"/> finds the file damaged.</exception>
    internal static async Task<T> SaidAsync<T>(string path, Func<Task<T>> work)
    {
        try
        {
            if (new FileInfo(path).Length == 0 && Directory.Exists(Path.Combine(Path.GetDirectoryName(path)!, "keys")))
                throw new DamagedException();
            return await work();
        }
        catch (Exception damaged) when (damaged is DamagedException or SqliteException { SqliteErrorCode: 11 or 26 })
        {
            throw new RefusalException(
                "data",
                $"The books file {path} is damaged and cannot be used: parts of it are not as they were written. Leave it where it is, and go back to the newest backup: ./jugaad restore FILE --data {Path.GetDirectoryName(path)}. It puts what is there now aside. Look at the disk too; a failing one damages the next file as well."
            );
        }
    }
}
