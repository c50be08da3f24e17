using Jugaad.Core.Amounts;

namespace Jugaad.Desk.Checking;

/// <summary>What a check counted, and each difference that it found.</summary>
internal sealed class Findings
{
    private readonly List<(string What, long Count)> _counted = [];
    private readonly List<string> _differences = [];

    internal IReadOnlyList<(string What, long Count)> Counted => _counted;

    internal IReadOnlyList<string> Differences => _differences;

    internal void Count(string what, long count) => _counted.Add((what, count));

    internal void Add(string difference) => _differences.Add(difference);

    internal void AddRange(IEnumerable<string> differences) => _differences.AddRange(differences);

    /// <summary>Adds a difference where something is not as it should be.</summary>
    internal void Unless(bool right, string difference)
    {
        if (!right)
            _differences.Add(difference);
    }

    internal static string Text(long minor, Currency currency) => $"{new Money(minor, currency)} {currency}";
}

/// <summary>Proves one part of the books from its sources. It changes nothing.</summary>
internal interface IProof
{
    Task RunAsync(Findings findings, CancellationToken stop);
}
