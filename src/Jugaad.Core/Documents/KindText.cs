namespace Jugaad.Core.Documents;

/// <summary>What a new document of one kind begins with, and what stands at its foot.</summary>
public sealed class KindText
{
    private KindText() { }

    public KindText(DocumentKind kind) => Kind = kind;

    public int Id { get; private set; }

    public DocumentKind Kind { get; private set; }

    /// <summary>The note that a new one begins with; it may be changed on each.</summary>
    public string Note { get; private set; } = "";

    /// <summary>At the foot of its paper; the business's own footer where it is empty.</summary>
    public string Footer { get; private set; } = "";

    /// <exception cref="RefusalException">When either is too long.</exception>
    public void Write(string note, string footer)
    {
        var refusals = new Refusals();
        Texts.Short(refusals, $"note-{Kind}", note, 4_000);
        Texts.Short(refusals, $"footer-{Kind}", footer, 1_000);
        refusals.ThrowIfAny();
        (Note, Footer) = (note.Trim(), footer.Trim());
    }
}
