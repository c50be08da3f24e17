using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>
/// Finds customers by what is typed of them. The exact code or name always comes first, whatever else fits.
/// </summary>
public sealed class CustomerFinder(BooksContext db)
{
    private const int MostNamed = 4;

    /// <summary>Whether a customer's code or whole name is just what was typed; capitals do not matter.</summary>
    public static bool IsExact(Customer customer, string typed)
    {
        var text = typed.Trim();
        return customer.Code.Equals(text, StringComparison.OrdinalIgnoreCase)
            || customer.Name.Equals(text, StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>Those that fit, the exact ones first, then by name; without those merged away.</summary>
    /// <param name="activeOnly">Leaves out those who are no longer sold to, as where something new begins.</param>
    public async Task<IReadOnlyList<Customer>> FindAsync(
        string typed,
        int most,
        bool activeOnly,
        CancellationToken stop = default
    )
    {
        var text = typed.Trim();
        var exact = SearchText.Exactly(text);
        var there = db
            .Customers.AsNoTracking()
            .Include(c => c.Places)
            .Where(c => c.MergedIntoId == null && (!activeOnly || !c.Inactive));
        var fitting = await FittingAsync(db, there, text, stop);
        return await fitting
            .OrderBy(c =>
                EF.Functions.Like(c.Code, exact, "\\") ? 0
                : EF.Functions.Like(c.Name, exact, "\\") ? 1
                : 2
            )
            .ThenBy(c => c.Name)
            .ThenBy(c => c.Id)
            .Take(most)
            .ToListAsync(stop);
    }

    /// <summary>
    /// The one customer that a typed text means: by code, by whole name, or as the only one that fits.
    /// </summary>
    /// <exception cref="RefusalException">When none fits, or several do; then it names them.</exception>
    public async Task<Customer> MeantAsync(string typed, string field, CancellationToken stop = default)
    {
        var text = typed.Trim();
        if (text.Length == 0)
            throw new RefusalException(field, "Type the customer's name or code.");
        var found = await FindAsync(text, MostNamed + 1, false, stop);
        var byCode = found.Where(c => c.Code.Equals(text, StringComparison.OrdinalIgnoreCase)).ToList();
        if (byCode.Count == 1)
            return byCode[0];
        var exact = found.Where(c => IsExact(c, text)).ToList();
        if (exact.Count == 1)
            return exact[0];
        var said = text.Length > 30 ? text[..30] : text;
        return found.Count switch
        {
            1 => found[0],
            0 => throw new RefusalException(field, $"No customer fits “{said}”. Type a part of the name, or the code."),
            _ => throw new RefusalException(
                field,
                $"{(found.Count > MostNamed ? "Several customers" : $"{found.Count} customers")} fit “{said}”: {string.Join(", ", found.Take(MostNamed).Select(c => $"{c.Name} ({c.Code})"))}. Type the code."
            ),
        };
    }

    /// <summary>Customers whose names, code, town or one of whose tags fits what was typed.</summary>
    public static async Task<IQueryable<Customer>> FittingAsync(
        BooksContext db,
        IQueryable<Customer> customers,
        string typed,
        CancellationToken stop
    ) => customers.Where((await WordSearch.CustomersAsync(db, typed, stop)).Among<Customer>(c => c.Id));
}
