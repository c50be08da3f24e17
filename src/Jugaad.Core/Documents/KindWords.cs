namespace Jugaad.Core.Documents;

/// <summary>Kinds of document by their words, as they stand in addresses and forms.</summary>
public static class KindWords
{
    /// <summary>
    /// The kind of a word such as <c>delivery note</c> or <c>delivery-note</c>; null where it is none.
    /// </summary>
    public static DocumentKind? Of(string? word)
    {
        var plain = (word ?? "").Replace('-', ' ');
        return KindPolicy.All.FirstOrDefault(p => p.Word == plain)?.Kind;
    }

    /// <summary>The word as it stands in an address: <c>delivery-note</c>.</summary>
    public static string Slug(this DocumentKind kind) => KindPolicy.Of(kind).Word.Replace(' ', '-');
}
