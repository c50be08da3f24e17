using System.Data.Common;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Writes the whole books as a folder: each table as CSV and as JSON, the files and pictures in it, and a description
/// of every column. The same books give the same files, byte for byte. Passwords, tokens and the like stay behind.
/// </summary>
public sealed class BooksFolder(BooksContext db, BooksHead head, BookWriter writer, ITableFiles files)
{
    /// <summary>Says which schema the tables are of, so that they can be taken in again.</summary>
    public const string SchemaFile = "schema.txt";

    /// <summary>Figures that are kept as whole numbers of a small part.</summary>
    private static readonly Dictionary<string, string> Scales = new()
    {
        ["Millionths"] = "whole millionths",
        ["TenDecimals"] = "whole parts of 10^-10",
    };

    /// <param name="write">Called for each file with its name and content.</param>
    /// <exception cref="Core.RefusalException">While the books are empty.</exception>
    public async Task WriteAsync(Func<string, byte[], Task> write, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        // One moment for all tables.
        await using (await ReadMoment.BeginAsync(db, stop))
            await WriteTablesAsync(business.Name, business.HomeCurrency.Code, write, stop);
        await writer.NoteAsync(Right.See, $"The whole books were written out");
    }

    private async Task WriteTablesAsync(
        string business,
        string home,
        Func<string, byte[], Task> write,
        CancellationToken stop
    )
    {
        var described = new StringBuilder();
        described.Append(
            CultureInfo.InvariantCulture,
            $"# The books of {business}\n\nEach table is there twice, as CSV (RFC 4180, UTF-8) and as JSON. Amounts are whole minor units of their currency ({home} where none is named), days are ISO 8601, instants are UTC. A file or picture lies in the folder files, and its cell says under which name. What is secret stays behind: passwords, keys, links and invitations.\n\nTo take it all in again: ./jugaad import --books FOLDER --data DIR\n"
        );
        foreach (
            var entity in db
                .Model.GetEntityTypes()
                .Where(e => e.GetTableName() is not null && !e.IsOwned())
                .GroupBy(e => e.GetTableName()!)
                .OrderBy(g => g.Key, StringComparer.Ordinal)
        )
        {
            if (BooksSecrets.StayBehind(entity.Key))
                continue;
            var columns = ColumnsOf(entity.First());
            var key = entity.First().FindPrimaryKey()!.Properties.Select(p => p.GetColumnName()).ToList();
            var table = await ReadAsync(entity.Key, columns.ConvertAll(c => c.Name), key, write, stop);
            await write(
                $"{entity.Key}.csv",
                files.Write(
                    new Table(
                        table.Columns,
                        table.Rows.ConvertAll(r => (IReadOnlyList<string>)r.ConvertAll(c => c ?? ""))
                    ),
                    TableForm.Csv
                )
            );
            await write($"{entity.Key}.json", Json(table.Columns, table.Rows));
            Describe(described, entity.Key, table.Rows.Count, columns);
        }

        await write(
            SchemaFile,
            Encoding.UTF8.GetBytes($"{(await db.Database.GetAppliedMigrationsAsync(stop)).Last()}\n")
        );
        await write("README.md", Encoding.UTF8.GetBytes(described.ToString()));
    }

    private static List<(string Name, string Words)> ColumnsOf(IEntityType entity)
    {
        var table = entity.GetTableName()!;
        return entity
            .GetFlattenedProperties()
            .Select(p =>
                (Name: p.GetColumnName(StoreObjectIdentifier.Table(table)) ?? p.GetColumnName(), Words: WordsOf(p))
            )
            .Where(c => !BooksSecrets.StayBehind(table, c.Name))
            .ToList();
    }

    private static string WordsOf(IProperty property)
    {
        var type = Nullable.GetUnderlyingType(property.ClrType) ?? property.ClrType;
        var key =
            property.IsForeignKey()
                ? $", points to {property.GetContainingForeignKeys().First().PrincipalEntityType.GetTableName()}"
            : property.IsPrimaryKey() ? ", the key"
            : "";
        var scale =
            property.GetTypeMapping().Converter is { } converter
            && Scales.TryGetValue(converter.GetType().Name, out var words)
                ? words
                : null;
        var kind = type.IsEnum
            ? $"one of {string.Join(", ", Enum.GetNames(type))}"
            : scale
                ?? type.Name switch
                {
                    "DateOnly" => "day",
                    "DateTime" => "instant",
                    "Int64" or "Int32" => "whole number",
                    "Boolean" => "1 or 0",
                    "Currency" => "ISO 4217",
                    "Byte[]" => "a file, under this name",
                    "Addressee" or "Sender" or "Address" => "JSON",
                    _ => "text",
                };
        return kind + key + (property.IsNullable ? ", may be empty" : "");
    }

    private async Task<(List<string> Columns, List<List<string?>> Rows)> ReadAsync(
        string table,
        List<string> columns,
        List<string> key,
        Func<string, byte[], Task> write,
        CancellationToken stop
    )
    {
        await using var command = db.Database.GetDbConnection().CreateCommand();
        command.Transaction = db.Database.CurrentTransaction!.GetDbTransaction();
#pragma warning disable CA2100 // Names of tables and columns come from the model.
        command.CommandText =
            $"SELECT {string.Join(", ", columns.Concat(key).Select(c => $"\"{c}\""))} FROM \"{table}\" ORDER BY {string.Join(", ", key.Select(c => $"\"{c}\""))}";
#pragma warning restore CA2100
        await using var reader = await command.ExecuteReaderAsync(stop);
        var rows = new List<List<string?>>();
        while (await reader.ReadAsync(stop))
        {
            var row = new List<string?>();
            for (var i = 0; i < columns.Count; i++)
                row.Add(
                    await CellAsync(
                        reader,
                        i,
                        () =>
                            $"files/{table}-{columns[i]}-{string.Join('-', key.Select((_, k) => Text(reader, columns.Count + k)))}",
                        write
                    )
                );
            rows.Add(row);
        }

        return (columns, rows);
    }

    /// <summary>A file goes beside the tables, under a name that its cell then holds.</summary>
    private static async Task<string?> CellAsync(
        DbDataReader reader,
        int column,
        Func<string> name,
        Func<string, byte[], Task> write
    )
    {
        if (reader.IsDBNull(column))
            return null;
        if (reader.GetValue(column) is not byte[] content)
            return Text(reader, column);
        var file = name() + FileKinds.EndingOf(content);
        await write(file, content);
        return file;
    }

    private static string Text(DbDataReader reader, int column) =>
        Convert.ToString(reader.GetValue(column), CultureInfo.InvariantCulture) ?? "";

    private static byte[] Json(List<string> columns, List<List<string?>> rows)
    {
        using var file = new MemoryStream();
        using (
            var json = new Utf8JsonWriter(
                file,
                new JsonWriterOptions
                {
                    Indented = true,
                    Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
                }
            )
        )
        {
            json.WriteStartArray();
            foreach (var row in rows)
            {
                json.WriteStartObject();
                for (var i = 0; i < columns.Count; i++)
                    json.WriteString(columns[i], row[i]);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        }

        return file.ToArray();
    }

    private static void Describe(
        StringBuilder described,
        string table,
        int rows,
        List<(string Name, string Words)> columns
    )
    {
        described.Append(
            CultureInfo.InvariantCulture,
            $"\n## {table}\n\n{rows} rows.\n\n| column | what it holds |\n|---|---|\n"
        );
        foreach (var (name, words) in columns)
            described.Append(CultureInfo.InvariantCulture, $"| {name} | {words} |\n");
    }
}
