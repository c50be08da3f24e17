namespace Jugaad.Browser.Tests;

/// <summary>A standing invoice over the ends of months, by the demo's calendar.</summary>
public sealed class StandingTests(Running running) : IClassFixture<Running>
{
    [Fact]
    public void It_begins_on_the_31st_and_occurs_on_the_last_day_of_a_shorter_month()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/standing/new");
        browser.Type("name", "Mooring");
        browser.Set("customer", "1");
        browser.Set("first", "2025-08-31");
        browser.Set("way", "Issue");
        browser.Set("makesUp", "yes");
        browser.Type("lines[0].text", "Mooring for {{ Moon }}");
        browser.Type("lines[0].price", "50");
        browser.ById("save-standing").Click();
        browser.WaitFor("There is no field");
        browser.Type("lines[0].text", "Mooring for {{ Month }}");
        browser.ById("save-standing").Click();
        browser.WaitFor("Saved. It counts from the next one on.");
        var page = browser.Path;
        for (var week = 0; week < 2; week++)
        {
            browser.Find("footer button[value='7']").Click();
            browser.Until(
                () => browser.Text.Contains(week == 0 ? "24 Sep 2025" : "1 Oct 2025", StringComparison.Ordinal),
                "the calendar does not move"
            );
        }

        browser.Go(page);
        var gave = browser
            .Until(
                () =>
                    browser
                        .All(".margin section")
                        .FirstOrDefault(s => s.Text.Contains("What it gave", StringComparison.Ordinal)),
                "nothing is said of what it gave"
            )
            .Text;
        gave.ShouldContain("31 Aug 2025");
        gave.ShouldContain("30 Sep 2025");
        gave.ShouldContain("issued");
        browser.Text.ShouldContain("31 Oct 2025");
        browser.All(".margin section .thread a")[0].Click();
        browser.Until(() => browser.Path.StartsWith("/papers/", StringComparison.Ordinal));
        browser.Find("svg.paper-page").Text.ShouldContain("Mooring for September 2025");
        browser.Complaints().ShouldBeEmpty();
    }
}
