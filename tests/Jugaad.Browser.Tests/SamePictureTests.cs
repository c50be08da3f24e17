using System.Diagnostics;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Formats.Pictures;
using Microsoft.EntityFrameworkCore;
using SkiaSharp;

namespace Jugaad.Browser.Tests;

/// <summary>What is seen on the screen and what the PDF has are the same picture.</summary>
public sealed class SamePictureTests(Running running) : IClassFixture<Running>
{
    private const int PerMillimetre = 4;

    /// <summary>How far a mark may be from where the other has it: half a millimetre.</summary>
    private const int Reach = PerMillimetre / 2;

    /// <summary>Dots as dark as this are of a mark; edges are softened otherwise on the screen than on paper.</summary>
    private const int Marked = 330;

    private const int Grey = 640;

    [Fact]
    public async Task No_mark_of_a_paper_is_half_a_millimetre_from_where_the_screen_has_it()
    {
        var folder = Directory.CreateTempSubdirectory("jugaad-same-").FullName;
        using var browser = new Chromium(running.Address, 900, 1300);
        browser.SignIn();
        var invoices = await running.WithAsync<BooksContext, List<int>>(db =>
            db.Documents.Where(d => d.Number != null && d.Lines.Count > 2)
                .OrderBy(d => d.Id)
                .Select(d => d.Id)
                .ToListAsync()
        );
        var n = 0;
        foreach (var key in ShippedLayouts.Keys.Where(k => !ShippedLayouts.Of(k).IsStrip))
            await CompareAsync(key, ShippedLayouts.Of(key), invoices[n++ * 7 % invoices.Count], browser, folder);
        await CompareAsync("drawn logo", Drawn(ShippedLayouts.Plain), invoices[0], browser, folder);
        Directory.Delete(folder, recursive: true);
    }

    private async Task CompareAsync(string key, Layout layout, int id, Chromium browser, string folder)
    {
        var style = new PaperStyle { Layout = layout };
        var pdf = Path.Combine(folder, $"{key}.pdf");
        await File.WriteAllBytesAsync(
            pdf,
            await running.WithAsync<PaperRoom, byte[]>(async p => (await p.PdfAsync(id, [style])).Content)
        );
        var svg = (await running.WithAsync<PaperRoom, IReadOnlyList<string>>(p => p.SvgAsync(id, "", style)))[0];
        var paper = Printed(pdf, folder, key);
        var screen = Shown(browser, svg, Path.Combine(folder, $"{key}-screen.png"), layout);
        Missing(paper, screen).ShouldBeLessThan(0.001, $"{key}: what the paper has, and the screen has not");
        Missing(screen, paper).ShouldBeLessThan(0.001, $"{key}: what the screen has, and the paper has not");
    }

    /// <summary>With a drawing (SVG) for its logo, coloured by rules of style, by attributes and by a gradient.</summary>
    private static Layout Drawn(Layout plain)
    {
        var drawing = new PictureCleaner().Clean(
            """
            <svg xmlns="http://www.w3.org/2000/svg" viewBox="10 20 120 60">
              <style>.hull { fill: #123456 } .sky { fill: url(#dusk) }</style>
              <linearGradient id="dusk"><stop stop-color="#822"/><stop offset="1" style="stop-color:#228"/></linearGradient>
              <clipPath id="edge"><rect x="10" y="20" width="120" height="55"/></clipPath>
              <path id="cloth" d="M40 60 L70 25 L70 60 Z"/>
              <g clip-path="url(#edge)"><use href="#cloth" x="34" style="fill:#700"/><ellipse class="hull" cx="75" cy="66" rx="50" ry="18"/></g>
              <rect class="sky" x="10" y="20" width="120" height="9"/>
            </svg>
            """u8.ToArray(),
            "logo"
        );
        return plain with
        {
            Pictures = new Dictionary<string, LayoutPicture> { ["sail"] = LayoutPicture.Kept(drawing) },
            Bands =
            [
                .. plain.Bands.Select(b =>
                    b with
                    {
                        Pieces =
                        [
                            .. b.Pieces.Select(p => p.Picture == PaperPicture.Logo ? p with { Picture = "sail" } : p),
                        ],
                    }
                ),
            ],
        };
    }

    private static int[,] Printed(string pdf, string folder, string key)
    {
        var png = Path.Combine(folder, $"{key}-paper");
        var run = Process.Start(
            "pdftoppm",
            ["-r", $"{PerMillimetre * 25.4:0.0}", "-png", "-singlefile", "-f", "1", "-l", "1", pdf, png]
        );
        run.WaitForExit();
        return Dots($"{png}.png");
    }

    private static int[,] Shown(Chromium browser, string svg, string png, Layout layout)
    {
        browser.Go("/me");
        browser.Script.ExecuteScript(
            "document.body.innerHTML = arguments[0]; const s = document.querySelector('svg'); document.body.style.margin = s.style.margin = 0; s.style.boxShadow = 'none'; s.style.position = 'fixed'; s.style.left = s.style.top = 0; s.style.width = arguments[1] + 'px'; s.style.height = arguments[2] + 'px';",
            svg,
            layout.Width * PerMillimetre,
            layout.Height * PerMillimetre
        );
        // The typefaces and the logo are there, and were painted.
        browser.Script.ExecuteAsyncScript(
            "const done = arguments[0]; document.querySelector('svg').getBoundingClientRect(); const frame = () => new Promise(r => requestAnimationFrame(r)); (async () => { await frame(); await document.fonts.ready; for (const i of document.querySelectorAll('svg image')) { const p = new Image(); p.src = i.getAttribute('href'); await p.decode(); } await frame(); await frame(); done(); })()"
        );
        browser.Picture(png);
        return Dots(png);
    }

    private static int[,] Dots(string png)
    {
        using var picture = SKBitmap.Decode(png);
        var dark = new int[picture.Width, picture.Height];
        for (var x = 0; x < picture.Width; x++)
        {
            for (var y = 0; y < picture.Height; y++)
            {
                var colour = picture.GetPixel(x, y);
                dark[x, y] = colour.Red + colour.Green + colour.Blue;
            }
        }

        return dark;
    }

    /// <summary>The part of the dark dots of one that have none near them in the other.</summary>
    private static double Missing(int[,] of, int[,] other)
    {
        var (wide, high) = (
            Math.Min(of.GetLength(0), other.GetLength(0)),
            Math.Min(of.GetLength(1), other.GetLength(1))
        );
        var (all, missing) = (0, 0);
        for (var x = Reach; x < wide - Reach; x++)
        {
            for (var y = Reach; y < high - Reach; y++)
            {
                if (of[x, y] > Marked)
                    continue;
                all++;
                var near = false;
                for (var dx = -Reach; dx <= Reach && !near; dx++)
                {
                    for (var dy = -Reach; dy <= Reach && !near; dy++)
                        near = other[x + dx, y + dy] < Grey;
                }

                if (!near)
                    missing++;
            }
        }

        all.ShouldBeGreaterThan(2_000, "there is a paper to compare");
        return (double)missing / all;
    }
}
