using System.Globalization;
using System.Linq.Expressions;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lists;

/// <summary>
/// Where in a list somebody is, as the address says it: by the row that came last, not by counting off.
/// </summary>
/// <param name="After">The mark of the row before the first that is wanted; empty for the beginning.</param>
/// <param name="Before">The mark of the row after the last that is wanted; empty where <paramref name="After"/>
/// counts.</param>
/// <param name="AtEnd">The last stretch of all.</param>
public sealed record ListPlace(string After = "", string Before = "", bool AtEnd = false)
{
    /// <summary>How many rows a stretch has.</summary>
    public const int Size = 40;

    public static ListPlace Start { get; } = new();
}

/// <summary>A stretch of a list, with the marks from which it goes on.</summary>
/// <param name="Back">What stands before it begins before this mark; empty where nothing does.</param>
/// <param name="Further">What follows comes after this mark; empty where nothing does.</param>
public sealed record Stretch<T>(IReadOnlyList<T> Rows, string Back, string Further);

/// <summary>A stretch of a list that is short enough to be had whole.</summary>
public static class Stretch
{
    /// <param name="all">All rows in their order.</param>
    /// <param name="id">What tells rows apart, and is their mark.</param>
    /// <param name="place">Where one is; a mark of a row that is not there is the beginning.</param>
    public static Stretch<T> Of<T>(IReadOnlyList<T> all, Func<T, int> id, ListPlace place)
    {
        int At(string mark)
        {
            var found = int.TryParse(mark, CultureInfo.InvariantCulture, out var wanted) ? wanted : 0;
            return all.TakeWhile(row => id(row) != found).Count() is var at && at < all.Count ? at : -1;
        }

        var until =
            place.AtEnd || place.Before.Length == 0 ? all.Count
            : At(place.Before) is >= 0 and var before ? before
            : ListPlace.Size;
        var from =
            place.AtEnd || place.Before.Length > 0 ? Math.Max(0, until - ListPlace.Size)
            : place.After.Length > 0 ? At(place.After) + 1
            : 0;
        var rows = all.Take(until).Skip(from).Take(ListPlace.Size).ToList();
        string MarkOf(T row) => id(row).ToString(CultureInfo.InvariantCulture);
        return new Stretch<T>(
            rows,
            from > 0 && rows.Count > 0 ? MarkOf(rows[0]) : "",
            from + rows.Count < all.Count ? MarkOf(rows[^1]) : ""
        );
    }
}

/// <summary>What all rows of a list come to that are shown by its filters, whatever stretch of it is seen.</summary>
/// <param name="Sums">One for each currency; empty for lists without amounts.</param>
public sealed record ListTotals(int Count, IReadOnlyList<ListSum> Sums)
{
    public static ListTotals Of(int count) => new(count, []);
}

/// <summary>Sums of one currency, by the key of their column; minor units.</summary>
public sealed record ListSum(Currency Currency, IReadOnlyDictionary<string, long> Amounts);

/// <summary>An order of a list: by a key of its rows, and by their number where keys are the same.</summary>
/// <typeparam name="TRow">A row as the database has it.</typeparam>
public abstract class ListOrder<TRow>
{
    /// <summary>The rows of a stretch, in the order of the list.</summary>
    /// <param name="rows">All rows that the filters let through.</param>
    /// <param name="id">What tells rows apart.</param>
    /// <param name="shown">What is shown of a row.</param>
    /// <param name="down">The largest first.</param>
    /// <param name="place">Where one is; a mark that is none is the beginning.</param>
    /// <param name="stop">Ends the reading.</param>
    public abstract Task<Stretch<TShown>> ReadAsync<TShown>(
        IQueryable<TRow> rows,
        Expression<Func<TRow, int>> id,
        Expression<Func<TRow, TShown>> shown,
        bool down,
        ListPlace place,
        CancellationToken stop
    );

    /// <summary>
    /// The numbers of so many rows as come next from where one is, or before it for whoever goes back.
    /// </summary>
    public abstract Task<List<int>> NextAsync(
        IQueryable<TRow> rows,
        Expression<Func<TRow, int>> id,
        bool down,
        ListPlace place,
        int count,
        CancellationToken stop
    );

    // Between the key and the number in a mark; the last one counts, so a text may have it too.
    protected const char Seam = '~';

    /// <summary>The number of the row whose mark it is.</summary>
    internal static int IdOf(string mark) =>
        int.Parse(mark.AsSpan(mark.LastIndexOf(Seam) + 1), CultureInfo.InvariantCulture);

    /// <summary>All rows in this order.</summary>
    public abstract IQueryable<TRow> Sorted(IQueryable<TRow> rows, Expression<Func<TRow, int>> id, bool down);
}

/// <inheritdoc/>
/// <typeparam name="TKey">A day, a text, a whole number or a decimal.</typeparam>
public sealed class ListOrder<TRow, TKey>(Expression<Func<TRow, TKey>> key) : ListOrder<TRow>
    where TKey : notnull
{
    public override IQueryable<TRow> Sorted(IQueryable<TRow> rows, Expression<Func<TRow, int>> id, bool down) =>
        down ? rows.OrderByDescending(key).ThenByDescending(id) : rows.OrderBy(key).ThenBy(id);

    public override async Task<Stretch<TShown>> ReadAsync<TShown>(
        IQueryable<TRow> rows,
        Expression<Func<TRow, int>> id,
        Expression<Func<TRow, TShown>> shown,
        bool down,
        ListPlace place,
        CancellationToken stop
    )
    {
        var (backwards, from, next) = Next(rows, id, down, place);
        var read = await next.Select(Marked(id, shown)).Take(ListPlace.Size + 1).ToListAsync(stop);
        if (read.Count == 0 && from is not null)
            return await ReadAsync(rows, id, shown, down, ListPlace.Start, stop);
        var more = read.Count > ListPlace.Size;
        var seen = read.Take(ListPlace.Size).ToList();
        if (backwards)
            seen.Reverse();
        var (hasBefore, hasAfter) = backwards ? (more, from is not null) : (from is not null, more);
        return new Stretch<TShown>(
            seen.ConvertAll(r => r.Shown),
            hasBefore && seen.Count > 0 ? MarkOf(seen[0]) : "",
            hasAfter && seen.Count > 0 ? MarkOf(seen[^1]) : ""
        );
    }

    public override Task<List<int>> NextAsync(
        IQueryable<TRow> rows,
        Expression<Func<TRow, int>> id,
        bool down,
        ListPlace place,
        int count,
        CancellationToken stop
    ) => Next(rows, id, down, place).Rows.Select(id).Take(count).ToListAsync(stop);

    /// <summary>Backwards, the list is read turned round.</summary>
    private (bool Backwards, (TKey Key, int Id)? From, IQueryable<TRow> Rows) Next(
        IQueryable<TRow> rows,
        Expression<Func<TRow, int>> id,
        bool down,
        ListPlace place
    )
    {
        var backwards = place.AtEnd || place.Before.Length > 0;
        var from = place.AtEnd ? null : ReadMark(place.Before.Length > 0 ? place.Before : place.After);
        var falling = down != backwards;
        var beyond = from is { } mark ? rows.Where(Beyond(id, mark.Key, mark.Id, falling)) : rows;
        return (backwards, from, Sorted(beyond, id, falling));
    }

    private static string MarkOf<TShown>(MarkedRow<TKey, TShown> row) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{(row.Key is DateOnly day ? day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : row.Key)}{Seam}{row.Id}"
        );

    private static (TKey Key, int Id)? ReadMark(string mark)
    {
        var seam = mark.LastIndexOf(Seam);
        if (seam < 0 || !int.TryParse(mark.AsSpan(seam + 1), CultureInfo.InvariantCulture, out var id))
            return null;
        var text = mark[..seam];
        object? key = null;
        if (typeof(TKey) == typeof(string))
            key = text;
        else if (typeof(TKey) == typeof(DateOnly))
            key = DateOnly.TryParseExact(text, "yyyy-MM-dd", out var day) ? day : null;
        else if (typeof(TKey) == typeof(long))
            key = long.TryParse(text, CultureInfo.InvariantCulture, out var whole) ? whole : null;
        else if (typeof(TKey) == typeof(int))
            key = int.TryParse(text, CultureInfo.InvariantCulture, out var small) ? small : null;
        else if (typeof(TKey) == typeof(decimal))
            key = decimal.TryParse(text, CultureInfo.InvariantCulture, out var figure) ? figure : null;
        return key is TKey read ? (read, id) : null;
    }

    // As key <= k AND (key < k OR id < i): the first part lets an index begin where the stretch does.
    private Expression<Func<TRow, bool>> Beyond(Expression<Func<TRow, int>> id, TKey from, int fromId, bool falling)
    {
        var row = key.Parameters[0];
        var number = new Swap(id.Parameters[0], row).Visit(id.Body);
        // A field of an object, so that it becomes a parameter of the question and not a part of its text.
        var mark = new Mark { Key = from, Id = fromId };
        var key0 = Expression.Field(Expression.Constant(mark), nameof(Mark.Key));
        var id0 = Expression.Field(Expression.Constant(mark), nameof(Mark.Id));
        var reached = Compare(key.Body, key0, falling, orSame: true);
        var past = Compare(key.Body, key0, falling, orSame: false);
        var pastId = falling ? Expression.LessThan(number, id0) : Expression.GreaterThan(number, id0);
        return Expression.Lambda<Func<TRow, bool>>(Expression.AndAlso(reached, Expression.OrElse(past, pastId)), row);
    }

    private static BinaryExpression Compare(Expression left, Expression right, bool falling, bool orSame)
    {
        if (typeof(TKey) == typeof(string))
        {
            left = Expression.Call(typeof(string), nameof(string.Compare), null, left, right);
            right = Expression.Constant(0);
        }

        return (falling, orSame) switch
        {
            (true, true) => Expression.LessThanOrEqual(left, right),
            (true, false) => Expression.LessThan(left, right),
            (false, true) => Expression.GreaterThanOrEqual(left, right),
            _ => Expression.GreaterThan(left, right),
        };
    }

    private Expression<Func<TRow, MarkedRow<TKey, TShown>>> Marked<TShown>(
        Expression<Func<TRow, int>> id,
        Expression<Func<TRow, TShown>> shown
    )
    {
        var row = shown.Parameters[0];
        return Expression.Lambda<Func<TRow, MarkedRow<TKey, TShown>>>(
            Expression.MemberInit(
                Expression.New(typeof(MarkedRow<TKey, TShown>)),
                Bind(nameof(MarkedRow<TKey, TShown>.Key), new Swap(key.Parameters[0], row).Visit(key.Body)),
                Bind(nameof(MarkedRow<TKey, TShown>.Id), new Swap(id.Parameters[0], row).Visit(id.Body)),
                Bind(nameof(MarkedRow<TKey, TShown>.Shown), shown.Body)
            ),
            row
        );

        static MemberAssignment Bind(string name, Expression value) =>
            Expression.Bind(typeof(MarkedRow<TKey, TShown>).GetProperty(name)!, value);
    }

    private sealed class Mark
    {
        public TKey Key = default!;
        public int Id;
    }
}

/// <summary>What is shown of a row, with what its mark is made of.</summary>
internal sealed class MarkedRow<TKey, TShown>
{
    public TKey Key { get; init; } = default!;

    public int Id { get; init; }

    public TShown Shown { get; init; } = default!;
}

/// <summary>
/// The orders in which a list can be had, by the names that stand in the address; a minus before one turns it round.
/// </summary>
public sealed class ListOrders<TRow>(Expression<Func<TRow, int>> id, string usual)
{
    private readonly Dictionary<string, ListOrder<TRow>> _orders = [];

    public ListOrders<TRow> By<TKey>(string name, Expression<Func<TRow, TKey>> key)
        where TKey : notnull
    {
        _orders.Add(name, new ListOrder<TRow, TKey>(key));
        return this;
    }

    public Task<Stretch<TShown>> ReadAsync<TShown>(
        IQueryable<TRow> rows,
        string sort,
        Expression<Func<TRow, TShown>> shown,
        ListPlace place,
        CancellationToken stop
    )
    {
        var (order, down) = Of(sort);
        return order.ReadAsync(rows, id, shown, down, place, stop);
    }

    /// <summary>
    /// A stretch of what a search finds. Where it finds a great many, the rows that come next in the list are looked at
    /// first, and then the newest that it finds: all that it finds is gathered only where neither has enough of them.
    /// </summary>
    /// <param name="rows">What the other filters let through.</param>
    /// <param name="found">What the search finds of it; of the rows between the lowest and the highest that it is
    /// given at least, where it is given any.</param>
    /// <param name="words">What it finds by words.</param>
    public async Task<Stretch<TShown>> ReadFoundAsync<TShown>(
        IQueryable<TRow> rows,
        Func<IReadOnlyCollection<int>?, IQueryable<TRow>> found,
        Found words,
        string sort,
        Expression<Func<TRow, TShown>> shown,
        ListPlace place,
        CancellationToken stop
    )
    {
        var (order, down) = Of(sort);
        var isBackwards = place.AtEnd || place.Before.Length > 0;
        if (words.IsMany)
        {
            var near = await order.NextAsync(rows, id, down, place, Near, stop);
            if (near.Count == Near)
            {
                var stretch = await order.ReadAsync(found(near).Where(Among(near)), id, shown, down, place, stop);
                if ((isBackwards ? stretch.Back : stretch.Further).Length > 0)
                    return stretch;
            }
        }

        if (!isBackwards && await words.NewestFromAsync(Near, stop) is { } from)
        {
            // What was written last mostly has the latest day too: of the older ones only those can come before the end
            // of this stretch that come next in the list of the older ones. Whether that is so is looked at.
            var older = await order.NextAsync(rows.Where(IsBelow(from)), id, down, place, Near, stop);
            var stretch = await order.ReadAsync(
                found([older.Append(from).Min(), int.MaxValue]).Where(Found.Either(IsFrom(from), Among(older))),
                id,
                shown,
                down,
                place,
                stop
            );
            // One that has nothing before it, though something was there, began anew: none of these come after the mark.
            var goesOn = place.After.Length == 0 || stretch.Back.Length > 0;
            if (
                goesOn
                && stretch.Further.Length > 0
                && await ComesFirstAsync(rows, order, down, stretch.Further, older, stop)
            )
                return stretch;
        }

        return await order.ReadAsync(found(null), id, shown, down, place, stop);
    }

    /// <summary>Whether a stretch ends before the last of the older rows, so that no other older one is within it.
    /// </summary>
    private async Task<bool> ComesFirstAsync(
        IQueryable<TRow> rows,
        ListOrder<TRow> order,
        bool down,
        string mark,
        List<int> older,
        CancellationToken stop
    )
    {
        if (older.Count < Near)
            return true;
        var last = ListOrder<TRow>.IdOf(mark);
        var both = await order.NextAsync(rows.Where(Among([last, older[^1]])), id, down, ListPlace.Start, 2, stop);
        return both[0] == last;
    }

    private Expression<Func<TRow, bool>> IsBelow(int number) => Compared(number, Expression.LessThan);

    private Expression<Func<TRow, bool>> IsFrom(int number) => Compared(number, Expression.GreaterThanOrEqual);

    private Expression<Func<TRow, bool>> Compared(int number, Func<Expression, Expression, Expression> how) =>
        Expression.Lambda<Func<TRow, bool>>(
            // A field of an object, so that it becomes a parameter of the question and not a part of its text.
            how(id.Body, Expression.Field(Expression.Constant(new Bound { Number = number }), nameof(Bound.Number))),
            id.Parameters
        );

    private sealed class Bound
    {
        public int Number;
    }

    // Looked at first: some twenty stretches.
    private const int Near = 800;

    /// <summary>All of it, for a file.</summary>
    /// <param name="only">The rows that were picked; null for all.</param>
    public IQueryable<TRow> Sorted(IQueryable<TRow> rows, string sort, IReadOnlyCollection<int>? only = null)
    {
        var (order, down) = Of(sort);
        return order.Sorted(only is null ? rows : rows.Where(Among(only)), id, down);
    }

    /// <summary>
    /// What tells the rows apart, in the order of the list; one more than <paramref name="most"/> says that there are
    /// more.
    /// </summary>
    public async Task<IReadOnlyList<int>> IdsAsync(
        IQueryable<TRow> rows,
        string sort,
        int most,
        CancellationToken stop
    ) => await Sorted(rows, sort).Select(id).Take(most + 1).ToListAsync(stop);

    private Expression<Func<TRow, bool>> Among(IReadOnlyCollection<int> only) =>
        Expression.Lambda<Func<TRow, bool>>(
            Expression.Call(
                typeof(Enumerable),
                nameof(Enumerable.Contains),
                [typeof(int)],
                // A field of an object, so that it becomes a parameter of the question and not a part of its text.
                Expression.Field(Expression.Constant(new Picked { Ids = only }), nameof(Picked.Ids)),
                id.Body
            ),
            id.Parameters
        );

    private sealed class Picked
    {
        public IEnumerable<int> Ids = [];
    }

    private (ListOrder<TRow> Order, bool Down) Of(string sort)
    {
        var name = sort.TrimStart('-');
        return _orders.TryGetValue(name, out var order)
            ? (order, sort.StartsWith('-'))
            : (_orders[usual.TrimStart('-')], usual.StartsWith('-'));
    }
}
