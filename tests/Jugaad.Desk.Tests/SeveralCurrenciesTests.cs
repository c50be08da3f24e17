using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Making;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// A customer who is billed in euro as a rule and in crowns besides: one account with a side for each. 1240.00 SEK of
/// 1 September are kept at 108.38, at 0.0874.
/// </summary>
public sealed class SeveralCurrenciesTests : IAsyncLifetime
{
    private static readonly DateOnly Early = new(2025, 9, 1);
    private static readonly Currency Euro = Currency.Of("EUR");
    private static readonly Currency Crown = Currency.Of("SEK");
    private Loft _loft = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await DescribeAsync(d => d with { AlsoIn = "sek" });
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<Customer> YardAsync() =>
        _loft.WithAsync<AccountScreens, Customer>(async a => (await a.FindAsync(_loft.Yard))!);

    private async Task DescribeAsync(Func<CustomerDetails, CustomerDetails> change)
    {
        var now = await YardAsync();
        await _loft.WithAsync<CustomersDesk, int>(c => c.SaveAsync(_loft.Yard, now.Version, change(now.Details())));
    }

    private async Task<AccountItem> InvoiceAsync(string currency, decimal price, DateOnly? date = null) =>
        await _loft.ItemOfAsync(
            (
                await _loft.IssuedAsync(
                    _loft.Content(10, price, _loft.Yard, date ?? Early) with
                    {
                        Currency = currency,
                    }
                )
            ).Id
        );

    private Task<int> PaidAsync(long amount, params (int, long)[] against) =>
        _loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, Loft.Today, _loft.Bank, amount, "", against))
        );

    /// <summary>With every blank an ordinary one.</summary>
    private static string Plain(string text) =>
        string.Concat(
            text.Select(c =>
                char.IsWhiteSpace(c) ? ' '
                : c == ',' ? ' '
                : c
            )
        );

    private Task<AccountView> AccountAsync(string side = "") =>
        _loft.WithAsync<AccountScreens, AccountView>(async a => (await a.AccountAsync(_loft.Yard, 1, sideKey: side))!);

    [Fact]
    public async Task A_document_is_in_the_usual_currency_unless_it_says_another_that_they_are_billed_in()
    {
        (await _loft.IssuedAsync()).Currency.ShouldBe(Euro);
        var crowns = await _loft.IssuedAsync(_loft.Content(10, 100) with { Currency = "SEK" });
        (crowns.Currency, crowns.Payable, crowns.ExchangeRate.HomeForOne).ShouldBe((Crown, 124_000, 0.0901m));
        var refused = await _loft.RefusedAsync(() => _loft.DraftAsync(_loft.Content() with { Currency = "USD" }));
        (refused.Field, refused.Message).ShouldBe(
            (
                "currency",
                "Yard is not billed in USD. Choose EUR or SEK, or name it on their page, under Also billed in."
            )
        );
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_made_from_a_document_stays_in_its_currency()
    {
        var order = await _loft.IssuedAsync(_loft.Content(10, 100) with { Currency = "SEK" }, DocumentKind.Order);
        var draft = await _loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order.Id));
        var made = await _loft.DocumentAsync(draft);
        (made.Currency, made.Payable).ShouldBe((Crown, 124_000));
        var refused = await _loft.RefusedAsync(() =>
            _loft.WithAsync<Drafts, int>(d =>
                d.SaveAsync(
                    new DraftToSave(draft, DocumentKind.Invoice, made.Version, made.Content() with { Currency = "EUR" })
                )
            )
        );
        refused.Message.ShouldContain("which is in SEK. Keep that currency");
    }

    [Fact]
    public async Task A_currency_that_is_used_is_not_taken_from_them()
    {
        await InvoiceAsync("SEK", 100);
        (await _loft.RefusedAsync(() => DescribeAsync(d => d with { AlsoIn = "USD" }))).Field.ShouldBe("alsoIn");
        (await _loft.RefusedAsync(() => DescribeAsync(d => d with { AlsoIn = "XXY" }))).Message.ShouldContain("XXY");
        await InvoiceAsync("", 10);
        (
            await _loft.RefusedAsync(() => DescribeAsync(d => d with { Currency = "SEK", AlsoIn = "EUR" }))
        ).Field.ShouldBe("currency");
        await DescribeAsync(d => d with { AlsoIn = "USD, SEK; usd EUR" });
        (await YardAsync()).AlsoIn.ShouldBe("USD SEK");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync($"UPDATE Customers SET AlsoIn = '' WHERE Id = {_loft.Yard}");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("that its customer is not billed in"));
    }

    [Fact]
    public async Task The_account_has_a_side_for_each_and_a_whole_at_home()
    {
        var crowns = await InvoiceAsync("SEK", 100);
        await InvoiceAsync("", 10, Loft.Today);
        // 620.00 SEK at 0.0901 are 55.86; half of 108.38 is 54.19: 1.67 are gained, and 54.19 are left.
        await PaidAsync(62_000, (crowns.Id, 62_000));
        var (own, other, whole) = (await AccountAsync(), await AccountAsync("SEK"), await AccountAsync("all"));
        (own.Side.Currency, own.Balance, own.Open.Count).ShouldBe((Euro, 124_00, 1));
        (other.Side.Currency, other.Balance, other.Open.Count).ShouldBe((Crown, 62_000, 1));
        (whole.Side.IsWhole, whole.Side.Currency, whole.Balance, whole.Open.Count).ShouldBe(
            (true, Euro, 124_00 + 54_19, 2)
        );
        whole.Sides.Select(s => s.Balance).ShouldBe([124_00, 62_000, 124_00 + 54_19]);
        other.Movement.Rows.Select(r => r.Running).ShouldBe([62_000, 124_000]);
        whole.Movement.Rows.Count.ShouldBe(3);
        foreach (var view in new[] { own, other, whole })
            (view.Aged.NotYetDue + view.Aged.Late.Sum() - view.Aged.Credit).ShouldBe(view.Balance);

        var map = await _loft.WithAsync<SettlementScreens, MapView>(s => s.MapAsync(_loft.Yard, whole.Side));
        // At home each side of what was set against each other is closed by its own amount.
        map.Map.Debits.Sum(d => d.Open).ShouldBe(124_00 + 54_19);
        map.Map.Credits.Sum(c => c.Open).ShouldBe(0);
        (
            await _loft.WithAsync<SettlementScreens, MapView>(s => s.MapAsync(_loft.Yard, own.Side))
        ).Map.Debits.Count.ShouldBe(1);

        var list = await _loft.WithAsync<AccountScreens, IReadOnlyList<CustomerRow>>(async a =>
            (await a.CustomersAsync("Yard", "", Jugaad.Desk.Lists.ListPlace.Start)).Rows
        );
        (list.Single().Balance, list.Single().Besides.Single()).ShouldBe((124_00, new Money(62_000, Crown)));
        var totals = await _loft.WithAsync<AccountScreens, Jugaad.Desk.Lists.ListTotals>(a =>
            a.CustomerTotalsAsync("")
        );
        totals.Sums.Select(s => (s.Currency.Code, s.Amounts["balance"])).ShouldBe([("EUR", 124_00), ("SEK", 62_000)]);
    }

    [Fact]
    public async Task The_limit_counts_all_currencies_in_the_usual_one()
    {
        await DescribeAsync(d => d with { CreditLimit = 300_00 });
        await InvoiceAsync("SEK", 100);
        await InvoiceAsync("", 10);
        var draft = await _loft.DraftAsync(_loft.Content(1, 1000) with { Currency = "SEK" });
        var use = await _loft.WithAsync<CreditStanding, CreditUse>(c => c.OfAsync(_loft.Yard));
        // 108.38 and 124.00 open; 1240.00 SEK at 0.0901 are 111.72.
        (use.Open, use.Drafts).ShouldBe((232_38, 111_72));
        await _loft.ExecuteAsync("INSERT OR IGNORE INTO CollectingSettings DEFAULT VALUES");
        var passed = await _loft.WithAsync<CreditStanding, PassedLimit?>(async c =>
            await c.PassedByAsync(await _loft.DocumentAsync(draft), draft)
        );
        (passed!.Use, passed.Over).ShouldBe((344_10, 44_10));
    }

    [Fact]
    public async Task A_statement_is_one_paper_for_each_currency_and_the_mail_carries_both()
    {
        await InvoiceAsync("SEK", 100);
        await InvoiceAsync("", 10);
        Task<IReadOnlyList<DisplayList>> PapersAsync(string? only = null) =>
            _loft.WithAsync<Statements, IReadOnlyList<DisplayList>>(s =>
                s.ComposeAsync(_loft.Yard, new StatementWish(null, Loft.Today), only)
            );
        static string Texts(DisplayList paper) =>
            Plain(string.Join("|", paper.Pages.SelectMany(p => p.Marks).OfType<TextMark>().Select(m => m.Text)));
        var papers = await PapersAsync();
        papers.Count.ShouldBe(2);
        Texts(papers[0]).ShouldContain("124.00");
        Texts(papers[1]).ShouldContain("1 240.00");
        var whole = Texts((await PapersAsync("all")).Single());
        whole.ShouldContain("232.38");
        whole.ShouldContain("1 240.00 SEK");
        whole.ShouldNotContain("Please pay");

        var who = await _loft.WithAsync<StatementRun, IReadOnlyList<StatementFor>>(r => r.WhoAsync(Loft.Today));
        who.Single().Balance.ShouldBe([new Money(124_00, Euro), new Money(124_000, Crown)]);
        await _loft.WithAsync<StatementRun, int>(r => r.SendAsync(_loft.Yard, new StatementWish(null, Loft.Today)));
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Money_pays_what_is_in_one_currency()
    {
        var (crowns, euro) = (await InvoiceAsync("SEK", 100), await InvoiceAsync("", 10));
        (await _loft.RefusedAsync(() => PaidAsync(200_00, (crowns.Id, 100_00), (euro.Id, 100_00)))).Message.ShouldBe(
            "These are in EUR and SEK. Enter a receipt for what the money pays of each."
        );
        var receipt = await PaidAsync(124_000, (crowns.Id, 124_000));
        var posted = await _loft.WithAsync<BooksContext, Receipt>(db => db.Receipts.SingleAsync(r => r.Id == receipt));
        (posted.Currency, posted.Amount).ShouldBe((Crown, 124_000));
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task One_payment_pays_in_several_currencies_or_not_at_all()
    {
        var (crowns, euro) = (await InvoiceAsync("SEK", 100), await InvoiceAsync("", 10));
        Task<int> PayAsync(long inCrowns) =>
            _loft.WithAsync<Receipts, int>(r =>
                r.PostTogetherAsync([
                    new ReceiptToPost(_loft.Yard, Loft.Today, _loft.Bank, 124_00, "both", [(euro.Id, 124_00)])
                    {
                        Currency = Euro,
                    },
                    new ReceiptToPost(_loft.Yard, Loft.Today, _loft.Bank, inCrowns, "both", [(crowns.Id, inCrowns)])
                    {
                        Currency = Crown,
                        Arrived = 111_00,
                    },
                ])
            );
        var refused = await _loft.RefusedAsync(() => PayAsync(124_001));
        refused.Field.ShouldBe("arrived[SEK]");
        refused.Message.ShouldStartWith("What it pays in SEK: ");
        await PayAsync(124_000);
        foreach (var item in new[] { crowns, euro })
            (await _loft.ItemOfAsync(item.DocumentId!.Value)).Open.ShouldBe(0);
        (await AccountAsync("all")).Balance.ShouldBe(0);
        // 235.00 came into the bank for what was kept at 124.00 and 108.38: 2.62 are gained.
        (
            await _loft.NumberAsync(
                "SELECT SUM(l.Credit - l.Debit) FROM JournalLines l JOIN LedgerAccounts a ON a.Id = l.AccountId WHERE a.Role = 'ExchangeDifferences'"
            )
        ).ShouldBe(262);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_paid_early_at_another_rate_leaves_nothing_but_its_gain()
    {
        var terms = await _loft.WithAsync<BooksContext, int>(async db =>
        {
            var early = new PaymentTerms("30 days, 2 % in 20", DueRule.DaysAfter, 30, earlyPercent: 2, earlyDays: 20);
            db.Terms.Add(early);
            await db.SaveChangesAsync();
            return early.Id;
        });
        var content = _loft.Content(10, 100, _loft.Yard, Early) with { Currency = "SEK", TermsId = terms };
        var item = await _loft.ItemOfAsync((await _loft.IssuedAsync(content)).Id);
        var discount = item.Amount * 2 / 100;
        await _loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(
                new ReceiptToPost(
                    _loft.Yard,
                    Loft.Today,
                    _loft.Bank,
                    item.Amount - discount,
                    "",
                    [(item.Id, item.Amount - discount)]
                )
                {
                    Early = [(item.Id, "")],
                }
            )
        );
        var now = await _loft.WithAsync<BooksContext, AccountItem>(db =>
            db.AccountItems.AsNoTracking().SingleAsync(i => i.Id == item.Id)
        );
        (now.Open, now.HomeOpen).ShouldBe((0, 0));
        (await AccountAsync("all")).Balance.ShouldBe(0);
        // 1240.00 less 2 % are 1215.20, which at 0.0901 are 109.49, and were kept at 106.21: 3.28 are gained. The 24.80
        // that are given off take the 2.17 that are left with them.
        (
            await _loft.NumberAsync(
                "SELECT SUM(l.Credit - l.Debit) FROM JournalLines l JOIN LedgerAccounts a ON a.Id = l.AccountId WHERE a.Role = 'ExchangeDifferences'"
            )
        ).ShouldBe(328);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_taken_over_from_other_books_goes_to_the_side_of_its_currency()
    {
        await MovingTests.TakeAsync(
            _loft,
            MovingKind.OpenItems,
            "customer;number;date;open;currency\nYard;A-1;01.09.2025;1.240,00;SEK\nYard;A-2;01.09.2025;50,00;\n"
        );
        (await AccountAsync("all")).Sides.Select(s => s.Balance).ShouldBe([50_00, 124_000, 50_00 + 108_38]);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Customers_are_moved_out_and_in_with_all_their_currencies()
    {
        await MovingTests.TakeAsync(_loft, MovingKind.Customers, "name;currency;also billed in\nNew;EUR;usd, SEK\n");
        var made = await _loft.WithAsync<BooksContext, Customer>(db => db.Customers.SingleAsync(c => c.Name == "New"));
        made.AlsoIn.ShouldBe("USD SEK");
        await InvoiceAsync("SEK", 100);
        var before = (await YardAsync()).AlsoIn;
        var taken = await MovingTests.TakeAsync(_loft, MovingKind.Customers, "name;also billed in\nYard;NOK\n");
        taken.Refused.Count.ShouldBe(1);
        (await YardAsync()).AlsoIn.ShouldBe(before);
    }

    [Fact]
    public async Task One_letter_asks_for_both()
    {
        await InvoiceAsync("SEK", 100, Loft.Today.AddDays(-60));
        await InvoiceAsync("", 10, Loft.Today.AddDays(-60));
        var row = await _loft.WithAsync<ChaseScreens, ChaseRow?>(c => c.OneAsync(_loft.Yard));
        row!.Late.ShouldBe([new Money(124_00, Euro), new Money(124_000, Crown)]);
        Plain(row.Why.ToString()).ShouldStartWith("124.00 EUR and 1 240.00 SEK late by ");
        row.LateHome.ShouldBe(232_38);

        var mail = await _loft.WithAsync<MailComposing, MailToSend>(m => m.ReminderAsync(_loft.Yard));
        Plain(mail.Body).ShouldContain("124.00 EUR + 1 240.00 SEK");

        var ladder = await _loft.WithAsync<Ladders, int>(l => l.SaveAsync(null, "Usual", LetterLadder.UsualSteps));
        await _loft.WithAsync<Ladders>(l => l.SetAsync(ladder, false, 1_00, 7, [1, 2, 3, 4, 5]));
        var one = await _loft.WithAsync<LadderRun, LadderCase?>(l => l.LookAtAsync(_loft.Yard));
        one!.Sum.ShouldBe([new Money(124_00, Euro), new Money(124_000, Crown)]);
    }

    [Fact]
    public async Task A_promise_for_all_is_one_in_each_currency()
    {
        var (crowns, euro) = (
            await InvoiceAsync("SEK", 100, Loft.Today.AddDays(-60)),
            await InvoiceAsync("", 10, Loft.Today.AddDays(-60))
        );
        Task<int> HeardAsync(long? amount, params int[] items) =>
            _loft.WithAsync<Contacts, int>(c =>
                c.NoteAsync(
                    _loft.Yard,
                    new ContactSaid(ContactWay.Call, "", "they pay", null),
                    new PromiseHeard(amount, Loft.Today.AddDays(5), items, true),
                    null
                )
            );
        (await _loft.RefusedAsync(() => HeardAsync(100_00))).Field.ShouldBe("amount");
        await HeardAsync(null);
        async Task<CustomerOwes> OwesAsync() =>
            (await _loft.WithAsync<OwedBook, IReadOnlyList<CustomerOwes>>(o => o.OnAsync(Loft.Today, _loft.Yard)))[0];
        var owes = await OwesAsync();
        owes.Promises.Select(p => (p.Promise.Currency, p.Judged.Missing))
            .ShouldBe([(Crown, 124_000), (Euro, 124_00)], ignoreOrder: true);
        (owes.Askable(crowns.Id), owes.Askable(euro.Id)).ShouldBe((0, 0));

        // What is paid in crowns keeps the promise in crowns alone.
        await PaidAsync(124_000, (crowns.Id, 124_000));
        owes = await OwesAsync();
        owes.Promises.Select(p => (p.Promise.Currency, p.Judged.Missing))
            .ShouldBe([(Crown, 0), (Euro, 124_00)], ignoreOrder: true);
        await HeardAsync(100_00, euro.Id);
        (await OwesAsync()).Askable(euro.Id).ShouldBe(24_00);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Two_customers_of_different_currencies_become_one_with_a_side_for_each()
    {
        await DescribeAsync(d => d with { AlsoIn = "" });
        await InvoiceAsync("", 10);
        await _loft.IssuedAsync(_loft.Content(10, 100, _loft.Swede, Early));
        await _loft.WithAsync<CustomersDesk, int>(c => c.MergeAsync(_loft.Yard, _loft.Swede));
        (await AccountAsync())
            .Sides.Select(s => (s.Side.Key, s.Balance))
            .ShouldBe([("EUR", 124_00), ("SEK", 124_000), ("all", 232_38)]);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_they_see_themselves_names_each_currency()
    {
        await InvoiceAsync("SEK", 100);
        var euro = await InvoiceAsync("", 10);
        await PaidAsync(20_00);
        var seen = await _loft.WithAsync<PayerScreens, PayerAccount>(p => p.AccountAsync(_loft.Yard));
        seen.Balance.ShouldBe([new Money(104_00, Euro), new Money(124_000, Crown)]);
        seen.Credit.ShouldBe([new Money(20_00, Euro)]);
        seen.LateOn(euro.Due.AddDays(1)).Count.ShouldBe(2);
    }
}
