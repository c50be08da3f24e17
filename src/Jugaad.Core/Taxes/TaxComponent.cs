namespace Jugaad.Core.Taxes;

/// <summary>One tax: a name, the authority that it is owed to, and its rates by date.</summary>
public sealed class TaxComponent
{
    private readonly List<TaxRate> _rates = [];

    private TaxComponent() => (Name, Authority) = ("", "");

    public TaxComponent(string name, string authority, IEnumerable<TaxRate> rates)
    {
        (Name, Authority) = (name, authority);
        _rates.AddRange(rates.OrderBy(r => r.From));
    }

    public int Id { get; private set; }

    public string Name { get; private set; }

    public string Authority { get; private set; }

    public IReadOnlyList<TaxRate> Rates => _rates;

    /// <summary>The rate in force on a day; null before the first one.</summary>
    public TaxRate? RateOn(DateOnly day) => _rates.Where(r => r.From <= day).MaxBy(r => r.From);

    /// <summary>Adds a rate that begins on a day of its own.</summary>
    /// <exception cref="RefusalException">When a rate begins on that day already.</exception>
    public void AddRate(TaxRate rate)
    {
        if (_rates.Any(r => r.From == rate.From))
            throw new RefusalException("from", $"{Name} has a rate from {rate.From:yyyy-MM-dd} already. Choose another day.");
        _rates.Add(rate);
    }
}
