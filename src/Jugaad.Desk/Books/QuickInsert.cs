using System.Data.Common;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage;

namespace Jugaad.Desk.Books;

/// <summary>
/// Puts many rows of one table in at once, for what comes by the ten thousand: one prepared statement, nothing tracked,
/// so that the books are held for seconds and not for a minute. Columns and their conversions come from the model.
/// </summary>
internal static class QuickInsert
{
    /// <param name="given">Values of columns that the things do not know yet, by the property's name, such as what they
    /// belong to.</param>
    /// <exception cref="InvalidOperationException">When no transaction has been begun.</exception>
    internal static async Task QuicklyInsertAsync<T>(
        this BooksContext db,
        IEnumerable<T> things,
        IReadOnlyDictionary<string, object> given,
        CancellationToken stop = default
    )
        where T : class
    {
        var transaction =
            db.Database.CurrentTransaction
            ?? throw new InvalidOperationException("Rows are put in within a transaction.");
        var type = db.Model.FindEntityType(typeof(T))!;
        var table = StoreObjectIdentifier.Table(type.GetTableName()!, type.GetSchema());
        var columns = type.GetProperties()
            .Where(p => !p.IsPrimaryKey())
            .Select((p, i) => new Column(p, p.GetColumnName(table)!, new SqliteParameter($"$p{i}", null)))
            .ToList();
        await using var insert = db.Database.GetDbConnection().CreateCommand();
        insert.Transaction = transaction.GetDbTransaction();
        insert.CommandText =
            $"INSERT INTO \"{table.Name}\" ({string.Join(", ", columns.Select(c => $"\"{c.Name}\""))}) VALUES ({string.Join(", ", columns.Select(c => c.Parameter.ParameterName))})";
        insert.Parameters.AddRange(columns.Select(c => (DbParameter)c.Parameter).ToArray());
        foreach (var thing in things)
        {
            foreach (var column in columns)
                column.Parameter.Value = column.Of(thing, given);
            await insert.ExecuteNonQueryAsync(stop);
        }
    }

    private sealed record Column(IProperty Property, string Name, SqliteParameter Parameter)
    {
        private readonly Func<object?, object?>? _convert = Property.GetTypeMapping().Converter?.ConvertToProvider;

        internal object Of(object thing, IReadOnlyDictionary<string, object> given)
        {
            var value = given.TryGetValue(Property.Name, out var told) ? told : Property.GetGetter().GetClrValue(thing);
            return (_convert is null ? value : _convert(value)) ?? DBNull.Value;
        }
    }
}
