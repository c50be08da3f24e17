using System.Net;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>Asking for money, over HTTP.</summary>
public sealed class CollectOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _yard;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync("Yard & Söhne");
        await _site.InvoiceAsync(_yard);
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private Task<HttpResponseMessage> NoteAsync(Dictionary<string, string> typed, string query = "") =>
        _site.PostAsync($"/collect/{_yard}{query}", typed, "Note");

    private async Task<string> TextAsync(string address) =>
        (await _site.GetAsync(address)).Page.QuerySelector("main")!.TextContent;

    [Fact]
    public async Task A_call_is_noted_with_a_promise_and_found_wherever_it_counts()
    {
        var answer = await NoteAsync(
            new()
            {
                ["until"] = "+5",
                ["spokeTo"] = "Ilze",
                ["said"] = "After the fair",
            }
        );
        answer.Headers.Location!.ToString().ShouldBe($"/collect/{_yard}");
        (await TextAsync($"/collect/{_yard}")).ShouldContain("Ilze: After the fair");
        (await TextAsync("/collect/promises")).ShouldContain("Yard & Söhne");
        (await TextAsync("/collect?show=promised")).ShouldContain("Yard & Söhne");
        (await TextAsync("/collect?show=dispute")).ShouldNotContain("Yard & Söhne");
        (await TextAsync("/collect/expected")).ShouldContain("promised for");
    }

    [Fact]
    public async Task What_cannot_be_noted_is_refused_beside_its_field_and_stays_typed()
    {
        foreach (
            var (field, typed, says) in new[]
            {
                ("until", "nevermore", "is not a date"),
                ("until", "-3", "The day has passed"),
                ("amount", "1.2.3", ""),
                ("again", "-1", "after today"),
                ("disputedItem", "999", "Choose which open invoice"),
            }
        )
        {
            var form = new Dictionary<string, string>
            {
                ["said"] = "Keeps this",
                ["until"] = "+2",
                ["reason"] = "x",
            };
            form[field] = typed;
            var answer = await NoteAsync(form);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, field);
            var page = await Site.ReadAsync(answer);
            page.QuerySelector("#said")!.GetAttribute("value").ShouldBe("Keeps this");
            page.QuerySelector("main")!.TextContent.ShouldContain(says);
        }

        (await TextAsync($"/collect/{_yard}")).ShouldContain("Nobody has spoken to them");
    }

    [Fact]
    public async Task From_the_list_one_comes_back_to_it_as_it_was_narrowed()
    {
        var answer = await _site.PostAsync(
            $"/collect/{_yard}?from=list&show=all&q=yard",
            new() { ["way"] = "NoAnswer" },
            "Note"
        );
        answer.Headers.Location!.ToString().ShouldBe("/collect?show=all&q=yard");
        (await TextAsync("/collect?show=all&q=yard")).ShouldContain("Nobody answered at Yard & Söhne");
        (await TextAsync("/collect?show=all&q=nobody")).ShouldContain("Nobody fits");
    }

    [Fact]
    public async Task The_slip_is_the_part_of_the_page_that_stands_in_the_list()
    {
        var (status, slip) = await _site.GetAsync($"/collect/{_yard}?slip=1&show=all");
        status.ShouldBe(HttpStatusCode.OK);
        slip.QuerySelector("header").ShouldBeNull();
        slip.QuerySelector(".slip form")!
            .GetAttribute("action")
            .ShouldBe($"/collect/{_yard}?handler=Note&from=list&show=all");
    }

    [Fact]
    public async Task A_plan_is_divided_agreed_and_ended()
    {
        var (_, page) = await _site.GetAsync($"/collect/{_yard}/plan?parts=2&first=%2B10&every=week");
        var form = page.QuerySelectorAll("form[method=post].sheet input")
            .Where(i =>
                i.GetAttribute("name") is { Length: > 0 } name && !name.StartsWith("__", StringComparison.Ordinal)
            )
            .GroupBy(i => i.GetAttribute("name")!)
            .ToDictionary(g => g.Key, g => g.First().GetAttribute("value") ?? "");
        form.Keys.ShouldContain("parts[1].amount");
        var wrong = new Dictionary<string, string>(form) { ["parts[0].amount"] = "1.00" };
        (await Site.ReadAsync(await _site.PostAsync($"/collect/{_yard}/plan", wrong)))
            .QuerySelector("main")!
            .TextContent.ShouldContain("less than is open");
        (await _site.PostAsync($"/collect/{_yard}/plan", form)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await TextAsync("/collect/promises")).ShouldContain("kept");
        (await TextAsync($"/collect/{_yard}/plan")).ShouldContain("Nothing of Yard & Söhne can be divided");
        await _site.PostAsync($"/collect/{_yard}", new() { ["plan"] = "1" }, "EndPlan");
        (await TextAsync($"/collect/{_yard}/plan")).ShouldContain("What is divided");
    }

    private async Task BeLateAsync()
    {
        await using var scope = _site.Services.CreateAsyncScope();
        await scope
            .ServiceProvider.GetRequiredService<BooksContext>()
            .Database.ExecuteSqlRawAsync("UPDATE AccountItems SET Due = date('now', 'localtime', '-20 days')");
        // Every day of the week, so that the day of the test makes no difference.
        var when = new Dictionary<string, string>
        {
            ["usual"] = "1",
            ["tolerance"] = "1.00",
            ["daysBetween"] = "7",
        };
        for (var day = 1; day <= 7; day++)
            when[$"day{day}"] = "true";
        (await _site.PostAsync("/setup/ladders", when, "When")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task Letters_are_looked_at_and_go_once()
    {
        await BeLateAsync();
        (await TextAsync("/collect/letters")).ShouldContain("step 2, reached by what fell due");
        var (_, letter) = await _site.GetAsync($"/collect/letters/{_yard}");
        letter.QuerySelector("#body")!.TextContent.ShouldContain("20 days late");
        (await _site.PostAsync("/collect/letters", [])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await _site.PostAsync("/collect/letters", new() { ["only"] = $"{_yard}" });
        (await TextAsync("/collect/letters")).ShouldContain("1 step is taken");
        await _site.PostAsync("/collect/letters", new() { ["only"] = $"{_yard}" });
        (await TextAsync("/collect/letters")).ShouldContain("0 steps are taken");
        (await TextAsync($"/collect/{_yard}")).ShouldContain("2, a mail");
        (await TextAsync($"/collect/letters/{_yard}")).ShouldContain("Nothing is written to");
    }

    [Fact]
    public async Task A_letter_is_changed_or_held_before_it_goes()
    {
        await BeLateAsync();
        var held = await _site.PostAsync($"/collect/letters/{_yard}", new() { ["leftReason"] = "" }, "Hold");
        held.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await _site.PostAsync($"/collect/letters/{_yard}", new() { ["leftReason"] = "The owner is ill" }, "Hold");
        (await TextAsync("/collect/letters")).ShouldContain("left out: The owner is ill");
        await _site.PostAsync("/collect/letters", new() { ["left"] = "1" }, "TakeIn");
        await _site.PostAsync(
            $"/collect/letters/{_yard}",
            new()
            {
                ["to"] = "other@slip.example",
                ["subject"] = "Dear neighbour",
                ["body"] = "Please pay.",
            }
        );
        (await TextAsync("/post")).ShouldContain("Dear neighbour");
    }

    [Fact]
    public async Task Steps_days_and_judgement_are_set_and_what_cannot_be_is_refused_beside_its_field()
    {
        var steps = new Dictionary<string, string>
        {
            ["id"] = "1",
            ["name"] = "Ours",
            ["steps[0].days"] = "-3",
            ["steps[0].way"] = "Mail",
            ["steps[0].text"] = "DueSoon",
            ["steps[1].days"] = "x",
            ["steps[1].way"] = "Call",
        };
        var refused = await Site.ReadAsync(await _site.PostAsync("/setup/ladders", steps, "Steps"));
        refused.GetElementById("steps[1].days-refusal").ShouldNotBeNull();
        steps["steps[1].days"] = "-3";
        (await Site.ReadAsync(await _site.PostAsync("/setup/ladders", steps, "Steps")))
            .GetElementById("steps[1].days-refusal")!
            .TextContent.ShouldContain("no later than");
        steps["steps[1].days"] = "10";
        (await _site.PostAsync("/setup/ladders", steps, "Steps")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var (_, page) = await _site.GetAsync("/setup/ladders?ladder=1");
        page.GetElementById("steps[1].days")!.GetAttribute("value").ShouldBe("10");
        foreach (
            var (handler, field, typed) in new[]
            {
                ("When", "daysBetween", "0"),
                ("Judge", "grace", "-1"),
                ("Holidays", "holidays", "no day at all"),
            }
        )
            (await _site.PostAsync("/setup/ladders", new() { [field] = typed }, handler)).StatusCode.ShouldBe(
                HttpStatusCode.UnprocessableEntity,
                handler
            );
        await _site.PostAsync(
            "/setup/ladders",
            new() { ["holidays"] = "24 Dec 2025 Christmas Eve\n2026-01-01 New Year" },
            "Holidays"
        );
        (await TextAsync("/setup/ladders")).ShouldContain("24 Dec 2025 Christmas Eve");
        await _site.PostAsync($"/collect/{_yard}", new() { ["ladder"] = "none" }, "Ladder");
        await BeLateAsync();
        (await TextAsync("/collect/letters")).ShouldContain("they are never written to by steps");
    }

    [Fact]
    public async Task A_statement_is_seen_printed_and_sent_once_to_one_and_to_many()
    {
        var (_, page) = await _site.GetAsync($"/customers/{_yard}/statement");
        page.QuerySelector("svg.paper-page").ShouldNotBeNull();
        page.QuerySelector("main")!.TextContent.ShouldContain("Owed in all");
        var pdf = await _site.RawAsync($"/customers/{_yard}/statement?handler=Pdf&from=2020-01-01");
        pdf.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        await _site.PostAsync("/collect/statements", new() { ["only"] = $"{_yard}" });
        (await TextAsync("/collect/statements")).ShouldContain("1 statement is in the post");
        (await _site.PostAsync($"/customers/{_yard}/statement", [])).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await _site.PostAsync("/collect/statements", [])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await _site.PostAsync("/collect/statements", new() { ["monthly"] = "true" }, "Monthly");
        var (_, set) = await _site.GetAsync("/collect/statements");
        set.GetElementById("monthly")!.HasAttribute("checked").ShouldBeTrue();
    }

    [Theory]
    [InlineData("/collect?show=nonsense&who=x&least=1,2,3&days=-4&q=%27")]
    [InlineData("/collect/expected?on=never&weeks=0")]
    [InlineData("/collect/expected?on=2020-01-01&weeks=100000")]
    [InlineData("/collect/expected?handler=Past")]
    [InlineData("/collect/expected?handler=File&form=Xlsx")]
    [InlineData("/collect/file?form=Csv&show=all")]
    [InlineData("/collect/totals")]
    [InlineData("/collect/goes")]
    [InlineData("/collect/goes?handler=File&form=Csv")]
    [InlineData("/collect/statements?on=never&from=2999-01-01&who=late&least=x")]
    public async Task Whatever_the_address_asks_there_is_an_answer(string address) =>
        (await _site.RawAsync(address)).StatusCode.ShouldBe(HttpStatusCode.OK);

    [Fact]
    public async Task A_reader_sees_and_notes_nothing_and_a_seller_sees_nothing()
    {
        await _site.AsRoleAsync("Reader");
        (await _site.RawAsync($"/collect/{_yard}")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await NoteAsync(new() { ["said"] = "x" })).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await _site.AsRoleAsync("Seller");
        foreach (var shut in new[] { "/collect", $"/collect/{_yard}", "/collect/expected", "/collect/promises" })
            (await _site.RawAsync(shut)).StatusCode.ShouldBe(HttpStatusCode.Forbidden, shut);
    }

    [Fact]
    public async Task Days_to_keep_stand_in_a_calendar_at_an_address_that_closes()
    {
        await NoteAsync(new() { ["until"] = "+5", ["spokeTo"] = "Ilze" });
        await NoteAsync(new() { ["askAgain"] = "+9", ["said"] = "later" });
        async Task<string> MakeAsync()
        {
            var page = await Site.ReadAsync(await _site.PostAsync("/me", [], "Calendar"));
            return new Uri(page.QuerySelector("#calendar-address")!.TextContent).AbsolutePath;
        }

        var first = await MakeAsync();
        var answer = await _site.RawAsync(first);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("text/calendar");
        var text = (await answer.Content.ReadAsStringAsync()).Replace("\r\n ", "");
        text.ShouldStartWith("BEGIN:VCALENDAR");
        text.ShouldContain("Yard & Söhne promised");
        var day = DateOnly.FromDateTime(DateTime.Today).AddDays(5);
        text.ShouldContain($"DTSTART;VALUE=DATE:{day:yyyyMMdd}");
        (await (await _site.RawAsync(first)).Content.ReadAsStringAsync()).ShouldContain("UID:promise-1");
        _site.As("somebody outside");
        (await _site.RawAsync(first)).StatusCode.ShouldBe(HttpStatusCode.OK, "a calendar program does not sign in");
        foreach (var wrong in new[] { "/calendar/x.ics", first.Replace(".ics", "a.ics") })
            (await _site.RawAsync(wrong)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        _site.As("");
        await _site.SignInAsync();
        var second = await MakeAsync();
        (await _site.RawAsync(first)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await _site.RawAsync(second)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await _site.PostAsync("/me", [], "NoCalendar");
        (await _site.RawAsync(second)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Credit_is_looked_at_limited_and_let_pass_on_its_page()
    {
        await _site.PostAsync(
            "/setup/ladders",
            new()
            {
                ["limitCheck"] = "Stop",
                ["noMoreAfterDays"] = "60",
                ["noMoreAfterBroken"] = "2",
            },
            "Credit"
        );
        (
            await _site.PostAsync($"/customers/{_yard}/credit", new() { ["limit"] = "1.00" }, "Limit")
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var draft = await _site.InvoiceAsync(_yard, issue: false);
        (await Site.ReadAsync(await _site.PostAsync($"/papers/{draft}", new() { ["version"] = "1" }, "Issue")))
            .QuerySelector("main")!
            .TextContent.ShouldContain("over the limit");
        var (_, page) = await _site.GetAsync($"/customers/{_yard}/credit");
        page.QuerySelectorAll(".passing").Length.ShouldBe(1);
        await _site.PostAsync(
            $"/customers/{_yard}/credit",
            new() { ["document"] = $"{draft}", ["reason"] = "paid today" },
            "Pass"
        );
        (await TextAsync($"/customers/{_yard}/credit")).ShouldContain("paid today");
        string File(string form) => page.QuerySelector($"a[href$='form={form}']")!.GetAttribute("href")!;
        (await (await _site.RawAsync(File("Csv"))).Content.ReadAsStringAsync()).ShouldContain("paid today");
        (await _site.RawAsync(File("Pdf"))).Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        (await _site.PostAsync($"/papers/{draft}", new() { ["version"] = "1" }, "Issue")).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        await _site.PostAsync($"/customers/{_yard}/credit", new() { ["reason"] = "too late" }, "NoMore");
        (await TextAsync($"/customers/{_yard}/credit")).ShouldContain("Nothing more on account: too late");
        (await _site.RawAsync("/customers/999/credit")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await TextAsync("/collect/giving-up")).ShouldContain("Nobody has gone through all steps");
    }

    [Fact]
    public async Task What_late_payment_costs_is_set_with_rates_by_day_and_shown_again()
    {
        var steps = new Dictionary<string, string>
        {
            ["name"] = "Charging",
            ["steps[0].days"] = "3",
            ["steps[0].way"] = "Mail",
            ["steps[0].text"] = "GentleReminder",
            ["steps[0].fee"] = "5.00",
            ["steps[0].interest"] = "on",
        };
        (await Site.ReadAsync(await _site.PostAsync("/setup/ladders", steps, "Steps")))
            .QuerySelector("main")!
            .TextContent.ShouldContain("Say below first");
        var late = new Dictionary<string, string>
        {
            ["rates"] = "2025-01-01 11.15\n2025-07-01 10.15 %",
            ["compensation"] = "40",
            ["chargeTaxCode"] = "1",
            ["chargeAccount"] = "6",
        };
        foreach (var wrong in new[] { "sometime 5", "2025-01-01", "2025-01-01 five", "2025-01-01 -2" })
            (await _site.PostAsync("/setup/ladders", new(late) { ["rates"] = wrong }, "Late")).StatusCode.ShouldBe(
                HttpStatusCode.UnprocessableEntity,
                wrong
            );
        (await _site.PostAsync("/setup/ladders", late, "Late")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var made = await _site.PostAsync("/setup/ladders", steps, "Steps");
        made.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var (_, page) = await _site.GetAsync(made.Headers.Location!.ToString());
        page.QuerySelector("[name=rates]")!.TextContent.ShouldContain("11.15");
        page.QuerySelector("[name='steps[0].fee']")!.GetAttribute("value").ShouldBe("5.00");
        page.QuerySelector("[name='steps[0].interest']")!.HasAttribute("checked").ShouldBeTrue();
    }
}
