using System.Net;
using System.Text.Json;

namespace Jugaad.Web.Tests;

/// <summary>What the pages do when all goes well, without a browser.</summary>
public sealed class ThreadOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _yard;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync("Yard & Söhne");
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private async Task<JsonElement> GetJsonAsync(string path) =>
        JsonDocument.Parse(await (await _site.RawAsync(path)).Content.ReadAsStringAsync()).RootElement;

    private async Task<int> QuoteAsync()
    {
        var (_, saved) = await _site.ApiAsync(
            "/api/drafts",
            new Dictionary<string, object?>(Site.Draft(_yard, "quote"))
            {
                ["validUntil"] = DateTime.Now.AddDays(30).ToString("yyyy-MM-dd"),
            }
        );
        var id = saved.GetProperty("id").GetInt32();
        var send = new Dictionary<string, string>
        {
            ["version"] = "1",
            ["to"] = "yard@slip.example",
            ["subject"] = "Quote",
            ["body"] = "Here.",
        };
        (await _site.PostAsync($"/papers/{id}/send", send)).Headers.Location!.ToString().ShouldBe($"/papers/{id}");
        return id;
    }

    [Fact]
    public async Task A_quote_is_sent_declined_taken_back_accepted_and_billed()
    {
        var id = await QuoteAsync();
        async Task<string> State() => (await _site.GetAsync($"/papers/{id}")).Page.QuerySelector(".state")!.TextContent;
        (await State()).ShouldBe("Waits for an answer");
        await _site.PostAsync($"/papers/{id}", new() { ["lostReason"] = "Too dear" }, "Decline");
        (await State()).ShouldBe("Declined");
        (await _site.GetAsync($"/papers/{id}"))
            .Page.QuerySelector("aside")!
            .TextContent.ShouldContain("declined: Too dear");
        await _site.PostAsync($"/papers/{id}", [], "Reopen");
        await _site.PostAsync($"/papers/{id}", [], "Accept");
        (await State()).ShouldBe("Accepted, nothing billed");
        (await _site.GetAsync("/")).Page.Body!.TextContent.ShouldContain("Accepted, not billed yet");
        var draft = (await _site.PostAsync($"/papers/{id}", [], "MakeInvoice")).Headers.Location!.ToString();
        draft.ShouldStartWith("/sell/edit/");
        var (_, page) = await _site.GetAsync(draft);
        var json = JsonDocument.Parse(page.QuerySelector("#draft")!.TextContent).RootElement;
        json.GetProperty("form").GetProperty("lines")[0].GetProperty("unitPrice").GetString().ShouldBe("50.00");
        json.GetProperty("customer").GetString().ShouldBe("Yard & Söhne");
        await _site.PostAsync($"/papers/{draft.Split('/')[^1]}", new() { ["version"] = "1" }, "Issue");
        (await State()).ShouldBe("Accepted, all billed");
    }

    [Fact]
    public async Task A_draft_is_put_away_and_brought_back()
    {
        var id = await _site.InvoiceAsync(_yard, issue: false);
        await _site.PostAsync($"/papers/{id}", [], "Discard");
        (await _site.GetAsync("/sell?show=drafts")).Page.QuerySelector(".empty").ShouldNotBeNull();
        await _site.PostAsync($"/papers/{id}", [], "BringBack");
        (await _site.GetAsync("/sell?show=drafts")).Page.QuerySelectorAll("table.ledger tbody tr").Length.ShouldBe(1);
    }

    [Fact]
    public async Task The_pdf_is_shown_in_place_under_its_name()
    {
        var id = await _site.InvoiceAsync(_yard);
        var answer = await _site.RawAsync($"/papers/{id}/pdf");
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        answer
            .Content.Headers.ContentDisposition!.ToString()
            .ShouldBe($"inline; filename=\"Invoice-INV-{DateTime.Now.Year}-0001.pdf\"");
        (await answer.Content.ReadAsByteArrayAsync())[..5].ShouldBe("%PDF-"u8.ToArray());
    }

    [Fact]
    public async Task A_receipt_is_posted_taken_away_and_set_against_again()
    {
        var invoice = await _site.InvoiceAsync(_yard);
        var posted = await _site.PostAsync(
            $"/receive/new?customer={_yard}",
            new()
            {
                ["customerId"] = $"{_yard}",
                ["amount"] = "1 124.00",
                ["date"] = DateTime.Now.ToString("yyyy-MM-dd"),
                ["way"] = "1",
                ["reference"] = "thanks",
                ["against[1]"] = "124",
            }
        );
        var receipt = posted.Headers.Location!.ToString();
        (await _site.GetAsync(receipt)).Page.QuerySelector("#left")!.TextContent.ShouldBe("1\u202f000.00");
        await _site.PostAsync(receipt, new() { ["allocation"] = "1" }, "TakeAway");
        (await _site.GetAsync($"/papers/{invoice}")).Page.QuerySelector("#open")!.TextContent.ShouldBe("124.00");
        (
            await Site.ReadAsync(
                await _site.PostAsync("/receive/place/2", new() { ["item"] = "1", ["amount"] = "125" }, "SetAgainst")
            )
        )
            .QuerySelector("#refused")!
            .TextContent.ShouldContain("1.00 more than is open");
        await _site.PostAsync("/receive/place/2", new() { ["item"] = "1", ["amount"] = "100" }, "SetAgainst");
        (await _site.GetAsync($"/papers/{invoice}")).Page.QuerySelector("#open")!.TextContent.ShouldBe("24.00");
        (await _site.GetAsync("/receive?show=unplaced"))
            .Page.QuerySelectorAll("table.ledger tbody tr")
            .Length.ShouldBe(1);
        (await _site.GetAsync($"/customers/{_yard}"))
            .Page.QuerySelector("#balance")!
            .TextContent.ShouldBe("Has credit of 1\u202f000.00\u00a0EUR");
    }

    [Fact]
    public async Task Type_ahead_finds_customers_and_items_by_any_part()
    {
        await _site.PostAsync(
            "/items/new",
            new()
            {
                ["code"] = "NDL",
                ["name"] = "Sail needle",
                ["unit"] = "H87",
                ["price"] = "3.5",
                ["taxCodeId"] = "1",
                ["ledgerAccountId"] = "6",
                ["barcode"] = "4740010000015",
            }
        );
        foreach (var text in new[] { "needle", "ndl", "4740010000015" })
        {
            var item = (await GetJsonAsync($"/api/items?q={text}&customer={_yard}"))[0];
            (item.GetProperty("title").GetString(), item.GetProperty("price").GetString()).ShouldBe(
                ("Sail needle", "3.50")
            );
        }

        (await GetJsonAsync("/api/customers?q=söhne"))[0].GetProperty("id").GetInt32().ShouldBe(_yard);
        (await GetJsonAsync("/api/customers?q=%25")).GetArrayLength().ShouldBe(0);
        (await GetJsonAsync("/api/jump?q=overdue"))[0].GetProperty("address").GetString().ShouldBe("/collect/overdue");
    }

    [Fact]
    public async Task A_new_customer_on_the_spot_is_refused_by_its_fields_or_there_once()
    {
        var (status, refused) = await _site.ApiAsync("/api/customers", new { name = "", email = "x" });
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        refused
            .GetProperty("refusals")
            .EnumerateArray()
            .Select(r => r.GetProperty("field").GetString())
            .ShouldBe(["name", "code", "email"]);
        var (_, first) = await _site.ApiAsync("/api/customers", new { name = "Spot", formKey = "k1" });
        var (_, second) = await _site.ApiAsync("/api/customers", new { name = "Spot", formKey = "k1" });
        second.GetProperty("id").GetInt32().ShouldBe(first.GetProperty("id").GetInt32());
    }

    [Fact]
    public async Task A_mail_that_came_back_is_sent_again_or_taken_back()
    {
        await _site.BeTheDemoAsync();
        await _site.PostAsync("/setup/mail", new() { ["to"] = "nobody@nowhere.example" }, "Test");
        async Task<string> Tray() =>
            (await _site.GetAsync("/post")).Page.QuerySelector("table.ledger tbody")!.TextContent;
        for (var i = 0; i < 100 && !(await Tray()).Contains("came back", StringComparison.Ordinal); i++)
            await Task.Delay(50);
        (await Tray()).ShouldContain("There is no mailbox nobody@nowhere.example.");
        (await _site.GetAsync("/")).Page.QuerySelector(".tally")!.TextContent.ShouldContain("1 came back");
        await _site.PostAsync("/post", new() { ["id"] = "1" }, "Withdraw");
        (await Tray()).ShouldContain("taken back");
        (await _site.GetAsync("/post/1"))
            .Page.QuerySelector(".mailtext")!
            .TextContent.ShouldContain("mail leaves the house");
    }

    [Fact]
    public async Task The_stand_in_shows_what_was_sent_with_its_paper()
    {
        await _site.BeTheDemoAsync();
        await QuoteAsync();
        for (
            var i = 0;
            i < 100 && (await _site.GetAsync("/post/1")).Page.QuerySelector("a[href='/post/1/attachments/0']") is null;
            i++
        )
            await Task.Delay(50);
        var paper = await _site.RawAsync("/post/1/attachments/0");
        paper.Content.Headers.ContentDisposition!.ToString().ShouldContain($"Quote-QUO-{DateTime.Now.Year}-0001.pdf");
    }

    [Fact]
    public async Task Lists_keep_their_view_in_the_address()
    {
        for (var i = 0; i < 42; i++)
            await _site.InvoiceAsync(_yard);
        var (_, page) = await _site.GetAsync("/sell?kind=invoice&show=open&sort=number");
        page.QuerySelector("th[aria-sort=ascending]")!.TextContent.ShouldStartWith("Number");
        page.QuerySelector("tbody tr a")!.TextContent.ShouldEndWith("0001");
        var next = page.QuerySelector(".pager a[rel=next]")!.GetAttribute("href")!;
        next.ShouldStartWith("?kind=invoice&show=open&sort=number&after=INV-");
        (await _site.GetAsync("/sell" + next)).Page.QuerySelectorAll("table.ledger tbody tr").Length.ShouldBe(2);
        var totals = page.QuerySelector(".pager")!.GetAttribute("data-totals")!;
        (await (await _site.RawAsync(totals)).Content.ReadAsStringAsync()).ShouldContain("5\\u202F208.00");
    }

    [Fact]
    public async Task Signing_out_closes_the_door()
    {
        (await _site.PostAsync("/sign-out", [])).Headers.Location!.ToString().ShouldBe("/sign-in");
        (await _site.RawAsync("/customers")).Headers.Location!.ToString().ShouldContain("/sign-in");
        await _site.SignInAsync();
        (await _site.RawAsync("/customers")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }
}
