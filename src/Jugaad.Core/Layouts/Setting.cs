namespace Jugaad.Core.Layouts;

/// <summary>A part of a piece that does not break over pages, with its marks as if it began at the top.</summary>
/// <param name="Y">From the piece's, later from the band's top.</param>
internal sealed record Atom(double Y, double Height, IReadOnlyList<Mark> Marks)
{
    /// <summary>The piece that it is of.</summary>
    internal Piece? Of { get; init; }

    /// <summary>Which line of the document it tells, from 0; null for what is no line.</summary>
    internal int? Line { get; init; }

    /// <summary>How much must follow it on its page, so that nothing stands alone at a foot or head.</summary>
    internal double Needs { get; init; }

    /// <summary>The table that it is a row of, which says what is carried over.</summary>
    internal TableRun? Run { get; init; }

    /// <summary>What the rows before it come to, in minor units.</summary>
    internal long Before { get; init; }
}

/// <summary>What a table puts at the foot of a page that it leaves, and at the head of the next.</summary>
internal sealed record TableRun(Atom? Head, Func<long, Atom>? Carried, Func<long, Atom>? Brought)
{
    internal double Carry => Carried?.Invoke(0).Height ?? 0;
}

/// <summary>A piece with what it says, before it is known on which page.</summary>
/// <param name="Height">What it takes; its atoms may end before.</param>
internal sealed record SetPiece(Piece Piece, double Height, IReadOnlyList<Atom> Atoms, bool Shown)
{
    /// <summary>Where its text ends, for what follows on the same line.</summary>
    internal double TextEnds { get; init; }

    /// <summary>Where it begins, for a piece that follows another.</summary>
    internal double X { get; init; } = Piece.X;
}

/// <summary>What pieces are set with.</summary>
internal sealed class Setting(Layout layout, PaperContent content, ITextMeasure measure)
{
    internal Layout Layout { get; } = layout;

    internal PaperContent Content { get; } = content;

    internal ITextMeasure Measure { get; } = measure;

    internal PaperFields Fields { get; } = new(content);

    /// <summary>Pieces whose text did not fit well.</summary>
    internal HashSet<string> Tight { get; } = [];

    internal TypeStyle StyleOf(Piece piece) =>
        new(FaceOf(piece.Face.Length > 0 ? piece.Face : Layout.Face), piece.Bold, piece.Italic);

    private readonly Dictionary<string, string> _faces = layout.Typefaces.ToDictionary(
        t => t.Key,
        t => measure.FaceOf(t.Value)
    );

    /// <summary>
    /// A family of the layout's own is called by what is in it; the first that ships by nothing, whichever way it is
    /// named.
    /// </summary>
    private string FaceOf(string key) =>
        _faces.TryGetValue(key, out var own) ? own
        : key == Typefaces.All[0].Key ? ""
        : key;

    /// <summary>By how much text is made smaller, where a foot or a head would leave no room between them.</summary>
    internal double Scale { get; set; } = 1;

    internal double SizeOf(Piece piece) => (piece.Size > 0 ? piece.Size : Layout.Size) * Scale;

    internal double LeadingOf(Piece piece, double size) => piece.Leading > 0 ? piece.Leading * Scale : LeadingOf(size);

    /// <summary>What suits a size: a third more than it.</summary>
    internal static double LeadingOf(double size) => Math.Round(Millimetres(size) * 1.34, 2);

    internal static double Millimetres(double points) => points * 25.4 / 72;

    /// <summary>From the top of a line of text to its baseline: capitals stand in its middle.</summary>
    internal static double Baseline(double leading, double size) => (leading / 2) + (Millimetres(size) * 0.36);

    /// <summary>Whether a piece is on a page.</summary>
    /// <param name="last">Whether the page is the last; null where that is not known yet.</param>
    internal bool Shows(Piece piece, int page, bool? last)
    {
        var when = piece.When;
        return (
                when.Pages switch
                {
                    OnPages.First => page == 1,
                    OnPages.Later => page > 1,
                    OnPages.Last => last is null or true,
                    _ => true,
                }
            )
            && (!when.Draft || Content.IsDraft)
            && (when.Languages.Count == 0 || when.Languages.Contains(Content.Words.Language))
            && (when.Currencies.Count == 0 || when.Currencies.Contains(Content.CurrencyCode))
            && (when.Customer.Length == 0 || when.Customer == (Content.ToBusiness ? "business" : "person"))
            && OfKind(when.Kinds)
            && (when.Has.Length == 0 || (when.Has[0] == '!' ? !Fields.Has(when.Has[1..]) : Fields.Has(when.Has)));
    }

    private bool OfKind(IReadOnlyList<string> kinds)
    {
        if (kinds.Any(k => k[0] == '!' && k[1..] == Content.Kind))
            return false;
        var only = kinds.Where(k => k[0] != '!').ToList();
        return only.Count == 0 || only.Contains(Content.Kind);
    }
}
