namespace Jugaad.Browser.Tests;

/// <summary>Papers that go out otherwise than by mail: the pile to print, and a message to a telephone.</summary>
public sealed class PostTests(Running running) : IClassFixture<Running>
{
    private static void OpenSending(Chromium browser, int nth)
    {
        browser.Go("/sell?kind=invoice&show=open");
        browser.Click(browser.All("table.ledger tbody a[href^='/papers/']")[nth]);
        browser.Find(".margin .state");
        browser.Go(browser.Path + "/send");
    }

    [Fact]
    public void The_pile_is_printed_as_one_and_put_out_of_the_way()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/post");
        var before = browser.All("form[action*='Printed'] input[name=item]").Count;
        for (var i = 0; i < 2; i++)
        {
            OpenSending(browser, i);
            browser.Set("how", "print");
            browser.Find("input[value='Copy']").Click();
            browser.ById("send").Click();
            browser.WaitFor("pile to print");
        }

        browser.Go("/post");
        browser.All("form[action*='Printed'] input[name=item]").Count.ShouldBe(before + 2);
        browser.Script.ExecuteScript(
            "window.pile = ''; fetch(document.getElementById('pile').href).then(a => a.arrayBuffer()).then(b => { window.pile = new TextDecoder('latin1').decode(b.slice(0, 5)); });"
        );
        browser.Until(
            () => browser.Script.ExecuteScript("return window.pile") as string == "%PDF-",
            "the pile is no PDF"
        );
        browser.Press("They are printed and posted");
        browser.Until(() => browser.All("#pile").Count == 0, "the pile is still there");
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_message_goes_to_a_telephone_and_one_without_a_number_is_refused()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        OpenSending(browser, 0);
        browser.Set("how", "message");
        browser.ById("message").GetAttribute("value")!.ShouldContain("/p/");
        browser.Type("number", "twelve");
        browser.ById("send").Click();
        browser.Until(
            () => browser.ById("number").GetAttribute("class")!.Contains("is-refused", StringComparison.Ordinal),
            () => $"a word is taken for a number:\n{browser.Text}"
        );
        browser.Type("number", "+372 5550 0142");
        browser.ById("send").Click();
        browser.WaitFor("Message to +372 5550 0142");
        browser.Go("/post");
        browser.Find("table.ledger tbody tr").Text.ShouldContain("message");
        browser.Find("table.ledger tbody tr").Text.ShouldContain("+372 5550 0142");
    }

    [Fact]
    public void What_e_invoices_lack_is_mended_at_once_and_one_goes_and_is_answered()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/setup/ready?only=everything&show=all");
        foreach (var fold in browser.All("main details summary"))
            browser.Click(fold);
        browser.Type("paste-customers", "OARLCK;EM;treasurer@oarlock.example;K-7\nNOBODY;EM;x@y.example");
        browser.Press("Put them into the customers above");
        // What fits nobody stays to be looked at.
        browser.Until(
            () => browser.ById("paste-customers").GetAttribute("value") == "NOBODY;EM;x@y.example",
            "what fits nobody is gone"
        );
        browser.Set("all-list", "ZZZ");
        browser.Type("all-class", "GOODS");
        browser.Press("Put it where items above have none");
        browser.Click(browser.ById("save"));
        browser.WaitFor("are kept");
        browser.Text.ShouldContain("Items all");
        browser.Find("tr[data-code='OARLCK']").Text.ShouldContain("complete");

        browser.Go("/post/einvoices?from=2025-09-09&until=2025-09-09");
        browser.Click(browser.ById("send"));
        browser.WaitFor("in the post tray");
        browser.Until(
            () =>
            {
                browser.Go("/post/einvoices?fate=Taken");
                return browser.Text.Contains("INV-2025-0149", StringComparison.Ordinal);
            },
            "nobody has answered"
        );
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Sales_of_a_month_are_told_together_and_one_is_invoiced_by_name()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/post/summaries?from=2025-09-01&until=2025-09-17&by=Month");
        var papers = browser.Find("#to-make tbody tr").Text;
        papers.ShouldContain("INV-2025-0147");
        browser.Click(browser.ById("gather"));
        browser.WaitFor("One summary is made");
        browser.Click(browser.Find("#made tbody tr a"));
        browser.WaitFor("each told once");
        browser.Click(browser.ById("send"));
        browser.WaitFor("in the post tray as an e-invoice");

        browser.Click(browser.Find("#sales tbody tr a"));
        browser.WaitFor("told with other sales in");
        browser.Click(browser.ById("by-name"));
        browser.Type("q", "oar");
        browser.Press("Find the customer");
        browser.Click(browser.Find("#candidates button"));
        browser.WaitFor("invoiced by name; its money went along");
        browser.Text.ShouldContain("made");

        browser.Go("/post/summaries?from=2025-09-01&until=2025-09-17&by=Month");
        browser.Find("#to-make tbody tr").Text.ShouldContain("what came back");
        browser.Complaints().ShouldBeEmpty();
    }
}
