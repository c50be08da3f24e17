namespace Jugaad.Core.Numbering;

/// <summary>Counts of a series that were given outside these books: their papers are known, but not here.</summary>
public sealed class NumberGap
{
    private NumberGap() => Because = "";

    internal NumberGap(int seriesId, int year, int from, int to, string because) =>
        (SeriesId, Year, From, To, Because) = (seriesId, year, from, to, because);

    public int Id { get; private set; }

    public int SeriesId { get; private set; }

    /// <summary>The year of the counter; 0 where the series never starts afresh.</summary>
    public int Year { get; private set; }

    /// <summary>The first count stepped over.</summary>
    public int From { get; private set; }

    /// <summary>The last one.</summary>
    public int To { get; private set; }

    public string Because { get; private set; }

    /// <summary>Which they are, as it stands in the trail too.</summary>
    public string Words => Year == 0 ? $"counts {From} to {To}" : $"counts {From} to {To} of {Year}";

    public bool Covers(int year, int count) => Year == year && count >= From && count <= To;
}
