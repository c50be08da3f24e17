namespace Jugaad.Core.Layouts;

/// <summary>The strips that a paper is made of, from its top to its foot.</summary>
public enum BandKind
{
    /// <summary>At the top of the first page.</summary>
    FirstHead,

    /// <summary>At the top of each later page.</summary>
    LaterHead,

    /// <summary>What is sold, line by line; or the tables of a paper that is no bill.</summary>
    Lines,

    /// <summary>What it comes to; it stays in one piece.</summary>
    Totals,

    /// <summary>What is said at the end.</summary>
    Closing,

    /// <summary>At the foot of every page.</summary>
    Foot,
}

/// <summary>A strip of a paper. It grows with what stands in it, and what follows moves down.</summary>
public sealed record Band
{
    public BandKind Kind { get; init; }

    /// <summary>In millimetres, where nothing in it grows.</summary>
    public double Height { get; init; }

    /// <summary>In the order in which they are drawn. Their places are from the band's top and the page's left.</summary>
    public IReadOnlyList<Piece> Pieces { get; init; } = [];

    /// <summary>Its height, or down to where its lowest piece was drawn.</summary>
    internal double Reach => Pieces.Where(p => !Hangs(p)).Select(p => p.Bottom).Append(Height).Max();

    /// <summary>
    /// Whether a piece hangs out of a head below, such as a border around the page or a mark for folding: it takes no
    /// room there, and breaks over no page.
    /// </summary>
    internal bool Hangs(Piece piece) =>
        Kind is BandKind.FirstHead or BandKind.LaterHead
        && piece.Kind is PieceKind.Frame or PieceKind.Rule or PieceKind.Picture or PieceKind.Code
        && piece.Bottom > Height + 0.01;
}

/// <summary>What a paper lies on: a letterhead's picture beneath all that is written.</summary>
public sealed record Ground
{
    /// <summary>The key of a picture of the layout.</summary>
    public string Picture { get; init; } = "";

    /// <summary>Whether it lies beneath the first page only.</summary>
    public bool FirstOnly { get; init; }

    /// <summary>Whether it is left out of what is printed here, since the paper in the printer has it.</summary>
    public bool MailOnly { get; init; }
}

/// <summary>A picture that goes with a layout.</summary>
/// <param name="Type">One of <see cref="PictureType.Taken"/>.</param>
public sealed record LayoutPicture(string Type, byte[] Data)
{
    /// <summary>A picture that was read and written anew.</summary>
    public static LayoutPicture Kept(byte[] data) => new(PictureType.OfKept(data), data);
}

/// <summary>The design of a paper, as data: places in millimetres, type in points.</summary>
public sealed record Layout
{
    /// <summary>The form of the file that it goes out as.</summary>
    public const int FormatVersion = 1;

    /// <summary>The layout that is used where no other is chosen.</summary>
    public static Layout BuiltIn => ShippedLayouts.Plain;

    /// <summary>The form that its file has; <see cref="FormatVersion"/>.</summary>
    public int Version { get; init; }

    public string Name { get; init; } = "";

    /// <summary>What it is good for, in a sentence.</summary>
    public string About { get; init; } = "";

    public double Width { get; init; } = 210;

    /// <summary>0 for a strip that is as long as what it says.</summary>
    public double Height { get; init; } = 297;

    /// <summary>The margin at the left.</summary>
    public double Left { get; init; } = 20;

    /// <summary>The margin at the top, which later pages begin below.</summary>
    public double Top { get; init; } = 16;

    /// <summary>The margin at the right.</summary>
    public double Right { get; init; } = 20;

    /// <summary>The margin below the foot.</summary>
    public double Bottom { get; init; } = 8;

    /// <summary>The family of all text that does not say another: one that ships, or one of its own.</summary>
    public string Face { get; init; } = "clear";

    /// <summary>The size of all text that does not say another.</summary>
    public double Size { get; init; } = 9.5;

    /// <summary>What the ink <c>accent</c> is here, as <c>#RRGGBB</c>.</summary>
    public string Accent { get; init; } = Ink.Accent.Hex;

    /// <summary>A language that the program's words stand in besides the paper's own; empty for none.</summary>
    public string SecondLanguage { get; init; } = "";

    public Ground? Ground { get; init; }

    public IReadOnlyList<Band> Bands { get; init; } = [];

    /// <summary>Lines to set pieces by, at these millimetres from the left; they are not printed.</summary>
    public IReadOnlyList<double> GuidesAcross { get; init; } = [];

    /// <summary>The same from the top.</summary>
    public IReadOnlyList<double> GuidesDown { get; init; } = [];

    public IReadOnlyDictionary<string, LayoutPicture> Pictures { get; init; } = new Dictionary<string, LayoutPicture>();

    /// <summary>Typefaces of one's own, by the keys that its pieces call them by.</summary>
    public IReadOnlyDictionary<string, LayoutTypeface> Typefaces { get; init; } =
        new Dictionary<string, LayoutTypeface>();

    /// <summary>An empty band where it has none of the kind.</summary>
    public Band Of(BandKind kind) => Bands.FirstOrDefault(b => b.Kind == kind) ?? new Band { Kind = kind };

    internal Ink InkOf(string name, Ink otherwise = default) =>
        name.Length == 0 ? otherwise
        : name == "accent" ? Ink.Of(Accent) ?? Ink.Accent
        : Ink.Of(name) ?? otherwise;
}

/// <summary>What follows from a layout; apart from it, so that its file says nothing twice.</summary>
public static class LayoutShape
{
    extension(Layout layout)
    {
        /// <summary>Whether it is as long as what it says.</summary>
        public bool IsStrip => layout.Height == 0;

        public IEnumerable<Piece> Pieces => layout.Bands.SelectMany(b => b.Pieces);

        /// <summary>Where the foot begins, from the top of the page.</summary>
        public double FootTop => layout.Height - layout.Bottom - layout.Of(BandKind.Foot).Reach;
    }
}
