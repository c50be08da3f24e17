namespace Jugaad.Core.Collecting;

/// <summary>A part of what is owed, and when it should come.</summary>
/// <param name="Item">The id of what is owed.</param>
/// <param name="Home">Minor units of the home currency, at the rate of the day.</param>
/// <param name="Expected">Null where it is in dispute.</param>
public sealed record ExpectedPart(int Item, long Home, ExpectedDay? Expected)
{
    public bool IsPromised => Expected?.Because == ExpectedBecause.Promise;
}

/// <summary>What should come in within seven days. Amounts are minor units of the home currency.</summary>
/// <param name="From">The first day.</param>
/// <param name="To">The last day.</param>
/// <param name="Low">What should come then even if some are earlier or later: its likely days are all in the
/// week.</param>
/// <param name="High">What may come then: one of its likely days is in the week.</param>
/// <param name="Promised">What of the amount is promised.</param>
public sealed record ExpectedWeek(DateOnly From, DateOnly To, long Amount, long Low, long High, long Promised);

/// <summary>
/// What should come in, by weeks from a day on. The weeks, what comes after them and what is in dispute add up to all
/// that is owed.
/// </summary>
public sealed record ExpectedMoney(IReadOnlyList<ExpectedWeek> Weeks, long Later, long InDispute, long Total)
{
    public const int MostWeeks = 104;

    /// <summary>A quarter of a year.</summary>
    public const int UsualWeeks = 13;

    /// <param name="from">The first day of the first week: the day of which the parts are told.</param>
    /// <exception cref="RefusalException">When the weeks are none or too many.</exception>
    public static ExpectedMoney Of(DateOnly from, int weeks, IReadOnlyCollection<ExpectedPart> parts)
    {
        if (weeks is < 1 or > MostWeeks)
            throw new RefusalException("weeks", $"Give how many weeks, from 1 to {MostWeeks}.");
        var told = new List<ExpectedWeek>();
        for (var week = 0; week < weeks; week++)
        {
            var (first, last) = (from.AddDays(7 * week), from.AddDays((7 * week) + 6));
            bool Has(DateOnly day) => day >= first && day <= last;
            long Sum(Func<ExpectedPart, ExpectedDay, bool> which) =>
                parts.Where(p => p.Expected is { } e && which(p, e)).Sum(p => p.Home);
            told.Add(
                new ExpectedWeek(
                    first,
                    last,
                    Sum((_, e) => Has(e.Day)),
                    Sum((_, e) => Has(e.Early) && Has(e.Late)),
                    Sum((_, e) => e.Early <= last && e.Late >= first),
                    Sum((p, e) => p.IsPromised && Has(e.Day))
                )
            );
        }

        var end = told[^1].To;
        return new ExpectedMoney(
            told,
            parts.Where(p => p.Expected?.Day > end).Sum(p => p.Home),
            parts.Where(p => p.Expected is null).Sum(p => p.Home),
            parts.Sum(p => p.Home)
        );
    }
}
