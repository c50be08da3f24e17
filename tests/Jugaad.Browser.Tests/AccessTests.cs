using System.Text.Json;

namespace Jugaad.Browser.Tests;

/// <summary>axe-core finds nothing, by WCAG 2.2 AA, on any page.</summary>
public sealed class AccessTests(Running running) : IClassFixture<Running>
{
    private static readonly string Axe = File.ReadAllText(
        Path.Combine(AppContext.BaseDirectory, "assets", "axe.min.js")
    );

    [Fact]
    public void Every_page_is_open_to_everybody()
    {
        using var browser = new Chromium(running.Address);
        var found = new List<string>();
        void Look(string path, Action? before = null)
        {
            browser.Go(path);
            before?.Invoke();
            found.AddRange(Violations(browser).Select(v => $"{path}: {v}"));
        }

        Look("/sign-in");
        browser.SignIn();
        foreach (
            var path in new[]
            {
                "/",
                "/sell",
                "/sell/deliveries",
                "/sell/issue",
                "/sell/counter",
                "/sell/till",
                "/sell/shelf",
                "/sell/standing",
                "/sell/standing/1",
                "/sell/standing/new",
                "/sell/starters",
                "/setup/texts",
                "/sell/edit?kind=delivery-note",
                "/sell/edit?kind=credit-note",
                "/sell?kind=invoice&show=late",
                "/sell/edit?kind=quote",
                "/papers/1",
                "/papers/103",
                "/papers/103/send",
                "/receive",
                "/receive?show=unplaced",
                "/receive/new",
                "/receive/1",
                "/receive/other",
                "/setup/money",
                "/money",
                "/bank",
                "/bank/learned",
                "/receive/sheet",
                "/receive/payments",
                "/sell/stages",
                "/customers/3",
                "/customers/3?on=2025-07-31&show=open",
                "/collect",
                "/collect/remind/13",
                "/collect/remind/1",
                "/post",
                "/post/5",
                "/customers",
                "/customers/13",
                "/customers/new",
                "/customers/1/edit",
                "/items",
                "/items/new",
                "/items/1",
                "/reports/aged",
                "/reports/open-items",
                "/reports/sales",
                "/reports/receipts",
                "/reports/account?account=1",
                "/reports/entries",
                "/reports/statement?customer=SKERRY&on=2025-07-31",
                "/setup",
                "/setup/mail",
                "/setup/rates",
                "/setup/accounts",
                "/setup/accounts?edit=1",
                "/setup/numbers",
                "/setup/taxes",
                "/setup/taxes?code=1&authority=1",
                "/setup/rules?customer=1",
                "/setup/kits",
                "/setup/people",
                "/setup/trail",
                "/moving",
                "/moving/opening",
                "/me",
                "/items/lists",
                "/items/12",
                "/customers/3/merge?q=oar",
                "/customers/3/merge?away=6",
                "/setup/change?authority=1",
                "/customers/register",
                "/customers/register?customer=4",
                "/setup/change?tax=1&from=2025-07-01",
                "/no/such/page",
            }
        )
            Look(path);
        // What has no address that is always the same is found by where it is linked from.
        foreach (
            var (from, link) in new[]
            {
                ("/sell/stages", "main a[href^='/papers/'][href$='/stages']"),
                ("/customers/14", "main a[href^='/receive/place/']"),
                ("/bank", "main a[href^='/bank/statements/']"),
                ("/bank", "main a.by-hand"),
            }
        )
        {
            browser.Go(from);
            Look(
                new Uri(
                    browser
                        .Until(() => browser.All(link) is [var first, ..] ? first : null, $"{from} links to no {link}")
                        .GetAttribute("href")!
                ).PathAndQuery
            );
        }

        Look(
            "/sell/edit?kind=invoice&customer=3",
            () =>
            {
                browser.ById("lines[0].text").SendKeys("sail");
                browser.Until(() => browser.All("ul[aria-label=Items] li").Any(li => li.Displayed));
            }
        );
        Look("/receive/new?customer=13", () => browser.Type("amount", "50"));
        Look("/customers/new", () => browser.Press("Save"));
        Look(
            "/",
            () =>
            {
                browser.Keys("?");
                browser.WaitFor("Keys on this page");
            }
        );
        string.Join("\n", found).ShouldBeEmpty();
    }

    private static List<string> Violations(Chromium browser)
    {
        browser.Script.ExecuteScript(Axe);
        var json = (string)
            ((OpenQA.Selenium.IJavaScriptExecutor)browser.Script).ExecuteAsyncScript(
                """
                const done = arguments[arguments.length - 1];
                axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'], resultTypes: ['violations'], preload: false })
                  .then(r => done(JSON.stringify(r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.target.join(' ') + ' ' + (n.any[0] ? n.any[0].message : '')).slice(0, 3).join(' | ')))));
                """
            )!;
        return JsonSerializer.Deserialize<List<string>>(json)!;
    }
}
