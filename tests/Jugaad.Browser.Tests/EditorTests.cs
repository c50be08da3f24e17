using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>What happens inside pages: keys, the jump box, two people in one draft, an expired token.</summary>
public sealed class EditorTests(Running running) : IClassFixture<Running>
{
    [Fact]
    public void Two_people_in_one_draft_see_what_the_other_changed_and_lose_nothing()
    {
        using var one = new Chromium(running.Address);
        using var two = new Chromium(running.Address);
        one.SignIn();
        two.SignIn();
        one.Go("/sell?show=drafts&kind=");
        one.Find("table.ledger tbody a").Click();
        one.Until(() => one.ById("total").Text.Length > 0);
        two.Go(one.Path);
        two.Until(() => two.ById("total").Text.Length > 0);
        one.Type("purchaseOrder", "FIRST-1");
        one.ById("save").Click();
        one.WaitFor("Saved.");
        two.Type("note", "Typed by the second.");
        two.ById("save").Click();
        two.WaitFor("Somebody else saved this draft first.");
        two.Find("#conflict").Text.ShouldContain("FIRST-1");
        two.ById("note").GetAttribute("value").ShouldBe("Typed by the second.");
        two.Press("Leave mine, load theirs");
        two.Until(() => two.ById("purchaseOrder").GetAttribute("value") == "FIRST-1", "theirs is not loaded");
    }

    [Fact]
    public void An_expired_token_in_the_editor_is_renewed_and_nothing_is_lost()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=1");
        browser.Script.ExecuteScript("document.querySelector('meta[name=form-token]').content = 'expired'");
        browser.ById("lines[0].text").SendKeys("By hand");
        browser.ById("lines[0].unitPrice").SendKeys("12.50");
        browser.ById("save").Click();
        browser.WaitFor("Saved.");
        browser.Path.ShouldStartWith("/sell/edit/");
    }

    [Fact]
    public void A_document_goes_into_another_currency_of_its_customer_and_back()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=7");
        IWebElement Cell(string id) => browser.ById(id);
        Cell("lines[0].text").SendKeys("M-TAPE");
        Cell("lines[0].text").SendKeys(Keys.Enter);
        browser.Until(() => Cell("lines[0].unitPrice").GetAttribute("value")!.Length > 0, "there is no price");
        var euros = Cell("lines[0].unitPrice").GetAttribute("value")!;
        browser.Find("#lines\\[0\\]\\.said").Text.ShouldContain("price list Trade");
        void In(string code)
        {
            browser.Script.ExecuteScript(
                "const s = document.getElementById('currency'); s.value = arguments[0]; s.dispatchEvent(new Event('change', { bubbles: true }))",
                code
            );
            browser.Until(
                () =>
                    browser.Script.ExecuteScript(
                        "return document.body.innerText.includes(arguments[0])",
                        $"Total {code}"
                    )
                        is true,
                $"the total is not in {code}"
            );
        }

        In("SEK");
        browser.Until(() => Cell("lines[0].unitPrice").GetAttribute("value") != euros, "the price stays as it is");
        browser.WaitFor("currency EUR → SEK");
        Cell("save").Click();
        browser.WaitFor("Saved.");
        browser.Go(browser.Path);
        browser.Until(
            () => browser.Script.ExecuteScript("return document.getElementById('currency').value") is "SEK",
            "it is not kept in crowns"
        );
        In("EUR");
        browser.Until(
            () => Cell("lines[0].unitPrice").GetAttribute("value") == euros,
            "the price is not the one before"
        );
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Keys_go_where_they_say()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Keys("/");
        browser.Until(
            () => browser.ById("jump").Equals(((IWebDriver)browser.Script).SwitchTo().ActiveElement()),
            "the jump box does not get the focus"
        );
        browser.ById("jump").SendKeys("oarlock");
        browser.Until(() => browser.All("#jump-list li").Any(li => li.Displayed), "nothing is found");
        browser.Keys(Keys.Enter);
        browser.Until(
            () => browser.Path.StartsWith("/customers/", StringComparison.Ordinal),
            "the jump box does not lead to the customer"
        );
        browser.Find("main").Click();
        browser.Script.ExecuteScript("document.activeElement.blur()");
        browser.Keys("?");
        browser.WaitFor("Keys on this page");
        browser.Keys(Keys.Escape);
        browser.Until(
            () => !browser.Text.Contains("Keys on this page", StringComparison.Ordinal),
            "the keys stay open"
        );
        browser.Keys("n");
        browser.Keys("i");
        browser.Until(
            () => browser.Path.StartsWith("/sell/edit", StringComparison.Ordinal),
            "n then i does not begin an invoice"
        );
    }

    [Fact]
    public void The_jump_box_finds_documents_by_number_and_amount()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell?kind=invoice&show=open");
        var row = browser.Find("table.ledger tbody tr");
        var number = row.FindElement(By.TagName("a")).Text;
        var amount = row.FindElements(By.CssSelector("td.fig"))[0].Text;
        foreach (var text in new[] { number, amount })
        {
            browser.ById("jump").Clear();
            browser.ById("jump").SendKeys(text);
            browser.Until(
                () => browser.Find("#jump-list").Text.Contains(number, StringComparison.Ordinal),
                $"{text} does not find {number}"
            );
        }

        browser.ById("jump").Clear();
        browser.ById("jump").SendKeys("aged bal");
        browser.Until(
            () => browser.Find("#jump-list").Text.Contains("Aged balances", StringComparison.Ordinal),
            "a page is not found by its name"
        );
        browser.Keys(Keys.Enter);
        browser.WaitFor("In all");
    }

    [Fact]
    public void The_tax_code_follows_the_customer_says_why_and_stays_where_it_was_chosen_by_hand()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=3");
        browser.ById("lines[0].text").SendKeys("sail repair, h");
        browser.Until(() => browser.All("ul[aria-label=Items] li").Any(li => li.Displayed), "no item is proposed");
        browser.Keys(Keys.Enter);
        browser.Until(() => browser.ById("total").Text == "59.52", "home tax does not apply at home");
        var customer = browser.ById("customer");
        customer.Clear();
        customer.SendKeys("kaijo");
        browser.Until(() => browser.All("#customer-list li").Any(li => li.Displayed), "no customer is proposed");
        customer.SendKeys(Keys.Enter);
        browser.WaitFor("Reverse charge, services: services to a business with a tax number in Finland");
        browser.Until(() => browser.ById("total").Text == "48.00", "the reverse charge does not apply");
        browser.ById("lines[0].taxCode").SendKeys("STD");
        browser.Until(() => browser.ById("total").Text == "59.52", "a code chosen by hand does not stay");
    }

    [Fact]
    public void Lines_move_by_key_and_a_new_item_is_made_on_the_spot()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell/edit?kind=invoice&customer=11");
        browser.ById("lines[0].text").SendKeys("First");
        browser.ById("lines[0].unitPrice").SendKeys("1");
        browser.Click(browser.ById("add-line"));
        browser.ById("lines[1].text").SendKeys("Second");
        browser.ById("lines[1].unitPrice").SendKeys("2");
        browser.ById("lines[1].text").SendKeys(Keys.Alt + Keys.ArrowUp);
        browser.Until(() => browser.ById("lines[0].text").GetAttribute("value") == "Second", "the line does not move");
        browser.Press("Make a new item");
        browser.ById("ni-name").SendKeys("Sail needle");
        browser.ById("ni-price").SendKeys("3.5");
        browser.Press("Add item");
        browser.WaitFor("Give the item a short code.");
        browser.ById("ni-code").SendKeys("P-NEEDLE");
        browser.Press("Add item");
        browser.Until(
            () =>
                browser.All("tr[data-line]").Count == 3
                && browser.ById("lines[2].text").GetAttribute("value") == "Sail needle",
            "the new item is not on the invoice"
        );
        browser.Type("lines[2].quantity", "0.1234567");
        browser.WaitFor("has more than 6 decimals");
        browser.ById("save").Click();
        browser.Until(
            () =>
                browser
                    .ById("lines[2].quantity")
                    .GetAttribute("class")!
                    .Contains("is-refused", StringComparison.Ordinal),
            "the cell is not marked"
        );
        browser.ById("lines[0].text").GetAttribute("value").ShouldBe("Second");
    }
}
