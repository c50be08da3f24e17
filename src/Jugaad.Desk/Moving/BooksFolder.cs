using System.Data.Common;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Writes the whole books as a folder: each table as CSV and as JSON, the pictures, and a description of every column. Passwords,
/// tokens and the like stay behind.
/// </summary>
public sealed class BooksFolder(BooksContext db, BooksHead head, ITableFiles files)
{
    /// <summary>Tables and columns that are nobody's business outside, or that only this program can use.</summary>
    private static readonly HashSet<string> LeftOut =
    [
        "AspNetRoles", "AspNetUserRoles", "AspNetUserClaims", "AspNetRoleClaims", "AspNetUserLogins", "AspNetUserTokens", "AspNetUserPasskeys", "Invitations", "AnsweredForms",
        "AspNetUsers.PasswordHash", "AspNetUsers.SecurityStamp", "AspNetUsers.ConcurrencyStamp", "MailSettings.ProtectedPassword", "ImportRuns.File", "Businesses.Logo", "Businesses.Signature",
    ];

    /// <summary>Figures that are kept as whole numbers of a small part.</summary>
    private static readonly Dictionary<string, string> Scales = new() { ["Millionths"] = "whole millionths", ["TenDecimals"] = "whole parts of 10^-10" };

    /// <param name="write">Called for each file with its name and content.</param>
    /// <exception cref="Core.RefusalException">While the books are empty.</exception>
    public async Task WriteAsync(Func<string, byte[], Task> write, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var described = new StringBuilder();
        described.Append(CultureInfo.InvariantCulture, $"# The books of {business.Name}\n\nWritten on {await head.TodayAsync(stop):yyyy-MM-dd}. Each table is there twice, as CSV (RFC 4180, UTF-8) and as JSON. Amounts are whole minor units of their currency ({business.HomeCurrency} where none is named), days are ISO 8601, instants are UTC.\n");
        foreach (var entity in db.Model.GetEntityTypes().Where(e => e.GetTableName() is not null && !e.IsOwned()).GroupBy(e => e.GetTableName()!).OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            if (LeftOut.Contains(entity.Key)) continue;
            var columns = ColumnsOf(entity.First());
            var table = await ReadAsync(entity.Key, columns.ConvertAll(c => c.Name), stop);
            await write($"{entity.Key}.csv", files.Write(table, TableForm.Csv));
            await write($"{entity.Key}.json", Json(table));
            Describe(described, entity.Key, table.Rows.Count, columns);
        }

        if (business.Logo is not null) await write("logo.png", business.Logo);
        if (business.Signature is not null) await write("signature.png", business.Signature);
        await write("README.md", Encoding.UTF8.GetBytes(described.ToString()));
    }

    private static List<(string Name, string Words)> ColumnsOf(IEntityType entity)
    {
        var table = entity.GetTableName()!;
        return entity.GetFlattenedProperties().Select(p => (Name: p.GetColumnName(StoreObjectIdentifier.Table(table)) ?? p.GetColumnName(), Words: WordsOf(p))).Where(c => !LeftOut.Contains($"{table}.{c.Name}")).ToList();
    }

    private static string WordsOf(IProperty property)
    {
        var type = Nullable.GetUnderlyingType(property.ClrType) ?? property.ClrType;
        var key = property.IsForeignKey() ? $", points to {property.GetContainingForeignKeys().First().PrincipalEntityType.GetTableName()}" : property.IsPrimaryKey() ? ", the key" : "";
        var scale = property.GetTypeMapping().Converter is { } converter && Scales.TryGetValue(converter.GetType().Name, out var words) ? words : null;
        var kind = type.IsEnum ? $"one of {string.Join(", ", Enum.GetNames(type))}"
            : scale ?? type.Name switch
            {
                "DateOnly" => "day",
                "DateTime" => "instant",
                "Int64" or "Int32" => "whole number",
                "Boolean" => "1 or 0",
                "Currency" => "ISO 4217",
                "Addressee" or "Sender" or "Address" => "JSON",
                _ => "text",
            };
        return kind + key + (property.IsNullable ? ", may be empty" : "");
    }

    private async Task<Table> ReadAsync(string table, List<string> columns, CancellationToken stop)
    {
        var connection = db.Database.GetDbConnection();
        await db.Database.OpenConnectionAsync(stop);
        try
        {
            await using var command = connection.CreateCommand();
#pragma warning disable CA2100 // Names of tables and columns come from the model.
            command.CommandText = $"SELECT {string.Join(", ", columns.Select(c => $"\"{c}\""))} FROM \"{table}\" ORDER BY 1";
#pragma warning restore CA2100
            await using var reader = await command.ExecuteReaderAsync(stop);
            var rows = new List<IReadOnlyList<string>>();
            while (await reader.ReadAsync(stop)) rows.Add(Enumerable.Range(0, columns.Count).Select(i => Text(reader, i)).ToList());
            return new Table(columns, rows);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }

    private static string Text(DbDataReader reader, int column) => reader.IsDBNull(column) ? "" : Convert.ToString(reader.GetValue(column), CultureInfo.InvariantCulture) ?? "";

    private static byte[] Json(Table table)
    {
        using var file = new MemoryStream();
        using (var json = new Utf8JsonWriter(file, new JsonWriterOptions { Indented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }))
        {
            json.WriteStartArray();
            foreach (var row in table.Rows)
            {
                json.WriteStartObject();
                for (var i = 0; i < table.Columns.Count; i++) json.WriteString(table.Columns[i], row[i]);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        }

        return file.ToArray();
    }

    private static void Describe(StringBuilder described, string table, int rows, List<(string Name, string Words)> columns)
    {
        described.Append(CultureInfo.InvariantCulture, $"\n## {table}\n\n{rows} rows.\n\n| column | what it holds |\n|---|---|\n");
        foreach (var (name, words) in columns) described.Append(CultureInfo.InvariantCulture, $"| {name} | {words} |\n");
    }
}
