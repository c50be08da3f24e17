using Jugaad.Core.Trade;
using Jugaad.Desk.Setup;
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

    /// <summary>
    /// Half an hour for twenty customers is a minute and a half for each, to read, to speak and to note: the keys may take
    /// little of it, whatever came of the call.
    /// </summary>
    [Fact]
    public async Task A_list_of_twenty_customers_is_worked_off_by_keys_alone()
    {
        const int all = 20;
        for (var i = 0; i < all; i++)
        {
            var details = new CustomerDetails
            {
                Code = $"TWENTY{i}",
                Name = $"Twenty Sails {i} OÜ",
                Phone = $"+372 5550 0{i + 100}",
                Currency = "EUR",
            };
            var customer = await running.WithAsync<CustomersDesk, int>(c => c.SaveAsync(null, 0, details));
            await running.IssuedAsync(customer, new DateOnly(2025, 8, 4), 100 + i);
        }

        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/collect");
        var keys = 0;
        void Strike(params string[] strokes)
        {
            foreach (var stroke in strokes)
            {
                browser.Keys(stroke);
                keys++;
            }
        }

        void Write(string words) => Strike([.. words.Select(c => $"{c}")]);

        void TabTo(string name)
        {
            while ((string?)browser.Script.ExecuteScript("return document.activeElement.name") != name)
                Strike(Keys.Tab);
        }

        void Open()
        {
            Strike(Keys.Enter);
            browser.Until(() => browser.Find(".slip #until").Equals(Focused(browser)), "the slip is not ready");
        }

        for (var i = 0; i < all; i++)
        {
            var left = browser.All(".chase-row").Count;
            var (who, before) = (browser.Find(".chase-row.is-active .chase-open").Text, keys);
            switch (i % 5)
            {
                case 0:
                    Open();
                    Write("fri");
                    Strike(Keys.Enter);
                    break;
                case 1:
                    Strike("x");
                    break;
                case 2:
                    Open();
                    Write("+5");
                    TabTo("amount");
                    Write("10");
                    Strike(Keys.Enter);
                    break;
                case 3:
                    Strike("w");
                    break;
                default:
                    Open();
                    TabTo("said");
                    Write("away");
                    TabTo("again");
                    Write("+3");
                    Strike(Keys.Enter);
                    break;
            }

            browser.Until(
                () =>
                    browser.All(".chase-row").Count == left - 1
                    || browser.Text.Contains($"at {who}", StringComparison.Ordinal),
                () => $"{who} is not noted:\n{browser.Text}"
            );
            (keys - before).ShouldBeLessThan(15, $"for {who}");
        }

        keys.ShouldBeLessThan(120, "strokes for all of them");
        browser.Complaints().ShouldBeEmpty();
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
