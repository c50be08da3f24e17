using System.Net;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>
/// Selling over HTTP: links that nobody can guess, what the editor asks, the counter, stages and bad input.
/// </summary>
public sealed class SellingOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _customer;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _customer = await _site.CustomerAsync();
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private async Task<int> DraftAsync(string kind, params Dictionary<string, object?>[] lines)
    {
        var form = Site.Draft(_customer, kind);
        if (lines.Length > 0)
            form["lines"] = lines;
        var (status, answer) = await _site.ApiAsync("/api/drafts", form);
        status.ShouldBe(HttpStatusCode.OK, answer.ToString());
        return answer.GetProperty("id").GetInt32();
    }

    private async Task<string> TokenAsync(int id)
    {
        await _site.PostAsync($"/papers/{id}", [], "Link");
        await using var db = _site.File.Open();
        return await db.DocumentLinks.Where(l => l.DocumentId == id).Select(l => l.Token).SingleAsync();
    }

    [Fact]
    public async Task A_customer_sees_the_paper_without_signing_in_and_nobody_sees_another()
    {
        var quote = await DraftAsync("quote");
        await _site.PostAsync($"/papers/{quote}", new() { ["version"] = "1" }, "Issue");
        var token = await TokenAsync(quote);
        (await _site.GetAsync($"/p/{token}")).Status.ShouldBe(HttpStatusCode.OK);
        _site.As("somebody outside");
        var (status, page) = await _site.GetAsync($"/p/{token}");
        status.ShouldBe(HttpStatusCode.OK);
        page.QuerySelector("nav").ShouldBeNull();
        page.QuerySelector("#accept").ShouldNotBeNull();
        (await _site.RawAsync($"/p/{token}/pdf")).Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        foreach (
            var wrong in new[]
            {
                "/p/aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa",
                "/p/x",
                $"/p/{token}a",
                "/p/aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa/pdf",
                "/p/x/pictures/logo",
            }
        )
            (await _site.RawAsync(wrong)).StatusCode.ShouldBe(HttpStatusCode.NotFound, wrong);
        (
            await _site.PostAsync($"/p/{token}", new() { ["version"] = "2", ["name"] = " " }, "Accept")
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (
            await _site.PostAsync($"/p/{token}", new() { ["version"] = "2", ["name"] = "Ada" }, "Accept")
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.PostAsync($"/papers/{quote}", [], "MakeInvoice")).StatusCode.ShouldNotBe(HttpStatusCode.OK);
        await using var db = _site.File.Open();
        (await db.DocumentLinks.SingleAsync()).TimesSeen.ShouldBe(
            3,
            "the two forms were read by the customer too; whoever is signed in is not the customer"
        );
        (await db.Documents.Where(d => d.Id == quote).Select(d => d.AnswerNote).SingleAsync()).ShouldContain("Ada");
    }

    [Fact]
    public async Task A_wanted_price_becomes_a_discount_and_words_and_sections_count_nothing()
    {
        var form = Site.Draft(_customer);
        form["lines"] = new[]
        {
            new() { ["text"] = "Mainsail", ["role"] = "section" },
            Site.Line("2", "50", "to 80"),
            new() { ["text"] = "with care", ["role"] = "text" },
            new Dictionary<string, object?> { ["role"] = "subtotal" },
        };
        var (_, figures) = await _site.ApiAsync("/api/drafts/figures", form);
        figures
            .GetProperty("lines")
            .EnumerateArray()
            .Select(l => l.GetString())
            .ShouldBe(["80.00", "80.00", "", "80.00"]);
        form["discount"] = "to 62";
        (await _site.ApiAsync("/api/drafts/figures", form)).Answer.GetProperty("total").GetString().ShouldBe("62.00");
        form["discount"] = "to 620";
        (await _site.ApiAsync("/api/drafts/figures", form))
            .Answer.GetProperty("refusals")[0]
            .GetProperty("message")
            .GetString()!
            .ShouldContain("more than the");
    }

    [Fact]
    public async Task Pasted_rows_become_lines_and_too_many_are_refused()
    {
        var (_, answer) = await _site.ApiAsync(
            "/api/drafts/paste",
            new
            {
                text = "Rope\t3\tm\t1.50\t10%\nPlain",
                customerId = _customer,
                date = "2025-09-17",
                pricesIncludeTax = false,
            }
        );
        var lines = answer.GetProperty("lines").EnumerateArray().ToList();
        (
            lines[0].GetProperty("unit").GetString(),
            lines[0].GetProperty("unitPrice").GetString(),
            lines[0].GetProperty("discount").GetString()
        ).ShouldBe(("MTR", "1.50", "10%"));
        (lines[1].GetProperty("quantity").GetString(), lines[1].GetProperty("unitPrice").GetString()).ShouldBe(
            ("1", "")
        );
        // A spreadsheet puts a cell with line ends, tabs or quotes into quotes; an inch sign is no quote.
        var (_, quoted) = await _site.ApiAsync(
            "/api/drafts/paste",
            new
            {
                text = "\"Rope, \"\"three\"\"\nstrand\"\t2\tm\t1.50\r\n5\" shackle\t1\n\n\"1/2\"\" bolt\"\t4",
                customerId = _customer,
                date = "2025-09-17",
                pricesIncludeTax = false,
            }
        );
        quoted
            .GetProperty("lines")
            .EnumerateArray()
            .Select(l => (l.GetProperty("text").GetString(), l.GetProperty("quantity").GetString()))
            .ShouldBe([("Rope, \"three\"\nstrand", "2"), ("5\" shackle", "1"), ("1/2\" bolt", "4")]);
        (
            await _site.ApiAsync("/api/drafts/paste", new { text = string.Join('\n', Enumerable.Repeat("x", 501)) })
        ).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task An_order_goes_its_whole_way_by_forms()
    {
        var order = await DraftAsync("order");
        await _site.PostAsync($"/papers/{order}", new() { ["version"] = "1" }, "Issue");
        (await _site.GetAsync("/sell?kind=order&show=unfinished"))
            .Page.QuerySelectorAll("table.ledger tbody tr")
            .Length.ShouldBe(1);
        var note = (await _site.PostAsync($"/papers/{order}", [], "MakeDelivery"))
            .Headers.Location!.ToString()
            .Split('/')[^1];
        await _site.PostAsync($"/papers/{note}", new() { ["version"] = "1" }, "Issue");
        (await _site.GetAsync("/sell/deliveries")).Page.QuerySelectorAll("input[name=note]").Length.ShouldBe(1);
        (await _site.PostAsync("/sell/deliveries", [])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var invoice = (await _site.PostAsync("/sell/deliveries", new() { ["note"] = note, ["how"] = "together" }))
            .Headers.Location!.ToString()
            .Split('/')[^1];
        var issued = await Site.ReadAsync(
            await _site.PostAsync("/sell/issue", new() { ["draft"] = $"{invoice}:1", ["how"] = "issue" })
        );
        issued.QuerySelector("#issued")!.TextContent.ShouldContain("1 issued");
        (await _site.GetAsync("/sell?kind=order&show=unfinished"))
            .Page.QuerySelectorAll("table.ledger tbody tr")
            .Length.ShouldBe(0);
        (await _site.PostAsync($"/papers/{note}", [], "Correct")).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (
            await _site.PostAsync($"/papers/{invoice}", new() { ["reason"] = "wrong yard" }, "CancelInvoice")
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/sell/deliveries")).Page.QuerySelectorAll("input[name=note]").Length.ShouldBe(1);
    }

    [Theory]
    [InlineData("percent", "abc")]
    [InlineData("percent", "101")]
    [InlineData("amount", "9999999")]
    [InlineData("amount", "-1")]
    public async Task A_stage_that_cannot_be_is_refused_and_what_was_typed_stays(string field, string typed)
    {
        var order = await DraftAsync("order");
        await _site.PostAsync($"/papers/{order}", new() { ["version"] = "1" }, "Issue");
        var answer = await _site.PostAsync($"/papers/{order}/stages", new() { [field] = typed });
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(answer)).QuerySelector($"#{field}")!.GetAttribute("value").ShouldBe(typed);
    }

    [Fact]
    public async Task A_file_is_kept_to_disk_and_never_shown()
    {
        var invoice = await _site.InvoiceAsync(_customer);
        await _site.UploadAsync(
            $"/papers/{invoice}?handler=AddFile",
            [],
            "file",
            "<script>alert(1)</script>"u8.ToArray()
        );
        await using var db = _site.File.Open();
        var file = await db.DocumentFiles.Select(f => f.Id).SingleAsync();
        var sent = await _site.RawAsync($"/papers/{invoice}/files/{file}");
        (
            sent.Content.Headers.ContentType!.MediaType,
            sent.Content.Headers.ContentDisposition!.DispositionType
        ).ShouldBe(("application/octet-stream", "attachment"));
        (await _site.RawAsync($"/papers/{invoice + 1}/files/{file}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
