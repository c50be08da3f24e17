using System.Text;
using System.Xml;
using System.Xml.Linq;
using Jugaad.Core;
using Jugaad.Core.EInvoicing;

namespace Jugaad.Formats.EInvoices;

/// <summary>What a file of anybody was read as.</summary>
/// <param name="Root">The file itself.</param>
public sealed record ReadEInvoice(EInvoiceSyntax Syntax, EInvoice Invoice, XElement Root);

/// <summary>Writes e-invoices as files and reads those of anybody.</summary>
public static class EInvoiceFiles
{
    /// <summary>No more is read of a file, embedded documents and all.</summary>
    public const int MostBytes = 32 * 1024 * 1024;

    private const int MostDeep = 60;
    private const int MostElements = 1_000_000;

    /// <returns>UTF-8.</returns>
    public static byte[] Write(EInvoice invoice, EInvoiceSyntax syntax)
    {
        var written = syntax == EInvoiceSyntax.Ubl ? new UblWriter(invoice).Write() : new CiiWriter(invoice).Write();
        using var bytes = new MemoryStream();
        using (
            var xml = XmlWriter.Create(
                bytes,
                new XmlWriterSettings
                {
                    Encoding = new UTF8Encoding(false),
                    Indent = true,
                    NewLineChars = "\n",
                }
            )
        )
            written.Save(xml);
        return bytes.ToArray();
    }

    /// <param name="file">XML, or a PDF with it inside.</param>
    /// <exception cref="RefusalException">Field <c>file</c>: when it is too large, no XML, hostile, or no invoice of either
    /// syntax, or when a figure or a day in it cannot be read.</exception>
    public static ReadEInvoice Read(byte[] file)
    {
        if (file.Length > MostBytes)
            throw Refused("The file is larger than an e-invoice may be, 32 MB.");
        if (file.AsSpan().StartsWith("%PDF"u8))
            file = HybridPdf.Extract(file);
        var root = Load(file);
        try
        {
            if (root.Name == UblNames.Invoice + "Invoice" || root.Name == UblNames.CreditNote + "CreditNote")
                return new ReadEInvoice(EInvoiceSyntax.Ubl, new UblReader(root).Read(), root);
            if (root.Name == CiiNames.Rsm + "CrossIndustryInvoice")
                return new ReadEInvoice(EInvoiceSyntax.Cii, new CiiReader(root).Read(), root);
        }
        catch (UnreadableException unreadable)
        {
            throw Refused(unreadable.Message);
        }

        throw Refused(
            $"It begins with “{XmlParts.Cut(root.Name.LocalName)}”, and an e-invoice of the European standard is a UBL Invoice or CreditNote, or a CrossIndustryInvoice."
        );
    }

    /// <summary>What is wrong with a file: where its elements stand, then by every rule of the standard.</summary>
    public static IReadOnlyList<Breach> Check(ReadEInvoice read) =>
        [.. EInvoiceStructure.Of(read), .. EInvoiceCheck.Of(read.Invoice)];

    /// <summary>The bytes that an element has in base 64; null where there is no such element.</summary>
    /// <exception cref="UnreadableException">When it is no base 64.</exception>
    internal static byte[]? Bytes(XElement? at)
    {
        if (at is null)
            return null;
        try
        {
            return Convert.FromBase64String(at.Value);
        }
        catch (FormatException)
        {
            throw new UnreadableException(XmlParts.PathOf(at), "the embedded document is no base 64");
        }
    }

    private static XElement Load(byte[] file)
    {
        try
        {
            var settings = new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                IgnoreComments = true,
                IgnoreProcessingInstructions = true,
                MaxCharactersInDocument = MostBytes,
            };
            // Looked through first, so that nothing deep or endless is built in memory.
            using (var look = XmlReader.Create(new MemoryStream(file), settings))
            {
                var elements = 0;
                while (look.Read())
                    if (look.NodeType == XmlNodeType.Element && (look.Depth > MostDeep || ++elements > MostElements))
                        throw Refused("It nests too deep, or has too many elements, for an e-invoice.");
            }

            using var reader = XmlReader.Create(new MemoryStream(file), settings);
            return XElement.Load(reader);
        }
        catch (Exception broken) when (broken is XmlException or ArgumentException or DecoderFallbackException)
        {
            throw Refused(
                $"The file is no XML{(broken is XmlException { LineNumber: > 0 } at ? $", it breaks in line {at.LineNumber}" : "")}. An e-invoice is plain XML without a document type."
            );
        }
    }

    private static RefusalException Refused(Phrase message) => new("file", message);
}
