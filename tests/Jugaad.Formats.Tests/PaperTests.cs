using AngleSharp.Html.Parser;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using UglyToad.PdfPig;

namespace Jugaad.Formats.Tests;

public sealed class PaperTests
{
    private static PaperContent Content(int lines, string text = "Boat cover, made to measure", string note = "") =>
        new()
        {
            Heading = "Invoice",
            Number = "INV-2025-0001",
            CurrencyCode = "EUR",
            Amount = minor => $"{minor / 100}.{minor % 100:00}",
            Note = note,
            Sender = new Sender(
                "Little Loft OÜ",
                "Quay 1\n1 Harbour",
                "123",
                "EE123",
                "loft@little.example",
                "Bank",
                "EE382200221020145685",
                "BANKEE2X",
                "The footer."
            ),
            Addressee = new Addressee("Õige & Ärimees <b>", "Slip 2\nHarbour", "EE", "EE9", "", ""),
            Facts = [("Date", "17 Sep 2025"), ("Due", "1 Oct 2025")],
            Lines = Enumerable
                .Range(1, lines)
                .Select(i => new PaperLine($"{text} {i}", "2", "m²", "64.00", "", "24 %", "128.00", i * 12_800))
                .ToList(),
            Totals = [new("Without tax", "1.00"), new("Tax", "0.24"), new("To pay EUR", "1.24", true)],
            Taxes = [new("VAT 24 %", "1.00", "0.24")],
            Closing = ["Please pay by 1 Oct 2025."],
        };

    private static readonly double Foot = Layout.BuiltIn.FootTop;

    private static DisplayList Compose(PaperContent content) =>
        Composer.Compose(Layout.BuiltIn, content, PaperFonts.Shared);

    private static string TextOf(PaperPage page) =>
        string.Join('\n', page.Marks.OfType<TextMark>().Select(t => t.Text));

    [Fact]
    public void The_square_code_of_a_transfer_stands_beside_the_closing_words_on_screen_and_paper()
    {
        var paper = Compose(
            Content(3) with
            {
                TransferCode = "BCD\n002\n1\nSCT\n\nLittle Loft\nEE382200221020145685\nEUR1.24\n\nRF18539007547034\n",
            }
        );
        var code = paper.Pages.Single().Marks.OfType<CodeMark>().Single();
        (code.X + code.Size).ShouldBe(Layout.BuiltIn.Width - Layout.BuiltIn.Right);
        paper
            .Pages[0]
            .Marks.OfType<TextMark>()
            .Where(t => t.Anchor == Anchor.Start && t.Y > code.Y && t.Y < code.Y + code.Size)
            .ShouldAllBe(t => t.X + PaperFonts.Shared.Width(t.Text, t.Size, t.Bold) < code.X);
        var drawn = SvgPainter.Paint(paper, _ => null)[0];
        drawn.ShouldContain("<path shape-rendering=\"crispEdges\"");
        PdfPainter
            .Paint([paper], new PaperPictures(null, null), new DateOnly(2025, 9, 17), "Loft")
            .Length.ShouldBeGreaterThan(
                PdfPainter
                    .Paint([Compose(Content(3))], new PaperPictures(null, null), new DateOnly(2025, 9, 17), "Loft")
                    .Length
            );
        // Where it does not fit it goes on, with the closing words, to the next page.
        for (var lines = 15; lines < 25; lines++)
            foreach (var page in Compose(Content(lines) with { TransferCode = code.Text }).Pages)
                page.Marks.OfType<CodeMark>().ShouldAllBe(c => c.Y + c.Size < Foot);
    }

    [Theory]
    [InlineData(1, 1)]
    [InlineData(15, 1)]
    [InlineData(60, 3)]
    [InlineData(200, 7)]
    public void Lines_break_over_pages_with_head_and_sum(int lines, int pages)
    {
        var paper = Compose(Content(lines));
        paper.Pages.Count.ShouldBe(pages);
        for (var i = 0; i < paper.Pages.Count; i++)
        {
            var text = TextOf(paper.Pages[i]);
            text.ShouldContain($"Page {i + 1} of {pages}");
            if (text.Contains("Boat cover", StringComparison.Ordinal))
                text.ShouldContain("Amount EUR");
        }

        TextOf(paper.Pages[^1]).ShouldContain("To pay EUR");
        paper
            .Pages.Sum(p =>
                p.Marks.OfType<TextMark>().Count(t => t.Text.StartsWith("Boat cover", StringComparison.Ordinal))
            )
            .ShouldBe(lines);
    }

    [Fact]
    public void What_is_carried_over_is_brought_forward_and_is_the_sum_so_far()
    {
        var paper = Compose(Content(60));
        var before = TextOf(paper.Pages[0]);
        var last = paper
            .Pages[0]
            .Marks.OfType<TextMark>()
            .Last(t => t.Text.StartsWith("Boat cover", StringComparison.Ordinal))
            .Text.Split(' ')[^1];
        var sum = $"{int.Parse(last) * 128}.00";
        before.ShouldContain($"Carried over\n{sum}");
        TextOf(paper.Pages[1]).ShouldContain($"Brought forward\n{sum}");
    }

    [Theory]
    [InlineData(1)]
    [InlineData(22)]
    [InlineData(61)]
    [InlineData(137)]
    public void Nothing_lies_outside_of_the_page_or_over_the_footer(int lines)
    {
        foreach (
            var page in Compose(
                Content(
                    lines,
                    note: string.Join(
                        '\n',
                        Enumerable.Repeat(
                            "A note that is long enough to be broken over more than a single line of the paper, as notes are.",
                            12
                        )
                    )
                )
            ).Pages
        )
        {
            foreach (var text in page.Marks.OfType<TextMark>())
            {
                var width = PaperFonts.Shared.Width(text.Text, text.Size, text.Bold);
                var left = text.Anchor == Anchor.End ? text.X - width : text.X;
                left.ShouldBeGreaterThanOrEqualTo(19.9, text.Text);
                (left + width).ShouldBeLessThanOrEqualTo(190.1, text.Text);
                text.Y.ShouldBeInRange(10, 290);
            }

            var foot = Layout.BuiltIn.FootTop;
            page.Marks.OfType<TextMark>().Where(t => t.Y > foot - 0.5 && t.Y < foot + 3).ShouldBeEmpty();
        }
    }

    [Fact]
    public void A_word_wider_than_the_column_is_cut_and_nothing_of_it_lost()
    {
        var word = string.Concat(Enumerable.Repeat("Wichtig", 40));
        var lines = TextFlow.Wrap($"a {word} b", 60, 9.5, false, PaperFonts.Shared);
        string.Concat(lines).Replace(" ", "", StringComparison.Ordinal).ShouldBe($"a{word}b");
        lines.ShouldAllBe(l => PaperFonts.Shared.Width(l, 9.5, false) <= 60.01);
    }

    [Fact]
    public void A_description_longer_than_a_page_is_set_over_several()
    {
        var paper = Compose(Content(1, string.Join(' ', Enumerable.Repeat("rope", 1500))));
        paper.Pages.Count.ShouldBeGreaterThan(2);
        string.Concat(paper.Pages.Select(TextOf)).Split("rope").Length.ShouldBe(1501);
    }

    [Fact]
    public void The_pdf_holds_the_text_of_the_display_list_and_is_the_same_each_time()
    {
        var paper = Compose(Content(60));
        var pdf = PdfPainter.Paint([paper], new PaperPictures(null, null), new DateOnly(2025, 9, 17), "Little Loft");
        using var read = PdfDocument.Open(pdf);
        read.NumberOfPages.ShouldBe(3);
        read.Information.Title.ShouldBe("Invoice INV-2025-0001");
        var said = System.Text.Encoding.Latin1.GetString(pdf);
        said.ShouldContain("<pdfaid:part>2</pdfaid:part>");
        said.ShouldContain("<pdfaid:conformance>B</pdfaid:conformance>");
        said.ShouldContain("/OutputIntent");
        var text = string.Concat(read.GetPages().Select(p => p.Text));
        text.ShouldContain("Õige & Ärimees <b>");
        text.ShouldContain("Boat cover, made to measure 60");
        text.ShouldContain("m²");
        read.GetPage(1)
            .Letters.Select(l => l.FontName)
            .Distinct()
            .ShouldAllBe(f => f!.Contains("Atkinson", StringComparison.Ordinal));
        PdfPainter
            .Paint([paper], new PaperPictures(null, null), new DateOnly(2025, 9, 17), "Little Loft")
            .ShouldBe(pdf);
    }

    [Fact]
    public void The_screen_and_the_pdf_are_drawn_from_the_same_list_and_markup_stays_text()
    {
        var paper = Compose(Content(3));
        var svg = SvgPainter.Paint(paper, _ => "/logo.png").Single();
        var page = new HtmlParser().ParseDocument(svg);
        page.QuerySelectorAll("text")
            .Select(t => t.TextContent)
            .ShouldBe(paper.Pages[0].Marks.OfType<TextMark>().Select(t => t.Text));
        page.QuerySelectorAll("b").ShouldBeEmpty();
        svg.ShouldNotContain("style=");
    }

    [Fact]
    public void A_paper_that_says_nothing_of_tax_has_no_column_and_no_number_for_it()
    {
        var text = TextOf(
            Compose(
                Content(2) with
                {
                    ShowsTax = false,
                    Taxes = [],
                    Totals = [],
                    Sender = Content(1).Sender with { TaxNumber = "" },
                }
            ).Pages[0]
        );
        text.ShouldNotContain("Tax");
        TextOf(Compose(Content(2)).Pages[0]).ShouldContain("Tax");
    }

    [Fact]
    public void The_signature_stands_below_the_text_and_further_banks_and_numbers_are_printed()
    {
        var sender = Content(1).Sender with
        {
            MoreBanks = [new SenderBank("Second Bank", "EE382200221020145685", "HABAEE2X")],
            OtherNumbers = ["City: C-9"],
        };
        var paper = Compose(Content(2) with { HasSignature = true, Sender = sender });
        var place = paper.Pages[^1].Marks.OfType<PictureMark>().Single(p => p.Picture == PaperPicture.Signature);
        place.Y.ShouldBeGreaterThan(
            paper
                .Pages[^1]
                .Marks.OfType<TextMark>()
                .Where(t => t.Text.StartsWith("To pay", StringComparison.Ordinal))
                .Max(t => t.Y)
        );
        (place.Y + place.Height).ShouldBeLessThan(Layout.BuiltIn.FootTop);
        TextOf(paper.Pages[0]).ShouldContain("Second Bank · IBAN EE38 2200 2210 2014 5685 · BIC HABAEE2X");
        TextOf(paper.Pages[0]).ShouldContain("City: C-9");
        SvgPainter
            .Paint(paper, p => p == PaperPicture.Signature ? "/signature.png" : null)
            .Single()
            .ShouldContain("href=\"/signature.png\"");
    }

    [Fact]
    public void A_paper_without_prices_shows_none()
    {
        var text = TextOf(Compose(Content(2) with { ShowsPrices = false }).Pages[0]);
        text.ShouldNotContain("64.00");
        text.ShouldNotContain("To pay");
        text.ShouldContain("Quantity");
    }
}
