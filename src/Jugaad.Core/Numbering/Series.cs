namespace Jugaad.Core.Numbering;

/// <summary>How far a series has counted in one year (year 0 where it never starts afresh).</summary>
public sealed class SeriesCounter
{
    private SeriesCounter() { }

    internal SeriesCounter(int year) => (Year, Next) = (year, 1);

    public int Id { get; private set; }

    public int Year { get; private set; }

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
        (Name, UsedFor, Pattern, RestartsYearly) = (name, usedFor, pattern, restartsYearly);
    }

    public int Id { get; private set; }

    public string Name { get; private set; }

    public string UsedFor { get; private set; } = "";

    public string Pattern { get; private set; }

    public bool RestartsYearly { get; private set; }

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
