using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Jugaad.Desk.Setup;

/// <summary>A column that points to a customer.</summary>
public sealed record CustomerReference(string Table, string Column);

/// <summary>
/// Finds in the model of the books whatever points to a customer: so nothing is forgotten that is added one day.
/// </summary>
public static class CustomerReferences
{
    /// <summary>People and addresses of a customer that are merged by their content.</summary>
    private static readonly Type[] ByContent = [typeof(CustomerContact)];

    /// <summary>By foreign key, or by name where no key is kept.</summary>
    public static IReadOnlyList<CustomerReference> Of(IModel model) =>
        [
            .. from type in model.GetEntityTypes()
            where type.GetTableName() is not null && !ByContent.Contains(type.ClrType)
            from property in type.GetProperties()
            where Points(property)
            let column = property.GetColumnName(StoreObjectIdentifier.Table(type.GetTableName()!, type.GetSchema()))
            where column is not null
            select new CustomerReference(type.GetTableName()!, column),
        ];

    private static bool Points(IProperty property) =>
        property
            .GetContainingForeignKeys()
            .Any(k =>
                k.PrincipalEntityType.ClrType == typeof(Customer) && k.Properties is [var only] && only == property
            )
        || (
            (property.ClrType == typeof(int) || property.ClrType == typeof(int?))
            && property.Name.EndsWith("CustomerId", StringComparison.Ordinal)
        );

    /// <summary>Has whatever pointed to one customer point to another.</summary>
    internal static async Task MoveAsync(BooksContext db, int from, int to, CancellationToken stop)
    {
        foreach (var (table, column) in Of(db.Model))
        {
            // Names from the model, never from what somebody typed. Where the two customers meet in one row, it stays
            // as it is.
            var sql =
                $"UPDATE \"{table}\" SET \"{column}\" = {{0}} WHERE \"{column}\" = {{1}}{(table == "Customers" ? " AND \"Id\" <> {1}" : "")}";
            await db.Database.ExecuteSqlRawAsync(sql, [to, from], stop);
        }
    }
}
