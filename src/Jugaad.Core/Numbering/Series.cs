namespace Jugaad.Core.Numbering;

/// <summary>How far a series has counted in one year (year 0 where it never starts afresh).</summary>
public sealed class SeriesCounter
{
    private SeriesCounter() { }

    internal SeriesCounter(int year, int first = 1) => (Year, First, Next) = (year, first, first);

    public int Id { get; private set; }

    public int Year { get; private set; }

    /// <summary>The count that it began with: 1, or where another program left off.</summary>
    public int First { get; private set; } = 1;

    /// <summary>The count that the next number gets.</summary>
    public int Next { get; internal set; }
}

/// <summary>A run of numbers for one kind of paper. Numbers are taken one by one, inside the transaction that uses them.</summary>
public sealed class Series
{
    private readonly List<SeriesCounter> _counters = [];

    private Series() => (Name, Pattern) = ("", "");

    /// <param name="usedFor">The kind of paper, such as Invoice or Receipt.</param>
    /// <exception cref="RefusalException">When the pattern cannot be, or counts afresh each year without saying the year.</exception>
    public Series(string name, string usedFor, string pattern, bool restartsYearly)
    {
        var parsed = new NumberPattern(pattern);
        if (restartsYearly && !parsed.HasYear)
            throw new RefusalException("pattern", "A series that starts afresh each year needs {yyyy} or {yy}, or numbers would come twice.");
        if (string.IsNullOrWhiteSpace(name)) throw new RefusalException("name", "Give the series a name.");
        (Name, UsedFor, Pattern, RestartsYearly) = (name.Trim(), usedFor, pattern.Trim(), restartsYearly);
    }

    public int Id { get; private set; }

    public string Name { get; private set; }

    public string UsedFor { get; private set; } = "";

    public string Pattern { get; private set; }

    public bool RestartsYearly { get; private set; }

    /// <summary>The one that is taken where none is chosen.</summary>
    public bool IsUsual { get; private set; }

    /// <summary>No longer offered; its numbers stay.</summary>
    public bool Retired { get; private set; }

    public void MakeUsual(bool usual) => IsUsual = usual;

    /// <exception cref="RefusalException">When it is the usual one.</exception>
    public void Retire(bool retired)
    {
        if (retired && IsUsual) throw new RefusalException("", $"{Name} is the usual series of its kind. Make another the usual one first.");
        Retired = retired;
    }

    /// <summary>Goes on from a count, such as where another program left off; only before the first number is given, so that none is missing.</summary>
    /// <exception cref="RefusalException">When a number has been given already.</exception>
    public void GoOnFrom(DateOnly date, int next)
    {
        var year = YearOf(date);
        var counter = _counters.Find(c => c.Year == year);
        if (counter is not null && counter.Next > counter.First) throw new RefusalException("next", $"{Peek(date).Number} comes next, and numbers were given before it. A gap cannot be made now; add another series instead.");
        if (next is < 1 or > 999_999_999) throw new RefusalException("next", "A count is 1 to 999999999.");
        if (counter is not null) _counters.Remove(counter);
        _counters.Add(new SeriesCounter(year, next));
    }

    public IReadOnlyList<SeriesCounter> Counters => _counters;

    /// <summary>The number that would be taken for a date, and its count.</summary>
    public (string Number, int Count) Peek(DateOnly date)
    {
        var next = _counters.Find(c => c.Year == YearOf(date))?.Next ?? 1;
        return (new NumberPattern(Pattern).Write(date, next), next);
    }

    /// <summary>Takes the next number for a date. A count whose number was typed by hand already is passed over.</summary>
    /// <param name="used">Tells whether this series has the number already.</param>
    public string Take(DateOnly date, Func<string, bool> used)
    {
        var pattern = new NumberPattern(Pattern);
        var year = YearOf(date);
        var counter = _counters.Find(c => c.Year == year);
        if (counter is null) _counters.Add(counter = new SeriesCounter(year));
        string number;
        do
        {
            number = pattern.Write(date, counter.Next++);
        }
        while (used(number));
        return number;
    }

    private int YearOf(DateOnly date) => RestartsYearly ? date.Year : 0;
}
