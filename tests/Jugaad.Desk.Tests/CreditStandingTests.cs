using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Making;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>How much of a customer's credit is used, and documents that pass the limit.</summary>
public sealed class CreditStandingTests
{
    private static Task<CreditUse> UseAsync(Loft loft) =>
        loft.WithAsync<CreditStanding, CreditUse>(c => c.OfAsync(loft.Yard));

    private static Task SetAsync(Loft loft, LimitCheck check, int days = 60, int broken = 2) =>
        loft.WithAsync<CollectingRules>(r => r.GiveCreditAsync(check, days, broken));

    [Fact]
    public async Task An_amount_moves_from_ordered_to_delivered_to_draft_to_open_and_stays_the_same()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await loft.IssuedAsync(kind: DocumentKind.Order);
        (await UseAsync(loft)).ShouldBe(new CreditUse(0, 0, 124_00, 0, 1_000_00));
        var note = await loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order.Id));
        await loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(note, (await loft.DocumentAsync(note)).Version)
        );
        (await UseAsync(loft)).ShouldBe(new CreditUse(0, 124_00, 0, 0, 1_000_00));
        var bill = (await loft.WithAsync<Deliveries, IReadOnlyList<int>>(d => d.BillAsync([note], false)))[0];
        (await UseAsync(loft)).ShouldBe(new CreditUse(0, 0, 0, 124_00, 1_000_00));
        await loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(bill, (await loft.DocumentAsync(bill)).Version)
        );
        (await UseAsync(loft)).ShouldBe(new CreditUse(124_00, 0, 0, 0, 1_000_00));
        await loft.ReceiveAsync(200_00, ((await loft.ItemOfAsync(bill)).Id, 124_00));
        (await UseAsync(loft)).Used.ShouldBe(-76_00, "credit of theirs gives room");
    }

    [Fact]
    public async Task Where_it_stops_nothing_passes_the_limit_but_what_the_owner_lets_pass_with_a_reason()
    {
        await using var loft = await Loft.OpenAsync();
        await SetAsync(loft, LimitCheck.Stop);
        await loft.IssuedAsync(loft.Content(2, 400));
        var draft = await loft.DraftAsync(loft.Content(2, 50));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(draft, 1)))
        ).Message.ShouldContain("116.00\u00a0EUR over the limit");
        var note = await loft.DraftAsync(loft.Content(2, 50), DocumentKind.Order);
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(note, 1)));
        Loft.ActAs(PersonRole.Bookkeeper);
        await Should.ThrowAsync<NotAllowedException>(() =>
            loft.WithAsync<CreditStanding>(c => c.LetPassAsync(draft, "They paid by wire today"))
        );
        Loft.ActAs(null);
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<CreditStanding>(c => c.LetPassAsync(draft, " "))
        );
        await loft.WithAsync<CreditStanding>(c => c.LetPassAsync(draft, "They paid by wire today"));
        // What was let pass is this much, and no more.
        await loft.WithAsync<Drafts>(async d =>
            await d.SaveAsync(
                new DraftToSave(
                    draft,
                    DocumentKind.Invoice,
                    (await loft.DocumentAsync(draft)).Version,
                    loft.Content(3, 50)
                )
            )
        );
        await Should.ThrowAsync<RefusalException>(async () =>
            await loft.WithAsync<IssuingDesk>(async i =>
                await i.IssueAsync(draft, (await loft.DocumentAsync(draft)).Version)
            )
        );
        await loft.WithAsync<CreditStanding>(c => c.LetPassAsync(draft, "All of it"));
        await loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(draft, (await loft.DocumentAsync(draft)).Version)
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        foreach (var damage in new[] { "Reason = ''", "UpTo = 0", "By = ''" })
        {
            await loft.ExecuteAsync($"UPDATE CreditPasses SET {damage}");
            (await loft.CheckAsync()).Differences.ShouldNotBeEmpty(damage);
            await loft.ExecuteAsync("UPDATE CreditPasses SET Reason = 'x', UpTo = 1, By = 'x'");
        }
    }

    [Fact]
    public async Task What_was_ordered_within_the_limit_is_billed_whatever_came_since()
    {
        await using var loft = await Loft.OpenAsync();
        await SetAsync(loft, LimitCheck.Stop);
        var order = await loft.IssuedAsync(loft.Content(2, 350), DocumentKind.Order);
        await SetAsync(loft, LimitCheck.Warn);
        await loft.IssuedAsync(loft.Content(2, 200));
        await SetAsync(loft, LimitCheck.Stop);
        var bill = await loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order.Id));
        await loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(bill, (await loft.DocumentAsync(bill)).Version)
        );
        (await UseAsync(loft)).Ordered.ShouldBe(0);
    }

    [Fact]
    public async Task Warned_or_silent_it_goes_on()
    {
        await using var loft = await Loft.OpenAsync();
        var draft = await loft.DraftAsync(loft.Content(2, 500));
        async Task<string> WarningsAsync() =>
            string.Join(
                ' ',
                (await loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(draft, false))).Select(
                    f => f.Words
                )
            );
        (await WarningsAsync()).ShouldContain("240.00\u00a0EUR over the limit");
        await SetAsync(loft, LimitCheck.Off);
        (await WarningsAsync()).ShouldNotContain("limit");
        await loft.WithAsync<IssuingDesk>(i => i.IssueAsync(draft, 1));
    }

    [Fact]
    public async Task Nothing_more_on_account_is_proposed_when_it_is_too_late_or_promises_broke()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync(loft.Content(2, 50, null, Loft.Today.AddDays(-80)));
        Task<CustomerCredit?> ReadAsync() =>
            loft.WithAsync<CustomerCredits, CustomerCredit?>(s => s.OfAsync(loft.Yard));
        var view = (await ReadAsync())!;
        view.LateNow.ShouldBe(66);
        view.NoMoreIsProposed.ShouldBeTrue();
        await SetAsync(loft, LimitCheck.Warn, 90);
        (await ReadAsync())!.NoMoreIsProposed.ShouldBeFalse();
        await loft.WithAsync<CustomersDesk>(c => c.NoMoreAsync(loft.Yard, "66 days late"));
        await loft.WithAsync<CustomersDesk>(c => c.LimitAsync(loft.Yard, null));
        view = (await ReadAsync())!;
        view.Customer.NoMoreOnAccount.ShouldBeTrue();
        view.Customer.CreditLimit.ShouldBeNull();
        view.Use.Left.ShouldBeNull();
    }

    [Fact]
    public async Task The_credit_of_a_customer_is_a_report_that_says_what_its_page_says()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync(loft.Content(2, 50, null, Loft.Today.AddDays(-80)));
        var code = (await loft.WithAsync<CustomerCredits, CustomerCredit?>(s => s.OfAsync(loft.Yard)))!.Customer.Code;
        Task<Report> ReadAsync() =>
            loft.WithAsync<ReportCatalog, Report>(c =>
                c.MakeAsync(
                    ReportCatalog.Find("credit")!,
                    new ReportAsk(Loft.Today, Loft.Today, new Dictionary<string, string> { ["customer"] = code }),
                    ReportAgainst.Nothing
                )
            );
        object? Cell(Report report, string key, int at) => report.Rows.Single(r => r.Key == key).Cells[at];
        await loft.WithAsync<CustomersDesk>(c => c.LimitAsync(loft.Yard, 10_000));
        var report = await ReadAsync();
        ((Money)Cell(report, "open", 1)!).Minor.ShouldBe(12_400);
        ((Money)Cell(report, "used", 1)!).Minor.ShouldBe(12_400);
        Cell(report, "left", 0).ShouldBe("Over it by");
        ((Money)Cell(report, "left", 1)!).Minor.ShouldBe(2_400);
        Cell(report, "lateNow", 3).ShouldBe("66 days");
        report.Rows.ShouldNotContain(r => r.Key == "noMore");
        await loft.WithAsync<CustomersDesk>(c => c.LimitAsync(loft.Yard, null));
        await loft.WithAsync<CustomersDesk>(c => c.NoMoreAsync(loft.Yard, "66 days late"));
        report = await ReadAsync();
        Cell(report, "limit", 3).ShouldBe("none");
        report.Rows.ShouldNotContain(r => r.Key == "left");
        Cell(report, "noMore", 3).ShouldBe("66 days late");
    }

    [Fact]
    public async Task A_grade_is_kept_with_its_day()
    {
        await using var loft = await Loft.OpenAsync();
        async Task GradeAsync(string grade)
        {
            var customer = await loft.WithAsync<BooksContext, Core.Trade.Customer>(db =>
                db.Customers.AsNoTracking().SingleAsync(c => c.Id == loft.Yard)
            );
            await loft.WithAsync<CustomersDesk>(c =>
                c.SaveAsync(loft.Yard, customer.Version, customer.Details() with { RiskGrade = grade })
            );
        }

        Task<DateOnly?> OnAsync() =>
            loft.WithAsync<BooksContext, DateOnly?>(db =>
                db.Customers.Where(c => c.Id == loft.Yard).Select(c => c.GradedOn).SingleAsync()
            );
        await GradeAsync("C");
        loft.Clock.Advance(TimeSpan.FromDays(3));
        await GradeAsync("C");
        (await OnAsync()).ShouldBe(Loft.Today);
        await GradeAsync("D");
        (await OnAsync()).ShouldBe(Loft.Today.AddDays(3));
        await GradeAsync("");
        (await OnAsync()).ShouldBeNull();
    }
}
