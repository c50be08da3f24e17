using System.Runtime.InteropServices;
using SkiaSharp;

namespace Jugaad.Formats.Papers;

/// <summary>The part of a typeface that one paper uses, made by HarfBuzz with the numbers of the glyphs kept.</summary>
internal static partial class FaceSubset
{
    private const string Library = "libHarfBuzzSharp";
    private const uint KeepGlyphNumbers = 0x2;

    /// <summary>Falls back to the whole typeface where it cannot be cut down.</summary>
    internal static SKTypeface Of(FaceFile file, IReadOnlySet<ushort> glyphs, IReadOnlySet<int> letters)
    {
        using var data = SKData.CreateCopy((file.MaySubset ? Cut(file, glyphs, letters) : null) ?? file.Bytes);
        return SKTypeface.FromData(data) ?? throw new InvalidOperationException("A typeface that ships does not load.");
    }

    private static byte[]? Cut(FaceFile file, IReadOnlySet<ushort> glyphs, IReadOnlySet<int> letters)
    {
        var input = InputCreate();
        if (input == IntPtr.Zero)
            return null;
        try
        {
            SetFlags(input, KeepGlyphNumbers);
            var (glyphSet, letterSet) = (GlyphSet(input), UnicodeSet(input));
            foreach (var letter in letters)
                SetAdd(letterSet, (uint)letter);
            // A glyph that serves for several letters is to be known by the one that was written, so it comes by its
            // letter.
            var byLetter = letters.Select(file.GlyphOf).ToHashSet();
            foreach (var glyph in glyphs.Where(g => !byLetter.Contains(g)))
                SetAdd(glyphSet, glyph);
            var face = SubsetOrFail(file.Face.Handle, input);
            if (face == IntPtr.Zero)
                return null;
            var blob = ReferenceBlob(face);
            var start = BlobData(blob, out var length);
            var bytes = new byte[length];
            if (length > 0)
                Marshal.Copy(start, bytes, 0, (int)length);
            BlobDestroy(blob);
            FaceDestroy(face);
            return length > 0 ? bytes : null;
        }
        finally
        {
            InputDestroy(input);
        }
    }

    [LibraryImport(Library, EntryPoint = "hb_subset_input_create_or_fail")]
    private static partial IntPtr InputCreate();

    [LibraryImport(Library, EntryPoint = "hb_subset_input_destroy")]
    private static partial void InputDestroy(IntPtr input);

    [LibraryImport(Library, EntryPoint = "hb_subset_input_set_flags")]
    private static partial void SetFlags(IntPtr input, uint flags);

    [LibraryImport(Library, EntryPoint = "hb_subset_input_glyph_set")]
    private static partial IntPtr GlyphSet(IntPtr input);

    [LibraryImport(Library, EntryPoint = "hb_subset_input_unicode_set")]
    private static partial IntPtr UnicodeSet(IntPtr input);

    [LibraryImport(Library, EntryPoint = "hb_set_add")]
    private static partial void SetAdd(IntPtr set, uint value);

    [LibraryImport(Library, EntryPoint = "hb_subset_or_fail")]
    private static partial IntPtr SubsetOrFail(IntPtr face, IntPtr input);

    [LibraryImport(Library, EntryPoint = "hb_face_reference_blob")]
    private static partial IntPtr ReferenceBlob(IntPtr face);

    [LibraryImport(Library, EntryPoint = "hb_face_destroy")]
    private static partial void FaceDestroy(IntPtr face);

    [LibraryImport(Library, EntryPoint = "hb_blob_get_data")]
    private static partial IntPtr BlobData(IntPtr blob, out uint length);

    [LibraryImport(Library, EntryPoint = "hb_blob_destroy")]
    private static partial void BlobDestroy(IntPtr blob);
}
