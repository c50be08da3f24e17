using System.Net;
using System.Text;
using Jugaad.Core.EInvoicing;
using Jugaad.Formats.EInvoices;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>E-invoices on the page of a document, and those of anybody that are read.</summary>
public sealed class EInvoicesOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _customer;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _customer = await _site.CustomerAsync();
        await using var db = _site.File.Open();
        await db.Database.ExecuteSqlRawAsync(
            """
            UPDATE Businesses SET Address_Street = 'Kai 7', Address_City = 'Nasva', Address_Country = 'EE', TaxNumber = 'EE101188342';
            UPDATE Customers SET Address_Street = 'Slip 2', Address_City = 'Nasva', Address_Country = 'EE';
            """
        );
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    [Fact]
    public async Task A_good_one_is_shown_and_leaves_in_both_syntaxes_and_is_read_again()
    {
        var invoice = await _site.InvoiceAsync(_customer);
        var (_, page) = await _site.GetAsync($"/papers/{invoice}/einvoice");
        page.QuerySelector("#keeps").ShouldNotBeNull(page.QuerySelector("#breaches")?.TextContent);
        page.QuerySelector("pre.xml")!.TextContent.ShouldContain("InvoiceTypeCode>380<");
        foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
        {
            var answer = await _site.RawAsync(
                $"/papers/{invoice}/einvoice?handler=File&as={syntax.ToString().ToLowerInvariant()}"
            );
            answer.StatusCode.ShouldBe(HttpStatusCode.OK);
            answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/xml");
            var file = await answer.Content.ReadAsByteArrayAsync();
            var read = EInvoiceFiles.Read(file);
            read.Syntax.ShouldBe(syntax);
            (read.Invoice.Totals.WithoutTax, read.Invoice.Totals.Payable).ShouldBe((100m, 124m));
            EInvoiceCheck.Of(read.Invoice).ShouldBeEmpty();
            var shown = await Site.ReadAsync(await _site.UploadAsync("/papers/einvoice", [], "file", file));
            shown.QuerySelector("#read")!.TextContent.ShouldContain("It keeps every rule of the standard.");
        }

        (await _site.GetAsync($"/papers/{invoice}"))
            .Page.QuerySelector($"a[href='/papers/{invoice}/einvoice']")
            .ShouldNotBeNull();
    }

    [Fact]
    public async Task One_that_lacks_something_says_what_and_does_not_leave()
    {
        await using var db = _site.File.Open();
        await db.Database.ExecuteSqlRawAsync("UPDATE Customers SET Address_Country = ''");
        var invoice = await _site.InvoiceAsync(_customer);
        var (_, page) = await _site.GetAsync($"/papers/{invoice}/einvoice");
        page.QuerySelector("#breaches")!.TextContent.ShouldContain("BR-11");
        (await _site.RawAsync($"/papers/{invoice}/einvoice?handler=File")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var number = await db.Documents.Where(d => d.Id == invoice).Select(d => d.Number).SingleAsync();
        var (code, output, error) = await LauncherTests.RunAsync(
            "",
            "einvoice",
            "--data",
            _site.File.Folder,
            "--number",
            number!,
            "--syntax",
            "cii"
        );
        (code, output).ShouldBe((1, ""));
        error.ShouldContain($"{number}: BR-11 at BT-55: is missing");
    }

    [Fact]
    public async Task What_cannot_be_told_and_what_is_no_e_invoice_says_so()
    {
        var draft = await _site.InvoiceAsync(_customer, issue: false);
        (await _site.GetAsync($"/papers/{draft}/einvoice")).Page.Body!.TextContent.ShouldContain("Issue it first");
        (await _site.RawAsync("/papers/999/einvoice")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var none = await _site.UploadAsync("/papers/einvoice", [], "file", "<x/>"u8.ToArray());
        none.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(none)).Body!.TextContent.ShouldContain("It begins with “x”");
    }

    [Fact]
    public async Task The_launcher_writes_one_and_checks_those_of_anybody()
    {
        var invoice = await _site.InvoiceAsync(_customer);
        await using var db = _site.File.Open();
        var number = (await db.Documents.Where(d => d.Id == invoice).Select(d => d.Number).SingleAsync())!;
        var good = Path.Combine(_site.File.Folder, "good.xml");
        string[] make = ["einvoice", "--data", _site.File.Folder, "--number", number];
        (await LauncherTests.RunAsync("", [.. make, "--syntax", "ubl", "--to", good])).Code.ShouldBe(0);
        var (_, output, _) = await LauncherTests.RunAsync("", [.. make, "--syntax", "cii"]);
        EInvoiceFiles.Read(Encoding.UTF8.GetBytes(output.TrimStart('\uFEFF'))).Invoice.Number.ShouldBe(number);
        var bad = Path.Combine(_site.File.Folder, "bad.xml");
        await File.WriteAllTextAsync(
            bad,
            (await File.ReadAllTextAsync(good)).Replace(">124.00<", ">125.00<", StringComparison.Ordinal)
        );
        (await LauncherTests.RunAsync("", "einvoice", "check", good)).Code.ShouldBe(0);
        var (code, told, _) = await LauncherTests.RunAsync("", "einvoice", "check", good, bad, bad + ".none");
        code.ShouldBe(1);
        told.ShouldContain("good.xml: keeps every rule");
        told.ShouldContain("bad.xml: BR-CO-15 at BT-112: is 125.00, and should be 124.00");
        told.ShouldContain("bad.xml.none: STRUCTURE");
        var hybrid = Path.Combine(_site.File.Folder, "hybrid.pdf");
        (await LauncherTests.RunAsync("", [.. make, "--hybrid", "--to", hybrid])).Code.ShouldBe(0);
        EInvoiceFiles.Read(await File.ReadAllBytesAsync(hybrid)).Syntax.ShouldBe(EInvoiceSyntax.Cii);
        (await LauncherTests.RunAsync("", "einvoice", "check", hybrid)).Code.ShouldBe(0);
        (await LauncherTests.RunAsync("", [.. make, "--hybrid", "--to", good])).Code.ShouldBe(2);
        var loaded = await _site.RawAsync($"/papers/{invoice}/einvoice?handler=File&as=pdf");
        loaded.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        EInvoiceFiles.Read(await loaded.Content.ReadAsByteArrayAsync()).Invoice.Number.ShouldBe(number);
        (await LauncherTests.RunAsync("", [.. make, "--syntax", "edifact"])).Code.ShouldBe(2);
        (await LauncherTests.RunAsync("", "einvoice", "--data", _site.File.Folder, "--number", "NONE-1")).Code.ShouldBe(
            2
        );
        (await LauncherTests.RunAsync("", "einvoice")).Code.ShouldBe(2);
    }
}
