using System.Collections;

namespace Jugaad.Core.Amounts;

/// <summary>
/// Amounts of one or several currencies: a sum of each, in the order of their codes. What comes to nothing is left
/// out. Amounts of different currencies are never added up.
/// </summary>
public sealed class Sums : IReadOnlyList<Money>
{
    private readonly List<Money> _sums;

    private Sums(IEnumerable<Money> amounts) =>
        _sums = [
            .. amounts
                .GroupBy(a => a.Currency)
                .Select(g => g.Aggregate(Money.Add))
                .Where(s => !s.IsZero)
                .OrderBy(s => s.Currency.Code, StringComparer.Ordinal),
        ];

    public static Sums Of(IEnumerable<Money> amounts) => new(amounts);

    public static Sums None { get; } = new([]);

    public int Count => _sums.Count;

    public Money this[int index] => _sums[index];

    /// <summary>Minor units of one currency; 0 where there is nothing in it.</summary>
    public long In(Currency currency) => _sums.Find(s => s.Currency.Equals(currency)).Minor;

    /// <summary>Only what is above zero.</summary>
    public Sums Above => new(_sums.Where(s => s.Minor > 0));

    /// <summary>Such as <c>1,200.00 EUR and 3,400.00 SEK</c>; empty where there is nothing.</summary>
    public string Words(DisplayFormat format) => Words(format, "and");

    /// <param name="and">The word between the last two, in the language that it is said in.</param>
    public string Words(DisplayFormat format, string and)
    {
        var said = _sums.ConvertAll(s => format.WithCode(s.Minor, s.Currency));
        return said.Count < 2 ? string.Concat(said) : $"{string.Join(", ", said[..^1])} {and} {said[^1]}";
    }

    public IEnumerator<Money> GetEnumerator() => _sums.GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
