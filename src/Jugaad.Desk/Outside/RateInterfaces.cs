namespace Jugaad.Desk.Outside;

/// <summary>A rate as a file gives it.</summary>
/// <param name="Base">The currency of which one unit is worth <paramref name="Figure"/>; empty for the foreign
/// currency itself, quoted in home.</param>
/// <param name="Buying">Quoted as the figure is; null where the file has none.</param>
/// <param name="Where">Where it stands in the file, in words; empty where the file says no such thing.</param>
public sealed record FileRate(
    DateOnly Day,
    string Currency,
    decimal Figure,
    string Base = "",
    decimal? Buying = null,
    decimal? Selling = null,
    string Where = ""
);

/// <summary>Reads files of exchange rates.</summary>
public interface IRateFiles
{
    /// <summary>
    /// The euro reference rates of the European Central Bank as it publishes them (XML; CSV, also in its ZIP), or a
    /// table with the columns day, currency and rate, and for one, buying and selling where wanted.
    /// </summary>
    /// <exception cref="Core.RefusalException">When it is none of these, or broken, with where.</exception>
    IReadOnlyList<FileRate> Read(byte[] file);
}

/// <summary>Publishes exchange rates of days.</summary>
public interface IRateSource
{
    /// <summary>As it stands beside each rate that came from it.</summary>
    string Name { get; }

    /// <returns>A file that <see cref="IRateFiles"/> reads; null where nothing was published on those days.</returns>
    /// <exception cref="CarrierException">When it cannot be reached.</exception>
    Task<byte[]?> FetchAsync(DateOnly from, DateOnly until, CancellationToken stop);
}
