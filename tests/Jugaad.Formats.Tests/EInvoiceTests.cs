using System.Text;
using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Formats.EInvoices;

namespace Jugaad.Formats.Tests;

/// <summary>E-invoices of EN 16931: written and read in both syntaxes, made of documents, and what is no e-invoice.</summary>
public sealed class EInvoiceTests
{
    private static readonly EInvoiceSources Sources = new(EInvoiceSamples.Eur, _ => null, new DateOnly(2025, 9, 1));

    private static string Plain(EInvoice invoice) =>
        System.Text.Json.JsonSerializer.Serialize(invoice with { Lines = [.. invoice.Lines] });

    private static string Numbers(EInvoice invoice) =>
        // A figure is the same with and without the zeros at its end.
        System.Text.RegularExpressions.Regex.Replace(
            Plain(invoice),
            @"(\.\d*?)0+(?=[,}\]])",
            m => m.Groups[1].Value.TrimEnd('.')
        );

    public static TheoryData<string, EInvoiceSyntax> Samples
    {
        get
        {
            var data = new TheoryData<string, EInvoiceSyntax>();
            foreach (var category in new[] { "S", "Z", "E", "AE", "K", "G", "O" })
            foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
                data.Add(category, syntax);
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Samples))]
    public void What_is_written_is_read_back_field_by_field(string category, EInvoiceSyntax syntax)
    {
        var invoice = EInvoiceSamples.Of(category);
        EInvoiceCheck.Of(invoice).ShouldBeEmpty();
        var read = EInvoiceFiles.Read(EInvoiceFiles.Write(invoice, syntax));
        read.Syntax.ShouldBe(syntax);
        Numbers(read.Invoice).ShouldBe(Numbers(invoice));
    }

    [Theory]
    [InlineData(EInvoiceSyntax.Ubl)]
    [InlineData(EInvoiceSyntax.Cii)]
    public void A_credit_note_is_read_back_too(EInvoiceSyntax syntax)
    {
        var note = EInvoiceSamples.Of("S") with { TypeCode = "381" };
        var file = EInvoiceFiles.Write(note, syntax);
        Numbers(EInvoiceFiles.Read(file).Invoice).ShouldBe(Numbers(note));
        if (syntax == EInvoiceSyntax.Ubl)
            Encoding.UTF8.GetString(file).ShouldContain("<CreditNote ");
    }

    [Fact]
    public void Tax_in_another_currency_stands_beside()
    {
        var invoice = EInvoiceSamples.Of("S") with { TaxCurrency = "SEK" };
        invoice = invoice with { Totals = invoice.Totals with { TaxInTaxCurrency = 254.10m } };
        foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
            EInvoiceFiles.Read(EInvoiceFiles.Write(invoice, syntax)).Invoice.Totals.TaxInTaxCurrency.ShouldBe(254.10m);
    }

    [Fact]
    public void Of_any_document_it_keeps_all_rules_reads_back_and_agrees_between_the_syntaxes()
    {
        var random = new Random(7);
        var (made, types) = (0, new HashSet<string>());
        for (var n = 0; n < 10_000; n++)
        {
            Document document;
            EInvoice invoice;
            try
            {
                document = EInvoiceSamples.Random(random);
                invoice = EInvoiceMaker.Of(document, Sources);
            }
            catch (RefusalException)
            {
                continue;
            }

            made++;
            types.Add(invoice.TypeCode);
            var context = $"document {n}: {Plain(invoice)}";
            EInvoiceCheck.Of(invoice).ShouldBeEmpty(context);
            var ubl = EInvoiceFiles.Read(EInvoiceFiles.Write(invoice, EInvoiceSyntax.Ubl)).Invoice;
            var cii = EInvoiceFiles.Read(EInvoiceFiles.Write(invoice, EInvoiceSyntax.Cii)).Invoice;
            Numbers(ubl).ShouldBe(Numbers(invoice), context);
            Numbers(cii).ShouldBe(Numbers(invoice), context);
            // What is to be paid is what the document asks for, to the cent.
            invoice.Totals.Payable.ShouldBe(new Core.Amounts.Money(document.Payable, document.Currency).Units);
            foreach (var line in invoice.Lines)
            {
                var off = line.Allowances.Sum(a => a.Amount) - line.Charges.Sum(a => a.Amount);
                var decimals = invoice.Currency == "JPY" ? 0 : 2;
                Math.Round(
                        (line.Quantity * line.Price / (line.PriceBase ?? 1) ?? 0) - 0m,
                        decimals,
                        MidpointRounding.AwayFromZero
                    )
                    .ShouldBe((line.Net + off) ?? 0, context);
            }
        }

        made.ShouldBeGreaterThan(1_800);
        types.ShouldBe(["380", "381", "383"], ignoreOrder: true);
    }

    [Theory]
    [InlineData("", "no XML")]
    [InlineData("not xml at all", "no XML")]
    [InlineData("<Invoice xmlns='urn:other'/>", "begins with “Invoice”")]
    [InlineData("<!DOCTYPE x [<!ENTITY a 'b'>]><x>&a;</x>", "without a document type")]
    [InlineData("<!DOCTYPE x SYSTEM 'file:///etc/passwd'><x/>", "without a document type")]
    public void What_is_no_e_invoice_is_refused_with_why(string file, string why)
    {
        var refused = Should.Throw<RefusalException>(() => EInvoiceFiles.Read(Encoding.UTF8.GetBytes(file)));
        why.Split('|').ShouldContain(w => refused.Message.Contains(w, StringComparison.Ordinal), refused.Message);
    }

    [Fact]
    public void What_nests_too_deep_or_is_wrongly_encoded_is_refused()
    {
        var deep = string.Concat(Enumerable.Repeat("<a>", 5_000)) + string.Concat(Enumerable.Repeat("</a>", 5_000));
        Should
            .Throw<RefusalException>(() => EInvoiceFiles.Read(Encoding.UTF8.GetBytes(deep)))
            .Message.ShouldContain("too deep");
        var wrong = Encoding.Latin1.GetBytes("<?xml version='1.0' encoding='utf-8'?><a>\u00fc\u00fc</a>");
        Should.Throw<RefusalException>(() => EInvoiceFiles.Read(wrong));
        var huge = new byte[EInvoiceFiles.MostBytes + 1];
        Should.Throw<RefusalException>(() => EInvoiceFiles.Read(huge)).Message.ShouldContain("32 MB");
    }

    [Theory]
    [InlineData("95.00", "ninety")]
    [InlineData("2025-09-17", "17.9.2025")]
    [InlineData("AQID", "%%%")]
    public void A_figure_a_day_or_an_attachment_that_cannot_be_read_is_said_with_its_place(string right, string wrong)
    {
        var file = Encoding.UTF8.GetString(EInvoiceFiles.Write(EInvoiceSamples.Of("S"), EInvoiceSyntax.Ubl));
        file.ShouldContain($">{right}<");
        var at = Encoding.UTF8.GetBytes(file.Replace($">{right}<", $">{wrong}<", StringComparison.Ordinal));
        var refused = Should.Throw<RefusalException>(() => EInvoiceFiles.Read(at));
        refused.Refusals[0].Field.ShouldBe("file");
        refused.Message.ShouldMatch("^[A-Za-z/]+: ");
    }
}
