using System.Text.Json;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>Finds which customers and items of an import something else in the books points to by now.</summary>
public sealed class ImportUses(BooksContext db)
{
    /// <summary>Tables that are a customer's own, or only tell of one.</summary>
    private static readonly string[] OwnOrTelling =
    [
        "CustomerContacts",
        "CustomerPlaces",
        "ExemptionCertificates",
        "Trail",
    ];

    /// <summary>
    /// Those of the customers, by id, that any table points to, found from the model so that none is forgotten.
    /// </summary>
    public async Task<HashSet<int>> OfCustomersAsync(
        IReadOnlyCollection<int> customers,
        CancellationToken stop = default
    )
    {
        var used = new HashSet<int>();
        foreach (var (table, column) in CustomerReferences.Of(db.Model).Where(r => !OwnOrTelling.Contains(r.Table)))
            used.UnionWith(await PointedAsync(table, column, customers, stop));
        foreach (var form in await TypedAsync(stop))
            used.Add(Number(form, "customerId"));
        return used;
    }

    /// <summary>
    /// Those of the items, by id, that stand in a document's line, moved stock, or are part of a starter or a standing
    /// invoice.
    /// </summary>
    public async Task<HashSet<int>> OfItemsAsync(IReadOnlyCollection<int> items, CancellationToken stop = default)
    {
        var used = new HashSet<int>();
        foreach (var table in new[] { "DocumentLine", "StockMoves", "ItemBatchRows", "CustomerItemNumbers" })
            used.UnionWith(await PointedAsync(table, "ItemId", items, stop));
        var contents = await db.Starters.AsNoTracking().Select(s => s.Content).ToListAsync(stop);
        contents.AddRange(await db.StandingInvoices.AsNoTracking().Select(s => s.Content).ToListAsync(stop));
        used.UnionWith(contents.SelectMany(c => c.Lines).Select(l => l.ItemId).OfType<int>());
        foreach (var form in await TypedAsync(stop))
            if (form.TryGetProperty("lines", out var lines) && lines.ValueKind == JsonValueKind.Array)
                used.UnionWith(lines.EnumerateArray().Select(l => Number(l, "itemId")));
        return used;
    }

    /// <summary>What people have typed and not saved yet, or put on the shelf.</summary>
    private async Task<List<JsonElement>> TypedAsync(CancellationToken stop)
    {
        var forms = await db.Shelf.AsNoTracking().Select(s => s.Form).ToListAsync(stop);
        return forms.ConvertAll(f => JsonSerializer.Deserialize<JsonElement>(f));
    }

    private static int Number(JsonElement form, string name) =>
        form.ValueKind == JsonValueKind.Object
        && form.TryGetProperty(name, out var value)
        && value.ValueKind == JsonValueKind.Number
        && value.TryGetInt32(out var number)
            ? number
            : 0;

    /// <summary>Names of tables and columns come from the model, never from what somebody typed.</summary>
    private Task<List<int>> PointedAsync(
        string table,
        string column,
        IReadOnlyCollection<int> ids,
        CancellationToken stop
    )
    {
        var sql =
            $"SELECT DISTINCT \"{column}\" AS \"Value\" FROM \"{table}\" WHERE \"{column}\" IN (SELECT value FROM json_each({{0}}))";
        return db.Database.SqlQueryRaw<int>(sql, JsonSerializer.Serialize(ids)).ToListAsync(stop);
    }
}
