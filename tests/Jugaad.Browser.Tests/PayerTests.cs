using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>A customer pays from their own page, by the stand-in for a card service.</summary>
public sealed class PayerTests(Running running) : IClassFixture<Running>
{
    [Fact]
    public void A_part_of_a_plan_is_paid_by_card_and_stands_on_the_account()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/customers");
        browser.Click(
            browser.All("main a").First(a => a.Text.StartsWith("Oarlock Rowing Club", StringComparison.Ordinal))
        );
        browser.WaitFor("Their own page");
        var account = browser.Find("#own-page a").GetAttribute("href")!;
        var office = browser.Path;
        // The customer is somebody else, in a browser of their own.
        using (var payer = new Chromium(running.Address))
        {
            payer.Go(new Uri(account).AbsolutePath);
            payer.WaitFor("As agreed on");
            payer.Click(payer.Find("#pay-part"));
            payer.WaitFor("You pay");
            var total = payer.Find("#total").Text;
            payer.Click(payer.Find("#to-card"));
            payer.WaitFor("stands in for a card service");
            payer.Find("#amount").Text.ShouldBe(total);
            payer.Click(payer.Find("#decline"));
            payer.WaitFor("The card was not accepted");
            payer.Click(payer.Find("#came-of-it a.act"));
            payer.WaitFor("As agreed on");
            payer.Click(payer.Find("#pay-part"));
            payer.WaitFor("You pay");
            payer.Click(payer.Find("#to-card"));
            payer.WaitFor("stands in for a card service");
            payer.Click(payer.Find("#pay"));
            payer.WaitFor("Thank you");
            payer.Click(payer.Find("#came-of-it a.act"));
            payer.WaitFor("paid");
            payer.All("#plan tr.quiet").Count.ShouldBe(1);
            payer.Complaints().ShouldBeEmpty();
        }

        browser.Go(office);
        browser.Find("#own-page").Text.ShouldContain("seen");
        browser.Go("/receive/online");
        browser
            .All("#payments tbody tr")
            .First(r => r.Text.Contains("Oarlock", StringComparison.Ordinal))
            .Text.ShouldContain("paid");
        browser.Complaints().ShouldBeEmpty();
    }
}
