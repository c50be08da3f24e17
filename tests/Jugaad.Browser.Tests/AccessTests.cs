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
            found.AddRange(
                BareWords(browser).Select(name => $"{path}: the button “{name}” does not say what it does to what")
            );
        }

        Look("/sign-in");
        browser.SignIn();
        foreach (var path in AllPages.Paths)
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
        Look("/customers/new", () => browser.Press("Save the customer"));
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

    /// <summary>Buttons whose name, heard alone, says nothing: a single word, or a word and "it".</summary>
    private static IEnumerable<string> BareWords(Chromium browser) =>
        (
            (string)
                browser.Script.ExecuteScript(
                    "return [...document.querySelectorAll('main button')].map(b => (b.getAttribute('aria-label') ?? b.textContent).trim().replace(/\\s+/g, ' ')).join('\\n')"
                )!
        )
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Where(name => name.Split(' ') is [_] or [_, "it" or "…"])
            .Distinct();

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
