using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Makes books of a folder that <see cref="BooksFolder"/> wrote. They are made beside, proved, and then take the place;
/// people come in without passwords, and the books rest until the owner says that they are the ones.
/// </summary>
public sealed partial class BooksTaking(TimeProvider clock)
{
    private const long MostTable = 1L << 30;

    /// <param name="held">Shows that nobody else has the folder.</param>
    /// <returns>The code with which the first owner signs in anew, and their address.</returns>
    /// <exception cref="RefusalException">When there are books already, or the folder does not hold whole ones; nothing
    /// is kept then.</exception>
    public async Task<(string Code, string Owner)> MoveInAsync(
        string folder,
        BooksFile file,
        BooksLock held,
        Action<string> said,
        CancellationToken stop = default
    )
    {
        ArgumentNullException.ThrowIfNull(held);
        FolderSwap.GoOn(file);
        if (File.Exists(file.Database))
            throw new RefusalException("data", $"There are books in {file.Folder} already. Give an empty folder.");
        if (!File.Exists(Path.Combine(folder, BooksFolder.SchemaFile)))
            throw new RefusalException(
                "books",
                $"{folder} does not hold books that were written out: {BooksFolder.SchemaFile} is missing. Give the folder that ./jugaad export wrote."
            );
        var schema = (await File.ReadAllTextAsync(Path.Combine(folder, BooksFolder.SchemaFile), stop)).Trim();
        var books = Path.Combine(FolderSwap.Begin(file), "books.db");
        try
        {
            await MakeAsync(books, schema, stop);
            await FillAsync(books, folder, stop);
            await new BooksSchema(books, path => BooksFile.Open(path)).LiftAsync(said, stop);
            foreach (var copy in Directory.GetFiles(Path.GetDirectoryName(books)!, "books-before-*"))
                File.Delete(copy);
            var door = await OpenAsync(books, folder, stop);
            SqliteConnection.ClearAllPools();
            FolderSwap.Finish(file, clock.GetLocalNow().DateTime);
            return door;
        }
        catch (Exception wrong)
        {
            FolderSwap.GiveUp(file);
            if (wrong is JsonException or SqliteException or FormatException or OverflowException)
                throw new RefusalException("books", $"The folder {folder} does not hold whole books: {wrong.Message}");
            throw;
        }
    }

    private static async Task MakeAsync(string books, string schema, CancellationToken stop)
    {
        await using var db = BooksFile.Open(books);
        var known = db.Database.GetMigrations().ToList();
        if (!known.Contains(schema))
            throw new RefusalException(
                "books",
                $"These books were written out with the schema {schema}, which this Jugaad does not know; it knows up to {known[^1]}. Use the one that wrote them, or a newer one."
            );
        await db.Database.MigrateAsync(schema, stop);
    }

    private static async Task FillAsync(string books, string folder, CancellationToken stop)
    {
        await using var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = books,
                Pooling = false,
                ForeignKeys = false,
            }.ToString()
        );
        await connection.OpenAsync(stop);
        await using var transaction = (SqliteTransaction)await connection.BeginTransactionAsync(stop);
        foreach (
            var table in (
                await ColumnAsync(
                    connection,
                    // Not what is searched by words: the database fills that itself.
                    "SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'table' AND name NOT LIKE 'sqlite%' AND name NOT LIKE '\\_\\_%' ESCAPE '\\' ORDER BY name",
                    stop
                )
            ).Where(t => !BooksSecrets.StayBehind(t))
        )
        {
            var path = Path.Combine(folder, $"{table}.json");
            if (!File.Exists(path))
                throw new RefusalException(
                    "books",
                    $"{table}.json is missing from {folder}. Write the books out again, or copy all of the folder."
                );
            await FillTableAsync(connection, transaction, table, path, stop);
        }

        await transaction.CommitAsync(stop);
        await using var check = connection.CreateCommand();
        check.CommandText = "PRAGMA foreign_key_check";
        await using var broken = await check.ExecuteReaderAsync(stop);
        if (await broken.ReadAsync(stop))
            throw new RefusalException(
                "books",
                $"A row of {broken.GetString(0)} points to one of {broken.GetString(2)} that is not there. The folder was changed, or is not whole."
            );
    }

    private static async Task FillTableAsync(
        SqliteConnection connection,
        SqliteTransaction transaction,
        string table,
        string path,
        CancellationToken stop
    )
    {
        if (new FileInfo(path).Length > MostTable)
            throw new RefusalException(
                "books",
                $"{table}.json is larger than 1 GB, which no books of a small business are."
            );
        var columns = await ColumnsAsync(connection, table, stop);
        await using var file = File.OpenRead(path);
        await using var insert = connection.CreateCommand();
        insert.Transaction = transaction;
        insert.CommandText =
            $"INSERT INTO \"{table}\" ({string.Join(", ", columns.Select(c => $"\"{c.Name}\""))}) VALUES ({string.Join(", ", columns.Select((_, i) => $"$p{i}"))})";
        for (var i = 0; i < columns.Count; i++)
            insert.Parameters.Add(new SqliteParameter($"$p{i}", null));
        await using (var clear = connection.CreateCommand())
        {
            clear.Transaction = transaction;
            clear.CommandText = $"DELETE FROM \"{table}\"";
            await clear.ExecuteNonQueryAsync(stop);
        }

        var number = 0;
        await foreach (
            var row in JsonSerializer.DeserializeAsyncEnumerable<Dictionary<string, string?>>(
                file,
                cancellationToken: stop
            )
        )
        {
            number++;
            if (row is null)
                throw new RefusalException("books", $"{table}.json, row {number}: is empty.");
            if (row.Keys.FirstOrDefault(k => columns.TrueForAll(c => c.Name != k)) is { } strange)
                throw new RefusalException("books", $"{table}.json, row {number}: there is no column “{strange}”.");
            for (var i = 0; i < columns.Count; i++)
                insert.Parameters[i].Value = ValueOf(columns[i], row, table, number, Path.GetDirectoryName(path)!);
            await insert.ExecuteNonQueryAsync(stop);
        }
    }

    private static object ValueOf(
        Column column,
        Dictionary<string, string?> row,
        string table,
        int number,
        string folder
    )
    {
        if (!row.TryGetValue(column.Name, out var text))
        {
            // What stayed behind comes in empty.
            if (!BooksSecrets.StayBehind(table, column.Name))
                throw new RefusalException(
                    "books",
                    $"{table}.json, row {number}: the column “{column.Name}” is missing."
                );
            return column.Name == "SecurityStamp" ? Guid.NewGuid().ToString("N")
                : column.MayBeEmpty ? DBNull.Value
                : column.Type == "INTEGER" ? 0L
                : "";
        }

        if (text is null)
            return DBNull.Value;
        return column.Type switch
        {
            "INTEGER" => long.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var whole)
                ? whole
                : throw new RefusalException(
                    "books",
                    $"{table}.json, row {number}, {column.Name}: “{text}” is not a whole number."
                ),
            "BLOB" => Files().IsMatch(text) && File.Exists(Path.Combine(folder, text))
                ? File.ReadAllBytes(Path.Combine(folder, text))
                : throw new RefusalException(
                    "books",
                    $"{table}.json, row {number}, {column.Name}: the file “{text}” is not there."
                ),
            _ => text,
        };
    }

    private sealed record Column(string Name, string Type, bool MayBeEmpty);

    private static async Task<List<Column>> ColumnsAsync(
        SqliteConnection connection,
        string table,
        CancellationToken stop
    )
    {
        await using var command = connection.CreateCommand();
        command.CommandText = "SELECT name, type, \"notnull\" FROM pragma_table_info($table)";
        command.Parameters.AddWithValue("$table", table);
        await using var reader = await command.ExecuteReaderAsync(stop);
        var columns = new List<Column>();
        while (await reader.ReadAsync(stop))
            columns.Add(new Column(reader.GetString(0), reader.GetString(1), reader.GetInt64(2) == 0));
        return columns;
    }

    private static async Task<List<string>> ColumnAsync(SqliteConnection connection, string sql, CancellationToken stop)
    {
        await using var command = connection.CreateCommand();
#pragma warning disable CA2100 // The words are our own.
        command.CommandText = sql;
#pragma warning restore CA2100
        await using var reader = await command.ExecuteReaderAsync(stop);
        var values = new List<string>();
        while (await reader.ReadAsync(stop))
            values.Add(reader.GetString(0));
        return values;
    }

    private async Task<(string Code, string Owner)> OpenAsync(string books, string folder, CancellationToken stop)
    {
        await using var db = BooksFile.Open(books);
        var business =
            await db.Businesses.SingleOrDefaultAsync(stop)
            ?? throw new RefusalException("books", $"{folder} holds no business.");
        business.Rest(clock.GetUtcNow().UtcDateTime, "books that were written out and taken in");
        var owner =
            await db
                .Users.Where(p => p.Role == PersonRole.Owner && !p.Closed)
                .OrderBy(p => p.Id)
                .FirstOrDefaultAsync(stop)
            ?? throw new RefusalException("books", $"{folder} holds no owner who could sign in.");
        var token = Invitation.NewToken();
        db.PasswordResets.Add(
            new PasswordReset
            {
                PersonId = owner.Id,
                TokenHash = Invitation.HashOf(token),
                Until = clock.GetUtcNow().UtcDateTime.AddDays(1),
            }
        );
        await db.SaveChangesAsync(stop);
        return (token, owner.Email!);
    }

    [GeneratedRegex("^files/[A-Za-z0-9_][A-Za-z0-9._-]{0,200}$", RegexOptions.CultureInvariant)]
    private static partial Regex Files();
}
