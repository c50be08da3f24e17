using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>
/// Days as they are typed into forms, addresses and the editor, by the business's own order of day and month.
/// </summary>
public sealed class DayFieldTests : IAsyncLifetime
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

    [Theory]
    [InlineData("dd.MM.yyyy", "3.4.2026", "03.04.2026")]
    [InlineData("MM/dd/yyyy", "3/4/2026", "03/04/2026")]
    [InlineData("d MMM yyyy", "3/4/2026", "3 Apr 2026")]
    [InlineData("yyyy-MM-dd", "2026-4-3", "2026-04-03")]
    public async Task Day_or_month_first_follows_the_business(string pattern, string typed, string shown)
    {
        await WriteAsAsync(pattern);
        var answer = await DayAsync(typed);
        answer.GetProperty("shown").GetString().ShouldBe(shown);
        // What it shows it reads again, and to the same day.
        (await DayAsync(shown))
            .GetProperty("iso")
            .GetString()
            .ShouldBe(answer.GetProperty("iso").GetString());
    }

    [Fact]
    public async Task A_month_that_there_is_not_is_told_in_the_business_order()
    {
        await WriteAsAsync("MM/dd/yyyy");
        (await DayAsync("17/9/2025"))
            .GetProperty("why")
            .GetString()
            .ShouldBe("There is no month 17. Here the month is written before the day.");
    }

    [Fact]
    public async Task Days_are_counted_from_the_field_that_they_follow_and_stepped_from_there()
    {
        (await DayAsync("+14", "2025-09-17")).GetProperty("iso").GetString().ShouldBe("2025-10-01");
        (await DayAsync("end of month", "5.2.2024")).GetProperty("iso").GetString().ShouldBe("2024-02-29");
        (await DayAsync("2025-12-31", step: 1)).GetProperty("iso").GetString().ShouldBe("2026-01-01");
        (await DayAsync("", "2025-09-17", -2)).GetProperty("iso").GetString().ShouldBe("2025-09-15");
        (await DayAsync("2025-12-31", step: int.MinValue)).GetProperty("why").GetString()!.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task The_editor_reads_what_was_typed_and_counts_the_last_day_from_its_own_date()
    {
        var day = DateOnly.FromDateTime(DateTime.Now).AddDays(3);
        var (status, answer) = await _site.ApiAsync(
            "/api/drafts",
            new Dictionary<string, object?>(Site.Draft(_yard)) { ["date"] = "+3", ["dueDate"] = "+10" }
        );
        status.ShouldBe(HttpStatusCode.OK, answer.ToString());
        using var db = _site.File.Open();
        var draft = db.Documents.Single();
        draft.Date.ShouldBe(day);
        draft.DueDate.ShouldBe(day.AddDays(10));
    }

    [Fact]
    public async Task A_form_reads_it_without_any_script_and_refuses_it_beside_its_field()
    {
        await WriteAsAsync("MM/dd/yyyy");
        var money = new Dictionary<string, string> { ["closedUpTo"] = "2/29/2025" };
        var page = await Site.ReadAsync(await _site.PostAsync("/setup/money", money, "Close"));
        page.QuerySelector("#closedUpTo-refusal")!.TextContent.ShouldContain("February 2025 has 28 days");
        page.QuerySelector("#closedUpTo")!.GetAttribute("value").ShouldBe("2/29/2025");
        money["closedUpTo"] = "2/3/2025";
        (await _site.PostAsync("/setup/money", money, "Close")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        using var db = _site.File.Open();
        db.Businesses.Single().ClosedUpTo.ShouldBe(new DateOnly(2025, 2, 3));
    }

    [Theory]
    [InlineData("/setup/trail?from=", "from")]
    [InlineData("/reports/aged?on=", "on")]
    [InlineData("/reports/entries?until=", "until")]
    [InlineData("/reports/sales?from=", "from")]
    [InlineData("/sell/deliveries?until=", "until")]
    [InlineData("/customers/1?on=", "on")]
    public async Task An_address_that_asks_for_no_day_is_told_so_and_for_a_typed_one_is_answered(
        string address,
        string field
    )
    {
        await _site.InvoiceAsync(_yard);
        var (status, page) = await _site.GetAsync(address + "one-fine-day");
        status.ShouldBe(HttpStatusCode.OK);
        page.QuerySelector("#refused")!.TextContent.ShouldContain("“one-fine-day” is not a date");
        page.QuerySelector("#" + field)!.GetAttribute("value").ShouldBe("one-fine-day");
        page.QuerySelector("#" + field)!.GetAttribute("aria-invalid").ShouldBe("true");
        var (_, answered) = await _site.GetAsync(address + "17.2.2025");
        answered.QuerySelector("#refused").ShouldBeNull();
        answered.QuerySelector("#" + field)!.GetAttribute("value").ShouldBe("17 Feb 2025");
    }

    [Fact]
    public async Task A_file_of_a_day_that_there_is_not_is_refused()
    {
        var answer = await _site.RawAsync("/reports/aged/file?on=31.2.2025");
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await answer.Content.ReadAsStringAsync()).ShouldContain("February 2025 has 28 days");
    }

    private async Task<JsonElement> DayAsync(string typed, string from = "", int step = 0)
    {
        var answer = await _site.RawAsync(
            $"/api/day?typed={Uri.EscapeDataString(typed)}&from={Uri.EscapeDataString(from)}&step={step}"
        );
        return JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement;
    }

    private async Task WriteAsAsync(string pattern)
    {
        using var db = _site.File.Open();
        (await db.Businesses.ExecuteUpdateAsync(set => set.SetProperty(b => b.DatePattern, pattern))).ShouldBe(1);
    }
}
