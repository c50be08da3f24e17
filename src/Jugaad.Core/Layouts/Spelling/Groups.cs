namespace Jugaad.Core.Layouts.Spelling;

/// <summary>The parts of a number: its millions, its thousands, and what is left.</summary>
internal readonly record struct Groups(int Millions, int Thousands, int Rest)
{
    internal static Groups Of(long number) =>
        new((int)(number / 1_000_000), (int)(number / 1_000 % 1_000), (int)(number % 1_000));

    /// <summary>Those parts that say something, with a blank between them.</summary>
    internal static string Join(params string[] parts) => string.Join(' ', parts.Where(p => p.Length > 0));
}
