using System.Runtime.InteropServices;
using HarfBuzzSharp;
using Jugaad.Core.Layouts;

namespace Jugaad.Formats.Papers;

/// <summary>One file of a typeface: what it can paint, and the shapes of its text.</summary>
internal sealed class FaceFile : IDisposable
{
    private readonly Font _font;
    private readonly GCHandle _pinned;

    internal FaceFile(string file)
        : this(Shipped(file), true) { }

    /// <param name="maySubset">Whether a part of it may be embedded; else it goes into a file whole.</param>
    internal FaceFile(byte[] bytes, bool maySubset)
    {
        (Bytes, MaySubset) = (bytes, maySubset);
        // HarfBuzz reads the file where it lies, for as long as the process lives.
        _pinned = GCHandle.Alloc(Bytes, GCHandleType.Pinned);
        using var blob = new Blob(_pinned.AddrOfPinnedObject(), Bytes.Length, MemoryMode.ReadOnly);
        blob.MakeImmutable();
        Face = new Face(blob, 0);
        Face.MakeImmutable();
        UnitsPerEm = Face.UnitsPerEm;
        _font = new Font(Face);
        _font.SetFunctionsOpenType();
    }

    internal byte[] Bytes { get; }

    internal bool MaySubset { get; }

    internal Face Face { get; }

    internal int UnitsPerEm { get; }

    internal bool Has(int codePoint) => GlyphOf(codePoint) != 0;

    /// <summary>0 where it has none.</summary>
    internal ushort GlyphOf(int codePoint) =>
        _font.TryGetGlyph((uint)codePoint, out var glyph) ? (ushort)glyph : (ushort)0;

    internal void Shape(HarfBuzzSharp.Buffer buffer, Feature[] features) => _font.Shape(buffer, features);

    public void Dispose()
    {
        _font.Dispose();
        Face.Dispose();
        _pinned.Free();
    }

    private static byte[] Shipped(string file)
    {
        using var stream =
            typeof(FaceFile).Assembly.GetManifestResourceStream($"Jugaad.Formats.Fonts.{file}.ttf")
            ?? throw new InvalidOperationException($"The font {file} is not shipped.");
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        return copy.ToArray();
    }
}

/// <summary>
/// A typeface that papers are set in. The table is in the order in which they are tried: what the first does not have,
/// the next may. Only what ships is used, so that a paper is the same on every machine.
/// </summary>
internal sealed class PaperFace
{
    private readonly Lazy<FaceFile> _regular;
    private readonly Lazy<FaceFile> _bold;
    private readonly Lazy<FaceFile> _italic;
    private readonly Lazy<FaceFile> _boldItalic;

    private PaperFace(string key, string regular, string? bold = null)
    {
        Key = key;
        _regular = new Lazy<FaceFile>(() => new FaceFile(regular));
        _bold = bold is null ? _regular : new Lazy<FaceFile>(() => new FaceFile(bold));
        (_italic, _boldItalic) = (_regular, _bold);
        HasBold = bold is not null;
    }

    /// <summary>One of the families, which have four files each.</summary>
    private PaperFace(string key, string file, bool latin)
    {
        Key = key;
        _regular = new Lazy<FaceFile>(() => new FaceFile($"{file}_400Regular"));
        _bold = new Lazy<FaceFile>(() => new FaceFile($"{file}_700Bold"));
        _italic = new Lazy<FaceFile>(() => new FaceFile($"{file}_400Regular_Italic"));
        _boldItalic = new Lazy<FaceFile>(() => new FaceFile($"{file}_700Bold_Italic"));
        HasBold = HasItalic = latin;
    }

    /// <summary>One of a layout's own; what it lacks is set in what it has.</summary>
    internal PaperFace(string key, byte[] regular, byte[]? bold, byte[]? italic, byte[]? boldItalic)
    {
        Lazy<FaceFile> Own(byte[]? bytes, Lazy<FaceFile>? otherwise) =>
            bytes is null ? otherwise! : new Lazy<FaceFile>(() => new FaceFile(bytes, OwnFaces.MaySubset(bytes)));
        Key = key;
        _regular = Own(regular, null);
        _bold = Own(bold, _regular);
        _italic = Own(italic, _regular);
        _boldItalic = Own(boldItalic, bold is null ? _italic : _bold);
        HasBold = HasItalic = true;
    }

    /// <summary>The family of papers that name no other.</summary>
    internal static PaperFace First { get; } = new("latin", "AtkinsonHyperlegibleNext", true);

    /// <summary>The other families, by the keys that layouts call them by.</summary>
    private static readonly Dictionary<string, PaperFace> Families = new()
    {
        ["bookish"] = new("bookish", "SourceSerif4", true),
        ["narrow"] = new("narrow", "FiraSansCondensed", true),
        ["typewriter"] = new("typewriter", "CourierPrime", true),
    };

    /// <summary>Those that are tried for a text of a family, the family's own first.</summary>
    internal static IReadOnlyList<PaperFace> For(string family) =>
        family.Length > 0 && (Families.GetValueOrDefault(family) ?? OwnFaces.Find(family)) is { } own
            ? _chains.GetOrAdd(family, _ => [own, .. All])
            : All;

    private static readonly System.Collections.Concurrent.ConcurrentDictionary<
        string,
        IReadOnlyList<PaperFace>
    > _chains = new();

    /// <summary>All that ship, with the families.</summary>
    internal static IEnumerable<PaperFace> Every => All.Concat(Families.Values).Concat(OwnFaces.All);

    /// <summary>Greek, Cyrillic and the rest of Latin.</summary>
    internal static PaperFace Second { get; } = new("greek-cyrillic", "NotoSans_400Regular", "NotoSans_700Bold");

    internal static IReadOnlyList<PaperFace> All { get; } =
    [
        First,
        Second,
        new("hebrew", "NotoSansHebrew_400Regular", "NotoSansHebrew_700Bold"),
        new("arabic", "NotoSansArabic_400Regular", "NotoSansArabic_700Bold"),
        new("thai", "NotoSansThai_400Regular", "NotoSansThai_700Bold"),
        new("arrows", "NotoSansMath_400Regular"),
        new("symbols", "NotoSansSymbols_400Regular"),
        new("signs", "NotoSansSymbols2_400Regular"),
        new("japanese", "NotoSansJP_400Regular"),
        new("emoji", "NotoEmoji_400Regular"),
    ];

    /// <summary>How pages that show papers call it.</summary>
    internal string Key { get; }

    /// <summary>False where one weight serves for both.</summary>
    internal bool HasBold { get; }

    internal bool HasItalic { get; }

    internal FaceFile File(TypeStyle style) =>
        (
            style.Italic
                ? style.Bold
                    ? _boldItalic
                    : _italic
                : style.Bold
                    ? _bold
                    : _regular
        ).Value;
}
