using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>Something that new books still lack, and where it is mended.</summary>
public sealed record SetUpStep(string Words, string Address, string Mend);

/// <summary>
/// Tells what is still to be set up before everything works as one expects; nothing of it stops anybody.
/// </summary>
public sealed class StillToSetUp(BooksContext db, BooksHead head, Connections connections)
{
    public async Task<IReadOnlyList<SetUpStep>> ListAsync(CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var today = await head.TodayAsync(stop);
        var steps = new List<SetUpStep>();
        if (
            !await db.LedgerAccounts.AnyAsync(
                a => a.Role == AccountRole.Money && !a.Retired && a.OnPapers && a.Iban != "",
                stop
            )
        )
            steps.Add(new("Papers ask to be paid and name no bank account.", "/setup/accounts", "give its number"));
        if (await connections.HeldAsync(PostWay.Mail, stop) is not null)
            steps.Add(
                new("No mail server is connected: what you send waits in the post tray.", "/setup/mail", "connect one")
            );
        var home = business.HomeCurrency;
        var billed = await db
            .Customers.Where(c => !c.Inactive && (c.Currency != home || c.AlsoIn != ""))
            .AsNoTracking()
            .ToListAsync(stop);
        var rated = await db
            .ExchangeRates.Where(r => r.From <= today)
            .Select(r => r.Currency)
            .Distinct()
            .ToListAsync(stop);
        var foreign = billed
            .SelectMany(c => c.Currencies)
            .Distinct()
            .Except(rated)
            .Where(c => !c.Equals(home))
            .ToList();
        if (foreign.Count > 0)
            steps.Add(
                new(
                    $"There is no exchange rate for {string.Join(", ", foreign.Select(c => c.Code).Order())}, in which customers are billed.",
                    "/setup/rates",
                    "enter one"
                )
            );
        if (
            business.Address.Region.Length == 0
            && await db.TaxRules.AnyAsync(r => r.Place == Place.HomeRegion || r.Place == Place.OtherRegion, stop)
        )
            steps.Add(new("Taxes go by region, and the address of the business names none.", "/setup", "choose it"));
        if (business.Logo is null)
            steps.Add(new("Papers have no logo.", "/setup", "add one"));
        return steps;
    }
}
