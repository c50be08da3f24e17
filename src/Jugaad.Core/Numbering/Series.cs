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

    /// <summary>The count that is tried for the next number.</summary>
    public int Next { get; internal set; }

    /// <summary>Whether it has given no number yet.</summary>
    public bool IsFresh => Next == First;
}

/// <summary>A number that a series would give, and its count.</summary>
public readonly record struct NextNumber(string Number, int Count);

/// <summary>
/// A run of numbers for one kind of paper. Numbers are taken one by one, inside the transaction that uses them.
/// </summary>
public sealed class Series : IRetirable
{
    private const int MostSteppedOver = 100_000;
    private readonly List<SeriesCounter> _counters = [];

    private Series() => (Name, Pattern) = ("", "");

    /// <param name="usedFor">The kind of paper, such as Invoice or Receipt.</param>
    /// <exception cref="RefusalException">When the pattern cannot be, or counts afresh each year without saying the
    /// year.</exception>
    public Series(string name, string usedFor, string pattern, SeriesRestart restarts)
    {
        var parsed = new NumberPattern(pattern);
        if (restarts != SeriesRestart.Never && !parsed.HasYear)
            throw new RefusalException(
                "pattern",
                "A series that starts afresh each year needs {yyyy} or {yy}, or numbers would come twice."
            );
        if (string.IsNullOrWhiteSpace(name))
            throw new RefusalException("name", "Give the series a name.");
        (Name, UsedFor, Pattern, Restarts) = (name.Trim(), usedFor, pattern.Trim(), restarts);
    }

    public int Id { get; private set; }

    public string Name { get; private set; }

    public string UsedFor { get; private set; } = "";

    public string Pattern { get; private set; }

    public SeriesRestart Restarts { get; private set; }

    /// <summary>The one that is taken where none is chosen.</summary>
    public bool IsUsual { get; private set; }

    /// <summary>No longer offered; its numbers stay.</summary>
    public bool Retired { get; private set; }

    public IReadOnlyList<SeriesCounter> Counters => _counters;

    public void MakeUsual(bool usual) => IsUsual = usual;

    /// <exception cref="RefusalException">When it is the usual one.</exception>
    public void Retire(bool retired)
    {
        if (retired && IsUsual)
            throw new RefusalException(
                "",
                $"{Name} is the usual series of its kind. Make another the usual one first."
            );
        Retired = retired;
    }

    /// <summary>
    /// Goes on from a count, such as where another program left off; only before the first number is given, so that
    /// none is missing.
    /// </summary>
    /// <param name="yearBegins">The month with which the business's financial year begins, 1 to 12.</param>
    /// <exception cref="RefusalException">When a number has been given already.</exception>
    public void GoOnFrom(DateOnly date, int next, int yearBegins = 1)
    {
        var counter = CounterOf(date, yearBegins);
        if (counter is { IsFresh: false })
            throw new RefusalException(
                "next",
                $"{Write(date, counter.Next, yearBegins)} comes next, and numbers were given before it. A gap cannot be made now; add another series instead."
            );
        if (next is < 1 or > 999_999_999)
            throw new RefusalException("next", "A count is 1 to 999999999.");
        if (counter is not null)
            _counters.Remove(counter);
        _counters.Add(new SeriesCounter(YearOf(date, yearBegins), next));
    }

    /// <summary>
    /// The number that would be taken for a date. A count whose number is taken already, from wherever, is stepped
    /// over.
    /// </summary>
    /// <param name="used">Tells whether the books have the number already.</param>
    /// <param name="yearBegins">The month with which the business's financial year begins, 1 to 12.</param>
    public NextNumber Next(DateOnly date, Func<string, bool> used, int yearBegins = 1)
    {
        var count = CounterOf(date, yearBegins)?.Next ?? 1;
        while (true)
        {
            var number = Write(date, count, yearBegins);
            if (!used(number))
                return new NextNumber(number, count);
            count++;
        }
    }

    /// <summary>Takes the number that <see cref="Next"/> tells.</summary>
    /// <inheritdoc cref="Next"/>
    public string Take(DateOnly date, Func<string, bool> used, int yearBegins = 1)
    {
        var next = Next(date, used, yearBegins);
        var counter = CounterOf(date, yearBegins);
        if (counter is null)
            _counters.Add(counter = new SeriesCounter(YearOf(date, yearBegins)));
        counter.Next = next.Count + 1;
        return next.Number;
    }

    /// <summary>
    /// Goes on after a number that was given elsewhere, such as in books that were lost after their last backup. The
    /// counts up to it are stepped over, and are not missed later.
    /// </summary>
    /// <param name="number">As it stands on the paper.</param>
    /// <param name="from">The paper bears a day from here.</param>
    /// <param name="to">To here.</param>
    /// <param name="yearBegins">The month with which the business's financial year begins, 1 to 12.</param>
    /// <returns>What is stepped over; null where the books have got as far themselves.</returns>
    /// <exception cref="RefusalException">When it is no number of this series, or one before the last that it
    /// gave.</exception>
    public NumberGap? GoOnAfter(string number, DateOnly from, DateOnly to, string because, int yearBegins = 1)
    {
        for (
            var day = to;
            day >= new DateOnly(from.Year, from.Month, 1);
            day = new DateOnly(day.Year, day.Month, 1).AddDays(-1)
        )
        {
            if (new NumberPattern(Pattern).CountIn(number.Trim(), day, WrittenYear(day, yearBegins)) is not { } count)
                continue;
            var counter = CounterOf(day, yearBegins);
            var next = counter?.Next ?? 1;
            if (count == next - 1)
                return null;
            if (count < next - 1)
                throw new RefusalException(
                    "",
                    $"{Name}: these books have {Write(day, next - 1, yearBegins)} already, which comes after {number.Trim()}. Give the last number that was sent."
                );
            if (count > next + MostSteppedOver)
                throw new RefusalException(
                    "",
                    $"{Name}: {number.Trim()} is more than {MostSteppedOver} numbers after {Write(day, Math.Max(1, next - 1), yearBegins)}. Look at it once more."
                );
            if (counter is null)
                _counters.Add(counter = new SeriesCounter(YearOf(day, yearBegins)));
            counter.Next = count + 1;
            return new NumberGap(Id, counter.Year, next, count, because);
        }

        throw new RefusalException(
            "",
            $"{Name}: {number.Trim()} is not a number of this series; its next would be {Write(to, CounterOf(to, yearBegins)?.Next ?? 1, yearBegins)}."
        );
    }

    /// <summary>How a count is written on a date.</summary>
    public string Write(DateOnly date, int count, int yearBegins = 1) =>
        new NumberPattern(Pattern).Write(date, count, WrittenYear(date, yearBegins));

    private int WrittenYear(DateOnly date, int yearBegins) =>
        Restarts == SeriesRestart.FinancialYear ? YearOf(date, yearBegins) : date.Year;

    /// <summary>The year whose count a date belongs to; 0 where the series never starts afresh.</summary>
    public int YearOf(DateOnly date, int yearBegins = 1) =>
        Restarts switch
        {
            SeriesRestart.CalendarYear => date.Year,
            SeriesRestart.FinancialYear => date.Month >= yearBegins ? date.Year : date.Year - 1,
            _ => 0,
        };

    private SeriesCounter? CounterOf(DateOnly date, int yearBegins)
    {
        var year = YearOf(date, yearBegins);
        return _counters.Find(c => c.Year == year);
    }
}
