using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Jugaad.Core;
using Jugaad.Formats.Papers;
using UglyToad.PdfPig;

namespace Jugaad.Formats.EInvoices;

/// <summary>
/// A paper for people with the cross industry invoice for machines inside: PDF/A-3 (ISO 19005-3), the file attached as an
/// alternative of the paper and described in the metadata, as the French and German standard for hybrid invoices asks.
/// </summary>
public static partial class HybridPdf
{
    /// <summary>The name that the standard gives the attachment.</summary>
    public const string FileName = "factur-x.xml";

    private const string Schema = "urn:factur-x:pdfa:CrossIndustryDocument:invoice:1p0#";

    /// <param name="pdf">As our painter made it, PDF/A-2b.</param>
    /// <param name="xml">A cross industry invoice that keeps the rules of the core standard.</param>
    /// <param name="date">Of the document, so that the same paper gives the same file.</param>
    /// <exception cref="InvalidOperationException">When it is no PDF of our painter.</exception>
    public static byte[] Attach(byte[] pdf, byte[] xml, DateOnly date)
    {
        var update = PdfUpdate.Of(pdf) ?? throw new InvalidOperationException("The PDF is none of our painter.");
        var metadata = MetadataForm().Match(update.Catalog) is { Success: true } found
            ? int.Parse(found.Groups[1].ValueSpan, CultureInfo.InvariantCulture)
            : throw new InvalidOperationException("The PDF has no metadata.");
        var stamp = date.ToString("'D:'yyyyMMdd'000000Z'", CultureInfo.InvariantCulture);
        var content = update.Add(
            PdfUpdate.Stream(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"/Type /EmbeddedFile\n/Subtype /text#2Fxml\n/Params <</Size {xml.Length}\n/ModDate ({stamp})>>"
                ),
                xml
            )
        );
        var file = update.Add(
            Encoding.Latin1.GetBytes(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<</Type /Filespec\n/F ({FileName})\n/UF ({FileName})\n/Desc (The invoice for machines)\n/AFRelationship /Alternative\n/EF <</F {content} 0 R\n/UF {content} 0 R>>>>"
                )
            )
        );
        update.Change(
            update.Root,
            Encoding.Latin1.GetBytes(
                update.Catalog.Replace(
                    "<</Type /Catalog",
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"<</Type /Catalog\n/AF [{file} 0 R]\n/Names <</EmbeddedFiles <</Names [({FileName}) {file} 0 R]>>>>"
                    ),
                    StringComparison.Ordinal
                )
            )
        );
        update.Change(metadata, Described(update.ObjectOf(metadata)!));
        return update.Write();
    }

    /// <summary>The cross industry invoice within a hybrid PDF of anybody.</summary>
    /// <exception cref="RefusalException">Field <c>file</c>: when it cannot be read, or has no invoice inside.</exception>
    public static byte[] Extract(byte[] pdf)
    {
        try
        {
            using var document = PdfDocument.Open(
                pdf,
                new ParsingOptions { FilterProvider = new BoundedFilters(EInvoiceFiles.MostBytes) }
            );
            if (document.Advanced.TryGetEmbeddedFiles(out var files))
            {
                var xml = files.Where(f => f.Name.EndsWith(".xml", StringComparison.OrdinalIgnoreCase)).ToList();
                var invoice = xml.Find(f => Names.Contains(f.Name.ToLowerInvariant())) ?? xml.FirstOrDefault();
                if (invoice is not null && invoice.Memory.Length <= EInvoiceFiles.MostBytes)
                    return invoice.Memory.ToArray();
            }
        }
        catch (Exception broken) when (broken is not RefusalException and not OutOfMemoryException)
        {
            throw new RefusalException("file", $"The PDF cannot be read. Ask for it again, or for its XML.");
        }

        throw new RefusalException("file", "The PDF has no e-invoice inside. Ask for one that has, or for its XML.");
    }

    private static readonly string[] Names = [FileName, "zugferd-invoice.xml", "xrechnung.xml", "order-x.xml"];

    /// <summary>Its metadata says that it is PDF/A-3, what is attached, and what the words for that mean.</summary>
    private static byte[] Described(byte[] metadata)
    {
        // XMP is UTF-8 within a stream; its length is told anew.
        var from = metadata.AsSpan().IndexOf("<?xpacket"u8);
        var until = metadata.AsSpan().LastIndexOf("\nendstream"u8);
        if (from < 0 || until < from)
            throw new InvalidOperationException("The PDF's metadata is not as our painter writes it.");
        var xmp = Encoding
            .UTF8.GetString(metadata, from, until - from)
            .Replace("<pdfaid:part>2</pdfaid:part>", "<pdfaid:part>3</pdfaid:part>", StringComparison.Ordinal)
            .Replace("</rdf:RDF>", Extension + "</rdf:RDF>", StringComparison.Ordinal);
        return PdfUpdate.Stream("/Type /Metadata\n/Subtype /XML", Encoding.UTF8.GetBytes(xmp));
    }

    private static string Extension { get; } =
        $"""
            <rdf:Description rdf:about="" xmlns:fx="{Schema}">
            <fx:DocumentType>INVOICE</fx:DocumentType>
            <fx:DocumentFileName>{FileName}</fx:DocumentFileName>
            <fx:Version>1.0</fx:Version>
            <fx:ConformanceLevel>EN 16931</fx:ConformanceLevel>
            </rdf:Description>
            <rdf:Description rdf:about="" xmlns:pdfaExtension="http://www.aiim.org/pdfa/ns/extension/" xmlns:pdfaSchema="http://www.aiim.org/pdfa/ns/schema#" xmlns:pdfaProperty="http://www.aiim.org/pdfa/ns/property#">
            <pdfaExtension:schemas><rdf:Bag><rdf:li rdf:parseType="Resource">
            <pdfaSchema:schema>Hybrid invoice</pdfaSchema:schema>
            <pdfaSchema:namespaceURI>{Schema}</pdfaSchema:namespaceURI>
            <pdfaSchema:prefix>fx</pdfaSchema:prefix>
            <pdfaSchema:property><rdf:Seq>
            {Property("DocumentFileName", "name of the embedded XML invoice")}
            {Property("DocumentType", "INVOICE")}
            {Property("Version", "version of the XML schema")}
            {Property("ConformanceLevel", "profile of the XML invoice")}
            </rdf:Seq></pdfaSchema:property></rdf:li></rdf:Bag></pdfaExtension:schemas>
            </rdf:Description>

            """;

    private static string Property(string name, string words) =>
        $"<rdf:li rdf:parseType=\"Resource\"><pdfaProperty:name>{name}</pdfaProperty:name><pdfaProperty:valueType>Text</pdfaProperty:valueType><pdfaProperty:category>external</pdfaProperty:category><pdfaProperty:description>{words}</pdfaProperty:description></rdf:li>";

    [GeneratedRegex(@"/Metadata (\d+) 0 R")]
    private static partial Regex MetadataForm();
}
