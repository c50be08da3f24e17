using System.Linq.Expressions;
using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// Finds rows by what is typed of them: from three letters on anywhere in their words, whatever the capitals and accents; by one
/// or two letters only at the beginning of what tells them apart, such as the number. Both are answered from an index.
/// </summary>
public static class WordSearch
{
    private const int FewestForWords = 3;

    // A typed figure may be of a currency with no, two or three decimals.
    private static readonly decimal[] MinorFactors = [1, 100, 1_000];

    public static IQueryable<int> Customers(BooksContext db, string typed) =>
        Found(
            db,
            WordTables.Customers,
            typed,
            db.Customers,
            begins =>
                c =>
                    EF.Functions.Like(c.Name, begins, "\\")
                    || EF.Functions.Like(c.Code, begins, "\\")
                    || EF.Functions.Like(c.Address.City, begins, "\\"),
            c => c.Id
        );

    public static IQueryable<int> Items(BooksContext db, string typed) =>
        Found(
            db,
            WordTables.Items,
            typed,
            db.Items,
            begins => i => EF.Functions.Like(i.Name, begins, "\\") || EF.Functions.Like(i.Code, begins, "\\"),
            i => i.Id
        );

    public static IQueryable<int> Documents(BooksContext db, string typed) =>
        Found(
            db,
            WordTables.Documents,
            typed,
            db.Documents,
            begins =>
                d => EF.Functions.Like(d.Number!, begins, "\\") || EF.Functions.Like(d.PurchaseOrder, begins, "\\"),
            d => d.Id
        );

    public static IQueryable<int> Receipts(BooksContext db, string typed) =>
        Found(
            db,
            WordTables.Receipts,
            typed,
            db.Receipts,
            begins => r => EF.Functions.Like(r.Number, begins, "\\") || EF.Functions.Like(r.Reference, begins, "\\"),
            r => r.Id
        );

    public static IQueryable<int> Post(BooksContext db, string typed) =>
        Found(
            db,
            WordTables.Post,
            typed,
            db.Post,
            begins => p => EF.Functions.Like(p.To, begins, "\\") || EF.Functions.Like(p.Subject, begins, "\\"),
            p => p.Id
        );

    public static IQueryable<int> Trail(BooksContext db, string typed) =>
        Found(db, WordTables.Trail, typed, db.Trail, begins => t => EF.Functions.Like(t.Text, begins, "\\"), t => t.Id);

    /// <summary>What a typed figure may mean in minor units; empty where it is none.</summary>
    public static IReadOnlyList<long> AmountsOf(string text, DisplayFormat format)
    {
        try
        {
            var value = Math.Abs(format.Read(text, 4, ""));
            return value > Limits.Figure
                ? []
                : MinorFactors
                    .Select(f => value * f)
                    .Where(m => m == decimal.Truncate(m))
                    .Select(m => (long)m)
                    .Distinct()
                    .ToList();
        }
        catch (RefusalException)
        {
            return [];
        }
    }

    private static IQueryable<int> Found<T>(
        BooksContext db,
        WordTables.WordTable table,
        string typed,
        IQueryable<T> rows,
        Func<string, Expression<Func<T, bool>>> beginning,
        Expression<Func<T, int>> id
    )
    {
        var text = typed.Trim();
        if (text.EnumerateRunes().Count() < FewestForWords)
            return rows.Where(beginning(SearchText.Beginning(text))).Select(id);
        // As one phrase: a mark of quotation within it is written twice, and nothing else has a meaning of its own.
        var phrase = $"\"{text.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
#pragma warning disable EF1002 // The table's name is one of ours; what was typed is a parameter.
        return db.Database.SqlQueryRaw<int>(
            $"SELECT rowid AS \"Value\" FROM \"{table.Name}\" WHERE Words MATCH {{0}}",
            phrase
        );
#pragma warning restore EF1002
    }
}
