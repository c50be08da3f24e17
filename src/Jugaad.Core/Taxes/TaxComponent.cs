namespace Jugaad.Core.Taxes;

/// <summary>One tax: a name, the authority that it is owed to, and its rates by date.</summary>
public sealed class TaxComponent
{
    private readonly List<TaxRate> _rates = [];

    private TaxComponent() => Name = "";

    public TaxComponent(string name, TaxAuthority? authority, IEnumerable<TaxRate> rates)
    {
        (Name, Authority) = (name, authority);
        _rates.AddRange(rates.OrderBy(r => r.From));
    }

    public int Id { get; private set; }

    /// <summary>Unique, as it stands on papers.</summary>
    public string Name { get; private set; }

    /// <summary>Null where none is named; the tax is charged on every day then.</summary>
    public TaxAuthority? Authority { get; private set; }

    public IReadOnlyList<TaxRate> Rates => _rates;

    public void OweTo(TaxAuthority? authority) => Authority = authority;

    /// <summary>The rate in force on a day; null before the first one.</summary>
    public TaxRate? RateOn(DateOnly day) => _rates.Where(r => r.From <= day).MaxBy(r => r.From);

    /// <summary>Adds a rate that begins on a day of its own.</summary>
    /// <exception cref="RefusalException">When a rate begins on that day already.</exception>
    public void AddRate(TaxRate rate)
    {
        if (_rates.Any(r => r.From == rate.From))
            throw new RefusalException(
                "from",
                $"{Name} has a rate from {rate.From:yyyy-MM-dd} already. Take it away first, or choose another day."
            );
        _rates.Add(rate);
    }

    /// <summary>Takes away a rate with which nothing was taxed, such as one that was mistyped.</summary>
    /// <param name="isUsed">Whether something that cannot be changed any more was taxed with it.</param>
    /// <exception cref="RefusalException">When there is none from that day, or it was used.</exception>
    public void RemoveRate(DateOnly from, bool isUsed)
    {
        var rate =
            _rates.Find(r => r.From == from)
            ?? throw new RefusalException("", $"{Name} has no rate from {from:yyyy-MM-dd}.");
        if (isUsed)
            throw new RefusalException(
                "",
                $"The rate of {rate.Percent} % from {from:yyyy-MM-dd} stands on issued papers and stays. Enter another one from a later day; if it was wrong, credit what was issued with it."
            );
        _rates.Remove(rate);
    }
}
