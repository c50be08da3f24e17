namespace Jugaad.Core.Layouts;

public enum PieceKind
{
    /// <summary>Text of one's own, with fields in double braces.</summary>
    Words,

    /// <summary>One value.</summary>
    Field,

    /// <summary>Several lines that close up where one is empty.</summary>
    Block,

    Table,
    Picture,

    /// <summary>A line across, or down where it is higher than wide.</summary>
    Rule,

    /// <summary>A box: a line around it, a ground within it.</summary>
    Frame,

    /// <summary>A code that a machine reads.</summary>
    Code,

    /// <summary>Which page it is, of how many.</summary>
    PageCount,
}

public enum Align
{
    Left,
    Middle,
    Right,
}

/// <summary>On which pages a piece of a head or foot is.</summary>
public enum OnPages
{
    All,
    First,
    Later,
    Last,
}

/// <summary>When a piece is on the paper. All that is said must hold.</summary>
public sealed record ShownWhen
{
    /// <summary>The name of a field that must have a value; with <c>!</c> before it, must have none.</summary>
    public string Has { get; init; } = "";

    public OnPages Pages { get; init; }

    /// <summary>Only on a draft.</summary>
    public bool Draft { get; init; }

    /// <summary>Codes of languages (ISO 639-1); none for all.</summary>
    public IReadOnlyList<string> Languages { get; init; } = [];

    /// <summary>Kinds of paper, of <see cref="PaperKinds"/>; with <c>!</c> before it, all but that one.</summary>
    public IReadOnlyList<string> Kinds { get; init; } = [];

    /// <summary>Codes of currencies (ISO 4217); none for all.</summary>
    public IReadOnlyList<string> Currencies { get; init; } = [];

    /// <summary><c>business</c> or <c>person</c>; empty for both.</summary>
    public string Customer { get; init; } = "";
}

/// <summary>Something that stands in a band. Millimetres; type in points.</summary>
public sealed record Piece
{
    /// <summary>By which the layout calls it; each once.</summary>
    public string Id { get; init; } = "";

    public PieceKind Kind { get; init; }

    /// <summary>From the page's left; or, where it stands <see cref="After"/> another, the gap to that.</summary>
    public double X { get; init; }

    /// <summary>From the band's top.</summary>
    public double Y { get; init; }

    public double Width { get; init; }

    public double Height { get; init; }

    /// <summary>The words, with fields in double braces; of a code what it says.</summary>
    public string Text { get; init; } = "";

    /// <summary>The name of the field; of a code whose text is to be read.</summary>
    public string Field { get; init; } = "";

    /// <summary>Of a block, each as words are.</summary>
    public IReadOnlyList<string> Lines { get; init; } = [];

    public PieceTable? Table { get; init; }

    /// <summary><c>logo</c>, <c>signature</c>, or a picture of the layout.</summary>
    public string Picture { get; init; } = "";

    /// <summary>Whether a code has stripes instead of squares.</summary>
    public bool Stripes { get; init; }

    /// <summary>The family; empty for the layout's.</summary>
    public string Face { get; init; } = "";

    /// <summary>0 for the layout's.</summary>
    public double Size { get; init; }

    public bool Bold { get; init; }

    public bool Italic { get; init; }

    /// <summary>A named ink or <c>#RRGGBB</c>; empty for dark.</summary>
    public string Colour { get; init; } = "";

    /// <summary>What is behind it; empty for nothing.</summary>
    public string Background { get; init; } = "";

    public Align Align { get; init; }

    /// <summary>From one line of text to the next, in millimetres; 0 for what suits the size.</summary>
    public double Leading { get; init; }

    /// <summary>How thick the line of a rule or a frame is; 0 for none.</summary>
    public double Stroke { get; init; }

    /// <summary>The id of a piece whose text it follows on the same line.</summary>
    public string After { get; init; } = "";

    /// <summary>Whether its text is made smaller until it fits; otherwise it grows downwards.</summary>
    public bool Shrinks { get; init; }

    /// <summary>Whether what is below moves up where there is less in it than it has room for.</summary>
    public bool ClosesUp { get; init; }

    /// <summary>Room that it keeps below itself where it says something.</summary>
    public double Below { get; init; }

    /// <summary>Whether it stays where it is when something above it grows.</summary>
    public bool Fixed { get; init; }

    /// <summary>Hidden while it keeps its place.</summary>
    public bool Hidden { get; init; }

    /// <summary>Whether the studio leaves it alone.</summary>
    public bool Locked { get; init; }

    /// <summary>Pieces of one group are picked together.</summary>
    public string Group { get; init; } = "";

    public ShownWhen When { get; init; } = new();

    internal double Bottom => Y + Height;
}
