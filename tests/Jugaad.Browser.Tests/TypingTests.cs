using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>
/// What the editor does while one types: scans, discounts, another customer, typing that was left behind, starters.
/// </summary>
public sealed class TypingTests(Running running) : IClassFixture<Running>
{
    private const string Shackle = "4740010000084";

    private static string Value(Chromium browser, string id) => browser.ById(id).GetAttribute("value") ?? "";

    private static void Choose(Chromium browser, string customer)
    {
        browser.Type("customer", customer);
        browser.Until(() => browser.All("#customer-list li").Any(li => li.Displayed), "no customer is proposed");
        browser.ById("customer").SendKeys(Keys.Enter);
    }

    [Fact]
    public void A_scan_fills_a_line_and_the_same_scan_again_raises_its_quantity()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=1");
        browser.ById("lines[0].text").SendKeys(Shackle + Keys.Enter);
        browser.Until(
            () => Value(browser, "lines[0].text").StartsWith("Shackle", StringComparison.Ordinal),
            "the scan finds nothing"
        );
        browser.Click(browser.ById("add-line"));
        browser.ById("lines[1].text").SendKeys(Shackle + Keys.Enter);
        browser.Until(() => Value(browser, "lines[0].quantity") == "2", "the second scan does not count");
        Value(browser, "lines[1].text").ShouldBeEmpty("the line is free for the next scan");
        browser.ById("lines[1].text").SendKeys("4740019999999" + Keys.Enter);
        browser.WaitFor("No item has the barcode 4740019999999");
        Value(browser, "lines[0].quantity").ShouldBe("2");
    }

    [Fact]
    public void A_discount_on_the_whole_goes_to_each_line_instead()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=11");
        foreach (var (i, price) in new[] { (0, "100"), (1, "50") })
        {
            if (i > 0)
                browser.Click(browser.ById("add-line"));
            browser.ById($"lines[{i}].text").SendKeys("By hand");
            browser.ById($"lines[{i}].unitPrice").SendKeys(price);
        }

        browser.Type("discount", "10%");
        browser.Until(() => browser.ById("total").Text == "167.40", () => $"the total is {browser.ById("total").Text}");
        browser.Press("give it to each line instead");
        browser.Until(
            () => browser.All("td.amount").Select(c => c.Text).SequenceEqual(["90.00", "45.00"]),
            "the lines do not have it"
        );
        Value(browser, "discount").ShouldBeEmpty();
        browser.ById("total").Text.ShouldBe("167.40");
    }

    [Fact]
    public void Another_customer_recomputes_says_what_changed_and_is_taken_back()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice");
        Choose(browser, "korall");
        browser.Until(
            () => browser.Script.ExecuteScript("return document.activeElement.id") as string == "lines[0].text",
            "the focus does not go on to the first line"
        );
        browser.ById("lines[0].text").SendKeys("P-HANK" + Keys.Enter);
        browser.Until(() => Value(browser, "lines[0].unitPrice").Length > 0, "the item has no price");
        var price = Value(browser, "lines[0].unitPrice");
        Choose(browser, "kaijo");
        browser.Until(() => browser.ById("customer-changed").Displayed, "nothing is said of the change");
        browser.ById("customer-changed").Text.ShouldContain("Piston hank");
        Value(browser, "lines[0].unitPrice").ShouldNotBe(price);
        browser.Press("Back to the customer before");
        browser.Until(() => Value(browser, "lines[0].unitPrice") == price, "the price is not as before");
        Value(browser, "customer").ShouldContain("Korall");
    }

    [Fact]
    public void What_was_typed_and_not_saved_is_offered_again()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice");
        browser.ById("lines[0].text").SendKeys("Words without a customer");
        browser.WaitFor("Kept aside, not saved as a draft yet.");
        browser.Go("/");
        browser.Go("/sell/edit?kind=invoice");
        browser.ById("unsaved").Text.ShouldContain("did not save it");
        browser.Press("Go on with it");
        browser.Until(
            () => Value(browser, "lines[0].text") == "Words without a customer",
            "what was typed does not come back"
        );
    }

    [Fact]
    public void A_starter_is_kept_from_the_editor_and_begun_from()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=11");
        browser.ById("lines[0].text").SendKeys("Hoisting the mast");
        browser.ById("lines[0].unitPrice").SendKeys("95.50");
        browser.Until(() => browser.ById("total").Text.Length > 0, "there is no total");
        browser.Click(
            browser.All("summary").Single(s => s.Text.StartsWith("Keep it as a starter", StringComparison.Ordinal))
        );
        browser.Click(browser.ById("keep-starter"));
        browser.WaitFor("Give the starter a name");
        browser.Type("st-name", "Mast up");
        browser.Click(browser.ById("keep-starter"));
        browser.WaitFor("Kept as the starter Mast up.");
        browser.Script.ExecuteScript("window.onbeforeunload = null");
        browser.Go("/sell/starters");
        browser.WaitFor("Mast up");
        browser.Find("tr:has(td) a[href*='starter=']").GetAttribute("href")!.ShouldContain("/sell/edit?kind=");
        browser.Go("/sell/edit?kind=invoice&customer=11");
        browser.Script.ExecuteScript(
            "const s = document.getElementById('starter'); s.value = [...s.options].find(o => o.text.startsWith('Mast up')).value; s.dispatchEvent(new Event('change'));"
        );
        browser.Until(
            () =>
                browser.Path.Contains("starter=", StringComparison.Ordinal)
                && Value(browser, "lines[0].text") == "Hoisting the mast",
            "it does not begin from the starter"
        );
        Value(browser, "lines[0].unitPrice").ShouldBe("95.50");
    }
}
