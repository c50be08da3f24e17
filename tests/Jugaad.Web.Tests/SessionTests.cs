using System.Net;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>
/// Sessions that are kept and ended here, first runs with a code, forgotten passwords, backups and links over HTTP.
/// </summary>
public sealed class SessionTests : IAsyncLifetime
{
    private readonly Site _site = new();

    public Task InitializeAsync() => _site.InitializeAsync();

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private async Task<T> WithAsync<T>(Func<BooksContext, Task<T>> work)
    {
        await using var scope = _site.Services.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<BooksContext>());
    }

    [Fact]
    public async Task Nobody_begins_empty_books_without_the_code_that_the_program_wrote()
    {
        var refused = await _site.PostAsync("/first-run", new(Site.FirstRun) { ["code"] = "AAAA-AAAA" });
        (await Site.ReadAsync(refused))
            .QuerySelector("#code-refusal")!
            .TextContent.ShouldContain("This is not the code");
        (await Site.ReadAsync(await _site.PostAsync("/first-run", new(Site.FirstRun) { ["code"] = "" })))
            .QuerySelector("#code-refusal")
            .ShouldNotBeNull();
        (await WithAsync(db => db.Businesses.CountAsync())).ShouldBe(0);
        await _site.SetUpAsync();
    }

    [Fact]
    public async Task Sessions_are_listed_ended_one_by_one_and_signing_out_ends_them_here()
    {
        await _site.SetUpAsync();
        _site.As("laptop");
        await _site.SignInAsync();
        _site.As("owner");
        var page = (await _site.GetAsync("/me")).Page;
        var rows = page.QuerySelectorAll("#sessions tbody tr");
        rows.Length.ShouldBe(2);
        rows.Count(r => r.TextContent.Contains("this one", StringComparison.Ordinal)).ShouldBe(1);
        var other = page.QuerySelector("#sessions button")!.GetAttribute("value")!;
        (await _site.PostAsync("/me", new() { ["session"] = other }, "End")).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        _site.As("laptop");
        (await _site.RawAsync("/me")).Headers.Location?.AbsolutePath.ShouldBe("/sign-in");
        _site.As("owner");
        (await _site.RawAsync("/me")).StatusCode.ShouldBe(HttpStatusCode.OK);

        // A cookie that somebody kept is of no use once its session was signed out of.
        var kept = _site.CookieOf("jugaad");
        (await _site.PostAsync("/sign-out", [])).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await WithAsync(db => db.OpenSessions.CountAsync())).ShouldBe(0);
        _site.As("thief");
        _site.SetCookie("jugaad", kept);
        (await _site.RawAsync("/me")).Headers.Location?.AbsolutePath.ShouldBe("/sign-in");
        var trail = await WithAsync(db => db.Trail.Select(t => t.Text).ToListAsync());
        trail.Count(t => t.StartsWith("Olli Owner signed in", StringComparison.Ordinal)).ShouldBe(2);
        trail.ShouldContain("Olli Owner signed out");
    }

    [Fact]
    public async Task Nobody_ends_the_session_of_somebody_else_and_the_file_holds_no_word_that_opens_one()
    {
        await _site.SetUpAsync();
        await _site.AsRoleAsync("Reader");
        var owners = await WithAsync(db => db.OpenSessions.Where(s => s.PersonId == 1).Select(s => s.Id).FirstAsync());
        (await _site.PostAsync("/me", new() { ["session"] = $"{owners}" }, "End")).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        _site.As("owner");
        (await _site.RawAsync("/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
        var word = _site.CookieOf("jugaad");
        (await WithAsync(db => db.OpenSessions.Select(s => s.KeyHash).ToListAsync())).ShouldNotContain(h =>
            word.Contains(h, StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task Whoever_forgot_their_password_is_told_how_to_come_back_in()
    {
        await _site.SetUpAsync(signIn: false);
        (await _site.GetAsync("/forgotten")).Page.Body!.TextContent.ShouldContain(
            "./jugaad person --data DIR reset ADDRESS"
        );
        await _site.BeTheDemoAsync();
        foreach (var email in new[] { "owner@little.example", "nobody@little.example" })
            (await _site.PostAsync("/forgotten", new() { ["email"] = email }))
                .Headers.Location!.ToString()
                .ShouldBe("/sign-in");
        var mail = await Site.UntilAsync(() =>
            Directory.Exists(_site.File.MailFolder)
                ? Directory.GetFiles(_site.File.MailFolder, "*.eml").FirstOrDefault()
                : null
        );
        var token = MimeKit.MimeMessage.Load(mail).TextBody!.Split("/new-password/")[1].Split('\n')[0].Trim();
        var page = (await _site.GetAsync($"/new-password/{token}")).Page;
        page.QuerySelector("h1")!.TextContent.ShouldContain("owner@little.example");
        (await _site.PostAsync($"/new-password/{token}", new() { ["password"] = "password1234" })).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await _site.PostAsync($"/new-password/{token}", new() { ["password"] = "quite another one" }))
            .Headers.Location!.ToString()
            .ShouldBe("/sign-in");
        await _site.SignInAsync("quite another one");
        (await _site.GetAsync($"/new-password/{token}"))
            .Page.QuerySelector("h1")!
            .TextContent.ShouldContain("not good any more");
    }

    [Fact]
    public async Task Backups_are_the_owners_alone()
    {
        await _site.SetUpAsync();
        (await _site.PostAsync("/setup/backups", [], "Make")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var link = (await _site.GetAsync("/setup/backups"))
            .Page.QuerySelector("a[href$='.tar.gz']")!
            .GetAttribute("href")!;
        (await (await _site.RawAsync(link)).Content.ReadAsByteArrayAsync())[..2].ShouldBe([0x1F, 0x8B]);
        (await _site.RawAsync("/setup/backups/..%2Fbooks.db")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await _site.RawAsync("/setup/backups/books.db")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await _site.GetAsync("/setup/trail?q=taken+out")).Page.QuerySelectorAll(".ledger tbody tr").Length.ShouldBe(1);
        await _site.AsRoleAsync("Bookkeeper");
        (await _site.RawAsync(link)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await _site.RawAsync("/setup/backups")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        foreach (var handler in new[] { "Make", "Key", "UseKey", "Try", "TakeUp" })
            (await _site.PostAsync("/setup/backups", [], handler)).StatusCode.ShouldBe(
                HttpStatusCode.Forbidden,
                handler
            );
    }

    [Fact]
    public async Task Resting_books_are_looked_at_and_a_refusal_says_why_nothing_is_written()
    {
        await _site.SetUpAsync();
        var customer = await _site.CustomerAsync();
        var invoice = await _site.InvoiceAsync(customer);
        await _site.PostAsync($"/papers/{invoice}", [], "Link");
        var paper = (await _site.GetAsync($"/papers/{invoice}"))
            .Page.QuerySelector("a[href^='/p/']")!
            .GetAttribute("href")!;
        await using (var db = _site.File.Open())
            await db.Database.ExecuteSqlRawAsync(
                "UPDATE Businesses SET RestsSince = '2025-01-01 02:00:00', RestsBecause = 'the backup of 2025-01-01 02:00'"
            );
        (await _site.GetAsync("/"))
            .Page.QuerySelector("#resting")!
            .TextContent.ShouldContain("the backup of 2025-01-01 02:00");
        var refused = await _site.PostAsync(
            "/customers/new",
            new()
            {
                ["name"] = "New",
                ["currency"] = "EUR",
                ["country"] = "EE",
            }
        );
        (await Site.ReadAsync(refused)).Body!.TextContent.ShouldContain(
            "nothing is written, sent or numbered until the owner says"
        );
        _site.As("customer");
        (await _site.RawAsync(paper)).StatusCode.ShouldBe(HttpStatusCode.OK);
        _site.As("other machine");
        await _site.SignInAsync();
        var page = (await _site.GetAsync("/setup/backups")).Page;
        var series = page.QuerySelectorAll("#take-up input[name^=last]").Select(i => i.GetAttribute("name")!).ToList();
        var missing = await _site.PostAsync("/setup/backups", [], "TakeUp");
        (await Site.ReadAsync(missing)).QuerySelectorAll(".refusal").Length.ShouldBe(1);
        var number = await WithAsync(db =>
            db.Documents.Where(d => d.Id == invoice).Select(d => d.Number!).SingleAsync()
        );
        var invoices = await WithAsync(db =>
            db.Series.Where(s => s.UsedFor == "Invoice").Select(s => s.Id).SingleAsync()
        );
        series.ShouldContain($"last{invoices}");
        (await _site.PostAsync("/setup/backups", new() { [$"last{invoices}"] = number }, "TakeUp"))
            .Headers.Location!.ToString()
            .ShouldBe("/");
        (await _site.GetAsync("/")).Page.QuerySelector("#resting").ShouldBeNull();
        await _site.CustomerAsync("New");
    }

    [Fact]
    public async Task A_customers_link_is_taken_back_and_made_anew_from_the_papers_margin()
    {
        await _site.SetUpAsync();
        var invoice = await _site.InvoiceAsync(await _site.CustomerAsync());
        await _site.PostAsync($"/papers/{invoice}", [], "Link");
        async Task<string?> LinkAsync() =>
            (await _site.GetAsync($"/papers/{invoice}")).Page.QuerySelector("a[href^='/p/']")?.GetAttribute("href");
        var first = (await LinkAsync())!;
        await _site.PostAsync($"/papers/{invoice}", [], "NewLink");
        var second = (await LinkAsync())!;
        second.ShouldNotBe(first);
        _site.As("customer");
        (await _site.RawAsync(first)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await _site.RawAsync(second)).StatusCode.ShouldBe(HttpStatusCode.OK);
        _site.As("owner");
        await _site.PostAsync($"/papers/{invoice}", [], "EndLink");
        (await LinkAsync()).ShouldBeNull();
        _site.As("customer");
        (await _site.RawAsync(second)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
