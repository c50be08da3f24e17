using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Standing;
using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;

namespace Jugaad.Browser.Tests;

/// <summary>
/// The last day of a month: 30 deliveries, 12 stages and 50 standing invoices are billed in a handful of acts.
/// </summary>
public sealed class MonthEndTests(Running running) : IClassFixture<Running>
{
    private static readonly DateOnly Today = new(2025, 9, 17);
    private int _acts;

    private async Task<int> IssuedAsync(DocumentKind kind, DraftContent content)
    {
        var made = await running.WithAsync<Drafts, int>(d => d.SaveAsync(new DraftToSave(null, kind, 0, content)));
        return await running.WithAsync<IssuingDesk, int>(i => i.IssueAsync(made, 1));
    }

    private async Task PrepareAsync()
    {
        var (customers, tax, sales) = await running.WithAsync<BooksContext, (List<int>, int, int)>(async db =>
            (
                await db
                    .Customers.Where(c => !c.Inactive && c.Code != "")
                    .OrderBy(c => c.Id)
                    .Take(6)
                    .Select(c => c.Id)
                    .ToListAsync(),
                await db.TaxCodes.Where(c => c.Code == "STD").Select(c => c.Id).SingleAsync(),
                await db.LedgerAccounts.Where(a => a.Code == "3000").Select(a => a.Id).SingleAsync()
            )
        );
        // The demo's museum gets e-invoices and lacks a reference, which would be asked about.
        await running.WithAsync<BooksContext, int>(db =>
            db.Customers.Where(c => c.Code == "MUSEUM")
                .ExecuteUpdateAsync(set => set.SetProperty(c => c.BuyerReference, "MERE-7"))
        );
        DraftContent Content(int i, string words, decimal price) =>
            new()
            {
                CustomerId = customers[i % customers.Count],
                Date = Today,
                ValidUntil = Today.AddMonths(1),
                Lines = [new DraftLine(null, words, 1, "C62", price, null, null, tax, sales)],
            };
        for (var i = 0; i < 30; i++)
            await IssuedAsync(
                DocumentKind.DeliveryNote,
                Content(i, $"Battens, lot {i + 1}", 20 + i) with
                {
                    ValidUntil = null,
                }
            );
        for (var i = 0; i < 12; i++)
        {
            var quote = await IssuedAsync(DocumentKind.Quote, Content(i, $"Overhaul {i + 1}", 1_000 + (10 * i)));
            var stage = await running.WithAsync<Stages, int>(s => s.BillAsync(quote, new StageWish(Percent: 10)));
            await running.WithAsync<IssuingDesk, int>(s => s.IssueAsync(stage, 1));
        }

        for (var i = 0; i < 50; i++)
        {
            var content = Content(i, "Mooring for {{ Month }}", 40 + i) with { ValidUntil = null };
            await running.WithAsync<StandingDesk, int>(s =>
                s.SaveAsync(
                    null,
                    new StandingDetails
                    {
                        Name = $"Mooring {i + 1}",
                        Schedule = new Schedule(new DateOnly(2025, 9, 30), 1, Pace.Months),
                    },
                    content.CustomerId,
                    content
                )
            );
        }
    }

    private void Act(Action act)
    {
        act();
        _acts++;
    }

    [Fact]
    public async Task All_that_is_due_on_the_last_day_of_a_month_goes_out_in_a_few_acts()
    {
        await PrepareAsync();
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        foreach (
            var (days, day) in new[]
            {
                (7, "24 Sep"),
                (1, "25 Sep"),
                (1, "26 Sep"),
                (1, "27 Sep"),
                (1, "28 Sep"),
                (1, "29 Sep"),
                (1, "30 Sep"),
            }
        )
        {
            browser.Find($"footer button[value='{days}']").Click();
            browser.Until(
                () => browser.Find("footer .day").Text.Contains(day, StringComparison.Ordinal),
                $"the calendar does not come to {day}"
            );
        }

        Act(() => browser.Go("/sell/deliveries"));
        browser.All("input[name=note]").Count.ShouldBeGreaterThanOrEqualTo(30);
        Act(() => browser.Find("thead input[type=checkbox]").Click());
        Act(() => browser.Click(browser.ById("bill-together")));
        browser.WaitFor("Check and issue them here.");

        Act(() => browser.Go("/sell/stages"));
        var cells = browser.All("input[name^=now]");
        cells.Count.ShouldBeGreaterThanOrEqualTo(12);
        Act(() => cells[0].SendKeys("500%"));
        Act(() => browser.Click(browser.ById("make-stages")));
        browser.WaitFor("Give a percentage above 0");
        browser.All("input[name^=now]")[0].GetAttribute("value").ShouldBe("500%", "what was typed is still there");
        browser.All("input[name^=now]")[0].Clear();
        foreach (var cell in browser.All("input[name^=now]").Take(12))
            Act(() => cell.SendKeys("30%"));
        Act(() => browser.Keys(Keys.Enter));
        browser.WaitFor("12 stages are drafts.");

        browser
            .All("input[name=draft]:checked")
            .Count.ShouldBeGreaterThanOrEqualTo(50 + 12 + 6, "what lacks nothing is ticked already");
        Act(() => browser.Click(browser.ById("issue-send")));
        browser.Until(
            () => browser.Text.Contains("issued:", StringComparison.Ordinal),
            () => $"nothing is issued:\n{browser.Text}"
        );
        _acts.ShouldBeLessThan(30);

        var (mooring, stages, open) = await running.WithAsync<BooksContext, (int, int, int)>(async db =>
            (
                await db.Documents.CountAsync(d =>
                    d.Number != null
                    && d.Kind == DocumentKind.Invoice
                    && d.Lines.Any(l => l.Text == "Mooring for September 2025")
                ),
                await db.Documents.CountAsync(d =>
                    d.Number != null
                    && d.Kind == DocumentKind.Invoice
                    && d.Lines.Any(l => l.Text.StartsWith("Stage 2 of quote"))
                    && d.Date == new DateOnly(2025, 9, 30)
                ),
                await db.Documents.CountAsync(d =>
                    d.Kind == DocumentKind.DeliveryNote
                    && d.State == DocumentState.Issued
                    && d.Lines.Any(l => l.Text.StartsWith("Battens, lot"))
                )
            )
        );
        (mooring, stages, open).ShouldBe((50, 12, 0));
        browser.Go("/sell/deliveries");
        browser.WaitFor("all that was delivered is billed");
    }
}
