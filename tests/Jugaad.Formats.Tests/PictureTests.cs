using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Pictures;
using SkiaSharp;

namespace Jugaad.Formats.Tests;

public sealed class PictureTests
{
    private static byte[] Encoded(int width, int height, SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.Teal);
        return bitmap.Encode(format, 80).ToArray();
    }

    [Theory]
    [InlineData(SKEncodedImageFormat.Png)]
    [InlineData(SKEncodedImageFormat.Jpeg)]
    [InlineData(SKEncodedImageFormat.Webp)]
    public void A_picture_becomes_a_png_of_its_size(SKEncodedImageFormat format)
    {
        var clean = new PictureCleaner().Clean(Encoded(300, 120, format), "logo");
        clean[..4].ShouldBe([0x89, (byte)'P', (byte)'N', (byte)'G']);
        using var read = SKBitmap.Decode(clean);
        (read.Width, read.Height).ShouldBe((300, 120));
    }

    [Fact]
    public void A_large_picture_is_made_smaller() =>
        SKBitmap
            .Decode(new PictureCleaner().Clean(Encoded(3000, 600, SKEncodedImageFormat.Png), "logo"))
            .Width.ShouldBe(1200);

    [Theory]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>")]
    [InlineData("just text")]
    [InlineData("")]
    public void What_is_no_picture_is_refused(string text) =>
        Should
            .Throw<RefusalException>(() => new PictureCleaner().Clean(System.Text.Encoding.UTF8.GetBytes(text), "logo"))
            .Refusals[0]
            .Field.ShouldBe("logo");

    [Fact]
    public void What_comes_behind_a_picture_is_not_kept()
    {
        var hidden = Encoded(10, 10, SKEncodedImageFormat.Png).Concat("<?php evil"u8.ToArray()).ToArray();
        System.Text.Encoding.Latin1.GetString(new PictureCleaner().Clean(hidden, "logo")).ShouldNotContain("evil");
    }

    [Fact]
    public void A_file_that_is_too_large_is_refused_with_its_size() =>
        Should
            .Throw<RefusalException>(() => new PictureCleaner().Clean(new byte[(5 * 1024 * 1024) + 1], "logo"))
            .Message.ShouldContain("5.0 MB");

    [Fact]
    public void The_first_page_of_a_pdf_is_a_picture_as_fine_as_print_asks_for()
    {
        var paper = Composer.Compose(ShippedLayouts.Plain, SampleContent.Invoice(40), PaperFonts.Shared);
        paper.Pages.Count.ShouldBeGreaterThan(1);
        var pdf = PdfPainter.Paint([paper], new PaperPictures(null, null), new DateOnly(2025, 9, 17), "Loft");
        using var picture = SKBitmap.Decode(new PictureCleaner().Clean(pdf, "ground"));
        (picture.Width / (double)picture.Height).ShouldBe(210 / 297.0, 0.002);
        picture.Height.ShouldBeInRange(2_300, 2_400);
        Enumerable.Range(0, picture.Width).Any(x => picture.GetPixel(x, picture.Height / 3).Red < 100).ShouldBeTrue();
    }

    [Theory]
    [InlineData("%PDF-1.4")]
    [InlineData("%PDF-1.7\n1 0 obj<</Type/Catalog/Pages 1 0 R>>endobj\ntrailer<</Root 1 0 R>>")]
    public void A_pdf_that_cannot_be_read_is_refused(string text) =>
        Should
            .Throw<RefusalException>(() =>
                new PictureCleaner().Clean(System.Text.Encoding.ASCII.GetBytes(text), "ground")
            )
            .Message.ShouldContain("cannot be read");
}
