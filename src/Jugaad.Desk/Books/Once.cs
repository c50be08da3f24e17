namespace Jugaad.Desk.Books;

/// <summary>
/// What goes with every use case that writes: the key of the form that asks for it, by which a form that arrives twice
/// is done once, and what ends the asking. A key or a token alone stands for both.
/// </summary>
/// <param name="Key">The key that came with the form; null or empty where there is none.</param>
public readonly record struct Once(string? Key = null, CancellationToken Stop = default)
{
    /// <summary>The same for one of many that the form asks for.</summary>
    public Once Of(int id) => string.IsNullOrEmpty(Key) ? this : this with { Key = $"{Key}-{id}" };

    public static implicit operator Once(string? key) => new(key);

    public static implicit operator Once(CancellationToken stop) => new(null, stop);
}
