using System.Buffers.Binary;
using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using HarfBuzzSharp;
using Jugaad.Core;
using Jugaad.Core.Layouts;
using SkiaSharp;

namespace Jugaad.Formats.Papers;

/// <summary>Typefaces that go with layouts, known by what is in their files.</summary>
internal static class OwnFaces
{
    private const string Mark = "own-";
    private const uint TrueType = 0x00010000;
    private const uint OldTrueType = 0x74727565;
    private const uint OpenType = 0x4F54544F;
    private const uint Collection = 0x74746366;
    private const uint Web = 0x774F4646;
    private const uint Web2 = 0x774F4632;
    private const uint Os2Table = 0x4F532F32;

    /// <summary>Where the OS/2 table says what a typeface may be used for (OpenType 1.9, <c>fsType</c>).</summary>
    private const int UseAt = 8;

    private static readonly ConcurrentDictionary<string, PaperFace> Known = new();

    internal static IEnumerable<PaperFace> All =>
        Known.OrderBy(k => k.Key, StringComparer.Ordinal).Select(k => k.Value);

    internal static PaperFace? Find(string key) => Known.GetValueOrDefault(key);

    /// <summary>The key of a typeface, which is known from now on. What cannot be read is set in the first family.</summary>
    internal static string KeyOf(LayoutTypeface typeface)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        foreach (var (entry, file) in typeface.Files())
        {
            hash.AppendData(Encoding.ASCII.GetBytes($"{entry} {file.Length} "));
            hash.AppendData(file);
        }

        var key = Mark + Convert.ToHexStringLower(hash.GetHashAndReset())[..16];
        if (Known.ContainsKey(key))
            return key;
        if (typeface.Files().Any(f => ProblemOf(f.File) is not null))
            return "";
        Known.TryAdd(key, new PaperFace(key, typeface.Regular, typeface.Bold, typeface.Italic, typeface.BoldItalic));
        return key;
    }

    /// <summary>Whether only the part that a paper uses may be embedded, or else the whole file must.</summary>
    internal static bool MaySubset(byte[] file) => (UseOf(file) & 0x0100) == 0;

    /// <summary>Why a file is no typeface that papers can be set in; null for nothing.</summary>
    internal static string? ProblemOf(byte[] file)
    {
        if (file.Length < 12)
            return "This is no typeface.";
        switch (BinaryPrimitives.ReadUInt32BigEndian(file))
        {
            case Collection:
                return "This file holds several typefaces. Take a file of one of them.";
            case Web:
            case Web2:
                return "This typeface is packed for web pages. Take its TTF or OTF file.";
            case not (TrueType or OldTrueType or OpenType):
                return "This is neither a TrueType nor an OpenType file.";
        }

        try
        {
            using var data = SKData.CreateCopy(file);
            using var typeface = SKTypeface.FromData(data);
            using var stream = new MemoryStream(file);
            using var blob = Blob.FromStream(stream);
            using var face = new Face(blob, 0);
            if (typeface is null || typeface.GlyphCount == 0 || face.GlyphCount == 0 || face.UnitsPerEm <= 0)
                return "This typeface cannot be read. It may be damaged.";
            using var font = new SKFont(typeface);
            if ("0123456789".Any(digit => !font.ContainsGlyph(digit)))
                return "This typeface has no figures, and papers are full of them.";
            if (face.UnitsPerEm is < 16 or > 16_384)
                return "This typeface cannot be read. It may be damaged.";
        }
        catch (Exception broken) when (broken is ArgumentException or InvalidOperationException or IOException)
        {
            return "This typeface cannot be read. It may be damaged.";
        }

        var use = UseOf(file);
        return (use & 0x000F) == 0x0002
                ? "Whoever made this typeface does not allow that it is put into files. Ask them, or take another."
            : (use & 0x0200) != 0 ? "Of this typeface only pictures of its letters may be put into files. Take another."
            : null;
    }

    private static ushort UseOf(byte[] file)
    {
        using var data = SKData.CreateCopy(file);
        using var typeface = SKTypeface.FromData(data);
        return typeface is not null && typeface.TryGetTableData(Os2Table, out var table) && table.Length >= UseAt + 2
            ? BinaryPrimitives.ReadUInt16BigEndian(table.AsSpan(UseAt))
            : (ushort)0;
    }

    /// <exception cref="RefusalException">Where it is none that papers can be set in.</exception>
    internal static void Check(byte[] file, string field)
    {
        if (ProblemOf(file) is { } problem)
            throw new RefusalException(field, problem);
    }

    /// <summary>Tells one set of typefaces from another; empty for none.</summary>
    internal static string Version =>
        Known.IsEmpty
            ? ""
            : Convert.ToHexStringLower(SHA256.HashData(Encoding.ASCII.GetBytes(string.Join(' ', Known.Keys.Order()))))[
                ..12
            ];

    /// <summary>How a page that shows papers finds them.</summary>
    internal static string Style()
    {
        var css = new StringBuilder();
        foreach (var face in All)
        {
            foreach (
                var (weight, style, name) in new[]
                {
                    (400, "normal", "regular"),
                    (700, "normal", "bold"),
                    (400, "italic", "italic"),
                    (700, "italic", "bold-italic"),
                }
            )
                css.Append(
                    $"@font-face{{font-family:\"{face.Key}\";font-weight:{weight};font-style:{style};src:url(\"/fonts/{face.Key}/{name}.ttf\")}}\n"
                );
            css.Append($".face-{face.Key}{{font-family:\"{face.Key}\"}}\n");
        }

        return css.ToString();
    }
}
