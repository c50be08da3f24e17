using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>The matching bench by keyboard alone, credit paid back, and money that is too much.</summary>
public sealed class BenchTests(Running running) : IClassFixture<Running>
{
    private static int Lines(Chromium browser) => browser.All(".bank-line").Count;

    [Fact]
    public void The_last_page_is_placed_by_keyboard_alone()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/bank");
        browser.Until(() => browser.All(".bank-line.is-active").Count == 1, "no line is current");
        var all = Lines(browser);
        browser.Keys("a");
        browser.WaitFor("were sure and are placed");
        Lines(browser).ShouldBeLessThan(all);
        // The rest one by one: the first proposal where there is one, else by hand.
        for (var i = 0; i < 15 && Lines(browser) > 0; i++)
        {
            var left = Lines(browser);
            browser.Until(() => browser.All(".bank-line.is-active").Count == 1, "no line is current");
            if (browser.All(".bank-line")[0].FindElements(By.CssSelector("form.proposal")).Count > 0)
            {
                browser.Keys(Keys.Enter);
            }
            else
            {
                browser.Keys("e");
                browser.Until(
                    () => browser.Path.StartsWith("/bank/", StringComparison.Ordinal),
                    "e does not lead to placing by hand"
                );
                browser.ById("place-other").SendKeys(Keys.Enter);
            }

            browser.Until(
                () => browser.Path == "/bank" && Lines(browser) == left - 1,
                () => $"the line is not placed:\n{browser.Text}"
            );
        }

        Lines(browser).ShouldBe(0);
        browser.WaitFor("agrees with the books");
        browser.Script.ExecuteScript("document.querySelectorAll('details').forEach(d => d.open = true)");
        browser.Press("put back");
        browser.Until(() => browser.Text.Contains("Put back.", StringComparison.Ordinal), "it is not put back");
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void An_overpayment_is_asked_about_paid_back_and_undone()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/receive/new?customer=3");
        browser.Type("amount", "10");
        browser.ById("post").Click();
        browser.WaitFor("The receipt is posted.");
        browser.Press("Place what is left …");
        browser.WaitFor("What shall become of");
        browser.Script.ExecuteScript("document.getElementById('pay-back').open = true");
        browser.Type("refund", "11");
        browser.Type("iban", "EE47 1000 0010 2014 5685");
        browser.ById("refund-it").Click();
        browser.WaitFor("more than the");
        browser.Type("refund", "10");
        browser.ById("refund-it").Click();
        browser.WaitFor("It goes to the bank with the next payment file.");
        browser.ById("left").Text.ShouldBe("0.00");
        browser.All("button[aria-label^='undo:']")[0].Click();
        browser.WaitFor("Undone. Everything is as it was before.");
        browser.ById("left").Text.ShouldBe("10.00");
    }

    [Fact]
    public void A_credit_note_on_a_paid_invoice_asks_what_shall_become_of_it()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell?kind=invoice&show=settled");
        browser.Click(browser.All("table.ledger tbody a[href^='/papers/']")[0]);
        browser.Find(".margin .state");
        browser.Script.ExecuteScript("document.getElementById('put-right').open = true");
        browser.Type("reason", "Goods came back");
        browser.Press("Credit some or all of it …");
        browser.Until(
            () =>
                browser.Path.StartsWith("/sell/edit/", StringComparison.Ordinal)
                && browser.ById("total").Text.Length > 0,
            "no draft of the credit note"
        );
        browser.ById("issue").Click();
        browser.Until(() => browser.Path.EndsWith("/send", StringComparison.Ordinal), "it does not get to sending");
        browser.Press("Issue and send");
        browser.WaitFor("What shall become of");
        browser.Path.ShouldStartWith("/receive/place/");
        browser.ById("keep").Click();
        browser.WaitFor("Credit that is not placed");
    }
}
