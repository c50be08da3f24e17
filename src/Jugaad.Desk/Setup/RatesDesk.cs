using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Exchange rates as they were typed for a day.</summary>
/// <param name="Buying">Quoted as the middle rate is; null where the bank has none.</param>
/// <param name="EvenIfOff">Whether a rate that is far off the last one is meant so.</param>
public sealed record RatesTyped(
    string Currency,
    DateOnly From,
    QuotedRate Rate,
    decimal? Buying = null,
    decimal? Selling = null,
    bool EvenIfOff = false
);

/// <summary>What became of the rates of a file.</summary>
/// <param name="Stayed">Of days that have a typed rate, which is another.</param>
/// <param name="FarOff">Left out as they are far off the last rate, in words.</param>
/// <param name="Others">Currencies of the file that are not used here.</param>
public sealed record RatesTaken(
    int Added,
    int Changed,
    int Same,
    int Stayed,
    IReadOnlyList<Phrase> FarOff,
    IReadOnlyList<string> Others
);

/// <summary>A draft that another rate would change.</summary>
public sealed record DraftAtAnotherRate(int Id, string Title, DateOnly Date, QuotedRate Has);

/// <summary>Enters exchange rates by day, changes them, and takes them in from files and from a source.</summary>
public sealed class RatesDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    RateBook book,
    IRateFiles files,
    IEnumerable<IRateSource> sources
)
{
    /// <summary>How many days back the first fetch reaches.</summary>
    private const int FirstDays = 14;

    /// <summary>Enters the rates of a day, or puts others in their place.</summary>
    /// <exception cref="RefusalException">With what is wrong; field <c>evenIfOff</c> where the rate is further off the
    /// last one than the business finds usual.</exception>
    public Task<int> EnterAsync(RatesTyped typed, bool change = false, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var unit = Currency.Of(typed.Currency);
                var home = (await head.BusinessAsync(stop)).HomeCurrency;
                if (unit.Equals(home))
                    throw new RefusalException("currency", "The home currency needs no rate.");
                var there = await db.ExchangeRates.SingleOrDefaultAsync(
                    r => r.Currency == unit && r.From == typed.From,
                    stop
                );
                if (there is not null && !change)
                    throw new RefusalException(
                        "from",
                        $"There is a rate for {unit} from {typed.From:yyyy-MM-dd} already. Change that one instead."
                    );
                if (there is null && change)
                    throw new RefusalException("from", "This rate is not there any more. Load the page again.");
                var made = new ExchangeRate(unit, typed.From, typed.Rate, typed.Buying, typed.Selling);
                if (!typed.EvenIfOff && await OffWordsAsync(unit, typed.From, typed.Rate, home, stop) is { } off)
                    throw new RefusalException("evenIfOff", $"{off} Look at it, and say that it is meant so.");
                if (there is null)
                    db.ExchangeRates.Add(made);
                else
                    there.Quote(typed.Rate, typed.Buying, typed.Selling, "");
                await writer.TrailAsync(
                    $"Exchange rate from {typed.From:yyyy-MM-dd}{(there is null ? "" : " changed")}: {Told(made, home)}"
                );
                await writer.SaveAsync(stop);
                return (there ?? made).Id;
            }
        );

    /// <summary>Takes the rates of a day out; what was posted at them stays.</summary>
    public Task<int> RemoveAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var rate =
                    await db.ExchangeRates.FindAsync([id], stop)
                    ?? throw new RefusalException("", "This rate is not there any more. Load the page again.");
                db.ExchangeRates.Remove(rate);
                await writer.TrailAsync(
                    $"Exchange rate of {rate.Currency} from {rate.From:yyyy-MM-dd} taken out: {rate.Rate.Said(rate.Currency, (await head.BusinessAsync(stop)).HomeCurrency)}"
                );
                await writer.SaveAsync(stop);
                return id;
            }
        );

    public Task<int> SetRulesAsync(Action<RateRules> set, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var rules = await db.RateRules.FirstOrDefaultAsync(stop);
                if (rules is null)
                    db.RateRules.Add(rules = new RateRules());
                set(rules);
                await writer.TrailAsync("How exchange rates are used was changed");
                await writer.SaveAsync(stop);
                return rules.Id;
            }
        );

    /// <summary>
    /// Takes in the rates of a file, of the currencies that the books use. A rate that was typed stays, and one that is
    /// far off the last is left out.
    /// </summary>
    /// <param name="all">Whether currencies that the books do not use yet are taken in too.</param>
    /// <exception cref="RefusalException">When the file is none of rates; nothing is changed then.</exception>
    public async Task<RatesTaken> TakeAsync(byte[] file, string name, bool all = false, Once once = default)
    {
        var read = files.Read(file);
        RatesTaken? taken = null;
        await writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                taken = await TakeAsync(read, name, all, stop);
                if (taken.Added + taken.Changed > 0)
                    await writer.TrailAsync($"{taken.Added + taken.Changed} exchange rates taken in from {name}");
                await writer.SaveAsync(stop);
                return taken.Added;
            }
        );
        return taken ?? throw new RefusalException("", "This file was taken in a moment ago. Load the page again.");
    }

    /// <summary>Fetches what the source published since the last rates that came from it, where that is wished.</summary>
    /// <returns>How many rates came.</returns>
    public async Task<int> FetchDailyAsync(CancellationToken stop = default)
    {
        if (!(await book.RulesAsync(stop)).Fetches)
            return 0;
        try
        {
            return await FetchAsync(stop);
        }
        catch (Exception cannot) when (cannot is CarrierException or RefusalException)
        {
            // The day goes on with the rates that there are; how old they may be is looked at where one is used.
            return 0;
        }
    }

    /// <inheritdoc cref="FetchDailyAsync"/>
    /// <exception cref="CarrierException">When the source cannot be reached.</exception>
    public async Task<int> FetchAsync(CancellationToken stop = default)
    {
        var (count, today) = (0, await head.TodayAsync(stop));
        foreach (var source in sources)
        {
            var last = await db
                .ExchangeRates.Where(r => r.Source == source.Name)
                .MaxAsync(r => (DateOnly?)r.From, stop);
            var from = last?.AddDays(1) ?? today.AddDays(-FirstDays);
            if (from > today || await source.FetchAsync(from, today, stop) is not { } file)
                continue;
            var read = files.Read(file);
            count += await writer.WriteAsync(
                Right.Setup,
                new Once(null, stop),
                async () =>
                {
                    var taken = await TakeAsync(read, source.Name, false, stop);
                    await writer.SaveAsync(stop);
                    return taken.Added;
                }
            );
        }

        return count;
    }

    /// <summary>Drafts of a currency whose rate another one from that day on would change.</summary>
    public async Task<IReadOnlyList<DraftAtAnotherRate>> TouchedAsync(
        Currency currency,
        DateOnly from,
        CancellationToken stop = default
    )
    {
        var next = await db
            .ExchangeRates.Where(r => r.Currency == currency && r.From > from)
            .MinAsync(r => (DateOnly?)r.From, stop);
        var drafts = await db
            .Documents.AsNoTracking()
            .Where(d =>
                d.State == DocumentState.Draft
                && d.Currency == currency
                && d.Date >= from
                && (next == null || d.Date < next)
                && d.Kind != DocumentKind.CreditNote
                && d.Kind != DocumentKind.DebitNote
            )
            .OrderBy(d => d.Id)
            .ToListAsync(stop);
        var touched = new List<DraftAtAnotherRate>();
        foreach (var draft in drafts)
        {
            var rate = await book.LastAsync(currency, draft.Date, stop);
            var now = rate?.Of((await book.RulesAsync(stop)).For(RateUse.Documents));
            if (now != draft.ExchangeRate)
                touched.Add(new(draft.Id, draft.Policy.Title, draft.Date, draft.ExchangeRate));
        }

        return touched;
    }

    private async Task<RatesTaken> TakeAsync(
        IReadOnlyList<FileRate> read,
        string name,
        bool all,
        CancellationToken stop
    )
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var rules = await book.RulesAsync(stop);
        var used = await UsedAsync(stop);
        var there = (await db.ExchangeRates.ToListAsync(stop)).ToDictionary(r => (r.Currency.Code, r.From));
        var lastOf = there
            .Values.GroupBy(r => r.Currency.Code)
            .ToDictionary(g => g.Key, g => g.OrderBy(r => r.From).ToList());
        var (added, changed, same, stayed) = (0, 0, 0, 0);
        var (farOff, others) = (new List<Phrase>(), new SortedSet<string>(StringComparer.Ordinal));
        foreach (var quoted in InHome(read, home).OrderBy(r => r.Day))
        {
            var currency = Currency.Of(quoted.Currency, "file");
            if (!all && !used.Contains(currency.Code))
            {
                others.Add(currency.Code);
                continue;
            }

            var made = Made(quoted, currency, home, name);
            var known = there.GetValueOrDefault((currency.Code, quoted.Day));
            if (
                known is not null
                && (known.Rate, known.Buying, known.Selling) == (made.Rate, made.Buying, made.Selling)
            )
            {
                same++;
                continue;
            }

            if (known is { Source: "" })
            {
                stayed++;
                continue;
            }

            var before = lastOf.GetValueOrDefault(currency.Code)?.LastOrDefault(r => r.From < quoted.Day);
            if (before is not null && IsFarOff(made.Rate, before.Rate, rules))
            {
                farOff.Add(
                    $"{quoted.Day:yyyy-MM-dd}: {made.Rate.Said(currency, home)}, after {before.Rate.Said(currency, home)}"
                );
                continue;
            }

            if (known is not null)
            {
                known.Quote(made.Rate, quoted.Buying, quoted.Selling, name);
                changed++;
                continue;
            }

            db.ExchangeRates.Add(made);
            there[(currency.Code, quoted.Day)] = made;
            var list = lastOf.TryGetValue(currency.Code, out var had) ? had : lastOf[currency.Code] = [];
            list.Add(made);
            list.Sort((a, b) => a.From.CompareTo(b.From));
            added++;
        }

        return new RatesTaken(added, changed, same, stayed, farOff, [.. others]);
    }

    /// <summary>Rates of the home currency; those of another base by way of what that base is worth at home.</summary>
    internal static IEnumerable<FileRate> InHome(IReadOnlyList<FileRate> read, Currency home)
    {
        var ofBase = read.Where(r => r.Base.Length > 0 && r.Currency == home.Code)
            .GroupBy(r => (r.Day, r.Base))
            .ToDictionary(g => g.Key, g => g.First());
        foreach (var rate in read.Where(r => r.Currency != home.Code))
        {
            if (rate.Base.Length == 0 || rate.Base == home.Code || rate.Base == rate.Currency)
                yield return rate;
            else if (ofBase.TryGetValue((rate.Day, rate.Base), out var bridge))
                yield return rate with
                {
                    Base = "",
                    Figure = QuotedRate.Shortened(bridge.Figure / rate.Figure),
                    Buying = null,
                    Selling = null,
                };
        }

        // What the base itself is worth is told by the home currency's own row.
        foreach (var bridge in ofBase.Values.Where(b => b.Base != home.Code))
            yield return new FileRate(bridge.Day, bridge.Base, bridge.Figure, Where: bridge.Where);
    }

    internal static ExchangeRate Made(FileRate rate, Currency currency, Currency home, string name)
    {
        try
        {
            return new ExchangeRate(
                currency,
                rate.Day,
                new QuotedRate(rate.Figure, rate.Base == home.Code),
                rate.Buying,
                rate.Selling,
                name.Length > 100 ? name[..100] : name
            );
        }
        catch (RefusalException refused)
        {
            throw new RefusalException("file", $"In {rate.Where}, {currency}: {refused.Refusals[0].Message}");
        }
    }

    private async Task<HashSet<string>> UsedAsync(CancellationToken stop)
    {
        var used = await db
            .Customers.Select(c => c.Currency)
            .Union(db.PriceLists.Select(l => l.Currency))
            .Union(db.ExchangeRates.Select(r => r.Currency))
            .ToListAsync(stop);
        var besides = await db.Customers.Where(c => c.AlsoIn != "").Select(c => c.AlsoIn).Distinct().ToListAsync(stop);
        return [.. used.Select(c => c.Code), .. besides.SelectMany(b => b.Split(' '))];
    }

    private async Task<Phrase?> OffWordsAsync(
        Currency currency,
        DateOnly day,
        QuotedRate rate,
        Currency home,
        CancellationToken stop
    )
    {
        if (rate.Figure <= 0 || await book.LastAsync(currency, day.AddDays(-1), stop) is not { } last)
            return null;
        var rules = await book.RulesAsync(stop);
        if (!IsFarOff(rate, last.Rate, rules))
            return null;
        Phrase words =
            $"{rate.Said(currency, home)} is more than {rules.WarnPercent} % off the last rate, {last.Rate.Said(currency, home)} of {last.From:yyyy-MM-dd}.";
        return words;
    }

    private static bool IsFarOff(QuotedRate rate, QuotedRate last, RateRules rules) =>
        ExchangeRate.Off(rate, last) > rules.WarnPercent / 100m;

    private static Phrase Told(ExchangeRate rate, Currency home) =>
        $"{rate.Rate.Said(rate.Currency, home)}{(rate.Buying is { } buying ? (Phrase)$", bought at {buying.Figure}" : "")}{(rate.Selling is { } selling ? (Phrase)$", sold at {selling.Figure}" : "")}";
}
