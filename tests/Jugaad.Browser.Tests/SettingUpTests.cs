using System.Text;

namespace Jugaad.Browser.Tests;

/// <summary>
/// Setting up, as a bookkeeper does it: a rate that changes, prices that move, a spreadsheet that moves in.
/// </summary>
public sealed class SettingUpTests(Running running) : IClassFixture<Running>
{
    [Fact]
    public void A_rate_that_changes_on_a_day_shows_what_it_touches_and_the_editor_tells_from_what_to_what()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/setup/taxes");
        browser.Find("form[action*='handler=Rate']");
        browser.Script.ExecuteScript(
            "document.querySelector(\"form[action$='handler=Rate'] [name=from]\").value = '2025-10-01'"
        );
        browser.Script.ExecuteScript(
            "document.querySelector(\"form[action$='handler=Rate'] [name=percent]\").value = '26'"
        );
        browser.Press("Enter the rate");
        browser.WaitFor("This is what it touches");
        browser.All("table.ledger tbody tr").Count.ShouldBeGreaterThan(3);
        browser.Text.ShouldContain("VAT, 26");

        browser.Go("/sell/edit?kind=invoice&customer=11");
        browser.ById("lines[0].text").SendKeys("wash");
        browser.Until(() => browser.All("ul[aria-label=Items] li").Any(li => li.Displayed));
        browser.Keys(OpenQA.Selenium.Keys.Enter);
        browser.Until(() => browser.ById("total").Text == "84.32", "the total is not 84.32");
        browser.Set("date", "2025-10-02");
        browser.WaitFor("On 2 Oct 2025 STD is 26 %; it was 24 % before the date moved.");
        browser.ById("total").Text.ShouldBe("85.68");
        browser.Set("date", "2025-09-17");
        browser.Until(
            () => !browser.Text.Contains("before the date moved", StringComparison.Ordinal),
            "it still says that the rate changed"
        );
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Many_items_change_at_once_after_a_preview_and_back()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/items?q=sail");
        browser.ById("act-change").Enabled.ShouldBeFalse();
        foreach (var box in browser.All("input.pick").Take(2))
            browser.Click(box);
        browser.Until(() => browser.ById("act-change").Enabled);
        browser.ById("act-change").Click();
        browser.WaitFor("Change 2 items");
        browser.Press("Look at the outcome");
        browser.WaitFor("Say what to change");
        browser.Type("percent", "10");
        browser.Type("step", "0.5");
        browser.Press("Look at the outcome");
        browser.WaitFor("2 of 2 change");
        browser.ById("preview").Text.ShouldContain("31.00");
        browser.ById("apply").Click();
        browser.WaitFor("2 items changed: prices moved by 10 %");
        browser.Go("/items?q=handbook");
        browser.Text.ShouldContain("31.00");
        browser.ById("undo").Click();
        browser.WaitFor("Undone.");
        browser.Go("/items?q=handbook");
        browser.Text.ShouldContain("28.00");
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_spreadsheet_with_bad_rows_moves_in_and_the_refused_rows_come_back()
    {
        var file = Path.Combine(running.File.Folder, "customers.csv");
        File.WriteAllText(
            file,
            "Customer no;Name;City;E-mail\r\nZ1;Esimene Klient;Kärdla;one@z.example\r\nZ2;;Tallinn;\r\nZ3;Kolmas Klient;Tartu;not a mail\r\nZ4;Neljas Klient;Võru;four@z.example\r\n",
            Encoding.Unicode
        );
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/moving");
        browser.ById("file").SendKeys(file);
        browser.Press("Look at the file");
        browser.WaitFor("CSV with semicolons, UTF-16");
        browser.ById("column-town").GetAttribute("value").ShouldBe("2");
        browser.Press("Try the rows");
        browser.Until(
            () => browser.ById("counts").Text == "2 new, 0 changed, 0 there already, 2 refused",
            () => browser.Text
        );
        browser.ById("refused-rows").Text.ShouldContain("mail: “not a mail” is not a mail address");
        browser.Press("Import the 2 good rows");
        browser.WaitFor("Taken.");
        var refused = (string)
            browser.Script.ExecuteScript(
                "const r = new XMLHttpRequest(); r.open('GET', document.querySelector(\"a[href*='refused?form=Csv']\").href, false); r.send(); return r.responseText;"
            )!;
        refused.ShouldContain("Customer no,Name,City,E-mail,Reason");
        refused.ShouldContain("Z2,,Tallinn,,name: Give the customer a name.");
        browser.Go("/customers?q=Klient");
        browser.All("table.ledger tbody tr").Count.ShouldBe(2);
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_customer_that_is_there_already_is_pointed_out_while_typing_and_parts_are_added_by_hand()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/customers/new");
        browser.Type("name", "Korall boat yard");
        browser.WaitFor("This looks like Korall Boatyard OÜ: it has a name like it.");
        browser.Type("name", "Uus Purjeklubi");
        browser.Until(
            () => !browser.Text.Contains("This looks like", StringComparison.Ordinal),
            "it still points somebody out"
        );
        browser.Type("contacts[0].name", "Ene");
        browser.Type("contacts[0].email", "ene@klubi.example");
        browser.Click(browser.ById("contacts[0].invoices"));
        browser.Click(browser.Find("button[data-part=contacts]"));
        browser.Type("contacts[1].name", "Without a part");
        browser.Click(browser.Find("button[data-part=places]"));
        browser.Type("places[1].label", "Clubhouse");
        browser.Type("places[1].city", "Haapsalu");
        browser.Press("Save the customer");
        browser.WaitFor("Ene, gets invoices");
        browser.Text.ShouldContain("Clubhouse Haapsalu");
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void What_a_number_pattern_means_is_said_while_typing()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/setup/numbers");
        browser.WaitFor("Gives INV-2025-0001, INV-2025-0002, INV-2025-0003 … and begins next year with INV-2026-0001.");
        browser.Type("pattern", "S{yy}-{000");
        browser.WaitFor("A brace is opened and not closed.");
        browser.Type("pattern", "S{yy}{mm}-{000}");
        browser.WaitFor("Gives S2509-001");
        browser.Complaints().ShouldBeEmpty();
    }
}
