using Jugaad.Core;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>Finds the accounts that posting rules need, by their role.</summary>
public static class PostingAccountsLoader
{
    /// <exception cref="RefusalException">When the chart lacks one.</exception>
    public static async Task<PostingAccounts> PostingAccountsAsync(
        this BooksContext db,
        CancellationToken stop = default
    )
    {
        var byRole = await db
            .LedgerAccounts.Where(a => a.Role != AccountRole.Money && a.Role != AccountRole.Sales)
            .GroupBy(a => a.Role)
            .Select(g => new { g.Key, Id = g.Min(a => a.Id) })
            .ToDictionaryAsync(g => g.Key, g => g.Id, stop);
        int Of(AccountRole role) =>
            byRole.TryGetValue(role, out var id)
                ? id
                : throw new RefusalException(
                    "",
                    $"The chart of accounts lacks an account for {role}. Add one under Setup."
                );
        return new PostingAccounts(
            Of(AccountRole.Receivables),
            Of(AccountRole.TaxOwed),
            Of(AccountRole.ExchangeDifferences),
            Of(AccountRole.RoundingDifferences),
            Of(AccountRole.DiscountsGiven),
            Of(AccountRole.BadDebts)
        );
    }
}
