using System.IO.Compression;
using System.Net;
using System.Text.Json;
using Jugaad.Desk.Reports;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>Reports over HTTP: every one as a page and in each form, views that are kept, closing, and handing over.</summary>
public sealed class ReportViewsOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private DateOnly _first;
    private int _paper;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        var customer = await _site.CustomerAsync();
        var today = DateOnly.FromDateTime(DateTime.Now);
        _first = new DateOnly(today.Year, today.Month, 1).AddMonths(-1);
        var form = Site.Draft(customer);
        form["date"] = _first.AddDays(4).ToString("yyyy-MM-dd");
        _paper = (await _site.ApiAsync("/api/drafts", form)).Item2.GetProperty("id").GetInt32();
        await _site.PostAsync($"/papers/{_paper}", new() { ["version"] = "1" }, "Issue");
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    [Fact]
    public async Task Each_report_is_found_by_its_question_and_is_the_same_as_page_and_in_each_form()
    {
        var (_, index) = await _site.GetAsync("/reports");
        var offered = index.QuerySelectorAll(".asked a").Select(a => a.GetAttribute("href")).ToList();
        foreach (var kind in ReportCatalog.All.Where(k => !k.IsBehind))
            offered.ShouldContain(kind.Address);
        foreach (var address in offered)
            (await _site.RawAsync(address!)).StatusCode.ShouldBe(HttpStatusCode.OK, address);
        foreach (var kind in ReportCatalog.All.Where(k => k.Needs.Length == 0))
        {
            var query = $"days=last-month&on={_first.AddDays(20):yyyy-MM-dd}";
            var csv = await _site.RawAsync($"/reports/{kind.Name}/file?form=Csv&{query}");
            csv.Content.Headers.ContentType!.MediaType.ShouldBe("text/csv", kind.Name);
            using var json = JsonDocument.Parse(
                await (await _site.RawAsync($"/reports/{kind.Name}/file?form=Json&{query}")).Content.ReadAsStringAsync()
            );
            var rows = json.RootElement.GetProperty("rows").GetArrayLength();
            (await csv.Content.ReadAsStringAsync())
                .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Length.ShouldBe(rows + 1, kind.Name);
            (
                await (
                    await _site.RawAsync($"/reports/{kind.Name}/file?form=Pdf&{query}")
                ).Content.ReadAsByteArrayAsync()
            )[..5]
                .ShouldBe("%PDF-"u8.ToArray(), kind.Name);
        }

        (await _site.RawAsync("/reports/nothing")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await _site.RawAsync("/reports/nothing/file")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await _site.RawAsync("/reports/changes/file?from=2025-02-01&until=2025-01-01")).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    [Fact]
    public async Task A_figure_is_followed_down_to_the_paper_and_compared_with_the_year_before()
    {
        var (_, page) = await _site.GetAsync("/reports/income-by-month?days=last-12-months&against=yearbefore");
        page.QuerySelector(".over-time").ShouldBeNull("one month is no drawing");
        var heads = page.QuerySelectorAll("table.report th").Select(h => h.TextContent).ToList();
        heads.ShouldContain("More or less");
        heads.ShouldContain(h => h.Contains(" to ", StringComparison.Ordinal));
        var row = page.QuerySelectorAll("table.report tbody tr")[0];
        row.QuerySelectorAll("td")[^1].TextContent.ShouldBe(row.QuerySelectorAll("td")[3].TextContent, "all is more");
        var (_, lines) = await _site.GetAsync(row.QuerySelector("a")!.GetAttribute("href")!);
        lines.QuerySelector("table.report tbody a")!.GetAttribute("href").ShouldBe($"/papers/{_paper}");
    }

    [Fact]
    public async Task Months_are_drawn_above_their_table_and_all_else_beside_its_row()
    {
        var form = Site.Draft(await _site.CustomerAsync("Second Loft"));
        form["date"] = _first.AddMonths(1).ToString("yyyy-MM-dd");
        var paper = (await _site.ApiAsync("/api/drafts", form)).Item2.GetProperty("id").GetInt32();
        await _site.PostAsync($"/papers/{paper}", new() { ["version"] = "1" }, "Issue");
        var (_, page) = await _site.GetAsync("/reports/income-by-month?days=last-12-months");
        page.QuerySelectorAll(".over-time .bar").Length.ShouldBe(2);
        var figure = page.QuerySelectorAll("table.report tbody tr")[0].QuerySelectorAll("td")[3].TextContent;
        page.QuerySelector(".over-time")!.GetAttribute("aria-label")!.ShouldContain(figure);
        page.QuerySelector(".over-time .bar title")!.TextContent.ShouldContain(figure);
        var (_, who) = await _site.GetAsync("/reports/income-by-customer?days=last-12-months");
        who.QuerySelector(".over-time").ShouldBeNull();
        who.QuerySelectorAll("table.report svg rect").Length.ShouldBe(2);
    }

    [Fact]
    public async Task A_view_is_kept_opened_sent_and_let_go()
    {
        const string Address = "/reports/income-by-customer?days=last-month";
        var refused = await Site.ReadAsync(await _site.PostAsync(Address, new() { ["viewName"] = "" }));
        refused.QuerySelector("main")!.TextContent.ShouldContain("Give the view a name");
        await _site.PostAsync(Address, new() { ["viewName"] = "Who bought" });
        var (_, index) = await _site.GetAsync("/reports");
        var link = index.QuerySelector("#views a")!;
        link.TextContent.ShouldBe("Who bought");
        link.GetAttribute("href").ShouldBe(Address);
        var view = index.QuerySelector("#views input[name=view]")!.GetAttribute("value")!;
        var send = new Dictionary<string, string>
        {
            ["view"] = view,
            ["pace"] = "Weekly",
            ["mailTo"] = "no address",
        };
        (await Site.ReadAsync(await _site.PostAsync("/reports", send, "Send")))
            .QuerySelector("main")!
            .TextContent.ShouldContain("mail address");
        send["mailTo"] = "boss@loft.example";
        (await _site.PostAsync("/reports", send, "Send")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/reports"))
            .Page.QuerySelector("#views summary")!
            .TextContent.ShouldContain("weekly to boss@loft.example");
        await _site.PostAsync("/reports", new() { ["view"] = view });
        (await _site.GetAsync("/reports")).Page.QuerySelector("#views").ShouldBeNull();
    }

    [Fact]
    public async Task A_month_is_ticked_off_and_closed_from_its_list()
    {
        var address = $"/reports/closing?on={_first:yyyy-MM-dd}";
        var (_, page) = await _site.GetAsync(address);
        page.QuerySelector("h1")!.TextContent.ShouldContain("is closed");
        var refused = await Site.ReadAsync(await _site.PostAsync(address, []));
        refused.QuerySelector(".refused")!.TextContent.ShouldContain("Not yet");
        while ((await _site.GetAsync(address)).Page.QuerySelector("button[name=done][value=yes]") is { } next)
        {
            var point = next.ParentElement!.QuerySelector("input[name=point]")!.GetAttribute("value")!;
            await _site.PostAsync(address, new() { ["point"] = point, ["done"] = "yes" }, "Tick");
        }

        await _site.PostAsync(address, []);
        await using var db = _site.File.Open();
        (await db.Businesses.SingleAsync()).ClosedUpTo.ShouldBe(_first.AddMonths(1).AddDays(-1));
    }

    [Fact]
    public async Task The_accountants_file_has_the_paper_and_a_page_of_what_is_in_it()
    {
        var last = _first.AddMonths(1).AddDays(-1);
        var answer = await _site.RawAsync($"/reports/handover/file?from={_first:yyyy-MM-dd}&until={last:yyyy-MM-dd}");
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/zip");
        using var zip = new ZipArchive(await answer.Content.ReadAsStreamAsync());
        zip.Entries.Count(e => e.FullName.EndsWith(".pdf", StringComparison.Ordinal)).ShouldBe(1);
        using var page = new StreamReader(zip.GetEntry("index.html")!.Open());
        (await page.ReadToEndAsync()).ShouldContain("Trial balance");
        (await _site.RawAsync("/reports/handover/file?from=2025-02-01&until=2025-01-01")).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }
}
