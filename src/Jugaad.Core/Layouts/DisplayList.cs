namespace Jugaad.Core.Layouts;

/// <summary>Which way a text runs from its point.</summary>
public enum Anchor
{
    Start,
    Middle,
    End,
}

/// <summary>Something on a page. Places are millimetres from the upper left corner.</summary>
public abstract record Mark
{
    /// <summary>The piece of the layout that it comes from; empty where it comes from none.</summary>
    public string Piece { get; init; } = "";

    /// <summary>Which line of the document it is of, from 0; null for what is of none.</summary>
    public int? OfLine { get; init; }

    /// <summary>The same, that much lower.</summary>
    public abstract Mark Down(double by);
}

/// <summary>One line of text; <paramref name="Y"/> is its baseline, <paramref name="Size"/> is in points.</summary>
public sealed record TextMark(
    double X,
    double Y,
    string Text,
    double Size,
    bool Bold = false,
    Ink Ink = default,
    Anchor Anchor = Anchor.Start
) : Mark
{
    /// <summary>The key of its family; empty for the first.</summary>
    public string Face { get; init; } = "";

    public bool Italic { get; init; }

    public TypeStyle Style => new(Face, Bold, Italic);

    public override Mark Down(double by) => this with { Y = Y + by };
}

/// <summary>A straight line; its width is in millimetres.</summary>
public sealed record RuleMark(double X1, double Y1, double X2, double Y2, double Width, Ink Ink) : Mark
{
    public override Mark Down(double by) => this with { Y1 = Y1 + by, Y2 = Y2 + by };
}

/// <summary>A box: filled, or with a line around it where it has a <see cref="Line"/>.</summary>
public sealed record BoxMark(double X, double Y, double Width, double Height, Ink Ink) : Mark
{
    /// <summary>How thick the line around it is, in millimetres; 0 for a filled box.</summary>
    public double Line { get; init; }

    public override Mark Down(double by) => this with { Y = Y + by };
}

/// <summary>
/// A picture, drawn into the box with its proportions kept, at its upper left: one of the business's
/// (<see cref="PaperPicture"/>) or one that the layout has with it.
/// </summary>
public sealed record PictureMark(string Picture, double X, double Y, double Width, double Height) : Mark
{
    public override Mark Down(double by) => this with { Y = Y + by };
}

/// <summary>The pictures that a business has for all its papers.</summary>
public static class PaperPicture
{
    public const string Logo = "logo";

    public const string Signature = "signature";
}

/// <summary>
/// A square code (ISO/IEC 18004, error correction M) of that text, drawn as large as <paramref name="Size"/> with its
/// quiet zone.
/// </summary>
public sealed record CodeMark(double X, double Y, double Size, string Text) : Mark
{
    public override Mark Down(double by) => this with { Y = Y + by };
}

/// <summary>A striped code (ISO/IEC 15417, Code 128) of that text.</summary>
public sealed record StripesMark(double X, double Y, double Width, double Height, string Text) : Mark
{
    public override Mark Down(double by) => this with { Y = Y + by };
}

/// <summary>One page's marks, in the order in which they are drawn.</summary>
public sealed record PaperPage(IReadOnlyList<Mark> Marks);

/// <summary>Where a piece of the layout came to stand.</summary>
/// <param name="Page">From 0 on.</param>
/// <param name="Shown">False where it is only kept a place for.</param>
public sealed record Spot(string Piece, int Page, double X, double Y, double Width, double Height, bool Shown);

/// <summary>A band as it came to stand, for whoever draws the layout.</summary>
public sealed record BandSpot(BandKind Band, int Page, double Y, double Height);

/// <summary>A whole paper: what every painter draws.</summary>
/// <param name="Width">Of each page, in millimetres.</param>
/// <param name="Height">Of each page, in millimetres.</param>
public sealed record DisplayList(string Title, double Width, double Height, IReadOnlyList<PaperPage> Pages)
{
    /// <summary>Its language (ISO 639-1).</summary>
    public string Language { get; init; } = "en";

    /// <summary>Pictures that go with it, by their keys; before those of the business.</summary>
    public IReadOnlyDictionary<string, LayoutPicture> Pictures { get; init; } = new Dictionary<string, LayoutPicture>();

    public IReadOnlyList<Spot> Spots { get; init; } = [];

    public IReadOnlyList<BandSpot> Bands { get; init; } = [];

    /// <summary>The names of the fields that it says something of.</summary>
    public IReadOnlySet<string> Said { get; init; } = new HashSet<string>();

    /// <summary>Pieces in which a text had to be made smaller than half of its size, or ran over.</summary>
    public IReadOnlyList<string> Tight { get; init; } = [];
}

/// <summary>Measures text in the typefaces that papers are set in.</summary>
public interface ITextMeasure
{
    /// <summary>The width in millimetres.</summary>
    /// <param name="size">In points.</param>
    double Width(string text, double size, TypeStyle style);

    /// <summary>The same in the first family.</summary>
    double Width(string text, double size, bool bold) => Width(text, size, new TypeStyle("", bold));

    /// <summary>Under which key a typeface of one's own is set from now on; the same files have the same.</summary>
    string FaceOf(LayoutTypeface typeface) => "";

    /// <summary>
    /// The characters of a text that no typeface that ships can print, each once; a paper has a mark in their place.
    /// </summary>
    IReadOnlyList<string> Unprintable(string text);
}
