using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>The field for a day, by the keys of the keyboard and with the calendar.</summary>
public sealed class DayFieldTests(Running running) : IClassFixture<Running>
{
    [Fact]
    public void A_day_is_typed_stepped_and_chosen_from_the_calendar()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=11");
        Leave(browser, "date", "22", "22 Sep 2025");
        Leave(browser, "dueDate", "+14", "6 Oct 2025");
        Leave(browser, "date", "fri", "19 Sep 2025");
        Leave(browser, "date", "17.9", "17 Sep 2025");

        var due = browser.ById("dueDate");
        due.SendKeys(Keys.ArrowUp + Keys.ArrowUp + Keys.ArrowUp + Keys.ArrowDown);
        browser.Until(() => Value(browser, "dueDate") == "8 Oct 2025", () => Value(browser, "dueDate"));
        due.SendKeys(Keys.Alt + Keys.ArrowDown);
        browser.Until(() => Inner(browser, "9"), "the calendar did not open");
        browser.Until(() => Focused(browser) == "8 October", () => Focused(browser));
        browser.Keys(Keys.ArrowRight);
        browser.Until(() => Focused(browser) == "9 October", () => Focused(browser));
        browser.Keys(Keys.Enter);
        browser.Until(() => Value(browser, "dueDate") == "9 Oct 2025", () => Value(browser, "dueDate"));
        browser.Script.ExecuteScript("return document.activeElement.id").ShouldBe("dueDate");

        // What is no day stays as it was typed, and why stands beside it.
        Leave(browser, "dueDate", "31.9", "31.9");
        browser.WaitFor("September 2025 has 30 days, and no day 31.");
        Leave(browser, "dueDate", "30.9", "30 Sep 2025");
        browser.Until(
            () => !browser.Text.Contains("no day 31", StringComparison.Ordinal),
            "the refusal stayed beside a day that is right"
        );
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_filter_is_sent_as_typed_by_the_enter_key()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/reports/aged");
        browser.Type("on", "31.8" + Keys.Enter);
        browser.WaitFor("what was open at the end of 31 Aug 2025");
        Value(browser, "on").ShouldBe("31 Aug 2025");
        browser.Complaints().ShouldBeEmpty();
    }

    private static void Leave(Chromium browser, string id, string typed, string shown)
    {
        browser.Type(id, typed + Keys.Tab);
        browser.Until(() => Value(browser, id) == shown, () => $"{typed} became {Value(browser, id)}");
    }

    private static string Value(Chromium browser, string id) =>
        (string)browser.Script.ExecuteScript("return document.getElementById(arguments[0]).value", id)!;

    private const string Month = "document.querySelector('calendar-month')?.shadowRoot";

    private static bool Inner(Chromium browser, string day) =>
        (bool)browser.Script.ExecuteScript($"return Boolean({Month}?.textContent.includes(arguments[0]))", day)!;

    private static string Focused(Chromium browser) =>
        (string?)browser.Script.ExecuteScript($"return {Month}?.activeElement?.getAttribute('aria-label') ?? ''") ?? "";
}
