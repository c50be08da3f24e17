using System.Net;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>Words, texts and languages of papers over HTTP, and what comes of them in drafts, lookups and mails.</summary>
public sealed class WordsOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _yard;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync();
    }

    public Task DisposeAsync() => _site.DisposeAsync();

    private async Task<string> PaperAsync(int id)
    {
        var pages = (await _site.GetAsync($"/papers/{id}")).Page.QuerySelectorAll(".paper-page");
        return string.Join(' ', pages.SelectMany(p => p.QuerySelectorAll("text")).Select(t => t.TextContent));
    }

    private async Task<int> DraftAsync(string language, string text = "Sail repair", int? item = null)
    {
        var draft = JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(Site.Draft(_yard)))!;
        draft["language"] = language;
        draft["lines"]![0]!["text"] = text;
        draft["lines"]![0]!["itemId"] = item;
        var (status, saved) = await _site.ApiAsync("/api/drafts", draft);
        status.ShouldBe(HttpStatusCode.OK, saved.ToString());
        return saved.GetProperty("id").GetInt32();
    }

    [Fact]
    public async Task Words_texts_and_a_language_are_set_and_papers_say_them()
    {
        (await PaperAsync(await DraftAsync("sv"))).ShouldContain("Faktura");
        (
            await _site.PostAsync(
                "/setup/languages?language=sv",
                new() { ["Word-Invoice"] = "Räkning", ["Word-PageOf"] = "{0} av {1}" },
                "Words"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/setup/languages?language=sv"))
            .Page.QuerySelector("#of-own")!
            .TextContent.ShouldBe("2 words of your own");
        (await PaperAsync(await DraftAsync("sv"))).ShouldContain("Räkning");

        // What cannot be is said at its field, and what was typed is there still.
        var refused = await _site.PostAsync(
            "/setup/languages?language=sv",
            new() { ["Word-PageOf"] = "Sidan {0}", ["Word-Quote"] = "Bud" },
            "Words"
        );
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var page = await Site.ReadAsync(refused);
        page.QuerySelector("[name='Word-PageOf']")!.GetAttribute("value").ShouldBe("Sidan {0}");
        page.QuerySelector("[name='Word-Quote']")!.GetAttribute("value").ShouldBe("Bud");
        page.Body!.TextContent.ShouldContain("{0} and {1}");

        (
            await _site.PostAsync(
                "/setup/languages?language=sv",
                new() { ["Footer-Usual"] = "Varor är våra tills de är betalda.", ["Note-Invoice"] = "Tack!" },
                "Texts"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await PaperAsync(await DraftAsync("sv"))).ShouldContain("Varor är våra");

        (
            await _site.PostAsync(
                "/setup/languages",
                new()
                {
                    ["code"] = "is",
                    ["languageName"] = "Icelandic",
                    ["decimalMark"] = ",",
                    ["dates"] = "dd.MM.yyyy",
                },
                "Add"
            )
        ).Headers.Location!.ToString().ShouldBe("/setup/languages?language=is");
        var added = (await _site.GetAsync("/setup/languages?language=is")).Page;
        added.QuerySelector("#missing")!.TextContent.ShouldContain("not there in Icelandic");
        foreach (var address in new[] { "/customers/new", "/sell/edit?kind=invoice", "/setup/layouts", "/setup/texts" })
            (await _site.GetAsync(address)).Page.Body!.TextContent.ShouldContain("Icelandic", customMessage: address);
    }

    [Fact]
    public async Task Items_are_offered_and_texts_follow_in_the_language_of_the_paper()
    {
        (
            await _site.PostAsync(
                "/items/new",
                new()
                {
                    ["code"] = "ROPE",
                    ["name"] = "Rope",
                    ["unit"] = "MTR",
                    ["price"] = "3",
                    ["taxCodeId"] = "1",
                    ["ledgerAccountId"] = $"{await AccountAsync()}",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        int item;
        await using (var db = _site.File.Open())
            item = await db.Items.Select(i => i.Id).SingleAsync();
        (
            await _site.PostAsync($"/items/{item}", new() { ["text-sv"] = "Rep", ["text-de"] = "Seil" }, "Texts")
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        foreach (var (language, text) in new[] { ("sv", "Rep"), ("de", "Seil"), ("fi", "Rope"), ("", "Rope") })
        {
            var found = await _site.RawAsync($"/api/items?q=ROPE&language={language}");
            (await found.Content.ReadAsStringAsync()).ShouldContain($"\"text\":\"{text}\"");
        }

        var form = JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(Site.Draft(_yard)))!;
        form["lines"]![0]!["text"] = "Rep";
        form["lines"]![0]!["itemId"] = item;
        // A cell that cannot be read yet keeps no text from following.
        form["lines"]![0]!["unitPrice"] = "3,";
        var (status, changed) = await _site.ApiAsync(
            "/api/drafts/language",
            new
            {
                form,
                before = "sv",
                language = "de",
            }
        );
        status.ShouldBe(HttpStatusCode.OK);
        changed.GetProperty("texts")[0].GetString().ShouldBe("Seil");
        (await _site.ApiAsync("/api/drafts/language", new { before = "sv" })).Status.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        var (bad, said) = await _site.ApiAsync("/api/drafts", With(Site.Draft(_yard), "language", "xx"));
        (bad, said.ToString()).ShouldSatisfyAllConditions(
            r => r.bad.ShouldBe(HttpStatusCode.UnprocessableEntity),
            r => r.Item2.ShouldContain("Choose a language from the list")
        );
    }

    private static JsonNode With(object draft, string field, string value)
    {
        var node = JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(draft))!;
        node[field] = value;
        return node;
    }

    private async Task<int> AccountAsync()
    {
        await using var db = _site.File.Open();
        return await db
            .LedgerAccounts.Where(a => a.Role == Core.Journal.AccountRole.Sales)
            .Select(a => a.Id)
            .FirstAsync();
    }

    [Fact]
    public async Task What_was_sent_and_what_was_paid_are_given_out_as_files()
    {
        var id = await _site.InvoiceAsync(_yard);
        (await _site.RawAsync($"/papers/{id}/pdf?marks=Paid")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await _site.GetAsync($"/papers/{id}")).Page.QuerySelector("#paid-copy").ShouldBeNull();
        foreach (var address in new[] { "/receive/99/pdf", "/refunds/99/pdf", "/post/99/sent/0" })
            (await _site.RawAsync(address)).StatusCode.ShouldBe(HttpStatusCode.NotFound, address);
        (await _site.RawAsync("/fonts/own.css")).Content.Headers.ContentType!.MediaType.ShouldBe("text/css");
        (await _site.RawAsync("/fonts/own-0123456789abcdef/regular.ttf")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var (status, said) = await _site.ApiAsync("/api/layouts/typeface", new { data = "AQID", name = "x.ttf" });
        (status, said.ToString()).ShouldSatisfyAllConditions(
            r => r.status.ShouldBe(HttpStatusCode.UnprocessableEntity),
            r => r.Item2.ShouldContain("no typeface")
        );
        (await _site.ApiAsync("/api/layouts/picture", new { data = "AQID", name = "x.png" })).Status.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await _site.ApiAsync("/api/layouts/picture", new { name = "x.png" })).Status.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }
}
