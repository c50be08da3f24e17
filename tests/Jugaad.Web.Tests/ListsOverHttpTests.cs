using System.Net;
using System.Text.Json;

namespace Jugaad.Web.Tests;

/// <summary>Lists as their addresses ask for them: the same filters for the page, its totals and its files.</summary>
public sealed class ListsOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _yard;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync();
        await _site.InvoiceAsync(_yard);
        await _site.InvoiceAsync(_yard, issue: false);
    }

    public Task DisposeAsync() => _site.DisposeAsync();

    [Theory]
    [InlineData("/sell")]
    [InlineData("/receive")]
    [InlineData("/customers")]
    [InlineData("/items")]
    [InlineData("/post")]
    [InlineData("/setup/trail")]
    [InlineData("/collect")]
    [InlineData("/collect/overdue")]
    [InlineData("/sell/standing")]
    [InlineData("/bank/lines")]
    public async Task A_list_has_totals_and_files_by_the_address_of_its_page(string address)
    {
        var (status, page) = await _site.GetAsync(address + "?q=yard&sort=-date");
        status.ShouldBe(HttpStatusCode.OK);
        var rows = page.QuerySelectorAll("table.ledger > tbody > tr").Length;
        if (rows > 0)
        {
            page.QuerySelector("nav.pager")!
                .GetAttribute("data-totals")
                .ShouldBe(address + "/totals?q=yard&sort=-date");
            page.QuerySelectorAll("nav.pager a")
                .Select(a => a.GetAttribute("href") ?? "")
                .ShouldContain(address + "/file?q=yard&sort=-date&form=Csv");
        }

        var totals = JsonDocument.Parse(await TextAsync(address + "/totals?q=yard&sort=-date")).RootElement;
        totals.GetProperty("count").GetInt32().ShouldBe(rows);
        var csv = await TextAsync(address + "/file?q=yard&form=Csv");
        csv.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(rows + 1);
        (await _site.RawAsync(address + "/file?form=Xlsx")).Content.Headers.ContentType!.MediaType!.ShouldContain(
            "spreadsheet"
        );
    }

    [Fact]
    public async Task A_place_that_was_made_up_is_the_beginning()
    {
        var page = (await _site.GetAsync("/sell?after=%27%3B--~x&before=~&q=")).Page;
        page.QuerySelectorAll("table.ledger > tbody > tr").Length.ShouldBe(2);
    }

    [Fact]
    public async Task Whoever_sells_is_not_told_what_customers_owe_by_the_list_its_totals_or_its_file()
    {
        (await _site.GetAsync("/customers")).Page.QuerySelector("main")!.TextContent.ShouldContain("Owes");
        (await TextAsync("/customers/file?form=Csv")).ShouldContain("Owes");
        await _site.AsRoleAsync("Seller");
        (await _site.GetAsync("/customers")).Page.QuerySelector("main")!.TextContent.ShouldNotContain("Owes");
        (await TextAsync("/customers/file?form=Csv")).ShouldNotContain("Owes");
        JsonDocument
            .Parse(await TextAsync("/customers/totals"))
            .RootElement.GetProperty("sums")
            .GetArrayLength()
            .ShouldBe(0);
        (await _site.RawAsync("/setup/trail/file")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await _site.RawAsync("/receive/totals")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    private async Task<string> TextAsync(string address) =>
        await (await _site.RawAsync(address)).Content.ReadAsStringAsync();
}
