using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Enters the rates that an authority sets for tax, changes them, and takes them in from files.</summary>
public sealed class AuthorityRatesDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    AuthorityRates rates,
    RateBook book,
    IRateFiles files
)
{
    /// <summary>All of an authority, newest first.</summary>
    public async Task<IReadOnlyList<AuthorityRate>> OfAsync(int authority, CancellationToken stop = default) =>
        await db
            .AuthorityRates.AsNoTracking()
            .Where(r => r.AuthorityId == authority)
            .OrderByDescending(r => r.From)
            .ThenBy(r => r.Currency)
            .ToListAsync(stop);

    /// <summary>Enters a rate from a day on, in place of the one of that day where there is one.</summary>
    /// <exception cref="RefusalException">With what is wrong; field <c>evenIfOff</c> where it is further off the last
    /// one than the business finds usual.</exception>
    public Task<int> EnterAsync(
        int authority,
        string currency,
        DateOnly from,
        QuotedRate rate,
        bool evenIfOff = false,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var name = await NameAsync(authority, stop);
                var unit = Currency.Of(currency);
                var home = (await head.BusinessAsync(stop)).HomeCurrency;
                if (unit.Equals(home))
                    throw new RefusalException("currency", "The home currency needs no rate.");
                var made = new AuthorityRate(authority, unit, from, rate);
                if (
                    !evenIfOff
                    && await rates.LastAsync(authority, unit, from.AddDays(-1), stop) is { } last
                    && ExchangeRate.Off(rate, last.Rate) > (await book.RulesAsync(stop)).WarnPercent / 100m
                )
                    throw new RefusalException(
                        "evenIfOff",
                        $"{rate.Said(unit, home)} is far off the last rate, {last.Rate.Said(unit, home)} of {last.From:yyyy-MM-dd}. Look at it, and say that it is meant so."
                    );
                var there = await db.AuthorityRates.SingleOrDefaultAsync(
                    r => r.AuthorityId == authority && r.Currency == unit && r.From == from,
                    stop
                );
                if (there is null)
                    db.AuthorityRates.Add(made);
                else
                    there.Quote(rate, "");
                await writer.TrailAsync(
                    $"Rate of {name} for tax from {from:yyyy-MM-dd}{(there is null ? "" : " changed")}: {rate.Said(unit, home)}"
                );
                await writer.SaveAsync(stop);
                return (there ?? made).Id;
            }
        );

    /// <summary>Takes a rate out; what was told at it stays.</summary>
    public Task<int> RemoveAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var rate =
                    await db.AuthorityRates.FindAsync([id], stop)
                    ?? throw new RefusalException("", "This rate is not there any more. Load the page again.");
                db.AuthorityRates.Remove(rate);
                await writer.TrailAsync(
                    $"Rate of {await NameAsync(rate.AuthorityId, stop)} for tax from {rate.From:yyyy-MM-dd} taken out: {rate.Rate.Said(rate.Currency, (await head.BusinessAsync(stop)).HomeCurrency)}"
                );
                return id;
            }
        );

    /// <summary>Takes in the rates of a file. One that was typed stays.</summary>
    /// <returns>How many are new or changed.</returns>
    /// <exception cref="RefusalException">When the file is none of rates; nothing is changed then.</exception>
    public Task<int> TakeAsync(int authority, byte[] file, string name, Once once = default)
    {
        var read = files.Read(file);
        return writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var home = (await head.BusinessAsync(stop)).HomeCurrency;
                var there = (
                    await db.AuthorityRates.Where(r => r.AuthorityId == authority).ToListAsync(stop)
                ).ToDictionary(r => (r.Currency.Code, r.From));
                var count = 0;
                foreach (var quoted in RatesDesk.InHome(read, home))
                {
                    var unit = Currency.Of(quoted.Currency, "file");
                    var rate = RatesDesk.Made(quoted, unit, home, name).Rate;
                    if (!there.TryGetValue((unit.Code, quoted.Day), out var known))
                        db.AuthorityRates.Add(
                            there[(unit.Code, quoted.Day)] = new AuthorityRate(authority, unit, quoted.Day, rate, name)
                        );
                    else if (known.Source.Length > 0 && known.Rate != rate)
                        known.Quote(rate, name);
                    else
                        continue;
                    count++;
                }

                if (count > 0)
                    await writer.TrailAsync(
                        $"{count} rates of {await NameAsync(authority, stop)} for tax taken in from {name}"
                    );
                return count;
            }
        );
    }

    private async Task<string> NameAsync(int authority, CancellationToken stop) =>
        await db.TaxAuthorities.Where(a => a.Id == authority).Select(a => a.Name).SingleOrDefaultAsync(stop)
        ?? throw new RefusalException("", "This authority is not there any more.");
}
