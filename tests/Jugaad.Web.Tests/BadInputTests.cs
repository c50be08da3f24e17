using System.Net;
using System.Text.Json;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>Bad input is refused beside the field, with what to do, and nothing typed is lost.</summary>
public sealed class BadInputTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _yard;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync();
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private async Task<int> CountAsync<T>()
        where T : class
    {
        await using var scope = _site.Services.CreateAsyncScope();
        return await scope.ServiceProvider.GetRequiredService<BooksContext>().Set<T>().CountAsync();
    }

    private static string FieldOf(JsonElement answer) =>
        answer.GetProperty("refusals")[0].GetProperty("field").GetString()!;

    public static TheoryData<string, string, object?> WrongDrafts =>
        new()
        {
            { "lines[0].quantity", "quantity", "1e9" },
            { "lines[0].quantity", "quantity", "1000000000" },
            { "lines[0].quantity", "quantity", "1.1234567" },
            { "lines[0].quantity", "quantity", "" },
            { "lines[0].unitPrice", "unitPrice", "ten" },
            { "lines[0].discountAmount", "discount", "100.01" },
            { "lines[0].discount", "discount", "1.001" },
            { "lines[0].discountPercent", "discount", "101%" },
            { "lines[0].text", "itemId", 999 },
            { "lines[0].text", "text", "" },
            { "lines[0].taxCode", "taxCodeId", 99 },
            { "lines[0].account", "accountId", 99 },
        };

    [Fact]
    public async Task What_is_said_has_its_figures_and_days_as_the_business_writes_them()
    {
        await _site.PostAsync(
            "/setup",
            new()
            {
                ["name"] = "Little Loft",
                ["country"] = "EE",
                ["decimalMark"] = ",",
                ["datePattern"] = "dd.MM.yyyy",
                ["yearBegins"] = "1",
                ["taxRounding"] = "Document",
            }
        );
        var draft = Site.Draft(_yard);
        var line = Site.Line();
        (line["quantity"], line["unitPrice"], line["discount"]) = ("1", "2000", "12345,5");
        draft["lines"] = new[] { line };
        const string Said = "The discount of 12\u202f345,50 is more than the line's 2\u202f000,00. Give at most that.";
        string MessageOf(JsonElement answer) => answer.GetProperty("refusals")[0].GetProperty("message").GetString()!;
        MessageOf((await _site.ApiAsync("/api/drafts", draft)).Answer).ShouldBe(Said);
        MessageOf((await _site.ApiAsync("/api/drafts/figures", draft)).Answer).ShouldBe(Said);

        await _site.PostAsync("/setup/money", new() { ["closedUpTo"] = "2025-03-31" }, "Close");
        (
            await _site.PostAsync(
                "/setup/rates",
                new()
                {
                    ["currency"] = "SEK",
                    ["from"] = "2025-01-01",
                    ["rate"] = "0,09123",
                },
                "Exchange"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await using var scope = _site.Services.CreateAsyncScope();
        var trail = await scope
            .ServiceProvider.GetRequiredService<BooksContext>()
            .Trail.Select(t => t.Text)
            .ToListAsync();
        trail.ShouldNotContain(t => System.Text.RegularExpressions.Regex.IsMatch(t, @"\d{4}-\d\d-\d\d|\d\.09123"));
        trail.ShouldContain("Books closed up to 31.03.2025");
        trail.ShouldContain("Exchange rate from 01.01.2025: 1 SEK = 0,09123 EUR");
    }

    [Theory]
    [MemberData(nameof(WrongDrafts))]
    public async Task A_wrong_line_is_refused_by_its_cell(string field, string cell, object? value)
    {
        var draft = Site.Draft(_yard);
        var line = Site.Line();
        line[cell] = value;
        draft["lines"] = new[] { line };
        var (status, answer) = await _site.ApiAsync("/api/drafts", draft);
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        FieldOf(answer).ShouldBe(field);
        FieldOf((await _site.ApiAsync("/api/drafts/figures", draft)).Answer).ShouldBe(field);
        (await CountAsync<Core.Documents.Document>()).ShouldBe(0);
    }

    [Theory]
    [InlineData("customerId", 999, "customer")]
    [InlineData("date", "1999-12-31", "lines[0].taxCode")]
    [InlineData("date", "one fine day", "date")]
    [InlineData("date", "", "date")]
    [InlineData("dueDate", "2001-01-01", "dueDate")]
    [InlineData("kind", "delivery", "")]
    [InlineData("discount", "500", "discountAmount")]
    public async Task A_wrong_head_is_refused_by_its_field(string name, object value, string field)
    {
        var (status, answer) = await _site.ApiAsync(
            "/api/drafts",
            new Dictionary<string, object?>(Site.Draft(_yard)) { [name] = value }
        );
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        FieldOf(answer).ShouldBe(field);
    }

    [Fact]
    public async Task A_note_of_five_megabytes_is_refused_beside_its_field_in_both_forms()
    {
        var note = new string('x', 5_000_000);
        FieldOf(
                (
                    await _site.ApiAsync(
                        "/api/drafts",
                        new Dictionary<string, object?>(Site.Draft(_yard)) { ["note"] = note }
                    )
                ).Answer
            )
            .ShouldBe("note");
        var page = await Site.ReadAsync(
            await _site.PostAsync(
                "/customers/new",
                new()
                {
                    ["name"] = "Big",
                    ["currency"] = "EUR",
                    ["country"] = "EE",
                    ["privateNote"] = note,
                }
            )
        );
        page.QuerySelector("#privateNote-refusal")!.TextContent.ShouldContain("at most 20000");
        page.QuerySelector("#privateNote")!.TextContent.Length.ShouldBe(5_000_000);
    }

    [Fact]
    public async Task Json_that_is_none_is_not_understood_and_does_no_harm() =>
        (await _site.ApiAsync("/api/drafts", "text")).Status.ShouldBe(HttpStatusCode.BadRequest);

    [Fact]
    public async Task A_used_number_is_refused_and_warned_of()
    {
        await _site.InvoiceAsync(_yard);
        var year = DateTime.Now.Year;
        var draft = new Dictionary<string, object?>(Site.Draft(_yard)) { ["numberByHand"] = $"INV-{year}-0001" };
        var (_, figures) = await _site.ApiAsync("/api/drafts/figures", draft);
        figures
            .GetProperty("warnings")
            .EnumerateArray()
            .Select(w => w.GetProperty("field").GetString())
            .ShouldContain("numberByHand");
        var id = (await _site.ApiAsync("/api/drafts", draft)).Answer.GetProperty("id").GetInt32();
        var refused = await _site.PostAsync($"/papers/{id}", new() { ["version"] = "1" }, "Issue");
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(refused)).QuerySelector("#refused")!.TextContent.ShouldContain("is used already");
    }

    [Fact]
    public async Task An_empty_document_is_kept_as_a_draft_and_not_issued()
    {
        var (_, saved) = await _site.ApiAsync(
            "/api/drafts",
            new Dictionary<string, object?>(Site.Draft(_yard)) { ["lines"] = Array.Empty<object>() }
        );
        var id = saved.GetProperty("id").GetInt32();
        var refused = await _site.PostAsync(
            $"/papers/{id}/send",
            new()
            {
                ["version"] = "1",
                ["to"] = "a@b.example",
                ["subject"] = "S",
                ["body"] = "My own words",
            }
        );
        var page = await Site.ReadAsync(refused);
        page.QuerySelector("#refused")!.TextContent.ShouldContain("no line");
        page.QuerySelector("#body")!.TextContent.ShouldBe("My own words");
    }

    [Fact]
    public async Task Markup_in_a_name_is_shown_as_text_everywhere()
    {
        const string name = "<img src=x onerror=alert(1)> & Söhne";
        var id = await _site.CustomerAsync(name);
        await _site.InvoiceAsync(id);
        foreach (
            var address in new[]
            {
                "/customers",
                $"/customers/{id}",
                $"/customers/{id}/edit",
                "/sell",
                "/papers/1",
                "/papers/1/send",
                $"/sell/edit?customer={id}",
                "/",
            }
        )
        {
            var (_, page) = await _site.GetAsync(address);
            page.QuerySelectorAll("img[src=x]").ShouldBeEmpty(address);
        }

        (await _site.GetAsync($"/customers/{id}")).Page.QuerySelector("h1")!.TextContent.ShouldBe(name);
    }

    [Fact]
    public async Task A_logo_that_is_no_picture_is_refused_and_the_rest_stays_typed()
    {
        var fields = new Dictionary<string, string>
        {
            ["name"] = "New Name",
            ["country"] = "EE",
            ["decimalMark"] = ".",
            ["datePattern"] = "yyyy-MM-dd",
        };
        foreach (var (file, said) in new[] { ("just words", "not a picture"), ("<svg onload=alert(1)>", "damaged") })
        {
            var page = await Site.ReadAsync(
                await _site.UploadAsync("/setup", fields, "logo", System.Text.Encoding.UTF8.GetBytes(file))
            );
            page.QuerySelector("#logo-refusal")!.TextContent.ShouldContain(said);
            page.QuerySelector("#name")!.GetAttribute("value").ShouldBe("New Name");
        }

        (await _site.GetAsync("/setup")).Page.QuerySelector("#name")!.GetAttribute("value").ShouldBe("Little Loft");
        (await _site.RawAsync("/pictures/logo")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_form_sent_twice_does_its_work_once()
    {
        var fields = new Dictionary<string, string>
        {
            ["name"] = "Once",
            ["currency"] = "EUR",
            ["country"] = "EE",
        };
        var first = await _site.PostAsync("/customers/new", fields, key: "the-same-key");
        var second = await _site.PostAsync("/customers/new", fields, key: "the-same-key");
        second.Headers.Location.ShouldBe(first.Headers.Location);
        (await CountAsync<Core.Trade.Customer>()).ShouldBe(2);
        var id = await _site.InvoiceAsync(_yard, issue: false);
        var send = new Dictionary<string, string>
        {
            ["version"] = "1",
            ["to"] = "a@b.example",
            ["subject"] = "S",
            ["body"] = "B",
        };
        await _site.PostAsync($"/papers/{id}/send", send, key: "send-key");
        await _site.PostAsync($"/papers/{id}/send", send, key: "send-key");
        (await CountAsync<PostItem>()).ShouldBe(1);
        (await CountAsync<Core.Accounts.AccountItem>()).ShouldBe(1);
    }

    [Fact]
    public async Task An_expired_token_does_nothing_and_loses_nothing()
    {
        var answer = await _site.PostAsync(
            "/customers/new",
            new()
            {
                ["name"] = "Typed with care",
                ["currency"] = "EUR",
                ["country"] = "EE",
            },
            token: "expired"
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var page = await Site.ReadAsync(answer);
        page.QuerySelector("#refused")!.TextContent.ShouldContain("open too long");
        page.QuerySelector("#name")!.GetAttribute("value").ShouldBe("Typed with care");
        (await CountAsync<Core.Trade.Customer>()).ShouldBe(1);
        (await _site.ApiAsync("/api/drafts", Site.Draft(_yard), token: false))
            .Answer.GetProperty("stale")
            .GetBoolean()
            .ShouldBeTrue();
    }

    [Fact]
    public async Task Two_people_in_one_draft_lose_nothing()
    {
        var id = await _site.InvoiceAsync(_yard, issue: false);
        var mine = new Dictionary<string, object?>(Site.Draft(_yard))
        {
            ["id"] = id,
            ["version"] = 1,
            ["note"] = "first",
        };
        (await _site.ApiAsync("/api/drafts", mine)).Status.ShouldBe(HttpStatusCode.OK);
        var (status, answer) = await _site.ApiAsync(
            "/api/drafts",
            new Dictionary<string, object?>(mine) { ["note"] = "second" }
        );
        status.ShouldBe(HttpStatusCode.Conflict);
        answer
            .GetProperty("changes")[0]
            .GetString()!
            .ShouldContain("Olli Owner: Draft changed. note: nothing → “first”");
        (
            await _site.ApiAsync(
                "/api/drafts",
                new Dictionary<string, object?>(mine)
                {
                    ["note"] = "second",
                    ["version"] = answer.GetProperty("version").GetInt32(),
                }
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("amount", "x", "amount")]
    [InlineData("amount", "0", "amount")]
    [InlineData("date", "2999-01-01", "date")]
    [InlineData("date", "", "date")]
    [InlineData("against[1]", "124.01", "against[1]")]
    [InlineData("way", "99", "way")]
    public async Task A_wrong_receipt_is_refused_beside_its_field(string name, string value, string field)
    {
        await _site.InvoiceAsync(_yard);
        var fields = new Dictionary<string, string>
        {
            ["customerId"] = $"{_yard}",
            ["amount"] = "200",
            ["date"] = DateTime.Now.ToString("yyyy-MM-dd"),
            ["way"] = "1",
            ["against[1]"] = "50",
            [name] = value,
        };
        var answer = await _site.PostAsync($"/receive/new?customer={_yard}", fields);
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var page = await Site.ReadAsync(answer);
        page.GetElementById($"{field}-refusal").ShouldNotBeNull();
        page.GetElementById("against[1]")!.GetAttribute("value").ShouldBe(fields["against[1]"]);
        (await CountAsync<Core.Accounts.Receipt>()).ShouldBe(0);
    }

    [Fact]
    public async Task The_proposal_sets_money_against_the_oldest_and_says_what_is_too_much()
    {
        await _site.InvoiceAsync(_yard);
        async Task<JsonElement> Propose(string how, string amount, string against = "")
        {
            var answer = await _site.PostAsync(
                $"/receive/new?customer={_yard}",
                new()
                {
                    ["customerId"] = $"{_yard}",
                    ["amount"] = amount,
                    ["how"] = how,
                    ["against[1]"] = against,
                    ["date"] = "",
                },
                "Propose"
            );
            return JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement;
        }

        var oldest = await Propose("oldest", "200");
        (
            oldest.GetProperty("parts")[0].GetProperty("amount").GetString(),
            oldest.GetProperty("left").GetString()
        ).ShouldBe(("124.00", "76.00"));
        (await Propose("full:1", "")).GetProperty("amount").GetString().ShouldBe("124.00");
        (await Propose("none", "50")).GetProperty("left").GetString().ShouldBe("50.00");
        (await Propose("", "500", "130"))
            .GetProperty("problem")
            .GetString()!
            .ShouldContain("more than is open on INV-");
        (await Propose("", "100", "130")).GetProperty("problem").GetString()!.ShouldContain("30.00");
    }

    [Fact]
    public async Task Rules_and_rates_are_entered_on_their_page_or_refused_there()
    {
        (
            await _site.PostAsync(
                "/setup/rules",
                new()
                {
                    ["supply"] = "Goods",
                    ["buyer"] = "Consumer",
                    ["place"] = "Abroad",
                    ["taxCodeId"] = "2",
                },
                "Add"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/setup/rules")).Page.Body!.TextContent.ShouldContain("remove");
        (
            await Site.ReadAsync(
                await _site.PostAsync(
                    "/setup/rules",
                    new()
                    {
                        ["supply"] = "Goods",
                        ["buyer"] = "Consumer",
                        ["place"] = "Abroad",
                    },
                    "Add"
                )
            )
        ).QuerySelector("#supply-refusal").ShouldNotBeNull();
        (
            await Site.ReadAsync(
                await _site.PostAsync(
                    "/setup/rates",
                    new()
                    {
                        ["currency"] = "SEK",
                        ["from"] = "",
                        ["rate"] = "x",
                    },
                    "Exchange"
                )
            )
        ).QuerySelector("#rate-refusal").ShouldNotBeNull();
        (
            await _site.PostAsync(
                "/setup/rates",
                new()
                {
                    ["currency"] = "SEK",
                    ["from"] = "2025-01-01",
                    ["rate"] = "0.0901",
                },
                "Exchange"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (
            await Site.ReadAsync(
                await _site.PostAsync(
                    "/setup/taxes",
                    new()
                    {
                        ["component"] = "VAT",
                        ["from"] = "2000-01-01",
                        ["percent"] = "5",
                    },
                    "Rate"
                )
            )
        ).QuerySelector("#from-refusal")!.TextContent.ShouldContain("has a rate from");
        (
            await _site.PostAsync(
                "/setup/taxes",
                new()
                {
                    ["component"] = "VAT",
                    ["from"] = "2031-01-01",
                    ["percent"] = "25",
                },
                "Rate"
            )
        ).Headers.Location!.ToString().ShouldBe("/setup/change?tax=1&from=2031-01-01");
        (await _site.GetAsync("/setup/change?tax=1&from=2031-01-01"))
            .Page.QuerySelector("h1")!
            .TextContent.ShouldStartWith("VAT, 25");
        (await _site.PostAsync("/setup/rates", [], "NoSuchForm")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_wrong_kind_of_thing_is_refused()
    {
        var invoice = await _site.InvoiceAsync(_yard);
        (await Site.ReadAsync(await _site.PostAsync($"/papers/{invoice}", [], "MakeInvoice")))
            .QuerySelector("#refused")!
            .TextContent.ShouldContain("Nothing can be made from");
        (await Site.ReadAsync(await _site.PostAsync($"/papers/{invoice}", [], "Accept")))
            .QuerySelector("#refused")!
            .TextContent.ShouldContain("Only a sent quote");
        (await _site.RawAsync($"/sell/edit/{invoice}")).Headers.Location!.ToString().ShouldBe($"/papers/{invoice}");
        (
            await Site.ReadAsync(await _site.PostAsync("/calendar", new() { ["days"] = "1" }))
        ).Body!.TextContent.ShouldContain("Only the demo's calendar");
    }
}
