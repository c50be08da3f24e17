using System.Globalization;
using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>A sheet of receipts by keyboard, credit that goes back by bank, and the account as it is drawn.</summary>
public sealed class MoneyTests(Running running) : IClassFixture<Running>
{
    private static string Cell(int row, string name) => $"rows[{row}].{name}";

    private static string Words(Chromium browser, int row) =>
        browser.All("#rows tr")[row].FindElement(By.CssSelector("td.wide")).Text;

    private static decimal Number(string text) =>
        decimal.Parse(
            string.Concat(text.Replace('−', '-').Where(c => char.IsAsciiDigit(c) || c is '.' or '-')),
            CultureInfo.InvariantCulture
        );

    [Fact]
    public void A_sheet_of_receipts_is_typed_proposed_and_posted_without_the_mouse()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell?kind=invoice&show=open&q=slipway");
        var row = browser.Find("table.ledger tbody tr");
        var (number, open) = (
            row.FindElement(By.TagName("a")).Text,
            Number(row.FindElements(By.CssSelector("td.fig"))[1].Text)
        );
        browser.Go("/receive/sheet");
        browser.Until(
            () => browser.Script.ExecuteScript("return document.activeElement.id") as string == Cell(0, "customer"),
            "the first cell has not the focus"
        );
        // Enter goes from cell to cell, and from the last one of a row to the next row.
        browser.Keys(
            "slipway"
                + Keys.Enter
                + open.ToString("0.00", CultureInfo.InvariantCulture)
                + Keys.Enter
                + "thanks"
                + Keys.Enter
                + "ann"
                + Keys.Enter
                + "25"
                + Keys.Enter
                + Keys.Enter
                + "TAMBRG"
                + Keys.Enter
                + "12.5"
        );
        browser.Until(
            () => Words(browser, 0).Contains(number, StringComparison.Ordinal),
            () => $"row 1 says: {Words(browser, 0)}"
        );
        browser.Until(
            () => Words(browser, 1).Contains("Type the code", StringComparison.Ordinal),
            () => $"row 2 says: {Words(browser, 1)}"
        );
        browser.Until(
            () =>
                browser
                    .All("#rows tr")[2]
                    .FindElement(By.CssSelector(".rest"))
                    .Text.Contains("12.50", StringComparison.Ordinal),
            "what nobody owes does not stay as credit"
        );
        Number(browser.ById("sum").Text).ShouldBe(open + 37.5m);
        browser.Keys(Keys.Control + Keys.Enter);
        browser.WaitFor("Not done.");
        browser.ById(Cell(1, "customer")).GetAttribute("value").ShouldBe("ann", "what was typed is still there");
        browser.Type(Cell(1, "customer"), "OARLCK");
        browser.Type("slip", "1");
        browser.Keys(Keys.Control + Keys.Enter);
        browser.WaitFor("is too much");
        browser.Type("slip", (open + 37.5m).ToString("0.00", CultureInfo.InvariantCulture));
        browser.Keys(Keys.Control + Keys.Enter);
        browser.WaitFor("3 receipts are posted.");
        browser.Go("/sell?kind=invoice&q=" + number);
        browser.Find("table.ledger tbody").Text.ShouldContain("settled");
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Credit_of_a_credit_note_is_paid_back_by_bank_with_a_payment_file()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell?kind=invoice&show=settled&q=korall");
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
        browser.Script.ExecuteScript("document.getElementById('pay-back').open = true");
        browser.Type("iban", "EE47 1000 0010 2014 5685");
        browser.ById("refund-it").Click();
        browser.WaitFor("It goes to the bank with the next payment file.");
        browser.Go("/receive/payments");
        var waiting = browser.All("input[name=refund]").Count;
        waiting.ShouldBeGreaterThanOrEqualTo(2, "the demo's own waits as well");
        browser.Click(browser.ById("make-file"));
        browser.WaitFor("The payment file is made.");
        browser.Text.ShouldContain("No refund waits for the bank.");
        var file = (string)
            browser.Script.ExecuteScript(
                "const r = new XMLHttpRequest(); r.open('GET', document.querySelector(\"a[href$='/file']\").href, false); r.send(); return r.responseText"
            )!;
        file.ShouldContain("pain.001.001.09");
        file.ShouldContain($"<NbOfTxs>{waiting}</NbOfTxs>");
        file.ShouldContain("EE471000001020145685");
        browser.Click(browser.All("button[aria-label^='take back']")[0]);
        browser.WaitFor("Taken back. Its refunds wait again.");
        browser.All("input[name=refund]").Count.ShouldBe(waiting);
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void The_account_says_what_paid_what_and_what_was_owed_on_any_day()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/reports/aged?on=2025-07-31");
        browser.ById("agrees").Text.ShouldContain("The two agree.");
        var name = browser.All("table.aged summary").First(s => s.Text.Contains("Skerry", StringComparison.Ordinal));
        var owed = Number(
            browser
                .All("table.aged tbody tr")
                .First(r => r.Text.Contains("Skerry", StringComparison.Ordinal))
                .FindElements(By.CssSelector("td.fig.nowrap"))[^1]
                .Text
        );
        browser.Click(name);
        browser.Click(browser.All("details[open].behind a").First(a => a.Text == "the account on that day"));
        browser.Until(
            () => browser.Path.StartsWith("/customers/", StringComparison.Ordinal),
            "it does not lead to the account"
        );
        Number(browser.ById("owed-then").Text).ShouldBe(owed);
        browser.All(".settlement-map .band").Count.ShouldBeGreaterThan(5);
        browser.ById("habits").Text.ShouldContain("weighted by amount");
        var all = browser.All("table[aria-label=Movement] > tbody > tr").Count;
        browser.Click(browser.All("nav[aria-label=Movement] a").Single(a => a.Text == "open only"));
        browser.Until(
            () => browser.All("table[aria-label=Movement] > tbody > tr").Count is > 0 and var some && some < all,
            "not only what is open is left"
        );
        browser.Click(browser.All("nav[aria-label=Movement] a").Single(a => a.Text == "all"));
        browser.Until(
            () => browser.All("table[aria-label=Movement] summary").Count > 0,
            "nothing opens to what paid it"
        );
        browser.Click(browser.All("table[aria-label=Movement] summary")[0]);
        browser.All("table[aria-label=Movement] details[open] tr").Count.ShouldBeGreaterThan(0);
        browser.Click(browser.All("a[aria-label^='how it was booked']")[0]);
        browser.Until(
            () => browser.Path.StartsWith("/reports/entries?booking=", StringComparison.Ordinal),
            "it does not say how it was booked"
        );
        browser.Find("table.ledger").Text.ShouldContain("Receivables");
        // Whatever a report has to show is seen without moving the page sideways.
        foreach (
            var report in new[]
            {
                "open-items",
                "sales",
                "receipts",
                "account?account=1",
                "statement?customer=SKERRY",
                "aged",
                "entries",
            }
        )
        {
            browser.Go("/reports/" + report);
            browser.Find("table.ledger");
            (
                (bool)browser.Script.ExecuteScript("return document.documentElement.scrollWidth <= window.innerWidth")!
            ).ShouldBeTrue(report);
        }

        browser.Complaints().ShouldBeEmpty();
    }
}
