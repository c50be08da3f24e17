using System.Xml.Linq;
using Jugaad.Core.Amounts;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Layouts;
using Jugaad.Formats.EInvoices;
using Jugaad.Formats.Papers;

namespace Jugaad.Formats.Tests;

/// <summary>An e-invoice of anybody laid out as a paper, and its file beside it.</summary>
public sealed class EInvoicePaperTests
{
    private static readonly DisplayFormat Format = new('.', "yyyy-MM-dd");
    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";

    private static List<XElement> Painted(EInvoice invoice) =>
        [
            .. SvgPainter
                .Paint(
                    Composer.Compose(
                        ShippedLayouts.Plain,
                        EInvoicePaper.Of(invoice, Format, PaperWords.English),
                        PaperFonts.Shared
                    ),
                    _ => null,
                    anchors: true
                )
                .Select(XElement.Parse),
        ];

    private static string TextOf(IEnumerable<XElement> pages) =>
        string.Join('\n', pages.Descendants(Svg + "text").Select(t => t.Value));

    private static List<string> AnchorsOf(IEnumerable<XElement> pages) =>
        [.. pages.Descendants(Svg + "g").Select(g => (string?)g.Attribute("id")).OfType<string>()];

    [Theory]
    [InlineData("S")]
    [InlineData("AE")]
    [InlineData("K")]
    [InlineData("O")]
    public void Each_element_that_says_something_leads_to_where_the_paper_says_it(string category)
    {
        foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
        {
            var read = EInvoiceFiles.Read(EInvoiceFiles.Write(EInvoiceSamples.Of(category), syntax));
            var anchors = AnchorsOf(Painted(read.Invoice));
            anchors.ShouldBeUnique();
            var lines = EInvoicePlaces.Of(read);
            lines.Where(l => l.Anchor.Length > 0).Select(l => l.Anchor).Distinct().ShouldBeSubsetOf(anchors);
            // What says by which rules it is written stands on no paper.
            lines
                .Where(l => l.Anchor.Length == 0 && l.Text.Contains("</", StringComparison.Ordinal))
                .Where(l => !l.Text.StartsWith("</", StringComparison.Ordinal))
                .Select(l => l.Text)
                .ShouldAllBe(t => t.Contains("urn:") || t.Contains(">P1<"));
        }
    }

    [Fact]
    public void Each_line_is_led_to_by_itself_and_the_paper_says_its_figures()
    {
        var random = new Random(21);
        var sources = new EInvoiceSources(EInvoiceSamples.Eur, _ => null, new DateOnly(2025, 9, 1));
        var made = 0;
        while (made < 60)
        {
            EInvoice invoice;
            try
            {
                invoice = EInvoiceMaker.Of(EInvoiceSamples.Random(random), sources);
            }
            catch (Core.RefusalException)
            {
                continue;
            }

            made++;
            var pages = Painted(invoice);
            AnchorsOf(pages)
                .Count(a => a.StartsWith("on-lines-", StringComparison.Ordinal))
                .ShouldBe(invoice.Lines.Count);
            var currency = Currency.Of(invoice.Currency);
            var text = TextOf(pages);
            foreach (
                var figure in invoice
                    .Lines.Select(l => l.Net)
                    .Concat(invoice.Taxes.Select(t => t.Tax))
                    .Append(invoice.Totals.Payable)
            )
                text.ShouldContain(Format.Amount((long)(figure!.Value * currency.MinorPerUnit), currency));
            text.ShouldContain(invoice.Number);
        }
    }

    [Fact]
    public void What_does_not_add_up_or_is_missing_is_shown_as_it_is_written()
    {
        var invoice = EInvoiceSamples.Of("S");
        var wrong = invoice with
        {
            Currency = "QQQ",
            Issued = null,
            Seller = new Party { Name = "Nobody" },
            Totals = invoice.Totals with { Payable = 12.3456m, Tax = null },
        };
        TextOf(Painted(wrong)).ShouldContain("12.3456");
        Painted(new EInvoice()).Count.ShouldBe(1);
    }

    [Fact]
    public void A_file_of_many_lines_is_cut_and_says_so()
    {
        var invoice = EInvoiceSamples.Of("S");
        var many = invoice with { Lines = [.. Enumerable.Repeat(invoice.Lines[0], EInvoicePaper.MostLines + 7)] };
        AnchorsOf(Painted(many))
            .Count(a => a.StartsWith("on-lines-", StringComparison.Ordinal))
            .ShouldBe(EInvoicePaper.MostLines);
        TextOf(Painted(many)).ShouldContain("… 7");
        EInvoicePlaces
            .Of(EInvoiceFiles.Read(EInvoiceFiles.Write(many, EInvoiceSyntax.Ubl)))
            .Count.ShouldBeLessThanOrEqualTo(EInvoicePlaces.MostLines + 60);
    }
}
