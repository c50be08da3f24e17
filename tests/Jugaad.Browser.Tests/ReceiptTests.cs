namespace Jugaad.Browser.Tests;

/// <summary>Setting money against what is open, on the page.</summary>
public sealed class ReceiptTests(Running running) : IClassFixture<Running>
{
    private static string Against(Chromium browser, int row) =>
        browser.All("input[id^='against[']")[row].GetAttribute("id")!;

    private static void Left(Chromium browser, string amount) =>
        browser.Until(() => browser.ById("left").Text == amount, $"what stays as credit is not {amount}");

    /// <summary>Digits and the point only, however thousands are set apart.</summary>
    private static string Plain(string? text) =>
        string.Concat((text ?? "").Where(c => char.IsAsciiDigit(c) || c == '.'));

    [Fact]
    public void Money_goes_oldest_first_in_full_by_hand_or_stays_as_credit()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/receive/new?customer=13");
        var (first, second) = (Against(browser, 0), Against(browser, 1));
        var (open, next) = (browser.All("tbody td.fig.nowrap")[0].Text, browser.All("tbody td.fig.nowrap")[1].Text);
        // A little more than the oldest takes, so that the next one gets the rest.
        var more = (
            decimal.Parse(
                string.Concat(open.Where(c => char.IsAsciiDigit(c) || c == '.')),
                System.Globalization.CultureInfo.InvariantCulture
            ) + 10
        ).ToString("0.00", System.Globalization.CultureInfo.InvariantCulture);
        browser.Type("amount", more);
        browser.Press("Set against oldest first");
        browser.Until(
            () => Plain(browser.ById(first).GetAttribute("value")) == Plain(open),
            "the oldest is not set against first"
        );
        browser.ById(second).GetAttribute("value").ShouldNotBeEmpty();
        Left(browser, "0.00");
        browser.Press("All on account");
        browser.Until(() => browser.ById(first).GetAttribute("value") == "", "the parts are not emptied");
        browser.Until(() => Plain(browser.ById("left").Text) == more, "not all of it stays as credit");
        browser.ById("amount").Clear();
        browser.Click(browser.All("button[data-item]")[1]);
        browser.Until(
            () => Plain(browser.ById("amount").GetAttribute("value")) == Plain(next),
            "the amount does not follow the invoice paid in full"
        );
        Left(browser, "0.00");
        browser.Type(second, "9999");
        browser.WaitFor("more against invoices than there is");
        browser.Type("amount", "20000");
        browser.WaitFor($"more than is open on");
        browser.Click(browser.ById("post"));
        browser.WaitFor("Not done.");
        browser.ById(second).GetAttribute("value").ShouldBe("9999");
        browser.Type(second, "1.00");
        Left(browser, "19\u202f999.00");
        browser.Type("reference", "a large sum");
        browser.Click(browser.ById("post"));
        browser.WaitFor("The receipt is posted.");
        browser.ById("left").Text.ShouldBe("19\u202f999.00");
        browser.WaitFor("a large sum");
        browser.Complaints().ShouldBeEmpty();
    }
}
