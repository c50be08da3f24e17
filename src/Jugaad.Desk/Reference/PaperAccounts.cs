using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>Which bank accounts a paper tells its reader to pay into.</summary>
public static class PaperAccounts
{
    /// <summary>
    /// Those that papers name and that are in the paper's currency; where none is, those in home currency.
    /// </summary>
    public static async Task<IReadOnlyList<LedgerAccount>> ToPayIntoAsync(
        this BooksContext db,
        Currency currency,
        CancellationToken stop = default
    )
    {
        var home = await db.Businesses.Select(b => b.HomeCurrency).FirstAsync(stop);
        var named = await db
            .LedgerAccounts.AsNoTracking()
            .Where(a => a.OnPapers && !a.Retired)
            .OrderBy(a => a.Code)
            .ToListAsync(stop);
        var own = named.Where(a => (a.Currency ?? home).Equals(currency)).ToList();
        return own.Count > 0 ? own : [.. named.Where(a => a.Currency is null)];
    }
}
