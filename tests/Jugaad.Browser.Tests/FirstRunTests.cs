using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Browser.Tests;

/// <summary>Real books, from nothing to the first issued invoice, in the browser.</summary>
public sealed class FirstRunTests
{
    [Fact]
    public async Task A_new_business_raises_its_first_invoice()
    {
        var folder = Directory.CreateTempSubdirectory("jugaad-first-").FullName;
        await using (
            var app = (
                await WebHost.BuildAsync(
                    new LaunchOptions(false, folder, 0, false, Path.Combine(SourceTree.Root, "src", "Jugaad.Web"))
                )
            )!
        )
        {
            await app.StartAsync();
            var address = app.Urls.First();
            using var end = new Ended(address);
            using var browser = new Chromium(address);
            browser.Go("/");
            browser.WaitFor("Begin your books");
            browser.Type("code", "ABCD-2345");
            browser.Type("name", "Two Needles OÜ");
            browser.Type("taxName", "VAT");
            browser.Type("taxPercent", "24");
            browser.Type("ownerName", "Tiiu Needle");
            browser.Type("ownerEmail", "tiiu@needles.example");
            browser.Type("password", "short");
            browser.Press("Begin these books");
            browser.WaitFor("This is not the code.");
            browser.Type("code", app.Services.GetRequiredService<FirstRunCode>().Code.ToLowerInvariant());
            browser.Type("password", "short");
            browser.Press("Begin these books");
            browser.WaitFor("at least 12 characters");
            browser.ById("name").GetAttribute("value").ShouldBe("Two Needles OÜ");
            browser.Type("password", "needle and thread");
            browser.Press("Begin these books");
            browser.WaitFor("Your books are begun.");
            browser.Type("email", "tiiu@needles.example");
            browser.Type("password", "needle and thread");
            browser.Press("Sign in");
            browser.WaitFor("Nothing waits to be billed");

            browser.Go("/sell/edit?kind=invoice");
            browser.ById("customer").SendKeys("First Customer");
            browser.Until(
                () => browser.Text.Contains("as a new customer", StringComparison.Ordinal),
                "a new customer is not offered"
            );
            browser.Keys(OpenQA.Selenium.Keys.Enter);
            browser.Press("Add customer");
            browser.Until(() => !browser.All("#nc-email")[0].Displayed, "the new customer's form stays open");
            browser.ById("lines[0].text").SendKeys("Mending");
            browser.Type("lines[0].quantity", "3");
            browser.ById("lines[0].unitPrice").SendKeys("12.50");
            browser.Until(() => browser.ById("total").Text == "46.50", "the total is not 46.50");
            browser.ById("look").Click();
            browser.WaitFor("draft, not issued");
            browser.ById("issue-only").Click();
            browser.WaitFor($"INV-{DateTime.Now.Year}-0001");
            browser.ById("open").Text.ShouldBe("46.50");
            browser.Complaints().ShouldBeEmpty();
            await using var db = new BooksFile(folder).Open();
            (await new Desk.Checking.BooksCheck(db).RunAsync()).Differences.ShouldBeEmpty();
        }

        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private sealed class Ended(string address) : IDisposable
    {
        public void Dispose() => Chromium.EndOf(address);
    }
}
