using System.Net;

namespace Jugaad.Web.Tests;

/// <summary>People over HTTP: roles, invitations, the second step, sessions that end.</summary>
public sealed class PeopleTests : IAsyncLifetime
{
    private readonly Site _site = new();

    public Task InitializeAsync() => _site.InitializeAsync();

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    /// <summary>Where a seller may go; everything else is tried and must stay shut.</summary>
    private static readonly string[] SellerSees =
    [
        "/",
        "/index",
        "/sell",
        "/sell/edit/1",
        "/papers/1",
        "/papers/1/pdf",
        "/papers/pile.pdf",
        "/papers/1/send",
        "/customers",
        "/customers/new",
        "/customers/1",
        "/customers/1/edit",
        "/items",
        "/me",
        "/calendar",
        "/sign-in",
        "/sign-in/second",
        "/sign-out",
        "/forgotten",
        "/new-password/{token}",
        "/first-run",
        "/invite/{token}",
        "/oops",
        "/healthz",
        "/fonts/{face}/{weight:regex(^(regular|bold|italic|bold-italic)$)}.ttf",
        "/pictures/logo",
        "/pictures/signature",
        "/api/token",
        "/api/day",
        "/api/jump",
        "/sell/totals",
        "/sell/standing/totals",
        "/sell/standing/file",
        "/sell/file",
        "/customers/totals",
        "/customers/file",
        "/items/totals",
        "/items/file",
        "/api/customers",
        "/api/customers/alike",
        "/api/items",
        "/api/drafts",
        "/api/drafts/figures",
        "/api/drafts/taxes",
        "/api/drafts/customer",
        "/api/drafts/language",
        "/fonts/own.css",
        "/api/drafts/deliveries",
        "/api/drafts/paste",
        "/api/drafts/discount-to-lines",
        "/api/drafts/1/files",
        "/api/shelf",
        "/api/shelf/keep",
        "/api/shelf/forget",
        "/api/shelf/reopen-newest",
        "/api/starters",
        "/api/standing/progress",
        "/api/counter",
        "/api/counter/reckon",
        "/api/counter/sale",
        "/api/counter/back",
        "/api/counter/back/reckon",
        "/api/drafts/price-mode",
        "/papers/1/stages",
        "/papers/1/compare/{other:int}",
        "/papers/1/files/{file:int}",
        "/p/{token}",
        "/p/{token}/pdf",
        "/p/{token}/pictures/{picture}",
        "/a/{token}",
        "/a/{token}/statement",
        "/a/{token}/papers/1",
        "/a/{token}/plan/1",
        "/paid/{key}",
        "/card-stand-in/{id}",
        "/card/told",
        "/calendar/{token}.ics",
        "/sell/deliveries",
        "/sell/stages",
        "/sell/shelf",
        "/sell/standing",
        "/sell/standing/1",
        "/sell/standing/new",
        "/sell/starters",
    ];

    [Fact]
    public async Task A_sellers_session_tries_every_forbidden_address()
    {
        await _site.SetUpAsync();
        var customer = await _site.CustomerAsync();
        var invoice = await _site.InvoiceAsync(customer);
        await _site.AsRoleAsync("Seller");
        var forbidden = new List<string>();
        foreach (var address in _site.Addresses().Except(SellerSees))
        {
            forbidden.Add(address);
            // What only takes forms, or only scripts, is not read, and what is only read takes none; either way nobody
            // gets in.
            HttpStatusCode[] answers =
            [
                (await _site.RawAsync(address)).StatusCode,
                (await _site.PostAsync(address, [])).StatusCode,
            ];
            answers.ShouldBeSubsetOf(
                [HttpStatusCode.Forbidden, HttpStatusCode.MethodNotAllowed, HttpStatusCode.UnsupportedMediaType],
                address
            );
            if (!answers.Contains(HttpStatusCode.Forbidden))
                (await _site.ApiAsync(address, new { })).Status.ShouldBe(HttpStatusCode.Forbidden, address);
        }

        forbidden.ShouldContain("/receive/new");
        forbidden.ShouldContain("/setup/people");
        forbidden.ShouldContain("/customers/1/merge");
        forbidden.ShouldContain("/items/change");
        forbidden.Count.ShouldBeGreaterThan(28);
        (await _site.RawAsync("/items/new")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);

        // What stands on pages that a seller does see is asked for at the desk.
        var draft = await _site.InvoiceAsync(customer, issue: false);
        (await _site.PostAsync($"/papers/{draft}", new() { ["version"] = "1" }, "Issue")).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (
            await _site.PostAsync(
                $"/papers/{draft}/send",
                new()
                {
                    ["version"] = "1",
                    ["to"] = "a@b.example",
                    ["subject"] = "s",
                    ["body"] = "b",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (
            await _site.PostAsync(
                $"/papers/{invoice}/send",
                new()
                {
                    ["to"] = "a@b.example",
                    ["subject"] = "s",
                    ["body"] = "b",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await _site.PostAsync($"/papers/{invoice}", new() { ["allocation"] = "1" }, "TakeAway")).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (
            await _site.PostAsync(
                $"/customers/{customer}/edit",
                new()
                {
                    ["name"] = "Mine",
                    ["code"] = "YARD",
                    ["currency"] = "EUR",
                    ["version"] = "1",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await _site.PostAsync("/calendar", new() { ["days"] = "1" })).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (
            await _site.ApiAsync(
                "/api/counter",
                new
                {
                    form = Site.Draft(customer, "invoice"),
                    parts = Array.Empty<object>(),
                    onAccount = true,
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Forbidden);
        foreach (var handler in new[] { "CancelInvoice", "Cancel", "Correct", "Repeat" })
            (await _site.PostAsync($"/papers/{invoice}", new() { ["reason"] = "mine" }, handler)).StatusCode.ShouldBe(
                HttpStatusCode.Forbidden,
                handler
            );
        (await _site.PostAsync("/sell/standing", [], "Run")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (
            await _site.ApiAsync(
                "/api/items",
                new
                {
                    code = "N",
                    name = "New",
                    taxCodeId = 1,
                    accountId = 6,
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await _site.ApiAsync("/api/drafts", Site.Draft(customer, "quote"))).Status.ShouldBe(HttpStatusCode.OK);
        var nav = (await _site.GetAsync("/")).Page.QuerySelector("nav")!.TextContent;
        nav.ShouldNotContain("Receive");
        nav.ShouldContain("Sell");
    }

    [Fact]
    public async Task A_reader_sees_and_changes_nothing()
    {
        await _site.SetUpAsync();
        var customer = await _site.CustomerAsync();
        var invoice = await _site.InvoiceAsync(customer);
        await _site.AsRoleAsync("Reader");
        foreach (
            var seen in new[]
            {
                "/",
                "/sell",
                $"/papers/{invoice}",
                "/receive",
                "/collect",
                "/collect/overdue",
                "/collect/promises",
                "/collect/letters",
                "/collect/goes",
                "/collect/statements",
                $"/customers/{customer}/statement",
                "/setup/ladders",
                "/setup/paying",
                "/collect/giving-up",
                $"/customers/{customer}/credit",
                "/receive/online",
                "/collect/expected",
                $"/collect/{customer}",
                "/customers",
                $"/customers/{customer}",
                "/items",
                "/reports/aged",
                "/reports/returns",
                "/setup",
                "/setup/rates",
                "/setup/trail",
                "/post",
            }
        )
            (await _site.RawAsync(seen)).StatusCode.ShouldBe(HttpStatusCode.OK, seen);
        foreach (
            var shut in new[]
            {
                "/setup/people",
                "/sell/edit",
                "/customers/new",
                "/receive/new",
                $"/collect/remind/{customer}",
                $"/collect/{customer}/plan",
                $"/collect/letters/{customer}",
            }
        )
            (await _site.RawAsync(shut)).StatusCode.ShouldBe(HttpStatusCode.Forbidden, shut);
        (await _site.ApiAsync("/api/drafts", Site.Draft(customer))).Status.ShouldBe(HttpStatusCode.Forbidden);
        (
            await _site.PostAsync(
                "/setup",
                new()
                {
                    ["name"] = "Taken over",
                    ["country"] = "EE",
                    ["decimalMark"] = ".",
                    ["datePattern"] = "yyyy-MM-dd",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        var page = await Site.ReadAsync(await _site.RawAsync("/setup/people"));
        page.QuerySelector("h1")!.TextContent.ShouldBe("Not yours to do");
        _site.As("owner");
        (await _site.GetAsync("/setup")).Page.QuerySelector("#name")!.GetAttribute("value").ShouldBe("Little Loft");
    }

    [Fact]
    public async Task A_role_that_is_changed_and_a_person_shut_out_count_from_the_next_click()
    {
        await _site.SetUpAsync();
        await _site.AsRoleAsync("Reader");
        (await _site.RawAsync("/sell/edit")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        _site.As("owner");
        (
            await _site.PostAsync("/setup/people", new() { ["id"] = "2", ["role"] = "Bookkeeper" }, "Role")
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        _site.As("Reader");
        (await _site.RawAsync("/sell/edit")).StatusCode.ShouldBe(HttpStatusCode.OK);
        _site.As("owner");
        await _site.PostAsync("/setup/people", new() { ["id"] = "2" }, "Close");
        _site.As("Reader");
        (await _site.RawAsync("/sell")).Headers.Location?.AbsolutePath.ShouldBe("/sign-in");
        var refused = await _site.PostAsync(
            "/sign-in",
            new() { ["email"] = "reader@little.example", ["password"] = "a long password" }
        );
        (await Site.ReadAsync(refused)).QuerySelector(".refusal")!.TextContent.ShouldContain("no longer sign in");
        _site.As("owner");
        (await _site.GetAsync("/setup/trail?q=no+longer")).Page.QuerySelectorAll(".ledger tbody tr").Length.ShouldBe(1);
        (await _site.GetAsync("/setup/trail?q=nothing+like+it")).Page.Body!.TextContent.ShouldContain(
            "Nothing in the trail fits"
        );
        (await _site.GetAsync("/setup/trail?who=Rolf+Reader&from=2199-01-01"))
            .Page.QuerySelectorAll(".ledger tbody tr")
            .Length.ShouldBe(0);
    }

    [Fact]
    public async Task The_second_step_asks_for_the_apps_code_or_a_spare_one_good_once()
    {
        await _site.SetUpAsync();
        _site.Clock.Hold();
        (await _site.PostAsync("/me", [], "Prepare")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var key = (await _site.GetAsync("/me"))
            .Page.QuerySelector("#app-key")!
            .TextContent.Replace(" ", "", StringComparison.Ordinal)
            .ToUpperInvariant();
        (
            await _site.PostAsync("/me", new() { ["code"] = "000000", ["passwordToSwitch"] = "a long password" }, "On")
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (
            await _site.PostAsync("/me", new() { ["code"] = CodeOf(key), ["passwordToSwitch"] = "not mine" }, "On")
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var on = await Site.ReadAsync(
            await _site.PostAsync(
                "/me",
                new() { ["code"] = CodeOf(key, -1), ["passwordToSwitch"] = "a long password" },
                "On"
            )
        );
        var spare = on.QuerySelector("#spare-codes")!.TextContent.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        spare.Length.ShouldBe(8);

        _site.As("other machine");
        (await PasswordAsync()).Headers.Location!.ToString().ShouldStartWith("/sign-in/second");
        (await _site.RawAsync("/sell")).Headers.Location!.AbsolutePath.ShouldBe("/sign-in");
        (await _site.PostAsync("/sign-in/second", new() { ["code"] = "123" })).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        var code = CodeOf(key);
        (await _site.PostAsync("/sign-in/second", new() { ["code"] = code }))
            .Headers.Location!.ToString()
            .ShouldBe("/");
        (await _site.RawAsync("/sell")).StatusCode.ShouldBe(HttpStatusCode.OK);
        _site.As("over the shoulder");
        await PasswordAsync();
        (await _site.PostAsync("/sign-in/second", new() { ["code"] = code })).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity,
            "a code is good once"
        );

        _site.As("without the phone");
        await PasswordAsync();
        (await _site.PostAsync("/sign-in/second", new() { ["code"] = spare[0] })).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        _site.As("with the same code again");
        await PasswordAsync();
        (await _site.PostAsync("/sign-in/second", new() { ["code"] = spare[0] })).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    [Fact]
    public async Task Signing_out_everywhere_and_a_new_password_end_the_other_sessions()
    {
        await _site.SetUpAsync();
        _site.As("laptop");
        await _site.SignInAsync();
        (
            await _site.PostAsync(
                "/me",
                new() { ["oldPassword"] = "wrong", ["password"] = "another long one" },
                "Password"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (
            await _site.PostAsync(
                "/me",
                new() { ["oldPassword"] = "a long password", ["password"] = "another long one" },
                "Password"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.RawAsync("/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
        _site.As("owner");
        (await _site.RawAsync("/me")).Headers.Location?.AbsolutePath.ShouldBe("/sign-in");
        await _site.SignInAsync("another long one");
        (await _site.PostAsync("/me", [], "Everywhere")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        _site.As("laptop");
        (await _site.RawAsync("/me")).Headers.Location?.AbsolutePath.ShouldBe("/sign-in");
    }

    [Fact]
    public async Task A_link_that_is_no_good_says_so()
    {
        await _site.SetUpAsync();
        _site.As("stranger");
        (await _site.GetAsync("/invite/0123")).Page.QuerySelector("h1")!.TextContent.ShouldContain("not good any more");
        (
            await _site.PostAsync("/invite/0123", new() { ["name"] = "X", ["password"] = "a long password" })
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    private Task<HttpResponseMessage> PasswordAsync() =>
        _site.PostAsync("/sign-in", new() { ["email"] = "owner@little.example", ["password"] = "a long password" });

    /// <summary>What an authenticator app shows now, or so many steps from now.</summary>
    private string CodeOf(string key, int steps = 0) =>
        Jugaad.Desk.People.OnceCodes.CodeOf(key, (_site.Clock.GetUtcNow().ToUnixTimeSeconds() / 30) + steps);
}
