using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>Items that a customer means by a number of their own.</summary>
public sealed class TheirNumbers
{
    /// <summary>The first few; nobody looks through more.</summary>
    private const int Few = 20;

    private readonly IQueryable<CustomerItemNumber> _all;

    private TheirNumbers(IQueryable<CustomerItemNumber> all, IReadOnlyList<(int ItemId, bool IsWhole)> found)
    {
        _all = all;
        Found = [.. found.Select(f => f.ItemId)];
        Exactly = [.. found.Where(f => f.IsWhole).Select(f => f.ItemId)];
    }

    /// <summary>Items whose number begins with what was typed.</summary>
    public IReadOnlyList<int> Found { get; }

    /// <summary>Items whose number is what was typed.</summary>
    public IReadOnlyList<int> Exactly { get; }

    /// <param name="customerId">Nobody in particular has no numbers.</param>
    public static async Task<TheirNumbers> AmongAsync(
        BooksContext db,
        int? customerId,
        string typed,
        CancellationToken stop
    )
    {
        var all = db.ItemNumbers.AsNoTracking().Where(n => n.CustomerId == customerId);
        if (customerId is null || typed.Length == 0)
            return new(all, []);
        var (exact, begins) = (SearchText.Exactly(typed), SearchText.Exactly(typed) + "%");
        var found = await all.Where(n => EF.Functions.Like(n.Number, begins, "\\"))
            .OrderBy(n => n.Number)
            .Take(Few)
            .Select(n => new { n.ItemId, IsWhole = EF.Functions.Like(n.Number, exact, "\\") })
            .ToListAsync(stop);
        return new(all, found.ConvertAll(f => (f.ItemId, f.IsWhole)));
    }

    /// <inheritdoc cref="OfAsync(BooksContext, int, IReadOnlyList{int}, CancellationToken)"/>
    public Task<Dictionary<int, string>> OfAsync(IReadOnlyList<int> items, CancellationToken stop) =>
        OfAsync(_all, items, stop);

    /// <summary>The customer's numbers of items, by item; those without one are not there.</summary>
    public static Task<Dictionary<int, string>> OfAsync(
        BooksContext db,
        int customerId,
        IReadOnlyList<int> items,
        CancellationToken stop
    ) => OfAsync(db.ItemNumbers.AsNoTracking().Where(n => n.CustomerId == customerId), items, stop);

    private static Task<Dictionary<int, string>> OfAsync(
        IQueryable<CustomerItemNumber> all,
        IReadOnlyList<int> items,
        CancellationToken stop
    ) => all.Where(n => items.Contains(n.ItemId)).ToDictionaryAsync(n => n.ItemId, n => n.Number, stop);
}
