using Jugaad.Core.Amounts;

namespace Jugaad.Core;

/// <summary>Why something is not done: the field it is about, and what is wrong and what to do in words.</summary>
/// <param name="Field">The place, such as <c>lines[0].quantity</c>; empty when it is about the whole.</param>
/// <param name="Phrase">A sentence or two in the second person.</param>
public sealed record Refusal(string Field, Phrase Phrase)
{
    /// <summary>The words with plain decimals and ISO 8601 days, for files and for programs.</summary>
    public string Message => Phrase.ToString();

    /// <summary>The same with its figures and days as the business writes them.</summary>
    public Refusal In(DisplayFormat format) => new(Field, Phrase.In(format));
}

/// <summary>Thrown when what was asked for is refused. Nothing has been changed when it is thrown.</summary>
public class RefusalException : Exception
{
    public RefusalException(string field, Phrase message)
        : this([new Refusal(field, message)]) { }

    public RefusalException(IReadOnlyList<Refusal> refusals)
        : base(string.Join(" ", refusals.Select(r => r.Message))) => Refusals = refusals;

    /// <summary>At least one; the first is the one that matters most.</summary>
    public IReadOnlyList<Refusal> Refusals { get; }

    /// <summary>All that was refused, as the business writes figures and days.</summary>
    public string In(DisplayFormat format) => string.Join(" ", Refusals.Select(r => r.Phrase.In(format)));

    /// <summary>The same refusals with every field put below <paramref name="prefix"/>.</summary>
    public RefusalException Below(string prefix) =>
        new([.. Refusals.Select(r => r with { Field = r.Field.Length == 0 ? prefix : $"{prefix}.{r.Field}" })]);
}

/// <summary>Gathers refusals so that all that is wrong is said at once.</summary>
public sealed class Refusals
{
    private readonly List<Refusal> _all = [];

    public bool Any => _all.Count > 0;

    /// <summary>The first; null where nothing was refused.</summary>
    public Refusal? First => _all.FirstOrDefault();

    public void Add(string field, Phrase message) => _all.Add(new Refusal(field, message));

    /// <summary>What was refused of a field; empty where nothing was.</summary>
    public string Of(string field) => _all.Find(r => r.Field == field)?.Message ?? "";

    public void AddRange(IEnumerable<Refusal> refusals) => _all.AddRange(refusals);

    /// <summary>Runs <paramref name="work"/> and keeps what it refuses.</summary>
    public void Try(Action work)
    {
        try
        {
            work();
        }
        catch (RefusalException refused)
        {
            _all.AddRange(refused.Refusals);
        }
    }

    /// <exception cref="RefusalException">When anything was refused.</exception>
    public void ThrowIfAny()
    {
        if (_all.Count > 0)
            throw new RefusalException(_all.ToArray());
    }
}
