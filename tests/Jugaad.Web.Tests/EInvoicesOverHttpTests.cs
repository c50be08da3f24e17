using System.Net;
using System.Text;
using System.Text.Json;
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
        page.QuerySelector("#as-file")!.TextContent.ShouldContain("InvoiceTypeCode>380<");
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
        page.QuerySelector($"#breaches a[href='/customers/{_customer}/edit']").ShouldNotBeNull();
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

    private async Task ReadyAsync(string address)
    {
        await using var db = _site.File.Open();
        await db.Database.ExecuteSqlAsync(
            $"UPDATE Customers SET Electronic_Scheme = '0191', Electronic_Value = {address}, Takes = 'EInvoice'"
        );
        // In the demo the network is played.
        await db.Database.ExecuteSqlAsync($"UPDATE Businesses SET PinnedDay = {DateTime.Now.ToString("yyyy-MM-dd")}");
    }

    private async Task<string> TextAsync(string path) => (await _site.GetAsync(path)).Page.Body!.TextContent;

    /// <summary>Asks until the post has been carried and somebody has answered.</summary>
    private async Task<string> FateAsync(int paper)
    {
        for (var i = 0; i < 200; i++)
        {
            await _site.PostAsync("/post/einvoices", [], "Ask");
            var fate = (await _site.GetAsync($"/papers/{paper}")).Page.QuerySelector("#fate")?.TextContent ?? "";
            if (!fate.Contains("on its way") && !fate.Contains("no answer"))
                return fate;
        }

        return "";
    }

    [Fact]
    public async Task All_that_can_go_leave_with_one_action_and_their_fate_is_told()
    {
        await ReadyAsync("10118834");
        var invoice = await _site.InvoiceAsync(_customer);
        var (_, page) = await _site.GetAsync("/post/einvoices");
        page.QuerySelector("#to-send")!.TextContent.ShouldContain("to Korall Boatyard");
        page.QuerySelector("#send")!.TextContent.ShouldBe("Send the one that can go");
        (await _site.GetAsync($"/papers/{invoice}/send"))
            .Page.QuerySelector("#how")!
            .GetAttribute("data-begins")
            .ShouldBe("network");
        await _site.PostAsync("/post/einvoices", new() { ["paper"] = $"{invoice}" }, "Send");
        (await FateAsync(invoice)).ShouldContain("taken");
        (await TextAsync("/post/einvoices")).ShouldContain("Nothing of these days waits");
        var again = await _site.PostAsync($"/papers/{invoice}/send", new() { ["how"] = "network" });
        again.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(again)).Body!.TextContent.ShouldContain("already");
    }

    [Fact]
    public async Task A_refused_one_is_credited_and_written_anew_from_its_page()
    {
        await ReadyAsync("90006789");
        var invoice = await _site.InvoiceAsync(_customer);
        await _site.PostAsync($"/papers/{invoice}/send", new() { ["how"] = "network" });
        (await FateAsync(invoice)).ShouldContain("BT-13");
        (await TextAsync($"/customers/{_customer}")).ShouldContain("They refused");
        var reason = (await _site.GetAsync($"/papers/{invoice}"))
            .Page.QuerySelector("#fate input[name=reason]")!
            .GetAttribute("value")!;
        var anew = await _site.PostAsync($"/papers/{invoice}", new() { ["reason"] = reason }, "Anew");
        anew.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var copy = anew.Headers.Location!.ToString();
        copy.ShouldStartWith("/sell/edit/");
        (await TextAsync($"/customers/{_customer}")).ShouldNotContain("They refused");
        await using var db = _site.File.Open();
        (await db.Documents.CountAsync(d => d.Kind == Core.Documents.DocumentKind.CreditNote)).ShouldBe(1);
    }

    [Fact]
    public async Task A_draft_is_issued_and_sent_by_a_form_that_may_arrive_twice()
    {
        await ReadyAsync("10118834");
        var draft = await _site.InvoiceAsync(_customer, issue: false);
        await using var db = _site.File.Open();
        var form = new Dictionary<string, string> { ["how"] = "network", ["version"] = $"{await VersionAsync(draft)}" };
        for (var i = 0; i < 2; i++)
            (await _site.PostAsync($"/papers/{draft}/send", form, key: "twice")).StatusCode.ShouldBe(
                HttpStatusCode.Redirect
            );
        (await db.Post.CountAsync()).ShouldBe(1);
        (await FateAsync(draft)).ShouldContain("taken");

        // One that breaks a rule is issued, and says on its page why it stays here.
        await db.Database.ExecuteSqlRawAsync("UPDATE Businesses SET TaxNumber = ''");
        var other = await _site.InvoiceAsync(_customer, issue: false);
        form["version"] = $"{await VersionAsync(other)}";
        var stays = await _site.PostAsync($"/papers/{other}/send", form);
        stays.Headers.Location!.ToString().ShouldBe($"/papers/{other}");
        (await TextAsync($"/papers/{other}")).ShouldContain("cannot go as an e-invoice");
        (await db.Post.CountAsync()).ShouldBe(1);

        async Task<int> VersionAsync(int id) =>
            await db.Documents.Where(d => d.Id == id).Select(d => d.Version).SingleAsync();
    }

    [Fact]
    public async Task Who_cannot_be_reached_gets_a_plain_paper_with_a_warning()
    {
        await ReadyAsync("99999999");
        var invoice = await _site.InvoiceAsync(_customer);
        var (_, page) = await _site.GetAsync($"/papers/{invoice}/send");
        page.QuerySelector("#falls-back")!.TextContent.ShouldContain("no receiver");
        page.QuerySelector("#how")!.GetAttribute("data-begins").ShouldBe("mail");
        (await TextAsync("/post/einvoices")).ShouldContain("no receiver");
    }

    [Fact]
    public async Task Files_that_go_along_are_inside_and_read_out_again()
    {
        var invoice = await _site.InvoiceAsync(_customer);
        await using var db = _site.File.Open();
        foreach (var name in new[] { "drawing.pdf", "notes.txt" })
        {
            var file = new Core.Documents.DocumentFile(invoice, name, Encoding.UTF8.GetBytes("%PDF-1.4 x"), "Owner");
            file.Send(true);
            db.DocumentFiles.Add(file);
        }

        await db.SaveChangesAsync();
        foreach (var syntax in new[] { "ubl", "cii" })
        {
            var answer = await _site.RawAsync($"/papers/{invoice}/einvoice?handler=File&as={syntax}");
            var made = await answer.Content.ReadAsByteArrayAsync();
            var inside = EInvoiceFiles.Read(made).Invoice.Documents.Single();
            (inside.FileName, inside.Kind, Encoding.UTF8.GetString(inside.Content!)).ShouldBe(
                ("drawing.pdf", "application/pdf", "%PDF-1.4 x")
            );
            var shown = await Site.ReadAsync(await _site.UploadAsync("/papers/einvoice", [], "file", made));
            shown
                .QuerySelector("a[download='drawing.pdf']")!
                .GetAttribute("href")!
                .ShouldStartWith("data:application/octet-stream;base64,");
        }
    }

    [Fact]
    public async Task A_customers_own_item_numbers_are_kept_and_found_by()
    {
        await _site.PostAsync(
            "/items/new",
            new()
            {
                ["code"] = "ROPE",
                ["name"] = "Rope",
                ["unit"] = "MTR",
                ["price"] = "10",
                ["taxCodeId"] = "1",
                ["ledgerAccountId"] = "6",
            }
        );
        await using var db = _site.File.Open();
        var item = await db.Items.Select(i => i.Id).SingleAsync();
        var address = $"/customers/{_customer}/items";
        var refused = await _site.PostAsync(address, new() { ["pasted"] = "NONE\t1" });
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var again = await Site.ReadAsync(refused);
        again.QuerySelector("#pasted-refusal")!.TextContent.ShouldContain("Line 1: there is no item “NONE”");
        again.QuerySelector("#pasted")!.TextContent.ShouldContain("NONE\t1");
        await _site.PostAsync(address, new() { ["pasted"] = "ROPE\tKB <1>" });
        var (_, page) = await _site.GetAsync(address);
        page.QuerySelector($"[id='items[{item}].number']")!.GetAttribute("value").ShouldBe("KB <1>");
        var typed = new Dictionary<string, string>
        {
            [$"items[{item}].was"] = "KB <1>",
            [$"items[{item}].number"] = "KB 2",
        };
        await _site.PostAsync(address + "?q=rope", typed);
        (await db.ItemNumbers.AsNoTracking().Select(n => n.Number).SingleAsync()).ShouldBe("KB 2");
        (await _site.PostAsync(address, typed)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        var found = await FoundAsync($"q=kb%202&customer={_customer}");
        found.GetArrayLength().ShouldBe(1);
        found[0].GetProperty("exact").GetBoolean().ShouldBeTrue();
        Detail(found).ShouldContain("ROPE, their KB 2");
        (await FoundAsync("q=kb%202")).GetArrayLength().ShouldBe(0);
        Detail(await FoundAsync($"q=rope&customer={_customer}")).ShouldContain("KB 2");
        Detail(await FoundAsync("q=rope")).ShouldNotContain("KB 2");
    }

    private static string Detail(JsonElement found) => found[0].GetProperty("detail").GetString() ?? "";

    private async Task<JsonElement> FoundAsync(string ask) =>
        JsonDocument.Parse(await (await _site.RawAsync($"/api/items?{ask}")).Content.ReadAsStringAsync()).RootElement;

    [Fact]
    public async Task What_is_missing_is_mended_for_many_on_one_page()
    {
        await using var db = _site.File.Open();
        await db.Database.ExecuteSqlRawAsync("UPDATE Customers SET Name = 'Korall', RegistrationNumber = '10118834'");
        var (_, page) = await _site.GetAsync("/setup/ready?only=everything&look=up");
        page.QuerySelector($"[id='customers[{_customer}].electronic']")!.GetAttribute("value").ShouldBe("10118834");
        (await db.Customers.CountAsync(c => c.Electronic.Value != "")).ShouldBe(0);
        var version = await db.Customers.Where(c => c.Id == _customer).Select(c => c.Version).SingleAsync();
        var typed = new Dictionary<string, string>
        {
            [$"customers[{_customer}].version"] = $"{version}",
            [$"customers[{_customer}].electronicScheme"] = "0088",
            [$"customers[{_customer}].electronic"] = "10118834",
        };
        var refused = await _site.PostAsync("/setup/ready?only=everything&show=lacking", typed);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(refused))
            .QuerySelector($"[id='customers[{_customer}].electronic-refusal']")!
            .TextContent.ShouldContain("13 digits");
        typed[$"customers[{_customer}].electronicScheme"] = "0191";
        await _site.PostAsync("/setup/ready?only=everything&show=lacking", typed);
        (await db.Customers.CountAsync(c => c.Electronic.Value == "10118834")).ShouldBe(1);
    }
}
