using System.Globalization;
using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>
/// Billing in stages and from deliveries, the counter, a quote that the customer accepts, and how few keys an invoice
/// takes.
/// </summary>
public sealed class SellingTests(Running running) : IClassFixture<Running>
{
    private static decimal Number(string text) =>
        decimal.Parse(
            string.Concat(text.Where(c => char.IsAsciiDigit(c) || c is '.' or '-')),
            CultureInfo.InvariantCulture
        );

    private static void IssueFromEditor(Chromium browser)
    {
        browser.Until(() => browser.ById("total").Text.Length > 0, "the draft has no total");
        browser.ById("issue").Click();
        browser.Until(
            () => browser.Path.EndsWith("/send", StringComparison.Ordinal),
            () => $"it does not get to sending:\n{browser.Text}"
        );
        browser.Press("Issue and send");
        browser.WaitFor("Issued, and");
    }

    [Fact]
    public void A_quote_is_billed_in_stages_that_add_up_to_it()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Find("a[href^='/papers/'][href$='/stages']").Click();
        browser.Until(() => browser.Path.EndsWith("/stages", StringComparison.Ordinal));
        var page = browser.Path;
        browser.Type("percent", "500");
        browser.ById("make-stage").Click();
        browser.WaitFor("Give a percentage above 0");
        browser.Type("percent", "10");
        browser.ById("show-stage").Click();
        browser.WaitFor("This stage");
        browser.ById("make-stage").Click();
        browser.Until(() => browser.Path.StartsWith("/sell/edit/", StringComparison.Ordinal), "no draft of the stage");
        IssueFromEditor(browser);
        browser.Go(page);
        browser.Find("input[name=rest]").Click();
        browser.ById("make-stage").Click();
        browser.Until(
            () => browser.Path.StartsWith("/sell/edit/", StringComparison.Ordinal),
            "no draft of the last stage"
        );
        IssueFromEditor(browser);
        browser.Go(page);
        Number(browser.ById("left").Text).ShouldBe(0);
        var sums = browser.All("form.stages tfoot td");
        Number(sums[3].Text).ShouldBe(Number(sums[2].Text), "the stages come to what the quote does");
        browser.All("section table tbody tr").Count.ShouldBeGreaterThanOrEqualTo(4);
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Deliveries_are_offered_in_the_editor_and_billed_all_at_once()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/deliveries");
        var customer = browser.Find("tr.party a").GetAttribute("href")!.Split('/')[^1];
        browser.Go($"/sell/edit?kind=invoice&customer={customer}");
        browser.Press("Put them on this invoice");
        browser.Until(() => browser.ById("total").Text.Length > 0, "what was delivered has no total");
        browser.ById("save").Click();
        browser.WaitFor("Saved.");
        browser.Go("/sell/deliveries");
        browser.All($"tr.party a[href$='/{customer}']").ShouldBeEmpty("its deliveries are on a draft now");
        browser.Find("thead input[type=checkbox]").Click();
        browser.ById("bill-together").Click();
        browser.Until(() => browser.Path == "/sell/issue", () => $"the drafts are not shown:\n{browser.Text}");
        browser.All("tbody tr").Count.ShouldBeGreaterThan(3);
        browser.ById("issue-send").Click();
        browser.WaitFor("issued:");
        browser.Go("/sell/deliveries");
        browser.WaitFor("all that was delivered is billed");
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void The_counter_takes_scans_and_gives_change()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/counter");
        for (var i = 0; i < 3; i++)
        {
            // A scanner types the code and sends Enter, with no pause in between.
            browser.ById("scan").SendKeys("4740010000084" + Keys.Enter);
            var wanted = (i + 1).ToString(CultureInfo.InvariantCulture);
            browser.Until(
                () =>
                    browser.All("table.lines tbody input") is [var quantity, ..]
                    && quantity.GetAttribute("value") == wanted,
                $"the quantity does not become {wanted}"
            );
        }

        browser.Until(
            () => browser.ById("payable").Text == "29.00",
            () => $"{browser.ById("payable").Text} is to be paid"
        );
        browser.ById("scan").SendKeys(Keys.F9);
        browser.Keys("50");
        browser.Until(
            () => browser.ById("change").Text == "21.00",
            () => $"the change is {browser.ById("change").Text}"
        );
        browser.Keys(Keys.Control + Keys.Enter);
        browser.WaitFor("change 21.00");
        browser.Press("Open it");
        browser.Until(() => browser.Path.StartsWith("/papers/", StringComparison.Ordinal));
        browser.Find(".margin .state").Text.ShouldStartWith("Settled");
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_customer_chooses_and_accepts_through_the_link()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell?kind=quote&show=waiting&q=thistle");
        browser.Find("table.ledger tbody a").Click();
        var link = new Uri(
            browser
                .Until(
                    () => browser.All("a[href^='/p/']") is [var first, ..] ? first : null,
                    "there is no link for the customer"
                )
                .GetAttribute("href")!
        ).PathAndQuery;
        var paper = browser.Path;

        using (var customer = new Chromium(running.Address))
        {
            customer.Go(link);
            var before = customer.ById("total").Text;
            customer.Find(".choices input[type=checkbox]").Click();
            customer.ById("show-total").Click();
            customer.Until(() => customer.ById("total").Text != before, "the total does not follow the choice");
            customer.ById("accept").Click();
            customer.WaitFor("Give your name");
            customer.Type("name", "Rowan Thistlewood");
            customer.ById("accept").Click();
            customer.WaitFor("Accepted on");
            customer.Complaints().ShouldBeEmpty();
        }

        browser.Go(paper);
        browser.Find(".margin .state").Text.ShouldStartWith("Accepted");
        browser.WaitFor("by the customer through the link: Rowan Thistlewood");
        browser.Text.ShouldContain("seen ");

        // From here on nothing is to be chosen; what was accepted is to be billed, and a deposit to be asked for.
        using (var customer = new Chromium(running.Address))
        {
            customer.Go(link);
            customer.WaitFor("Accepted on");
            customer.All(".choices, #accept").ShouldBeEmpty();
        }

        var agreed = Number(browser.Find(".margin dl dd").Text);
        browser.Press("Bill in stages …");
        browser.Find("details summary").Click();
        browser.Type("depositPercent", "30");
        browser.ById("make-deposit").Click();
        browser.Until(
            () => browser.Path.StartsWith("/sell/edit/", StringComparison.Ordinal),
            "no draft of the deposit"
        );
        browser.Until(() => browser.ById("total").Text.Length > 0, "the deposit has no total");
        var deposit = Number(browser.ById("total").Text);
        deposit.ShouldBe(agreed * 0.3m, 0.02m);
        IssueFromEditor(browser);
        browser.Go(paper);
        browser.Press("Make the invoice");
        browser.Until(() => browser.Path.StartsWith("/sell/edit/", StringComparison.Ordinal), "no draft of the whole");
        browser.Until(() => browser.ById("total").Text.Length > 0, "the invoice has no total");
        browser
            .All("[id$='.text']")
            .Select(t => t.GetAttribute("value"))
            .ShouldContain(t => t!.StartsWith("Less deposit", StringComparison.Ordinal));
        Number(browser.ById("total").Text)
            .ShouldBe(agreed - deposit, "deposit and rest come to what was agreed, to the cent");
    }

    [Fact]
    public void Five_known_items_for_a_known_customer_take_no_mouse_and_at_most_sixty_keystrokes()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        var keystrokes = 0;
        void Strike(string keys)
        {
            foreach (var key in keys)
            {
                browser.Keys(key.ToString());
                keystrokes++;
            }
        }

        Strike("ni");
        browser.UntilFocused("customer");
        Strike("kor" + Keys.Enter);
        browser.UntilFocused("lines[0].text");
        string[] items = ["hank", "shac", "bloc", "wash", "chec"];
        for (var i = 0; i < items.Length; i++)
        {
            Strike(items[i] + Keys.Enter);
            browser.UntilFocused($"lines[{i}].quantity");
            browser.Keys("4");
            if (i == items.Length - 1)
                break;
            foreach (var cell in new[] { "unit", "unitPrice", "discount", "taxCode" })
            {
                Strike(Keys.Enter);
                browser.UntilFocused($"lines[{i}].{cell}");
            }

            Strike(Keys.Enter);
            browser.UntilFocused($"lines[{i + 1}].text");
        }

        browser.Keys(Keys.Control + Keys.Enter);
        keystrokes++;
        browser.Until(
            () => browser.Path.EndsWith("/send", StringComparison.Ordinal),
            () => $"it does not get to issuing:\n{browser.Text}"
        );
        browser.Find("aside svg").Text.ShouldContain("Piston hank");
        keystrokes.ShouldBeLessThanOrEqualTo(60);
    }

    [Fact]
    public void The_shelf_takes_a_half_written_invoice_with_one_key_and_gives_it_back_with_one()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=1");
        browser.ById("lines[0].text").SendKeys("Half a sentence");
        browser.ById("lines[0].unitPrice").SendKeys("1x");
        browser.Keys(Keys.F8);
        browser.Until(
            () => browser.Path == "/sell/edit?kind=invoice" && browser.ById("customer").GetAttribute("value") == "",
            "no empty editor comes"
        );
        browser.UntilFocused("customer");
        browser.Script.ExecuteScript("document.activeElement.blur()");
        browser.Keys(Keys.F8);
        browser.Until(
            () =>
                browser.Path.Contains("kept=", StringComparison.Ordinal)
                && browser.ById("lines[0].text").GetAttribute("value") == "Half a sentence",
            "it does not come back"
        );
        browser.ById("lines[0].unitPrice").GetAttribute("value").ShouldBe("1x");
        browser.ById("customer").GetAttribute("value").ShouldNotBeEmpty();
    }

    [Fact]
    public void Rows_of_a_spreadsheet_are_pasted_and_a_line_moves_by_drag_and_by_key()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=1");
        browser.ById("lines[0].text");
        browser.Script.ExecuteScript(
            """
            const data = new DataTransfer();
            data.setData("text/plain", "P-HANK\t12\nMade by hand\t2\thour\t40\n");
            document.getElementById("lines[0].text").dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
            """
        );
        browser.WaitFor("2 lines pasted.");
        browser.ById("lines[0].text").GetAttribute("value").ShouldNotBeNull().ShouldContain("Piston hank");
        browser.ById("lines[0].quantity").GetAttribute("value").ShouldBe("12");
        browser.ById("lines[1].unitPrice").GetAttribute("value").ShouldBe("40");
        browser.Script.ExecuteScript(
            """
            const data = new DataTransfer();
            const grips = document.querySelectorAll(".grip"), bodies = document.querySelectorAll("table.lines tbody");
            grips[1].dispatchEvent(new DragEvent("dragstart", { dataTransfer: data, bubbles: true }));
            bodies[0].dispatchEvent(new DragEvent("dragover", { dataTransfer: data, bubbles: true, cancelable: true }));
            bodies[0].dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true }));
            """
        );
        browser.Until(
            () => browser.ById("lines[0].text").GetAttribute("value") == "Made by hand",
            "the drag does not move the line"
        );
        browser.ById("lines[0].text").SendKeys(Keys.Alt + Keys.ArrowDown);
        browser.Until(
            () => browser.ById("lines[1].text").GetAttribute("value") == "Made by hand",
            "the key does not move it back"
        );
        browser.Type("discount", "to 100");
        browser.Until(
            () => Number(browser.ById("total").Text) is >= 99.99m and <= 100.01m,
            () => $"the total is {browser.ById("total").Text}"
        );
        browser.WaitFor("Saved by itself.");
        browser.Path.ShouldStartWith("/sell/edit/");
    }
}
