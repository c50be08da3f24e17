using System.Linq.Expressions;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>The numbers of the rows that a search finds.</summary>
/// <param name="IsMany">Whether they are so many that a list meets them soon on its way.</param>
public sealed record Found(IQueryable<int> Ids, bool IsMany)
{
    /// <summary>Those between two numbers, where the index can tell that by itself.</summary>
    internal Func<int, int, IQueryable<int>>? Between { get; init; }

    /// <summary>The lowest number among so many of the newest of them; null where they are not many.</summary>
    internal Func<int, CancellationToken, Task<int?>>? LowestOfNewest { get; init; }

    /// <inheritdoc cref="LowestOfNewest"/>
    public async Task<int?> NewestFromAsync(int count, CancellationToken stop) =>
        IsMany && LowestOfNewest is not null ? await LowestOfNewest(count, stop) : null;

    /// <summary>The newest of them, for whoever wants a few: the index reads backwards from the last.</summary>
    internal IQueryable<int>? Newest { get; init; }

    /// <summary>Whether a row is among them or, where they are a great many, among the newest.</summary>
    public Expression<Func<T, bool>> AmongNewest<T>(Expression<Func<T, int>> id)
    {
        var ids = IsMany && Newest is not null ? Newest : Ids;
        return Build(id, i => ids.Contains(i));
    }

    /// <summary>Whether a row is among them.</summary>
    /// <param name="near">The only rows that are asked about; null for all.</param>
    public Expression<Func<T, bool>> Among<T>(Expression<Func<T, int>> id, IReadOnlyCollection<int>? near = null)
    {
        var ids = near?.Count > 0 && Between is not null ? Between(near.Min(), near.Max()) : Ids;
        return Build(id, i => ids.Contains(i));
    }

    private static Expression<Func<T, bool>> Build<T>(Expression<Func<T, int>> id, Expression<Func<int, bool>> among) =>
        Expression.Lambda<Func<T, bool>>(new Swap(among.Parameters[0], id.Body).Visit(among.Body), id.Parameters);

    /// <summary>One of several conditions.</summary>
    public static Expression<Func<T, bool>> Either<T>(params Expression<Func<T, bool>>[] conditions) =>
        conditions.Aggregate(
            (one, other) =>
                Expression.Lambda<Func<T, bool>>(
                    Expression.OrElse(one.Body, new Swap(other.Parameters[0], one.Parameters[0]).Visit(other.Body)),
                    one.Parameters
                )
        );
}

/// <summary>Puts something else in the place of a parameter.</summary>
internal sealed class Swap(ParameterExpression old, Expression now) : ExpressionVisitor
{
    protected override Expression VisitParameter(ParameterExpression node) => node == old ? now : node;
}

/// <summary>
/// Finds rows by what is typed of them: from three letters on anywhere in their words, whatever the capitals and
/// accents; by one or two letters only at the beginning of what tells them apart, such as the number or a word of the
/// name. Both are answered from an index.
/// </summary>
public static class WordSearch
{
    private const int FewestForWords = 3;

    // So many rows are likely to be among the next ones of a list, and take long to be gathered first.
    private const int Many = 2_000;

    // Enough for whoever is shown the first eight.
    private const int Few = 200;

    // A typed figure may be of a currency with no, two or three decimals.
    private static readonly decimal[] MinorFactors = [1, 100, 1_000];

    public static Task<Found> CustomersAsync(BooksContext db, string typed, CancellationToken stop) =>
        FoundAsync(
            db,
            WordTables.Customers,
            typed,
            db.Customers,
            begins =>
                c =>
                    EF.Functions.Like(c.Name, begins, "\\")
                    || EF.Functions.Like(c.Name, "% " + begins, "\\")
                    || EF.Functions.Like(c.Code, begins, "\\")
                    || EF.Functions.Like(c.Address.City, begins, "\\"),
            c => c.Id,
            stop
        );

    public static Task<Found> ItemsAsync(BooksContext db, string typed, CancellationToken stop) =>
        FoundAsync(
            db,
            WordTables.Items,
            typed,
            db.Items,
            begins =>
                i =>
                    EF.Functions.Like(i.Name, begins, "\\")
                    || EF.Functions.Like(i.Name, "% " + begins, "\\")
                    || EF.Functions.Like(i.Code, begins, "\\"),
            i => i.Id,
            stop
        );

    public static Task<Found> DocumentsAsync(BooksContext db, string typed, CancellationToken stop) =>
        FoundAsync(
            db,
            WordTables.Documents,
            typed,
            db.Documents,
            begins =>
                d => EF.Functions.Like(d.Number!, begins, "\\") || EF.Functions.Like(d.PurchaseOrder, begins, "\\"),
            d => d.Id,
            stop
        );

    public static Task<Found> ReceiptsAsync(BooksContext db, string typed, CancellationToken stop) =>
        FoundAsync(
            db,
            WordTables.Receipts,
            typed,
            db.Receipts,
            begins => r => EF.Functions.Like(r.Number, begins, "\\") || EF.Functions.Like(r.Reference, begins, "\\"),
            r => r.Id,
            stop
        );

    public static Task<Found> PostAsync(BooksContext db, string typed, CancellationToken stop) =>
        FoundAsync(
            db,
            WordTables.Post,
            typed,
            db.Post,
            begins => p => EF.Functions.Like(p.To, begins, "\\") || EF.Functions.Like(p.Subject, begins, "\\"),
            p => p.Id,
            stop
        );

    public static Task<Found> TrailAsync(BooksContext db, string typed, CancellationToken stop) =>
        FoundAsync(
            db,
            WordTables.Trail,
            typed,
            db.Trail,
            begins => t => EF.Functions.Like(t.Text, begins, "\\"),
            t => t.Id,
            stop
        );

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

    private static async Task<Found> FoundAsync<T>(
        BooksContext db,
        WordTables.WordTable table,
        string typed,
        IQueryable<T> rows,
        Func<string, Expression<Func<T, bool>>> beginning,
        Expression<Func<T, int>> id,
        CancellationToken stop
    )
    {
        var text = typed.Trim();
        if (text.EnumerateRunes().Count() < FewestForWords)
            return new Found(rows.Where(beginning(SearchText.Beginning(text))).Select(id), false);
        // As one phrase: a mark of quotation within it is written twice, and nothing else has a meaning of its own.
        var phrase = $"\"{text.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
#pragma warning disable EF1002 // The table's name is one of ours; what was typed is a parameter.
        var ids = db.Database.SqlQueryRaw<int>(
            $"SELECT rowid AS \"Value\" FROM \"{table.Name}\" WHERE Words MATCH {{0}}",
            phrase
        );
#pragma warning restore EF1002
        IQueryable<int> Between(int first, int last)
        {
#pragma warning disable EF1002
            return db.Database.SqlQueryRaw<int>(
                $"SELECT rowid AS \"Value\" FROM \"{table.Name}\" WHERE Words MATCH {{0}} AND rowid BETWEEN {{1}} AND {{2}}",
                phrase,
                first,
                last
            );
#pragma warning restore EF1002
        }

        IQueryable<int> Newest(int count)
        {
#pragma warning disable EF1002
            return db.Database.SqlQueryRaw<int>(
                $"SELECT rowid AS \"Value\" FROM \"{table.Name}\" WHERE Words MATCH {{0}} ORDER BY rowid DESC LIMIT {{1}}",
                phrase,
                count
            );
#pragma warning restore EF1002
        }

        return new Found(ids, await ids.Take(Many + 1).CountAsync(stop) > Many)
        {
            Between = Between,
            Newest = Newest(Few),
            LowestOfNewest = async (count, ended) => await Newest(count).MinAsync(i => (int?)i, ended),
        };
    }
}
