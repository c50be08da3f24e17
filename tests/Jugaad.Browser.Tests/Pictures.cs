using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>Runs only when pictures are asked for, by <c>./jugaad shots</c>.</summary>
public sealed class PicturesFactAttribute : FactAttribute
{
    internal const string Folder = "JUGAAD_SHOTS";

    public PicturesFactAttribute()
    {
        if (Environment.GetEnvironmentVariable(Folder) is null)
            Skip = "Pictures are taken by ./jugaad shots.";
    }
}

/// <summary>Takes one picture of each main view, from the demo's books.</summary>
public sealed class Pictures(Running running) : IClassFixture<Running>
{
    [PicturesFact]
    public void Of_each_main_view()
    {
        var folder = Environment.GetEnvironmentVariable(PicturesFactAttribute.Folder)!;
        var only = Environment.GetEnvironmentVariable("JUGAAD_SHOTS_ONLY")?.Split(',');
        Directory.CreateDirectory(folder);
        using var browser = new Chromium(running.Address);
        void Take(string name, string path, Action? before = null)
        {
            if (only is not null && !only.Contains(name))
                return;
            browser.Go(path);
            before?.Invoke();
            Thread.Sleep(500);
            browser.Picture(Path.Combine(folder, name + ".png"));
        }

        browser.SignIn();
        Take("day-sheet", "/");
        Take("sell", "/sell");
        Take("editor", "/sell/edit?kind=invoice&customer=3", () => Fill(browser));
        Take("paper-and-margin", LateInvoice(browser));
        Take("send", Draft(browser));
        Take("chase", "/collect?show=all");
        Take("expected", "/collect/expected");
        Take("customers", "/customers");
        Take("account", "/customers/3");
        Take("items", "/items");
        Take(
            "counter",
            "/sell/counter",
            () =>
            {
                foreach (var code in new[] { "4740010000084", "4740010000084", "9789949000012" })
                {
                    browser.ById("scan").SendKeys(code + Keys.Enter);
                    browser.Until(() => browser.ById("scan").GetAttribute("value") == "");
                }

                browser.Type("given", "60");
                browser.Until(() => browser.ById("change").Text.Length > 0);
            }
        );
        Take("payer-page", "/customers/5", () => browser.Click(browser.Find("#own-page a")));
        Take("studio", "/setup/layouts/1", () => Pick(browser));
        Take("bank", "/bank");
        Take("our-money", "/money");
        Take(
            "receipt-sheet",
            "/receive/sheet",
            () =>
            {
                foreach (
                    var (row, customer, amount) in new[]
                    {
                        (0, "KORALL", "1926.49"),
                        (1, "slipway", "1500"),
                        (2, "Lainela", "400"),
                        (3, "TAMBRG", "25"),
                    }
                )
                {
                    browser.Type($"rows[{row}].customer", customer);
                    browser.Type($"rows[{row}].amount", amount);
                }

                browser.Until(() => browser.Text.Contains("Lainela", StringComparison.Ordinal));
            }
        );
        Take("e-invoices", "/post/einvoices");
        Take("tax-return", "/reports/returns/1/2025-08-01/2025-08-31");
        Take("report", "/reports/income-by-customer?days=this-quarter&against=before");
        browser.Complaints().ShouldBeEmpty();
    }

    private static void Pick(Chromium browser)
    {
        browser.Until(
            () => (bool)browser.Script.ExecuteScript("return !!window.studio?.page.drawn")!,
            "the page is not drawn"
        );
        browser.Script.ExecuteScript("studio.work.pick(['logo'])");
    }

    private static void Fill(Chromium browser)
    {
        Line(browser, 0, "sail repair, h", "6.5");
        Line(browser, 1, "UV", "12");
        Line(browser, 2, "wash", "3");
        browser.ById("discount").SendKeys("5%");
        browser.ById("purchaseOrder").SendKeys("SC-2025-118");
        browser.Until(() => browser.ById("total").Text.Length > 0);
    }

    private static void Line(Chromium browser, int line, string item, string quantity)
    {
        if (browser.All("tr[data-line]").Count <= line)
            browser.ById("add-line").Click();
        browser.ById($"lines[{line}].text").SendKeys(item);
        browser.Until(() => browser.All("ul[aria-label=Items] li").Any(li => li.Displayed));
        browser.Keys(Keys.Enter);
        browser.Type($"lines[{line}].quantity", quantity);
    }

    private static string LateInvoice(Chromium browser)
    {
        browser.Go("/collect/overdue");
        return new Uri(browser.Find("table.ledger tbody a").GetAttribute("href")!).PathAndQuery;
    }

    private static string Draft(Chromium browser)
    {
        browser.Go("/sell?show=drafts&kind=");
        return new Uri(browser.Find("table.ledger tbody a").GetAttribute("href")!).PathAndQuery.Replace(
                "/sell/edit/",
                "/papers/",
                StringComparison.Ordinal
            ) + "/send";
    }
}
