using System.Net;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Jugaad.Web.Tests;

/// <summary>Who reaches what.</summary>
public sealed class ReachTests : IAsyncLifetime
{
    private readonly Site _site = new();

    public Task InitializeAsync() => _site.InitializeAsync();

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    [Fact]
    public async Task Whoever_is_not_signed_in_reaches_the_sign_in_page_and_nothing_else()
    {
        await _site.SetUpAsync(signIn: false);
        var open = new[]
        {
            "/sign-in",
            "/sign-in/second",
            "/invite/{token}",
            "/new-password/{token}",
            "/forgotten",
            "/first-run",
            "/healthz",
            "/oops",
            "/fonts/{face}/{weight:regex(^(regular|bold|italic|bold-italic)$)}.ttf",
        };
        var addresses = _site.Addresses();
        addresses.Count.ShouldBeGreaterThan(25);
        foreach (var address in addresses.Except(open))
        {
            var answer = await _site.RawAsync(address);
            if (address.StartsWith("/api", StringComparison.Ordinal))
                answer.StatusCode.ShouldBeOneOf(HttpStatusCode.Unauthorized, HttpStatusCode.MethodNotAllowed);
            else
                answer.Headers.Location?.AbsolutePath.ShouldBe("/sign-in", address);
        }

        (await _site.ApiAsync("/api/drafts", Site.Draft(1))).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await _site.PostAsync("/customers/new", new() { ["name"] = "X" }))
            .Headers.Location!.ToString()
            .ShouldContain("/sign-in");
        (await _site.RawAsync("/css/site.css")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Scripts_and_styles_are_asked_for_once_and_again_only_when_they_have_changed()
    {
        await _site.SetUpAsync();
        var page = (await _site.GetAsync("/sell/edit?kind=invoice")).Page;
        var addresses = page.QuerySelectorAll("script[src]")
            .Select(s => s.GetAttribute("src")!)
            .Concat(page.QuerySelectorAll("link[rel=stylesheet]").Select(l => l.GetAttribute("href")!))
            .ToList();
        addresses.Count.ShouldBeGreaterThan(6);
        foreach (var address in addresses)
        {
            address.ShouldContain("?v=");
            (await _site.RawAsync(address)).Headers.CacheControl!.ToString().ShouldContain("immutable");
        }

        (await _site.RawAsync("/css/site.css")).Headers.CacheControl!.NoCache.ShouldBeTrue();
    }

    [Fact]
    public async Task Every_page_opens_for_whoever_is_signed_in_without_inline_script_or_style()
    {
        await _site.SetUpAsync();
        await _site.InvoiceAsync(await _site.CustomerAsync());
        await _site.PostAsync(
            "/receive/new?customer=1",
            new()
            {
                ["customerId"] = "1",
                ["amount"] = "5",
                ["date"] = DateTime.Now.ToString("yyyy-MM-dd"),
                ["way"] = "1",
            }
        );
        await _site.PostAsync("/setup/mail", new() { ["to"] = "a@b.example" }, "Test");
        await _site.PostAsync(
            "/items/new",
            new()
            {
                ["code"] = "A",
                ["name"] = "Thing",
                ["unit"] = "C62",
                ["price"] = "1",
                ["taxCodeId"] = "1",
                ["ledgerAccountId"] = "6",
            }
        );
        var pages = 0;
        // What scripts and the card service call are no pages.
        foreach (
            var address in _site
                .Addresses()
                .Where(a => !a.StartsWith("/api", StringComparison.Ordinal) && a != "/card/told")
        )
        {
            var answer = await _site.RawAsync(address);
            answer.StatusCode.ShouldBeOneOf([HttpStatusCode.OK, HttpStatusCode.Redirect, HttpStatusCode.NotFound]);
            if (answer.StatusCode != HttpStatusCode.OK || answer.Content.Headers.ContentType?.MediaType != "text/html")
                continue;
            pages++;
            var page = await Site.ReadAsync(answer);
            page.QuerySelectorAll("[style]").ShouldBeEmpty(address);
            page.QuerySelectorAll("style").ShouldBeEmpty(address);
            page.QuerySelectorAll("script:not([src]):not([type='application/json'])").ShouldBeEmpty(address);
            page.QuerySelectorAll("h1").Length.ShouldBe(1, address);
            answer.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("script-src 'self';");
            answer.Headers.GetValues("X-Content-Type-Options").Single().ShouldBe("nosniff");
            answer.Headers.GetValues("Referrer-Policy").Single().ShouldBe("same-origin");
            answer.Headers.CacheControl!.NoStore.ShouldBeTrue(address);
            answer.Headers.Contains("Server").ShouldBeFalse();
            answer.Content.Headers.ContentType!.CharSet.ShouldBe("utf-8");
            // Nothing is loaded from elsewhere.
            page.QuerySelectorAll("[src], link[href]")
                .Select(e => e.GetAttribute("src") ?? e.GetAttribute("href")!)
                .ShouldAllBe(a =>
                    !a.StartsWith("http", StringComparison.Ordinal) && !a.StartsWith("//", StringComparison.Ordinal)
                );
        }

        pages.ShouldBeGreaterThan(20);
    }

    [Theory]
    [InlineData("/papers/999")]
    [InlineData("/papers/999/pdf")]
    [InlineData("/papers/999/send")]
    [InlineData("/papers/abc")]
    [InlineData("/sell/edit/999")]
    [InlineData("/customers/999")]
    [InlineData("/customers/999/edit")]
    [InlineData("/items/999")]
    [InlineData("/receive/999")]
    [InlineData("/receive/new?customer=999")]
    [InlineData("/collect/remind/999")]
    [InlineData("/collect/999")]
    [InlineData("/collect/999/plan")]
    [InlineData("/collect/letters/999")]
    [InlineData("/customers/999/statement")]
    [InlineData("/customers/999/items")]
    [InlineData("/post/999")]
    [InlineData("/post/1/attachments/7")]
    [InlineData("/no/such/page")]
    public async Task What_is_not_there_is_said_so_with_a_way_on(string address)
    {
        await _site.SetUpAsync();
        var (status, page) = await _site.GetAsync(address);
        status.ShouldBe(HttpStatusCode.NotFound);
        page.QuerySelector("h1")!.TextContent.ShouldBe("Not there");
        page.QuerySelector("main a")!.GetAttribute("href").ShouldBe("/");
    }

    [Fact]
    public async Task A_wrong_password_is_refused_and_many_lock_the_door()
    {
        await _site.SetUpAsync(signIn: false);
        var wrong = new Dictionary<string, string> { ["email"] = "owner@little.example", ["password"] = "wrong" };
        var answer = await _site.PostAsync("/sign-in", wrong);
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var page = await Site.ReadAsync(answer);
        page.QuerySelector(".refusal")!.TextContent.ShouldContain("do not go together");
        page.QuerySelector("#email")!.GetAttribute("value").ShouldBe("owner@little.example");
        for (var i = 0; i < 8; i++)
            await _site.PostAsync("/sign-in", wrong);
        var locked = await _site.PostAsync(
            "/sign-in",
            new() { ["email"] = "owner@little.example", ["password"] = "a long password" }
        );
        (await Site.ReadAsync(locked))
            .QuerySelector(".refusal")!
            .TextContent.ShouldContain("Too many tries were wrong. Wait ");
    }

    [Fact]
    public async Task The_sign_in_page_leads_only_within_the_house()
    {
        await _site.SetUpAsync(signIn: false);
        var answer = await _site.PostAsync(
            "/sign-in",
            new()
            {
                ["email"] = "owner@little.example",
                ["password"] = "a long password",
                ["returnUrl"] = "https://elsewhere.example/",
            }
        );
        answer.Headers.Location!.ToString().ShouldBe("/");
    }

    [Fact]
    public async Task Empty_books_lead_to_the_first_run_page_which_is_gone_afterwards()
    {
        (await _site.RawAsync("/")).Headers.Location!.ToString().ShouldBe("/first-run");
        (await _site.RawAsync("/customers")).Headers.Location!.ToString().ShouldBe("/first-run");
        var refused = await _site.PostAsync(
            "/first-run",
            new(Site.FirstRun)
            {
                ["name"] = "",
                ["password"] = "short",
                ["taxPercent"] = "x",
            }
        );
        (await Site.ReadAsync(refused)).QuerySelector("#taxPercent-refusal")!.TextContent.ShouldContain("not a number");
        refused = await _site.PostAsync("/first-run", new(Site.FirstRun) { ["name"] = "", ["ownerEmail"] = "nowhere" });
        var page = await Site.ReadAsync(refused);
        page.QuerySelector("#name-refusal").ShouldNotBeNull();
        page.QuerySelector("#ownerEmail")!.GetAttribute("value").ShouldBe("nowhere");
        refused = await _site.PostAsync("/first-run", new(Site.FirstRun) { ["password"] = "short" });
        (await Site.ReadAsync(refused)).QuerySelector("#password-refusal").ShouldNotBeNull();
        (await _site.RawAsync("/")).Headers.Location!.ToString().ShouldBe("/first-run");
        await _site.SetUpAsync();
        (await _site.RawAsync("/first-run")).Headers.Location!.ToString().ShouldBe("/sign-in");
        (await _site.GetAsync("/")).Page.Body!.TextContent.ShouldContain("Nothing waits to be billed");
    }

    [Fact]
    public void Every_page_shares_what_all_pages_share() =>
        typeof(Shell.DeskPage)
            .Assembly.GetTypes()
            .Where(t => t.IsSubclassOf(typeof(PageModel)) && !t.IsAbstract)
            .ShouldAllBe(t => t.IsSubclassOf(typeof(Shell.DeskPage)));
}
