using System.Net;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>Reports as pages and files, ageing as it is set, and what is refused of them.</summary>
public sealed class ReportsOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        await _site.InvoiceAsync(await _site.CustomerAsync());
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private async Task<string> FileAsync(string address)
    {
        var answer = await _site.RawAsync(address);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, address);
        return (await answer.Content.ReadAsStringAsync()).TrimStart('\uFEFF');
    }

    [Theory]
    [InlineData("aged", "Customer,Name,Currency,Not yet due")]
    [InlineData("open-items", "Customer,Name,Number,Kind")]
    [InlineData("sales", "Date,Number,Kind,Customer")]
    [InlineData("receipts", "Date,Number,Customer")]
    [InlineData("entries", "Entry,Date,What")]
    public async Task Each_report_is_a_csv_and_a_workbook(string name, string heads)
    {
        (await FileAsync($"/reports/{name}/file?form=Csv")).ShouldStartWith(heads);
        var workbook = await _site.RawAsync($"/reports/{name}/file?form=Xlsx");
        (await workbook.Content.ReadAsByteArrayAsync())[..2].ShouldBe("PK"u8.ToArray());
        workbook.Content.Headers.ContentDisposition!.FileName!.ShouldEndWith(".xlsx");
    }

    [Fact]
    public async Task Of_very_many_open_items_the_page_leads_to_the_account_and_says_the_same_sums()
    {
        var before = (await _site.GetAsync("/reports/aged")).Page;
        before.QuerySelectorAll("table.aged details").Length.ShouldBe(1);
        await using (var db = _site.File.Open())
        {
            var columns = await db
                .Database.SqlQueryRaw<string>(
                    "SELECT name AS \"Value\" FROM pragma_table_info('AccountItems') WHERE name NOT IN ('Id', 'DocumentId')"
                )
                .ToListAsync();
            var named = string.Join(", ", columns.Select(c => $"\"{c}\""));
#pragma warning disable EF1002 // The names of columns are the table's own.
            await db.Database.ExecuteSqlRawAsync(
                $"""
                WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 1000)
                INSERT INTO AccountItems ({named}) SELECT {named} FROM n JOIN AccountItems ON Id = 1
                """
            );
#pragma warning restore EF1002
        }

        var page = (await _site.GetAsync("/reports/aged")).Page;
        page.QuerySelectorAll("table.aged details").ShouldBeEmpty();
        var address = page.QuerySelector("table.aged tbody td.wide a")!.GetAttribute("href")!;
        address.ShouldStartWith("/customers/1?on=");
        (await _site.GetAsync(address)).Status.ShouldBe(HttpStatusCode.OK);
        decimal Sum(AngleSharp.Dom.IDocument of) =>
            decimal.Parse(
                new string([
                    .. of.QuerySelector("table.aged tfoot td:last-child")!
                        .TextContent.Where(c => char.IsDigit(c) || c == '.'),
                ]),
                System.Globalization.CultureInfo.InvariantCulture
            );
        Sum(page).ShouldBe(Sum(before) * 1_001);
    }

    [Fact]
    public async Task The_page_says_what_the_file_says_and_that_it_agrees_with_the_journal()
    {
        var (_, page) = await _site.GetAsync("/reports/aged");
        page.QuerySelector("#agrees")!.TextContent.ShouldContain("The two agree.");
        var total = page.QuerySelectorAll("table.aged tfoot td")[^1].TextContent;
        (await FileAsync("/reports/aged/file"))
            .Trim()
            .ShouldEndWith(total.Replace("\u202f", "", StringComparison.Ordinal));
    }

    [Fact]
    public async Task How_balances_are_aged_is_changed_and_what_cannot_be_is_refused_at_its_field()
    {
        var refused = await _site.PostAsync("/reports/aged", new() { ["edges"] = "60, 30" });
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var page = await Site.ReadAsync(refused);
        page.QuerySelector("#edges-refusal")!.TextContent.ShouldContain("each larger than the one before");
        page.QuerySelector("#edges")!.GetAttribute("value").ShouldBe("60, 30");
        (await _site.PostAsync("/reports/aged", new() { ["edges"] = "15, 45" })).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        (await _site.GetAsync("/reports/aged"))
            .Page.QuerySelector("table.aged thead")!
            .TextContent.ShouldContain("16–45");
    }

    [Theory]
    [InlineData("/reports/sales/file?from=2025-09-02&until=2025-09-01", HttpStatusCode.UnprocessableEntity)]
    [InlineData("/reports/statement/file?customer=NOBODY", HttpStatusCode.UnprocessableEntity)]
    [InlineData("/reports/credit/file?customer=NOBODY", HttpStatusCode.UnprocessableEntity)]
    [InlineData("/reports/credit/file", HttpStatusCode.UnprocessableEntity)]
    [InlineData("/reports/account/file?account=999", HttpStatusCode.UnprocessableEntity)]
    [InlineData("/reports/nothing/file", HttpStatusCode.NotFound)]
    [InlineData("/reports/nothing", HttpStatusCode.NotFound)]
    [InlineData("/receive/payments/9/file", HttpStatusCode.NotFound)]
    [InlineData("/reports/entries?page=-3&from=never", HttpStatusCode.OK)]
    [InlineData("/reports/statement?customer=NOBODY", HttpStatusCode.OK)]
    public async Task What_cannot_be_is_said_so(string address, HttpStatusCode status) =>
        (await _site.RawAsync(address)).StatusCode.ShouldBe(status);

    [Fact]
    public async Task A_seller_sees_no_reports()
    {
        await _site.AsRoleAsync("Seller");
        foreach (
            var address in new[]
            {
                "/reports/aged",
                "/reports/sales",
                "/reports/entries",
                "/reports/sales/file",
                "/receive/sheet",
                "/receive/payments/1/file",
            }
        )
            (await _site.RawAsync(address)).StatusCode.ShouldBe(HttpStatusCode.Forbidden, address);
    }
}
