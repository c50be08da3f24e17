using Microsoft.EntityFrameworkCore.Migrations;

namespace Jugaad.Desk.Books;

/// <summary>
/// What is searched by words: beside each of some tables stands one of SQLite's full-text tables (FTS5, by trigrams),
/// whose rows have the same numbers and the words of the row in one text. The database itself keeps them, by triggers.
/// </summary>
/// <remarks>
/// A step of the schema that makes one of the tables anew takes its triggers away: it calls <see cref="Put"/> at its
/// end. The check proves that each text is what its row says, and that the triggers are there.
/// </remarks>
public static class WordTables
{
    /// <param name="Of">The table whose rows are found.</param>
    /// <param name="Columns">What of a row is searched.</param>
    public sealed record WordTable(string Of, IReadOnlyList<string> Columns)
    {
        public string Name => Of + "Words";

        internal IEnumerable<string> Triggers => [$"{Name}_Added", $"{Name}_Changed", $"{Name}_Gone"];

        /// <summary>The text of a row; parted by line ends, which nobody types into a search.</summary>
        internal string TextOf(string row) =>
            string.Join(" || char(10) || ", Columns.Select(c => $"coalesce({row}.\"{c}\", '')"));
    }

    public static WordTable Documents { get; } =
        new(
            "Documents",
            ["Number", "PurchaseOrder", "Particulars_Project", "Particulars_Reference", "Particulars_Opening", "Note"]
        );

    public static WordTable Customers { get; } =
        new("Customers", ["Code", "Name", "OtherName", "Address_City", "Email", "Tags"]);

    public static WordTable Receipts { get; } = new("Receipts", ["Number", "Reference"]);

    public static WordTable Items { get; } = new("Items", ["Code", "Name", "Text", "Classification", "Barcode"]);

    public static WordTable Post { get; } = new("Post", ["To", "Subject"]);

    public static WordTable Trail { get; } = new("Trail", ["Text"]);

    internal static IReadOnlyList<WordTable> All { get; } = [Documents, Customers, Receipts, Items, Post, Trail];

    /// <summary>Makes the tables and triggers anew, and reads in what there is.</summary>
    internal static void Put(MigrationBuilder step)
    {
        foreach (var table in All)
        {
            foreach (var statement in Drop(table).Concat(Make(table)))
                step.Sql(statement);
        }
    }

    internal static void Remove(MigrationBuilder step)
    {
        foreach (var table in All)
        {
            foreach (var statement in Drop(table))
                step.Sql(statement);
        }
    }

    private static IEnumerable<string> Drop(WordTable table) =>
        table.Triggers.Select(t => $"DROP TRIGGER IF EXISTS \"{t}\"").Append($"DROP TABLE IF EXISTS \"{table.Name}\"");

    private static IEnumerable<string> Make(WordTable table)
    {
        var (name, of) = (table.Name, table.Of);
        var columns = string.Join(", ", table.Columns.Select(c => $"\"{c}\""));
        yield return $"CREATE VIRTUAL TABLE \"{name}\" USING fts5(Words, tokenize = 'trigram remove_diacritics 1')";
        yield return $"INSERT INTO \"{name}\" (rowid, Words) SELECT t.\"Id\", {table.TextOf("t")} FROM \"{of}\" AS t";
        yield return $"CREATE TRIGGER \"{name}_Added\" AFTER INSERT ON \"{of}\" BEGIN INSERT INTO \"{name}\" (rowid, Words) VALUES (new.\"Id\", {table.TextOf("new")}); END";
        yield return $"CREATE TRIGGER \"{name}_Changed\" AFTER UPDATE OF {columns} ON \"{of}\" WHEN {table.TextOf("old")} <> {table.TextOf("new")} BEGIN UPDATE \"{name}\" SET Words = {table.TextOf("new")} WHERE rowid = new.\"Id\"; END";
        yield return $"CREATE TRIGGER \"{name}_Gone\" AFTER DELETE ON \"{of}\" BEGIN DELETE FROM \"{name}\" WHERE rowid = old.\"Id\"; END";
    }
}
