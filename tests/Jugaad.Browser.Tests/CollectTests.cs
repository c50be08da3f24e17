using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>A bookkeeper works off the list of those to be asked for money, by keys alone.</summary>
public sealed class CollectTests(Running running) : IClassFixture<Running>
{
    [Fact]
    public void A_call_of_an_ordinary_kind_is_five_keys()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/collect");
        var before = browser.All(".chase-row").Count;
        var first = browser.Find(".chase-row.is-active .chase-open").Text;
        browser.Keys(Keys.Enter);
        browser.Until(
            () => browser.Find(".slip #until").Equals(Focused(browser)),
            "the slip is not ready to be written in"
        );
        browser.Keys("fri");
        browser.Keys(Keys.Enter);
        browser.WaitFor($"Noted about {first}: they pay by 19 Sep 2025");
        browser.All(".chase-row").Count.ShouldBe(before - 1);
        // The next is current at once; nobody answers there.
        var second = browser.Find(".chase-row.is-active .chase-open").Text;
        browser.Keys("x");
        browser.WaitFor($"Nobody answered at {second}");
        browser.Go("/collect?show=promised");
        browser.WaitFor(first);
        browser.All("circle.gauge-promise").Count.ShouldBeGreaterThan(0);
    }

    private static IWebElement Focused(Chromium browser) =>
        (IWebElement)browser.Script.ExecuteScript("return document.activeElement")!;

    [Fact]
    public void A_plan_is_divided_and_agreed()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/collect?show=all");
        browser.Click(
            browser
                .All(".chase-row")
                .First(r => r.Text.Contains("Northern Point Sailing School MTÜ", StringComparison.Ordinal))
                .FindElement(By.CssSelector(".chase-open"))
        );
        browser.WaitFor("All that was said");
        browser.Click(browser.All(".slip-acts a").Single(a => a.Text == "All that was said"));
        browser.Press("Agree a plan …");
        browser.Type("parts", "2");
        browser.Press("Divide equally");
        browser.WaitFor("Part 2 by");
        browser.Press("Agree the plan");
        browser.WaitFor("The plan with Northern Point Sailing School MTÜ holds from today");
        browser.WaitFor("kept");
        browser.Go("/collect/expected");
        browser.WaitFor("a part of a plan");
        browser.Press("Look back");
        browser.WaitFor("August 2025");
        browser.Complaints().ShouldBeEmpty();
    }
}
