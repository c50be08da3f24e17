using System.Globalization;
using System.Text.RegularExpressions;
using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>
/// A day at the till: a sale, one piece back with its money, the box counted, and takings brought to the bank.
/// </summary>
public sealed class TillTests(Running running) : IClassFixture<Running>
{
    private static decimal Number(string text) =>
        decimal.Parse(
            string.Concat(text.Replace('−', '-').Where(c => char.IsAsciiDigit(c) || c is '.' or '-')),
            CultureInfo.InvariantCulture
        );

    [Fact]
    public void Goods_and_money_come_back_the_box_is_counted_and_takings_go_to_the_bank()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/till");
        var inBox = Number(browser.Find("dd[id^='expected-']").Text);

        browser.Go("/sell/counter");
        browser.ById("scan").SendKeys("4740010000084" + Keys.Enter);
        browser.Until(() => browser.ById("payable").Text.Length > 0, "nothing is to be paid");
        browser.ById("scan").SendKeys("4740010000084" + Keys.Enter);
        browser.Until(
            () => browser.All("table.lines tbody input") is [var quantity, ..] && quantity.GetAttribute("value") == "2",
            "the quantity does not become 2"
        );
        browser.ById("scan").SendKeys(Keys.F9);
        browser.Keys("100");
        browser.Until(() => browser.ById("change").Text.Length > 0, "no change is told");
        var paid = 100 - Number(browser.ById("change").Text);
        browser.Keys(Keys.Control + Keys.Enter);
        browser.WaitFor("change ");
        var number = Regex.Match(browser.ById("sold").Text, @"INV-\d{4}-\d+").Value;

        browser.ById("goods-back").Click();
        browser.ById("back-number").SendKeys("INV-1" + Keys.Enter);
        browser.Until(
            () => browser.All("#back .refusal").Any(r => r.Displayed),
            "a number that there is none of is not refused"
        );
        browser.Type("back-number", number);
        browser.ById("back-number").SendKeys(Keys.Enter);
        var back = browser.Find("#back table.lines tbody input");
        back.SendKeys("3");
        browser.Until(() => browser.All("#back tbody .refusal").Any(r => r.Displayed), "three of two may come back");
        back.SendKeys(Keys.Backspace + "1");
        // Cash goes in steps of 0.05 both ways.
        browser.Until(
            () =>
                browser.ById("paid-back").Text is { Length: > 0 } text
                && Math.Abs(Number(text) - (paid / 2)) < 0.05m
                && Number(text) % 0.05m == 0,
            () => $"{browser.ById("paid-back").Text} would be given back of {paid}"
        );
        var givenBack = browser.ById("paid-back").Text;
        var stays = inBox + paid - Number(givenBack);
        browser.Type("back-reason", "Goods came back");
        browser.ById("take-back").Click();
        browser.WaitFor("Given back " + givenBack);

        browser.Go("/sell/till");
        var expected = browser.Find("dd[id^='expected-']");
        Number(expected.Text).ShouldBe(stays);
        var box = expected.GetAttribute("id")!.Split('-')[1];
        browser.Find("input[name^='counted']").SendKeys((stays - 1).ToString(CultureInfo.InvariantCulture));
        browser.Press("Note the count");
        browser.Until(() => browser.All(".refusal").Any(r => r.Displayed), "a difference without a reason is taken");
        browser.Find("input[name^='reason']").SendKeys("one euro too much change");
        browser.Press("Note the count");
        browser.WaitFor("one euro too much change");
        Number(browser.ById($"expected-{box}").Text).ShouldBe(stays - 1);

        browser.Go("/money");
        string Books(string account) =>
            browser.Find($"tr:has(a[href='/reports/account?account={account}']) td.fig").Text;
        var (all, before) = (browser.Find("tfoot .fig").Text, Number(Books(box)));
        before.ShouldBe(stays - 1);
        browser.Set("from", box);
        browser.Set(
            "to",
            browser
                .All("#to option")
                .First(o => o.GetAttribute("value") is { Length: > 0 } other && other != box)
                .GetAttribute("value")!
        );
        browser.Type("amount", "5");
        browser.Type("text", "takings");
        browser.ById("transfer").Click();
        browser.Until(() => Number(Books(box)) == before - 5, () => $"the box has {Books(box)}");
        browser.Find("tfoot .fig").Text.ShouldBe(all);
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void What_is_refused_of_a_new_customer_stands_at_its_cell()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=quote");
        browser.ById("customer").SendKeys("Maple Yachts");
        browser.Until(
            () => browser.Text.Contains("as a new customer", StringComparison.Ordinal),
            "a new customer is not offered"
        );
        browser.Keys(Keys.Enter);
        browser.ById("nc-name");
        browser.Set("nc-country", "CA");
        browser.ById("nc-region").SendKeys("Bavaria");
        browser.ById("nc-region").GetAttribute("list").ShouldBe("regions-CA");
        browser.Press("Add customer");
        browser.Until(
            () =>
                browser.All("[id='nc.region']")[0] is { Displayed: true } said
                && said.Text.Contains("no region of Canada", StringComparison.Ordinal),
            "the region is not refused"
        );
        browser.Type("nc-region", "ontario");
        browser.ById("nc-email").SendKeys("no mail");
        browser.Press("Add customer");
        browser.Until(
            () => browser.All("[id='nc.email']")[0].Displayed && !browser.All("[id='nc.region']")[0].Displayed,
            "the mail address is not refused"
        );
        browser.Set("nc-email", "");
        browser.Press("Add customer");
        browser.Until(() => !browser.All("#nc-email")[0].Displayed, "the new customer's form stays open");
    }
}
