using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>
/// Enter belongs to what was typed, however slow the server is and in whatever order its answers come.
/// </summary>
public sealed class FindingTests(Running running) : IClassFixture<Running>
{
    private const string Shackle = "4740010000084";

    private static string Value(Chromium browser, string id) => browser.ById(id).GetAttribute("value") ?? "";

    private static string Focus(Chromium browser) =>
        browser.Script.ExecuteScript("return document.activeElement.id") as string ?? "";

    private Chromium On(string path)
    {
        var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go(path);
        return browser;
    }

    [Fact]
    public void Rows_that_are_picked_are_counted_and_what_can_be_done_stays_in_sight()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/sell?kind=invoice");
        browser.ById("act-send").Enabled.ShouldBeFalse();
        foreach (var box in browser.All("input.pick").Take(2))
            browser.Click(box);
        browser.WaitFor("2 picked");
        browser.ById("act-send").Enabled.ShouldBeTrue();
        (
            (bool)browser.Script.ExecuteScript("return picked.getBoundingClientRect().bottom <= innerHeight")!
        ).ShouldBeTrue();
        browser.Click(browser.All("thead input").Single());
        browser.WaitFor("40 picked");
        browser.Click(browser.All("thead input").Single());
        browser.WaitFor("none picked");
        browser.ById("act-send").Enabled.ShouldBeFalse();
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Who_presses_enter_before_the_list_has_come_gets_what_was_typed()
    {
        using var browser = On("/sell/edit?kind=invoice");
        var server = new SlowServer(browser);
        server.HoldAnswersTo("/api/");
        browser.ById("customer").SendKeys("korall" + Keys.Enter);
        browser.Until(() => Focus(browser) == "lines[0].text", "Enter does not go on");
        browser.Keys("P-HANK" + Keys.Enter);
        browser.Until(() => Focus(browser) == "lines[0].quantity", "Enter does not go on");
        browser.Keys("3");
        server.Release("q=korall");
        server.ReleaseAll();
        browser.Until(
            () => Value(browser, "customer").StartsWith("Korall", StringComparison.Ordinal),
            "the customer is not taken"
        );
        browser.Until(() => Value(browser, "lines[0].unitPrice").Length > 0, "the item is not taken");
        Value(browser, "lines[0].quantity").ShouldBe("3");
        browser.All("#nc-name").ShouldAllBe(box => !box.Displayed, "no new customer is asked for");
    }

    [Fact]
    public void An_older_answer_that_comes_late_changes_nothing()
    {
        using var browser = On("/sell/edit?kind=invoice");
        var server = new SlowServer(browser);
        server.HoldAnswersTo("/api/customers");
        browser.ById("customer").SendKeys("k");
        browser.Until(
            () => browser.Script.ExecuteScript("return window.heldAnswers.length") is 1L,
            "nothing is looked up"
        );
        browser.ById("customer").SendKeys("aijo" + Keys.Enter);
        server.Release("q=kaijo");
        browser.Until(
            () =>
                Value(browser, "customer").Contains("aijo", StringComparison.Ordinal)
                && Value(browser, "customer") != "kaijo",
            "the customer is not taken"
        );
        var taken = Value(browser, "customer");
        server.ReleaseAll();
        browser.Until(() => browser.All("#customer-list li").All(li => !li.Displayed), "the old list is shown");
        Value(browser, "customer").ShouldBe(taken);
    }

    [Fact]
    public void A_new_customer_is_asked_for_only_when_there_is_none()
    {
        using var browser = On("/sell/edit?kind=invoice");
        browser.ById("customer").SendKeys("Nobody of that name" + Keys.Enter);
        browser.Until(() => browser.ById("nc-name").GetAttribute("value") == "Nobody of that name", "nothing is asked");
    }

    [Fact]
    public void Scans_quicker_than_the_server_are_counted_one_by_one_in_the_editor()
    {
        using var browser = On("/sell/edit?kind=invoice&customer=1");
        var server = new SlowServer(browser);
        server.HoldAnswersTo("/api/items");
        browser.ById("lines[0].text").SendKeys(Shackle + Keys.Enter);
        browser.Until(() => Focus(browser) == "lines[1].text", "the cursor does not wait for the next scan");
        browser.Keys(Shackle + Keys.Enter);
        browser.Until(() => Focus(browser) == "lines[2].text", "the cursor does not wait for the next scan");
        browser.Keys("P-HANK" + Keys.Enter);
        server.Release("q=P-HANK");
        server.ReleaseAll();
        browser.Until(() => Value(browser, "lines[0].quantity") == "2", "the scans are not counted");
        browser.Until(
            () =>
                Value(browser, "lines[1].text").Contains("hank", StringComparison.OrdinalIgnoreCase)
                && Value(browser, "lines[1].unitPrice").Length > 0,
            "the item after them is not taken"
        );
        Value(browser, "lines[0].text").ShouldStartWith("Shackle");
    }

    [Fact]
    public void Passing_by_a_saved_line_with_enter_changes_nothing_of_it()
    {
        using var browser = On("/sell/edit?kind=invoice&customer=1");
        browser.ById("lines[0].text").SendKeys("P-HANK" + Keys.Enter);
        browser.Until(() => Value(browser, "lines[0].unitPrice").Length > 0, "the item is not taken");
        browser.Type("lines[0].unitPrice", "77.70");
        browser.ById("save").Click();
        browser.WaitFor("Saved.");
        browser.Go(browser.Path);
        browser.Until(() => Value(browser, "lines[0].unitPrice") == "77.70", "the draft is not loaded");
        browser.ById("lines[0].text").SendKeys(Keys.Enter);
        browser.Until(() => Focus(browser) == "lines[0].quantity", "Enter does not go on");
        Value(browser, "lines[0].unitPrice").ShouldBe("77.70");
    }

    [Fact]
    public void Scans_at_the_counter_need_not_wait_for_each_other()
    {
        using var browser = On("/sell/counter");
        var server = new SlowServer(browser);
        server.HoldAnswersTo("/api/items");
        browser.ById("scan").SendKeys(Shackle + Keys.Enter);
        Value(browser, "scan").ShouldBeEmpty("the box is free for the next scan");
        browser.ById("scan").SendKeys("P-HANK" + Keys.Enter + Shackle + Keys.Enter);
        server.Release("q=P-HANK");
        server.ReleaseAll();
        browser.Until(() => browser.All(".lines tbody tr").Count == 2, "not all of them are on the bill");
        browser.Until(
            () =>
                browser.Script.ExecuteScript(
                    "return [...document.querySelectorAll('.w-qty input')].map(q => q.value).join()"
                ) as string
                == "2,1",
            "they are not counted one by one"
        );
    }

    [Fact]
    public void The_jump_box_waits_for_the_answer_to_what_was_typed()
    {
        using var browser = On("/customers");
        var server = new SlowServer(browser);
        server.HoldAnswersTo("/api/jump");
        browser.ById("jump").SendKeys("oar");
        browser.Until(
            () => browser.Script.ExecuteScript("return window.heldAnswers.length") is 1L,
            "nothing is looked up"
        );
        browser.ById("jump").Clear();
        browser.ById("jump").SendKeys("P-HANK" + Keys.Enter);
        server.Release("q=oar");
        server.Release("q=P-HANK");
        browser.Until(
            () => browser.Path.StartsWith("/items/", StringComparison.Ordinal),
            () => $"it leads to {browser.Path}"
        );
    }

    [Fact]
    public void A_row_of_the_receipt_sheet_is_whose_it_says_when_answers_change_places()
    {
        using var browser = On("/receive/sheet");
        var server = new SlowServer(browser);
        server.HoldAnswersTo("handler=Propose");
        browser.ById("rows[0].customer").SendKeys("korall");
        browser.Until(() => browser.Script.ExecuteScript("return window.heldAnswers.length") is 1L, "nothing is asked");
        browser.Type("rows[0].customer", "kaijo");
        browser.Until(() => browser.Script.ExecuteScript("return window.heldAnswers.length") is 2L, "nothing is asked");
        browser.Script.ExecuteScript("window.heldAnswers.pop().resolve()");
        browser.Until(
            () => browser.Find("#rows .who").Text.Contains("aijo", StringComparison.Ordinal),
            "the row does not say whose it is"
        );
        server.ReleaseAll();
        browser.Find("#rows .who").Text.ShouldContain("aijo");
    }

    [Fact]
    public void A_save_without_a_server_says_so_and_is_done_again_by_itself()
    {
        using var browser = On("/sell/edit?kind=invoice&customer=1");
        browser.ById("lines[0].text").SendKeys("Typed by hand");
        browser.ById("lines[0].unitPrice").SendKeys("12.50");
        var server = new SlowServer(browser);
        server.IsGone(true);
        browser.ById("save").Click();
        browser.Until(
            () => browser.ById("trouble").Text.Contains("does not answer", StringComparison.Ordinal),
            "nothing is said"
        );
        browser.ById("save").Enabled.ShouldBeTrue("the editor is not locked");
        browser.ById("lines[0].unitPrice").SendKeys("5");
        server.IsGone(false);
        browser.Until(
            () =>
                browser.Path.StartsWith("/sell/edit/", StringComparison.Ordinal)
                && !browser.ById("status").Text.Contains("aside", StringComparison.Ordinal),
            "it is not saved by itself"
        );
        browser.ById("save").Click();
        browser.WaitFor("Saved.");
        browser.Go(browser.Path);
        browser.Until(
            () => Value(browser, "lines[0].unitPrice") == "12.505",
            () => $"what was typed after is lost: {Value(browser, "lines[0].unitPrice")}"
        );
    }

    [Fact]
    public async Task A_sale_whose_answer_is_lost_is_made_once()
    {
        using var browser = On("/sell/counter");
        browser.ById("scan").SendKeys(Shackle + Keys.Enter);
        browser.Until(() => browser.ById("payable").Text.Length > 0, "nothing is reckoned");
        browser.Script.ExecuteScript(
            "const real = window.fetch.bind(window); let lost = 2; window.fetch = async (a, o) => { const answer = await real(a, o); if (String(a) === '/api/counter' && lost-- > 0) throw new TypeError('broken off'); return answer; };"
        );
        var before = await running.WithAsync<Desk.Books.BooksContext, int>(db => Task.FromResult(db.Documents.Count()));
        browser.Click(browser.ById("sell"));
        browser.Until(() => browser.ById("sold").Displayed, "it is not sold");
        (await running.WithAsync<Desk.Books.BooksContext, int>(db => Task.FromResult(db.Documents.Count()))).ShouldBe(
            before + 1
        );
    }
}
