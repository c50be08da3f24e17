using Jugaad.Core;
using Jugaad.Desk.Outside;
using SkiaSharp;

namespace Jugaad.Formats.Pictures;

/// <summary>
/// Reads PNG, JPEG and WebP, and the first page of a PDF, and writes PNG; reads SVG and writes SVG of shapes alone. So
/// nothing that came along with the picture is kept.
/// </summary>
public sealed class PictureCleaner : IPictureCleaner
{
    /// <summary>The largest file taken, in bytes.</summary>
    public const int MostBytes = 2 * 1024 * 1024;

    private const int MostSide = 8_000;
    private const int KeptSide = 1_200;

    /// <summary>A page keeps more, since it is as large as the paper.</summary>
    private const int KeptPage = 2_400;

    /// <inheritdoc/>
    public byte[] Clean(byte[] upload, string field)
    {
        if (upload.Length > MostBytes)
            throw new RefusalException(
                field,
                $"This picture has {upload.Length / 1024 / 1024.0:0.0} MB; at most 2 MB fit. Save it smaller."
            );
        if (SvgCleaner.Is(upload))
            return Drawing.Tried(SvgCleaner.Clean(upload, field), field);
        var page = PdfPage.Is(upload);
        if (page)
            upload = PdfPage.Picture(upload, field);
        using var data = SKData.CreateCopy(upload);
        using var codec = SKCodec.Create(data);
        if (
            codec is null
            || codec.EncodedFormat
                is not (SKEncodedImageFormat.Png or SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Webp)
        )
            throw new RefusalException(
                field,
                "This is not a picture that we can read. Choose an SVG, PNG, JPEG or WebP file, or a PDF whose first page it is."
            );
        if (
            codec.Info.Width > MostSide
            || codec.Info.Height > MostSide
            || codec.Info.Width < 1
            || codec.Info.Height < 1
        )
            throw new RefusalException(
                field,
                $"This picture is {codec.Info.Width} × {codec.Info.Height} pixels; at most {MostSide} a side can be read. Save it smaller."
            );
        using var whole =
            SKBitmap.Decode(codec)
            ?? throw new RefusalException(field, "This picture is damaged. Save it again and choose the new file.");
        var scale = Math.Min(1f, (page ? KeptPage : KeptSide) / (float)Math.Max(whole.Width, whole.Height));
        using var kept =
            scale < 1
                ? whole.Resize(
                    new SKImageInfo((int)(whole.Width * scale), (int)(whole.Height * scale)),
                    new SKSamplingOptions(SKCubicResampler.Mitchell)
                )
                : whole.Copy();
        using var png = kept.Encode(SKEncodedImageFormat.Png, 90);
        return png.ToArray();
    }
}
