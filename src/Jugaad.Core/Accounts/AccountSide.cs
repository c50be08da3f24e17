using Jugaad.Core.Amounts;

namespace Jugaad.Core.Accounts;

/// <summary>
/// A side of a customer's account: what is in one currency; or the whole account, at what it is kept at in the home
/// currency.
/// </summary>
/// <param name="Currency">That of the side's amounts.</param>
/// <param name="IsWhole">Whether it is the whole account at home.</param>
public sealed record AccountSide(Currency Currency, bool IsWhole = false)
{
    private const string WholeKey = "all";

    /// <summary>How an address names it: the currency's code, or <c>all</c>.</summary>
    public string Key => IsWhole ? WholeKey : Currency.Code;

    /// <summary>The side that an address names; that of the first currency where it names none.</summary>
    /// <param name="currencies">Those of the customer, the usual one first.</param>
    public static AccountSide Named(string? key, IReadOnlyList<Currency> currencies, Currency home) =>
        key == WholeKey
            ? new(home, true)
            : new(currencies.FirstOrDefault(c => c.Code.Equals(key, StringComparison.Ordinal)) ?? currencies[0]);

    public bool Has(Currency currency) => IsWhole || Currency.Equals(currency);

    /// <summary>What something counts for on this side, in minor units of <see cref="Currency"/>.</summary>
    /// <param name="amount">In its own currency.</param>
    /// <param name="home">What it is kept at.</param>
    public long Of(long amount, long home) => IsWhole ? home : amount;

    /// <summary>The parts of an open item by how they are aged, as they count on this side.</summary>
    /// <param name="parts">In its own currency; they add up to <paramref name="open"/>.</param>
    /// <remarks>At home each has its share, rounded, and the last what is left: they add up to what it is kept
    /// at.</remarks>
    public IReadOnlyList<AgedPart> Of(IReadOnlyList<AgedPart> parts, long open, long home)
    {
        if (!IsWhole || open == 0)
            return parts;
        var shared = new List<AgedPart>();
        var (restOpen, restHome) = (open, home);
        foreach (var part in parts)
        {
            var share = part.Open == restOpen ? restHome : Rounding.Share(restHome, part.Open, restOpen);
            shared.Add(part with { Open = share });
            (restOpen, restHome) = (restOpen - part.Open, restHome - share);
        }

        return shared;
    }
}
