using System.Text;
using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Formats.EInvoices;
using Jugaad.Formats.Papers;
using UglyToad.PdfPig;

namespace Jugaad.Formats.Tests;

/// <summary>A paper with the e-invoice inside, written by an update and read by a reader of others.</summary>
public sealed class HybridPdfTests
{
    private static readonly DateOnly Day = new(2025, 9, 17);
    private static readonly byte[] Xml = EInvoiceFiles.Write(EInvoiceSamples.Of("S"), EInvoiceSyntax.Cii);

    private static byte[] Paper() => PdfFormTests.Pdf("en");

    [Fact]
    public void The_paper_stays_as_it_was_and_the_file_is_inside()
    {
        var paper = Paper();
        var hybrid = HybridPdf.Attach(paper, Xml, Day);
        hybrid.AsSpan(0, paper.Length).SequenceEqual(paper).ShouldBeTrue();
        HybridPdf.Extract(hybrid).ShouldBe(Xml);
        EInvoiceFiles.Read(hybrid).Invoice.Number.ShouldBe("INV-7");
        using var read = PdfDocument.Open(hybrid);
        using var before = PdfDocument.Open(paper);
        read.NumberOfPages.ShouldBe(before.NumberOfPages);
        read.GetPage(1).Text.ShouldBe(before.GetPage(1).Text);
        read.Advanced.TryGetEmbeddedFiles(out var files).ShouldBeTrue();
        files.Single().Name.ShouldBe(HybridPdf.FileName);
        HybridPdf.Attach(paper, Xml, Day).ShouldBe(hybrid, "the same paper gives the same file");
    }

    [Fact]
    public void Its_metadata_says_what_is_attached_and_that_it_is_an_archive_of_the_third_kind()
    {
        var hybrid = HybridPdf.Attach(Paper(), Xml, Day);
        using var read = PdfDocument.Open(hybrid);
        read.TryGetXmpMetadata(out var metadata).ShouldBeTrue();
        var xmp = metadata!.GetXDocument().ToString();
        xmp.ShouldContain("<pdfaid:part>3</pdfaid:part>");
        xmp.ShouldContain("<fx:ConformanceLevel>EN 16931</fx:ConformanceLevel>");
        xmp.ShouldContain($"<fx:DocumentFileName>{HybridPdf.FileName}</fx:DocumentFileName>");
        var text = Encoding.Latin1.GetString(hybrid);
        text.ShouldContain("/AFRelationship /Alternative");
        text.ShouldContain("/AF [");
        text.ShouldContain("/Lang (");
    }

    [Fact]
    public void A_pdf_without_one_and_what_is_no_pdf_say_so()
    {
        Should.Throw<RefusalException>(() => EInvoiceFiles.Read(Paper())).Message.ShouldContain("no e-invoice inside");
        Should
            .Throw<RefusalException>(() => EInvoiceFiles.Read("%PDF-1.7 nonsense"u8.ToArray()))
            .Message.ShouldContain("PDF");
        Should.Throw<InvalidOperationException>(() => HybridPdf.Attach([1, 2, 3], Xml, Day));
    }

    [Fact]
    public void A_small_file_that_would_unpack_to_a_huge_one_is_refused_without_doing_so()
    {
        using var packed = new MemoryStream();
        using (
            var zip = new System.IO.Compression.ZLibStream(packed, System.IO.Compression.CompressionLevel.SmallestSize)
        )
        {
            for (var i = 0; i < 300; i++)
                zip.Write(new byte[1_000_000]);
        }

        // The stream of our own attachment, packed, in the place of the plain one.
        var hybrid = HybridPdf.Attach(Paper(), packed.ToArray(), Day);
        var told = Encoding.Latin1.GetString(hybrid);
        var filtered = told.Replace("/Subtype /text#2Fxml\n", "/Filter /FlateDecode\n", StringComparison.Ordinal);
        var bomb = Encoding.Latin1.GetBytes(filtered);
        bomb.Length.ShouldBeLessThan(1_000_000);
        var before = GC.GetAllocatedBytesForCurrentThread();
        Should.Throw<RefusalException>(() => EInvoiceFiles.Read(bomb));
        (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBeLessThan(100_000_000);
    }
}
