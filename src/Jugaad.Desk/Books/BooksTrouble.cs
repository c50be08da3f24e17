using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// What keeps the books from being read or written though nothing is wrong with what was asked: in words, with what to
/// do.
/// </summary>
/// <param name="IsBusy">Whether waiting helps.</param>
public sealed record BooksTrouble(string Words, bool IsBusy = false)
{
    /// <summary>SQLite's code for a file that can grow no more.</summary>
    internal const int Full = 13;

    internal const int Locked = 5;

    private const int LockedTable = 6,
        ReadOnly = 8,
        Broken = 10,
        Corrupt = 11,
        CannotOpen = 14,
        NoBooks = 26;

    /// <returns>Null where it is nothing of that kind.</returns>
    public static BooksTrouble? Of(Exception exception) =>
        exception switch
        {
            DbUpdateException { InnerException: { } inner } => Of(inner),
            SqliteException sqlite => OfSqlite(sqlite),
            UnauthorizedAccessException denied => new(
                $"This is not allowed on this machine: {denied.Message}. See who owns the folder and the file."
            ),
            IOException full when IsFull(full) => new(
                "The disk is full. Make room on it; nothing has been lost, and what you asked for has not been done."
            ),
            IOException other => new($"The disk does not let it: {other.Message}"),
            _ => null,
        };

    /// <summary>ENOSPC, as the system says it.</summary>
    private static bool IsFull(IOException exception) =>
        (exception.HResult & 0xFFFF) == 28 || exception.Message.StartsWith("No space left", StringComparison.Ordinal);

    private static BooksTrouble? OfSqlite(SqliteException sqlite) =>
        sqlite.SqliteErrorCode switch
        {
            Locked or LockedTable => new(
                "The books are busy: somebody else’s work is being written just now. Nothing of yours is lost; try again in a moment.",
                IsBusy: true
            ),
            ReadOnly => new(
                "The books cannot be written: their file or its disk is read-only. Nothing has been changed. Have whoever looks after this machine see to it."
            ),
            Full => new(
                "The disk is full, so this was not written. Make room on it and do it again; nothing else is lost."
            ),
            Broken => new(
                "The disk does not read or write as it should. Stop Jugaad, look at the disk, and have a backup at hand."
            ),
            CannotOpen => new("The books file cannot be opened. See that its folder is there and may be written."),
            Corrupt or NoBooks => new(
                "The books file is damaged. Stop Jugaad and go back to the newest backup: ./jugaad restore FILE --data DIR."
            ),
            _ => null,
        };
}

/// <summary>
/// Thrown when a write could not begin because somebody else's goes on. Nothing has been changed when it is thrown.
/// </summary>
public sealed class BusyException(string words) : Core.RefusalException("", words);
