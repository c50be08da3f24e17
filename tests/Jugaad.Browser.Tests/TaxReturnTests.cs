using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>
/// August's return: looked over, a figure followed down to a line of an invoice, filed, handed in, paid in two parts; and
/// what is issued for August afterwards is told in September's.
/// </summary>
public sealed class TaxReturnTests(Running running) : IClassFixture<Running>
{
    private const string August = "/reports/returns/1/2025-08-01/2025-08-31";
    private const string September = "/reports/returns/1/2025-09-01/2025-09-30";

    [Fact]
    public async Task August_is_looked_over_filed_handed_in_and_paid_and_what_comes_later_is_in_September()
    {
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Click(browser.Find(".return-due a"));
        browser.Until(() => browser.Path == August, () => browser.Path);

        // From a sum to its rows, to the paper, to the line: three steps.
        browser.Click(browser.Find("#summary tbody a"));
        browser.Until(() => browser.Path.Contains("of=", StringComparison.Ordinal));
        var number = browser.Find("#rows tbody a").Text;
        browser.Click(browser.Find("#rows tbody a"));
        browser.WaitFor(number);
        browser.Path.ShouldStartWith("/papers/");

        browser.Go(August);
        var owed = browser.Find("#owed").Text;
        browser.Click(browser.ById("file"));
        browser.WaitFor("Filed. Nothing changes this return");
        browser.Find("#owed").Text.ShouldBe(owed);
        browser.Click(browser.ById("hand-in"));
        browser.WaitFor("Their desk has it.");
        browser.Find("#filed").Text.ShouldContain("TD-");

        browser.Type("amount", "1000");
        browser.Click(browser.ById("pay"));
        browser.WaitFor("Noted.");
        var left = browser.Find("#left").Text;
        await PaidAtTheBankAsync(left);
        browser.Go("/bank");
        var line = browser.All(".bank-line").Single(l => l.Text.Contains("August rest", StringComparison.Ordinal));
        line.Text.ShouldContain("National Tax Board");
        browser.Click(line.FindElement(By.CssSelector("form.proposal button")));
        browser.Until(() => !browser.Text.Contains("August rest", StringComparison.Ordinal), "it is not placed");
        browser.Go(August);
        browser.Find("#left").Text.ShouldBe("0.00");
        browser.Find("main").Text.ShouldContain("Paid.");

        var korall = await running.WithAsync<BooksContext, int>(db =>
            db.Customers.Where(c => c.Code == "KORALL").Select(c => c.Id).SingleAsync()
        );
        await running.IssuedAsync(korall, new DateOnly(2025, 8, 28), 40);
        browser.Go(September);
        browser.Find("#late-rows").Text.ShouldContain("not told then");
        browser.Find("#rows").Text.ShouldContain("late");
        browser.Go(August);
        browser.Find("#owed").Text.ShouldBe(owed, "what is filed never changes");
        browser.Complaints().ShouldBeEmpty();
    }

    /// <summary>The rest goes out of the bank, and nobody has noted it.</summary>
    private async Task PaidAtTheBankAsync(string left)
    {
        var minor = long.Parse(new string([.. left.Where(char.IsAsciiDigit)]), CultureInfo.InvariantCulture);
        var (account, iban, day) = await running.WithAsync<BooksContext, (int, string, DateOnly)>(async db =>
        {
            var bank = await db.LedgerAccounts.Where(a => a.Iban != "").OrderBy(a => a.Code).FirstAsync();
            return (bank.Id, bank.Iban, await db.Bookings.MaxAsync(b => b.Date));
        });
        var file = CamtWriter.Write(
            iban,
            Currency.Of("EUR"),
            "901",
            day,
            day,
            0,
            [new StatementLine(day, -minor, "Tax office", "", "August rest", "", "TAX901")]
        );
        await running.WithAsync<Statements, object?>(async s =>
        {
            await s.ReadInAsync(file, "tax.xml", account);
            return null;
        });
    }
}
