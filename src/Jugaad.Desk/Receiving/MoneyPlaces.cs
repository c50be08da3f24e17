using Jugaad.Core;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>Checks where and when money is said to have come or gone.</summary>
public static class MoneyPlaces
{
    /// <summary>Adds a refusal where the account is none that money comes into, or is offered no more.</summary>
    public static async Task CheckAsync(
        this BooksContext db,
        Refusals refusals,
        int accountId,
        string field,
        CancellationToken stop
    )
    {
        var account = await db.LedgerAccounts.SingleOrDefaultAsync(a => a.Id == accountId, stop);
        if (account?.Role != AccountRole.Money)
            refusals.Add(field, "Choose where the money came in.");
        else if (account.Retired)
            refusals.Add(field, "This account is retired. Choose another, or offer it again under Setup.");
    }

    /// <summary>Adds a refusal where the day is yet to come, or no day that anybody means.</summary>
    public static void CheckDay(Refusals refusals, DateOnly day, DateOnly today)
    {
        if (day > today)
            refusals.Add("date", $"{day:yyyy-MM-dd} is yet to come. Choose today or a day before.");
        if (day.Year < 1990)
            refusals.Add("date", "Give the day on which the money came in.");
    }
}
