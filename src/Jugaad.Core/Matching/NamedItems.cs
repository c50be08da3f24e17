namespace Jugaad.Core.Matching;

/// <summary>
/// Finds what a text names of what is open: by our reference with its check digits, or by whole number.
/// </summary>
public sealed class NamedItems(IReadOnlyList<Owed> owed)
{
    private readonly NumberIndex _numbers = new(owed);

    /// <summary>Each once, in the order of the text. Nothing is guessed from digits alone.</summary>
    public IReadOnlyList<Owed> In(string text) =>
        _numbers.ByReference("", text) is { Count: > 0 } referred ? referred : _numbers.ByNumber(text).Whole;
}
