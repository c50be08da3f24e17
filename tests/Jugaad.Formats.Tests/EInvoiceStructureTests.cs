using System.Xml;
using System.Xml.Schema;
using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Formats.EInvoices;
using Jugaad.Tests;

namespace Jugaad.Formats.Tests;

/// <summary>
/// The cross industry invoice by a schema that others wrote: the terms of EN 16931 alone, each in its place, as often as it
/// may be. The folder schemas says whose it is.
/// </summary>
public sealed class EInvoiceStructureTests
{
    private static readonly XmlSchemaSet Schema = Read();

    private static XmlSchemaSet Read()
    {
        var set = new XmlSchemaSet { XmlResolver = new XmlUrlResolver() };
        set.Add(
            null,
            Path.Combine(SourceTree.Root, "tests", "Jugaad.Formats.Tests", "schemas", "Factur-X_1.07.3_EN16931.xsd")
        );
        set.Compile();
        return set;
    }

    private static List<string> Wrong(EInvoice invoice) => Wrong(EInvoiceFiles.Write(invoice, EInvoiceSyntax.Cii));

    private static List<string> Wrong(byte[] file)
    {
        var found = new List<string>();
        var settings = new XmlReaderSettings { ValidationType = ValidationType.Schema, Schemas = Schema };
        settings.ValidationEventHandler += (_, e) => found.Add(e.Message);
        using var reader = XmlReader.Create(new MemoryStream(file), settings);
        while (reader.Read()) { }
        return found;
    }

    [Fact]
    public void Each_way_of_being_taxed_keeps_the_schema()
    {
        foreach (var category in new[] { "S", "Z", "E", "AE", "K", "G", "O" })
        foreach (var adjusted in new[] { true, false })
        {
            Wrong(EInvoiceSamples.Of(category, adjusted)).ShouldBeEmpty(category);
            Wrong(EInvoiceSamples.Of(category, adjusted) with { TypeCode = "381" }).ShouldBeEmpty(category);
        }
    }

    [Fact]
    public void Any_document_keeps_the_schema_and_so_do_many_told_together()
    {
        var random = new Random(5);
        var sources = new EInvoiceSources(EInvoiceSamples.Eur, _ => null, new DateOnly(2025, 9, 1));
        var made = 0;
        for (var n = 0; n < 2_000; n++)
        {
            try
            {
                var document = EInvoiceSamples.Random(random);
                Wrong(EInvoiceMaker.Of(document, sources)).ShouldBeEmpty($"document {n}");
                made++;
            }
            catch (RefusalException)
            {
                // The standard has no words for it.
            }
        }

        made.ShouldBeGreaterThan(300);
        Wrong(SummaryTests.Told(SummaryCut.Of([EInvoiceSamples.Sale(5)], SummaryPeriod.Day)[0])).ShouldBeEmpty();
    }

    [Fact]
    public void The_schema_finds_what_is_out_of_place()
    {
        var file = System.Text.Encoding.UTF8.GetString(
            EInvoiceFiles.Write(EInvoiceSamples.Of("S"), EInvoiceSyntax.Cii)
        );
        foreach (
            var (there, instead) in new[]
            {
                ("TypeCode>", "KindCode>"),
                ("<ram:IssueDateTime>", "<ram:IssueDateTime/><ram:IssueDateTime>"),
            }
        )
            Wrong(System.Text.Encoding.UTF8.GetBytes(file.Replace(there, instead, StringComparison.Ordinal)))
                .ShouldNotBeEmpty(there);
    }

    [Fact]
    public void Of_any_document_each_element_stands_where_the_syntax_has_it()
    {
        var random = new Random(17);
        var sources = new EInvoiceSources(EInvoiceSamples.Eur, _ => null, new DateOnly(2025, 9, 1));
        IEnumerable<EInvoice> All()
        {
            foreach (var category in new[] { "S", "K", "O" })
            {
                yield return EInvoiceSamples.Of(category);
                yield return EInvoiceSamples.Of(category) with
                {
                    TypeCode = "381",
                };
            }

            for (var n = 0; n < 300; n++)
            {
                EInvoice made;
                try
                {
                    made = EInvoiceMaker.Of(EInvoiceSamples.Random(random), sources);
                }
                catch (RefusalException)
                {
                    continue;
                }

                yield return made;
            }
        }

        foreach (var invoice in All())
        foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
            EInvoiceStructure.Of(EInvoiceFiles.Read(EInvoiceFiles.Write(invoice, syntax))).ShouldBeEmpty();
    }

    /// <summary>In each syntax, any two neighbours that are exchanged are found, and so is one that stands twice.</summary>
    [Theory]
    [InlineData(EInvoiceSyntax.Ubl, "381")]
    [InlineData(EInvoiceSyntax.Ubl, "380")]
    [InlineData(EInvoiceSyntax.Cii, "380")]
    public void What_is_exchanged_or_doubled_is_found(EInvoiceSyntax syntax, string type)
    {
        var read = EInvoiceFiles.Read(EInvoiceFiles.Write(EInvoiceSamples.Of("S") with { TypeCode = type }, syntax));
        var (exchanged, missed) = (0, new List<string>());
        foreach (var parent in read.Root.DescendantsAndSelf().ToList())
        {
            var children = parent.Elements().ToList();
            for (var i = 1; i < children.Count; i++)
            {
                if (children[i].Name == children[i - 1].Name)
                    continue;
                var (first, second) = (children[i - 1], children[i]);
                first.Remove();
                second.AddAfterSelf(first);
                exchanged++;
                if (EInvoiceStructure.Of(read).Count == 0)
                    missed.Add($"{parent.Name.LocalName}: {first.Name.LocalName}, {second.Name.LocalName}");
                first.Remove();
                second.AddBeforeSelf(first);
            }
        }

        EInvoiceStructure.Of(read).ShouldBeEmpty("all is back in its place");
        exchanged.ShouldBeGreaterThan(80);
        // Small groups of one or two that the lists leave out.
        missed.Count.ShouldBeLessThan(exchanged / 6, string.Join('\n', missed));
        var number = read.Root.Descendants().First(e => e.Name.LocalName == "ID" && e.Value == "INV-7");
        number.AddAfterSelf(new System.Xml.Linq.XElement(number));
        EInvoiceStructure.Of(read).ShouldContain(b => b.Problem.Contains("more than once"));
    }
}
