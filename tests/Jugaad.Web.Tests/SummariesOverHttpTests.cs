using System.Net;
using Jugaad.Core.EInvoicing;
using Jugaad.Formats.EInvoices;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>Sales at the counter told together, and one invoiced by name, over HTTP.</summary>
public sealed class SummariesOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _sale;

    /// <summary>One invoice is made a sale at the counter: what the counter itself does is tried elsewhere.</summary>
    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        await _site.BeTheDemoAsync();
        _sale = await _site.InvoiceAsync(await _site.CustomerAsync());
        await ChangeAsync(
            """
            UPDATE Businesses SET Address_Country = 'EE', TaxNumber = 'EE101188342', CounterCustomerId = (SELECT MIN(Id) FROM Customers), Electronic_Scheme = '0191', Electronic_Value = '14730926';
            UPDATE Customers SET Address_Country = 'EE';
            UPDATE Documents SET PaidWords = 'Cash';
            """
        );
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private async Task ChangeAsync(string sql)
    {
        await using var db = _site.File.Open();
        await db.Database.ExecuteSqlRawAsync(sql);
    }

    private async Task<string> TextAsync(string path) => (await _site.GetAsync(path)).Page.Body!.TextContent;

    private static string Days => $"from=2020-01-01&until={DateTime.UtcNow:yyyy-MM-dd}&by=Month";

    [Fact]
    public async Task They_are_looked_at_made_and_leave_as_a_file_once()
    {
        (await TextAsync($"/post/summaries?{Days}")).ShouldContain("Make this summary");
        // By itself it looks at the month that is over.
        (await TextAsync("/post/summaries")).ShouldContain("No sale of these days waits");
        (await _site.PostAsync($"/post/summaries?{Days}", [])).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.PostAsync($"/post/summaries?{Days}", [])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await _site.PostAsync("/post/summaries?from=2020-01-01&until=2999-12-31&by=Day", [])).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await _site.GetAsync("/post/summaries")).Page.QuerySelector("#made a")!.TextContent.ShouldStartWith("SUM-");
        foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
        {
            var answer = await _site.RawAsync(
                $"/post/summaries/1?handler=File&as={syntax.ToString().ToLowerInvariant()}"
            );
            var read = EInvoiceFiles.Read(await answer.Content.ReadAsByteArrayAsync());
            (read.Syntax, read.Invoice.Totals.WithTax, read.Invoice.Totals.Payable).ShouldBe((syntax, 124m, 0m));
            EInvoiceCheck.Of(read.Invoice).ShouldBeEmpty();
        }

        (await _site.RawAsync("/post/summaries/7")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await TextAsync($"/papers/{_sale}")).ShouldContain("told with other sales");
    }

    [Fact]
    public async Task It_is_sent_and_one_that_was_not_is_taken_back()
    {
        await _site.PostAsync($"/post/summaries?{Days}", []);
        (await _site.GetAsync("/post/summaries/1"))
            .Page.QuerySelector("#cannot")!
            .TextContent.ShouldContain("no electronic address");
        (await _site.PostAsync("/post/summaries/1", [])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await _site.PostAsync("/post/summaries/1", new() { ["reason"] = "" }, "Dissolve")).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        await _site.PostAsync("/post/summaries/1", new() { ["reason"] = "by the month instead" }, "Dissolve");
        (await TextAsync("/post/summaries/1")).ShouldContain("by the month instead");

        await _site.PostAsync($"/post/summaries?{Days}", []);
        await ChangeAsync(
            "UPDATE Customers SET Electronic_Scheme = '0191', Electronic_Value = '70005512', Takes = 'EInvoice'"
        );
        await _site.PostAsync("/post/summaries/2", []);
        (await TextAsync("/post/summaries/2")).ShouldContain("to 0191:70005512");
        (await TextAsync("/post/einvoices")).ShouldContain("SUM-");
        (await TextAsync("/post/1")).ShouldContain("The summary and its sales");
        (await _site.PostAsync("/post/summaries/2", new() { ["reason"] = "late" }, "Dissolve")).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    [Fact]
    public async Task What_was_not_paid_at_the_counter_cannot_be_invoiced_by_name_and_says_why()
    {
        var (_, page) = await _site.GetAsync($"/papers/{_sale}");
        page.QuerySelector("#by-name").ShouldNotBeNull();
        await ChangeAsync("UPDATE Documents SET PaidWords = ''");
        (await _site.GetAsync($"/papers/{_sale}")).Page.QuerySelector("#by-name").ShouldBeNull();
        (await TextAsync($"/papers/{_sale}/byname")).ShouldContain("no sale at the counter");
        await ChangeAsync("UPDATE Documents SET PaidWords = 'Cash'");
        (await TextAsync($"/papers/{_sale}/byname?q=zzz")).ShouldContain("No customer fits");
        var refused = await _site.PostAsync($"/papers/{_sale}/byname", new() { ["customer"] = "999" });
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(refused)).Body!.TextContent.ShouldContain("Choose the customer");
    }
}
