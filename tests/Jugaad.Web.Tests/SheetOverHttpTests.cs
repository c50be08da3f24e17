using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>The receipt sheet, the list of stages and the payment files, by what is sent to them.</summary>
public sealed class SheetOverHttpTests : IAsyncLifetime
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

    private static Dictionary<string, string> Rows(params (string Customer, string Amount)[] rows)
    {
        var form = new Dictionary<string, string> { ["date"] = DateTime.Now.ToString("yyyy-MM-dd"), ["way"] = "1" };
        for (var i = 0; i < rows.Length; i++)
            (form[$"rows[{i}].customer"], form[$"rows[{i}].amount"]) = rows[i];
        return form;
    }

    private async Task<string> NameAsync()
    {
        await using var db = _site.File.Open();
        return await db.Customers.Select(c => c.Name).FirstAsync();
    }

    [Fact]
    public async Task A_row_is_proposed_and_posted()
    {
        var name = await NameAsync();
        var proposed = JsonDocument
            .Parse(
                await (
                    await _site.PostAsync("/receive/sheet", Rows((name, "1.00")), "Propose")
                ).Content.ReadAsStringAsync()
            )
            .RootElement;
        var row = proposed.GetProperty("rows")[0];
        (row.GetProperty("who").GetString(), row.GetProperty("problem").GetString()).ShouldBe((name, ""));
        row.GetProperty("why").GetString()!.ShouldContain("oldest first");
        (await _site.PostAsync("/receive/sheet", Rows((name, "1.00"), ("", ""))))
            .Headers.Location!.ToString()
            .ShouldBe("/receive");
        await using var db = _site.File.Open();
        (await db.Receipts.CountAsync()).ShouldBe(1);
    }

    [Theory]
    [InlineData("nobody", "5", "rows[0].customer")]
    [InlineData("", "5", "rows[0].customer")]
    [InlineData("*", "x", "rows[0].amount")]
    [InlineData("*", "1.234", "rows[0].amount")]
    [InlineData("*", "", "rows[0].amount")]
    [InlineData("*", "-5", "rows[0].amount")]
    [InlineData("*", "999999999999999999", "rows[0].amount")]
    public async Task A_bad_row_is_refused_at_its_cell_and_what_was_typed_stays(
        string customer,
        string amount,
        string field
    )
    {
        var answer = await _site.PostAsync(
            "/receive/sheet",
            Rows((customer == "*" ? await NameAsync() : customer, amount))
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var page = await Site.ReadAsync(answer);
        page.GetElementById(field + "-refusal").ShouldNotBeNull();
        page.GetElementById("rows[0].amount")!.GetAttribute("value").ShouldBe(amount);
        await using var db = _site.File.Open();
        (await db.Receipts.CountAsync()).ShouldBe(0);
    }

    [Fact]
    public async Task Nothing_typed_a_slip_that_differs_and_no_way_are_refused()
    {
        (await _site.PostAsync("/receive/sheet", Rows())).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var name = await NameAsync();
        var slip = await Site.ReadAsync(
            await _site.PostAsync("/receive/sheet", new(Rows((name, "1.00"))) { ["slip"] = "3.00" })
        );
        slip.GetElementById("slip-refusal")!.TextContent.ShouldContain("2.00\u00a0EUR is missing");
        var way = await Site.ReadAsync(
            await _site.PostAsync("/receive/sheet", new(Rows((name, "1.00"))) { ["way"] = "99" })
        );
        way.GetElementById("way-refusal").ShouldNotBeNull();
    }

    [Theory]
    [InlineData("/sell/stages", "beside at least one")]
    [InlineData("/receive/payments", "Tick the refunds")]
    public async Task A_form_with_nothing_chosen_says_so(string address, string says)
    {
        var answer = await _site.PostAsync(address, new() { ["payOn"] = DateTime.Now.ToString("yyyy-MM-dd") });
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(answer)).Body!.TextContent.ShouldContain(says);
    }
}
