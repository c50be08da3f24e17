namespace Jugaad.Browser.Tests;

/// <summary>
/// At every width, of a telephone, a desk's screen at 200 percent and a tablet, nothing of a page scrolls sideways.
/// </summary>
public sealed class WidthTests(Running running) : IClassFixture<Running>
{
    private static readonly int[] Widths = [390, 640, 768];

    [Fact]
    public void Nothing_of_a_page_scrolls_sideways()
    {
        using var browser = new Chromium(running.Address);
        var found = new List<string>();
        void Look(string path)
        {
            browser.Go(path);
            foreach (var width in Widths)
            {
                browser.BeWide(width);
                var over = (string)browser.Script.ExecuteScript(Overflow)!;
                if (over.Length > 0)
                    found.Add($"{path} at {width}: {over}");
            }
        }

        Look("/sign-in");
        browser.SignIn();
        foreach (var path in AllPages.Paths)
            Look(path);
        string.Join("\n", found).ShouldBeEmpty();
    }

    // What stands out beyond the window, unless it is within a box that scrolls by itself.
    private const string Overflow = """
        const width = document.documentElement.clientWidth;
        if (document.documentElement.scrollWidth <= width) return "";
        const held = e => { for (let p = e.parentElement; p; p = p.parentElement) if (getComputedStyle(p).overflowX !== "visible") return true; return false; };
        const out = Array.from(document.querySelectorAll("main *, header *, footer *")).filter(e => e.getBoundingClientRect().right > width + 1 && !held(e));
        return "by " + (document.documentElement.scrollWidth - width) + ": " + out.slice(0, 3).map(e => e.tagName + "." + e.className).join(", ");
        """;

    [Fact]
    public void On_a_telephone_the_areas_fold_a_ledger_holds_its_first_column_and_a_number_is_dialled()
    {
        using var browser = new Chromium(running.Address);
        browser.BeWide(390);
        browser.SignIn();
        browser.All("#areas").Single().Displayed.ShouldBeFalse();
        browser.Find(".fold-areas").Click();
        browser.ById("areas");
        browser.Find(".fold-areas").GetAttribute("aria-expanded").ShouldBe("true");
        browser.Find("#areas a[href='/customers']").Click();
        browser.WaitFor("Business register");

        browser.Go("/customers/3");
        browser.Find("#reached a.call").GetAttribute("href").ShouldBe("tel:+37255500203");

        browser.Go("/reports/open-items");
        var held = browser.Find(".scrolls tbody td:first-child");
        var before = held.Location.X;
        (
            (bool)
                browser.Script.ExecuteScript(
                    "const b = document.querySelector('.scrolls'); b.scrollLeft = 250; return b.scrollLeft > 200 && b.tabIndex === 0"
                )!
        ).ShouldBeTrue();
        held.Location.X.ShouldBeInRange(before - 2, before + 2);
    }

    [Fact]
    public void A_payment_is_received_on_the_spot_with_a_thumb()
    {
        using var browser = new Chromium(running.Address);
        browser.BeWide(390);
        browser.SignIn();
        browser.Go("/receive/new?customer=13");
        browser.Type("amount", "50");
        var full = browser.Find("table.stacks button");
        // All that is pressed is within the window, and large enough for a thumb (WCAG 2.5.8 asks for 24 pixels).
        full.Location.X.ShouldBeInRange(0, 390 - full.Size.Width);
        full.Size.Height.ShouldBeGreaterThanOrEqualTo(24);
        browser.Find("table.stacks td[data-head]").GetAttribute("data-head").ShouldNotBeEmpty();
        browser.Press("Post the receipt");
        browser.WaitFor("RCT-");
        browser.Complaints().ShouldBeEmpty();
    }
}
