using System.Net;
using Jugaad.Web.Shell;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>
/// Setup by its questions: each page has its place, is found by its words, and is marked while something lacks.
/// </summary>
public sealed class SetupPagesTests : IAsyncLifetime
{
    private readonly Site _site = new();

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
    }

    public Task DisposeAsync() => _site.DisposeAsync();

    [Fact]
    public async Task Each_page_of_setup_stands_under_its_question_and_is_found_by_the_jump_box()
    {
        foreach (
            var (question, one, pages) in SetupPages.Groups.SelectMany(g =>
                g.Pages.Select(p => (g.Question, p, g.Pages))
            )
        )
        {
            var (status, page) = await _site.GetAsync(one.Address);
            status.ShouldBe(HttpStatusCode.OK, one.Address);
            var current = page.QuerySelectorAll("nav [aria-current]")
                .Select(a => a.TextContent.Split(',')[0].Trim())
                .ToList();
            current.ShouldContain(question, one.Address);
            if (pages.Count > 1)
                current.ShouldContain(one.Word, one.Address);
            var found = await (
                await _site.RawAsync($"/api/jump?q={Uri.EscapeDataString(one.Title)}")
            ).Content.ReadAsStringAsync();
            found.ShouldContain($"\"{one.Address}\"");
        }
    }

    [Fact]
    public async Task What_is_not_set_up_yet_is_marked_at_its_question_and_told_on_its_page()
    {
        var page = (await _site.GetAsync("/setup")).Page;
        page.QuerySelector("nav.questions a[href='/setup'] .lacks").ShouldNotBeNull();
        page.QuerySelector("#lacking")!.TextContent.ShouldContain("Papers have no logo.");
        page.QuerySelector("nav.questions a[href='/setup/people'] .lacks").ShouldBeNull();
        await _site.BeTheDemoAsync();
        using (var db = _site.File.Open())
            await db.Database.ExecuteSqlRawAsync("UPDATE Businesses SET Logo = x'00'");
        (await _site.GetAsync("/setup")).Page.QuerySelector("nav.questions a[href='/setup'] .lacks").ShouldBeNull();
    }

    [Fact]
    public async Task Who_may_not_see_a_page_is_not_led_to_it()
    {
        await _site.AsRoleAsync("Reader");
        var words = (await _site.GetAsync("/setup/trail"))
            .Page.QuerySelectorAll("nav a")
            .Select(a => a.TextContent.Trim())
            .ToList();
        words.ShouldContain("Books");
        words.ShouldNotContain("People");
        words.ShouldNotContain("backups");
    }
}
