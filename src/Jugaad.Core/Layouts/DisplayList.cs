namespace Jugaad.Core.Layouts;

/// <summary>Which way a text runs from its point.</summary>
public enum Anchor
{
    Start,
    End,
}

/// <summary>The inks of a paper; a painter knows their colours.</summary>
public enum Ink
{
    Dark,
    Quiet,
    Rule,
    Accent,
    Wash,
}

/// <summary>Something on a page. Places are millimetres from the upper left corner.</summary>
public abstract record Mark;

/// <summary>One line of text; <paramref name="Y"/> is its baseline, <paramref name="Size"/> is in points.</summary>
public sealed record TextMark(
    double X,
    double Y,
    string Text,
    double Size,
    bool Bold = false,
    Ink Ink = Ink.Dark,
    Anchor Anchor = Anchor.Start
) : Mark;

/// <summary>A straight line; its width is in millimetres.</summary>
public sealed record RuleMark(double X1, double Y1, double X2, double Y2, double Width = 0.2, Ink Ink = Ink.Rule)
    : Mark;

/// <summary>A filled box.</summary>
public sealed record BoxMark(double X, double Y, double Width, double Height, Ink Ink) : Mark;

/// <summary>The pictures that a business has on its papers.</summary>
public enum PaperPicture
{
    Logo,
    Signature,
}

/// <summary>One of the business's pictures, drawn into the box with its proportions kept, at its upper left.</summary>
public sealed record PictureMark(PaperPicture Picture, double X, double Y, double Width, double Height) : Mark;

/// <summary>
/// A square code (ISO/IEC 18004, error correction M) of that text, drawn as large as <paramref name="Size"/> with its
/// quiet zone.
/// </summary>
public sealed record CodeMark(double X, double Y, double Size, string Text) : Mark;

/// <summary>One page's marks, in the order in which they are drawn.</summary>
public sealed record PaperPage(IReadOnlyList<Mark> Marks);

/// <summary>A whole paper: what every painter draws.</summary>
/// <param name="Width">Of each page, in millimetres.</param>
/// <param name="Height">Of each page, in millimetres.</param>
public sealed record DisplayList(string Title, double Width, double Height, IReadOnlyList<PaperPage> Pages);

/// <summary>Measures text in the typeface that papers are set in.</summary>
public interface ITextMeasure
{
    /// <summary>The width in millimetres.</summary>
    double Width(string text, double size, bool bold);

    /// <summary>
    /// The characters of a text that no typeface that ships can print, each once; a paper has a mark in their place.
    /// </summary>
    IReadOnlyList<string> Unprintable(string text);
}
