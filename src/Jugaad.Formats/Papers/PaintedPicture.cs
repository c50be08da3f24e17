using SkiaSharp;
using Svg.Skia;

namespace Jugaad.Formats.Papers;

/// <summary>A picture ready to be painted: pixels, or shapes that stay shapes.</summary>
internal sealed class PaintedPicture : IDisposable
{
    private readonly SKImage? _pixels;
    private readonly SKSvg? _shapes;

    private PaintedPicture(SKImage pixels) => (_pixels, Width, Height) = (pixels, pixels.Width, pixels.Height);

    private PaintedPicture(SKSvg shapes, SKRect within) =>
        (_shapes, Width, Height) = (shapes, within.Width, within.Height);

    /// <summary>In whatever it is measured in; the proportion counts.</summary>
    internal double Width { get; }

    internal double Height { get; }

    /// <summary>Null where the data is no picture that we keep.</summary>
    internal static PaintedPicture? Of(byte[] data)
    {
        if (Core.Layouts.PictureType.OfKept(data) != Core.Layouts.PictureType.Svg)
            return SKImage.FromEncodedData(data) is { } pixels ? new PaintedPicture(pixels) : null;
        var shapes = new SKSvg();
        try
        {
            if (shapes.FromSvg(System.Text.Encoding.UTF8.GetString(data)) is { CullRect: { IsEmpty: false } within })
                return new PaintedPicture(shapes, within);
        }
        catch (System.Xml.XmlException)
        {
            // Books that were meddled with: the paper is made without it, as with pixels that cannot be read.
        }

        shapes.Dispose();
        return null;
    }

    internal void Draw(SKCanvas canvas, SKRect to)
    {
        if (_pixels is not null)
            canvas.DrawImage(_pixels, to, new SKSamplingOptions(SKCubicResampler.Mitchell));
        if (_shapes?.Picture is not { } picture)
            return;
        var within = picture.CullRect;
        canvas.Save();
        canvas.ClipRect(to);
        canvas.Translate(to.Left, to.Top);
        canvas.Scale(to.Width / within.Width, to.Height / within.Height);
        canvas.Translate(-within.Left, -within.Top);
        canvas.DrawPicture(picture);
        canvas.Restore();
    }

    public void Dispose()
    {
        _pixels?.Dispose();
        _shapes?.Dispose();
    }
}
