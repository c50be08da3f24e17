using System.Diagnostics;
using System.Text;
using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Pictures;
using UglyToad.PdfPig;

namespace Jugaad.Formats.Tests;

/// <summary>Logos and grounds that come as drawings (SVG): kept as shapes, with nothing else in them.</summary>
public sealed class DrawingTests
{
    private const string Head = "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink'";

    /// <summary>As drawing programs write them, with what they leave in besides.</summary>
    internal const string Sail = """
        <?xml version="1.0" encoding="UTF-8"?>
        <!-- drawn on a rainy day -->
        <!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">
        <svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"
             xmlns:draw="http://drawing.example/ns" width="60mm" height="30mm" viewBox="10 20 120 60"
             preserveAspectRatio="none" onload="alert(1)" draw:version="7">
          <title>A sail</title>
          <metadata>secret <draw:who>Maarja</draw:who></metadata>
          <style>.hull { fill: #123456; stroke: none } .sky { fill: url(#dusk) }</style>
          <defs>
            <linearGradient id="dusk"><stop offset="0" stop-color="#c33"/><stop offset="1" style="stop-color:#36c"/></linearGradient>
            <path id="cloth" d="M40 60 L70 25 L70 60 Z"/>
            <clipPath id="edge"><rect x="10" y="20" width="120" height="55"/></clipPath>
          </defs>
          <script>alert(2)</script>
          <rect class="sky" x="10" y="20" width="120" height="20" draw:layer="1"/>
          <g clip-path="url(#edge)" transform="translate(4 0)">
            <use xlink:href="#cloth" fill="#070" onclick="alert(3)"/>
            <use href="#cloth" x="34" style="fill:#700"/>
          </g>
          <ellipse class="hull" cx="75" cy="66" rx="50" ry="8"><animate attributeName="cx" to="0" dur="1s"/></ellipse>
        </svg>
        """;

    private static byte[] Clean(string svg) => new PictureCleaner().Clean(Encoding.UTF8.GetBytes(svg), "logo");

    private static string Refused(string svg) => Should.Throw<RefusalException>(() => Clean(svg)).Refusals[0].Message;

    [Fact]
    public void A_drawing_is_kept_with_its_shapes_alone()
    {
        var clean = Clean(Sail);
        PictureType.OfKept(clean).ShouldBe(PictureType.Svg);
        var text = Encoding.UTF8.GetString(clean);
        foreach (
            var gone in new[] { "alert", "script", "onl", "secret", "Maarja", "draw", "rainy", "DOCTYPE", "animate" }
        )
            text.ShouldNotContain(gone);
        text.ShouldContain("viewBox=\"10 20 120 60\"");
        // Its proportion follows from the view box alone, as both painters read it.
        text.ShouldContain("width=\"120\"");
        text.ShouldContain("preserveAspectRatio=\"xMinYMin meet\"");
        foreach (var stays in new[] { "url(#dusk)", "href=\"#cloth\"", "stop-color:#36c", "translate(4 0)", ".hull" })
            text.ShouldContain(stays);
        Clean(text).ShouldBe(clean);
    }

    [Theory]
    [InlineData(" viewBox='0 0 9 9'><text x='1' y='8'>Loft</text></svg>", "Turn its texts into outlines")]
    [InlineData(" viewBox='0 0 9 9'><image href='data:image/png;base64,AA'/></svg>", "picture of pixels")]
    [InlineData(" viewBox='0 0 9 9'><foreignObject/></svg>", "<foreignObject>")]
    [InlineData(" viewBox='0 0 9 9'><filter id='f'/></svg>", "shadows")]
    [InlineData(" viewBox='0 0 9 9'><path d='M0 0h9v9z' filter='blur(3px)'/></svg>", "shadows")]
    [InlineData(" viewBox='0 0 9 9'><path d='M0 0h9v9z' style='filter:blur(3px)'/></svg>", "shadows")]
    [InlineData(" viewBox='0 0 9 9'><path d='M0 0h9v9z' style='filter : blur(3px)'/></svg>", "shadows")]
    [InlineData(" viewBox='0 0 9 9'><style>path{FILTER/* */ :blur(3px)}</style><path d='M0 0h9v9z'/></svg>", "shadows")]
    [InlineData(" viewBox='0 0 9 9'><use xlink:href='http://evil.example/a.svg#b'/></svg>", "outside of it")]
    [InlineData(" viewBox='0 0 9 9'><use href='file:///etc/passwd'/></svg>", "outside of it")]
    [InlineData(" viewBox='0 0 9 9'><path d='M0 0h9v9z' fill='url(//evil.example/a)'/></svg>", "outside of it")]
    [InlineData(" viewBox='0 0 9 9'><path d='M0 0h9v9z' style='fill:URL( //evil.example/a )'/></svg>", "outside of it")]
    [InlineData(" viewBox='0 0 9 9'><style>@import '//evil.example/a.css';</style></svg>", "(@)")]
    [InlineData(" viewBox='0 0 9 9'><path d='M0 0h9v9z' style='fill:u\\72l(//evil.example)'/></svg>", "hide")]
    [InlineData(" viewBox='0 0 9 9'><svg/></svg>", "a drawing within the drawing")]
    [InlineData("><path d='M0 0h9v9z'/></svg>", "how large")]
    [InlineData(" width='100%' height='100%'><path d='M0 0h9v9z'/></svg>", "how large")]
    [InlineData(" viewBox='0 0 0 9'><path d='M0 0h9v9z'/></svg>", "how large")]
    [InlineData(" viewBox='0 0 NaN 9'><path d='M0 0h9v9z'/></svg>", "how large")]
    [InlineData(" viewBox='0 0 9 9'><path d='M20 20h9v9z'/></svg>", "Nothing is to be seen")]
    [InlineData(" viewBox='0 0 9 9'/>", "Nothing is to be seen")]
    [InlineData(" viewBox='0 0 9 9'><path d='M0 0h9v9z'>", "at line 1")]
    [InlineData(" viewBox='0 0 9 9'><path d='&more;'/></svg>", "at line 1")]
    [InlineData(" viewBox='0 0 9 9'><g id='a'><use href='#b'/></g><g id='b'><use href='#a'/></g></svg>", "leads back")]
    [InlineData(
        " viewBox='0 0 9 9'><clipPath id='c'><path d='M0 0h9' clip-path='url(#c)'/></clipPath></svg>",
        "leads back"
    )]
    public void What_would_not_be_drawn_as_it_is_meant_is_refused_in_words(string rest, string words)
    {
        var said = Refused(Head + rest);
        said.ShouldContain(words);
        said.ShouldEndWith(".");
    }

    [Fact]
    public void No_small_file_becomes_a_large_picture()
    {
        var doubled = string.Concat(
            Enumerable.Range(1, 40).Select(i => $"<g id='g{i}'><use href='#g{i - 1}'/><use href='#g{i - 1}'/></g>")
        );
        Refused($"{Head} viewBox='0 0 9 9'><path id='g0' d='M0 0h9v9z'/>{doubled}</svg>").ShouldContain("more parts");
        var entities = "<!DOCTYPE svg [<!ENTITY a 'ha'><!ENTITY b '&a;&a;&a;'>]>";
        Refused($"{entities}{Head} viewBox='0 0 9 9'><style>&b;</style></svg>").ShouldContain("damaged");
        var deep = string.Concat(Enumerable.Repeat("<g>", 5_000)) + string.Concat(Enumerable.Repeat("</g>", 5_000));
        Refused($"{Head} viewBox='0 0 9 9'>{deep}</svg>").ShouldContain("more parts");
        var points = string.Concat(
            Enumerable
                .Range(0, 60_000)
                .Select(i => $"L{i * 7919 % 9973 / 1108.0:0.0000} {i * 104729 % 9973 / 1108.0:0.0000}")
        );
        Refused($"{Head} viewBox='0 0 9 9'><path fill='none' stroke='#000' d='M0 0{points}'/></svg>")
            .ShouldContain("kB larger");
    }

    private static byte[] Paper(byte[]? logo) =>
        PdfPainter.Paint(
            [
                Composer.Compose(
                    ShippedLayouts.Plain,
                    SampleContent.Invoice(3) with
                    {
                        HasLogo = true,
                    },
                    PaperFonts.Shared
                ),
            ],
            new PaperPictures(logo, null),
            new DateOnly(2025, 9, 17),
            "Loft"
        );

    [Fact]
    public void In_a_pdf_it_stays_shapes_and_the_same_paper_is_the_same_file()
    {
        var logo = Clean(Sail);
        var pdf = Paper(logo);
        Paper(logo).ShouldBe(pdf);
        pdf.Length.ShouldBeLessThan(60_000);
        using var read = PdfDocument.Open(pdf);
        read.GetPage(1).GetImages().ShouldBeEmpty();
        using var without = PdfDocument.Open(Paper(null));
        read.GetPage(1).Paths.Count.ShouldBeGreaterThan(without.GetPage(1).Paths.Count);
        read.GetPage(1).Text.ShouldBe(without.GetPage(1).Text);
    }

    [Fact]
    public void Kept_shapes_that_were_meddled_with_leave_the_paper_whole() =>
        Paper(Encoding.UTF8.GetBytes(PictureType.SvgBeginning + "><path")).ShouldBe(Paper(null));

    [Fact]
    public void A_layout_goes_out_and_in_with_its_drawing()
    {
        var layout = ShippedLayouts.Plain with
        {
            Pictures = new Dictionary<string, LayoutPicture> { ["sail"] = LayoutPicture.Kept(Clean(Sail)) },
            Ground = new Ground { Picture = "sail" },
        };
        LayoutCheck.Of(layout).ShouldBeEmpty();
        var read = LayoutFile.Read(LayoutFile.Write(layout));
        read.Pictures["sail"].Type.ShouldBe(PictureType.Svg);
        read.Pictures["sail"].Data.ShouldBe(layout.Pictures["sail"].Data);
    }
}
