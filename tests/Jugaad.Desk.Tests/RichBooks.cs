using Jugaad.Core.Accounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Schedules;
using Jugaad.Core.Trade;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Counter;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Making;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Jugaad.Desk.Standing;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Books in which something of every kind has happened, made once for all who want to damage them.</summary>
public sealed class RichBooks : IAsyncLifetime
{
    public Loft Loft { get; private set; } = null!;

    private int _rope;
    private int _terms;

    public async Task InitializeAsync()
    {
        Loft = await Loft.OpenAsync();
        await Loft.WithAsync<BusinessDesk>(b =>
            b.DescribeAsync(
                new BusinessDetails
                {
                    Name = "Little Loft",
                    Address = new Address("Quay 1", "1", "Harbour", "EE"),
                    CashStep = 0.05m,
                }
            )
        );
        await Loft.WithAsync<AccountsDesk>(a =>
            a.AddTermsAsync(new PaymentTerms("2 in 10", DueRule.DaysAfter, 30, earlyPercent: 2, earlyDays: 10))
        );
        _terms = await Loft.WithAsync<BooksContext, int>(db =>
            db.Terms.Where(t => t.Name == "2 in 10").Select(t => t.Id).SingleAsync()
        );
        await Loft.WithAsync<Periods>(p => p.SettleAsync(false, 100, null));
        _rope = await Loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "R",
                    Name = "Rope",
                    Unit = "MTR",
                    Price = 4.12m,
                    IsGoods = true,
                    KeepsCount = true,
                    TaxCodeId = Loft.Std,
                    LedgerAccountId = Loft.Sales,
                }
            )
        );
        await TakenOverAsync();
        await ChainAsync();
        await StagesAndDepositAsync();
        await MoneyAsync();
        await CounterAsync();
        await BankAsync();
        await RepeatedAsync();
        await AnswersAsync();
        await ForeignAsync();
        await ToldAtOwnRateAsync();
    }

    public Task DisposeAsync() => Loft.DisposeAsync().AsTask();

    private async Task<int> IssueAsync(int id)
    {
        await Loft.WithAsync<IssuingDesk>(async i => await i.IssueAsync(id, (await Loft.DocumentAsync(id)).Version));
        return id;
    }

    private async Task<(Document Document, AccountItem Item)> InvoiceAsync(
        decimal price,
        int? customer = null,
        int? terms = null,
        int daysAgo = 0
    )
    {
        var invoice = await Loft.IssuedAsync(
            Loft.Content(1, price, customer, Loft.Today.AddDays(-daysAgo)) with
            {
                TermsId = terms,
            }
        );
        return (invoice, await Loft.ItemOfAsync(invoice.Id));
    }

    private async Task TakenOverAsync()
    {
        await MovingTests.TakeAsync(
            Loft,
            MovingKind.OpenItems,
            "customer;number;date;open\nYard;A-1;01.08.2025;1.200,00\n"
        );
        await MovingTests.TakeAsync(Loft, MovingKind.Balances, "account;date;debit\n1000;01.08.2025;5.000,00\n");
    }

    private DraftContent Job() =>
        Loft.Content() with
        {
            Lines =
            [
                DraftLine.Words("Rig", LineRole.Section),
                new DraftLine(_rope, "Rope", 10, "MTR", 4.12m, null, null, Loft.Std, Loft.Sales),
                new DraftLine(null, "Sewing", 7.5m, "HUR", 47.77m, 5, null, Loft.Std, Loft.Sales),
            ],
            Charges = [new DraftCharge("Crane", 12_345, Loft.Std, Loft.Sales)],
            DiscountPercent = 2.5m,
        };

    /// <summary>Ordered, delivered in part, billed in part, credited in part, asked for more, closed.</summary>
    private async Task ChainAsync()
    {
        var quote = await Loft.IssuedAsync(Job(), DocumentKind.Quote);
        await Loft.WithAsync<Quotes>(q => q.AnswerAsync(quote.Id, true));
        var order = await IssueAsync(await Loft.WithAsync<MakingDesk, int>(m => m.OrderAsync(quote.Id)));
        var note = await Loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order));
        var draft = await Loft.DocumentAsync(note);
        await Loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    note,
                    DocumentKind.DeliveryNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines.Single(l => l.ItemId == _rope) with { Quantity = 6 }],
                    }
                )
            )
        );
        await IssueAsync(note);
        var bill = await IssueAsync(
            (await Loft.WithAsync<Deliveries, IReadOnlyList<int>>(d => d.BillAsync([note], false)))[0]
        );
        var part = await Loft.WithAsync<Credits, int>(c => c.DraftAsync(bill, "two metres too many"));
        var credit = await Loft.DocumentAsync(part);
        await Loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    part,
                    DocumentKind.CreditNote,
                    credit.Version,
                    credit.Content() with
                    {
                        Lines = [credit.Content().Lines.Single(l => l.Role.HasFigures()) with { Quantity = 2 }],
                        Charges = [],
                    }
                )
            )
        );
        await IssueAsync(part);
        await Loft.WithAsync<Credits>(async c => await c.SetAgainstAsync(await Loft.DocumentAsync(part)));
        var more = await Loft.WithAsync<Credits, int>(c => c.DebitAsync(bill, "the splice was left out"));
        await Loft.WithAsync<Drafts>(async d =>
            await d.SaveAsync(
                new DraftToSave(
                    more,
                    DocumentKind.DebitNote,
                    (await Loft.DocumentAsync(more)).Version,
                    (await Loft.DocumentAsync(more)).Content() with
                    {
                        Lines = Loft.Content(1, 5).Lines,
                    }
                )
            )
        );
        await IssueAsync(more);
        await Loft.WithAsync<Deliveries>(d => d.CloseAsync(order, "no more is wanted"));
        var wrong = await Loft.IssuedAsync(Job());
        await Loft.WithAsync<Credits>(c => c.CancelAsync(wrong.Id, "never ordered"));
        await Loft.IssuedAsync(Job() with { DiscountPercent = null, DiscountAmount = 1_000 });
    }

    private async Task StagesAndDepositAsync()
    {
        var quote = await Loft.IssuedAsync(Job(), DocumentKind.Quote);
        await Loft.WithAsync<Quotes>(q => q.AnswerAsync(quote.Id, true));
        await IssueAsync(await Loft.WithAsync<Stages, int>(s => s.DepositAsync(quote.Id, 30, null)));
        await IssueAsync(
            await Loft.WithAsync<Stages, int>(s => s.BillAsync(quote.Id, new StageWish(Percent: 33.3333m)))
        );
        await IssueAsync(await Loft.WithAsync<Stages, int>(s => s.BillAsync(quote.Id, new StageWish(Percent: 20))));
    }

    /// <summary>
    /// Came late, paid early, in part, in another currency, given up and paid after all, paid back, returned, moved.
    /// </summary>
    private async Task MoneyAsync()
    {
        await Loft.WithAsync<Periods>(p => p.CloseUpToAsync(Loft.Today.AddDays(-20)));
        await Loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(Loft.Yard, Loft.Today.AddDays(-23), Loft.Bank, 321, "late", []))
        );
        await Loft.WithAsync<Periods>(p => p.CloseUpToAsync(null));
        var (_, early) = await InvoiceAsync(100, terms: _terms);
        await Loft.WithAsync<Receipts>(r =>
            r.PostAsync(
                new ReceiptToPost(Loft.Yard, Loft.Today, Loft.Bank, 12_152, "in time", [(early.Id, 12_152)])
                {
                    Early = [(early.Id, "")],
                }
            )
        );
        var (_, small) = await InvoiceAsync(10);
        await Loft.WithAsync<Receipts>(r =>
            r.PostAsync(
                new ReceiptToPost(Loft.Yard, Loft.Today, Loft.Bank, 1_239, "", [(small.Id, 1_239)])
                {
                    GiveUp = [small.Id],
                }
            )
        );
        var (_, swedish) = await InvoiceAsync(1_000, Loft.Swede, daysAgo: 3);
        await Loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(Loft.Swede, Loft.Today, Loft.Bank, 60_000, "", [(swedish.Id, 60_000)]))
        );
        var (_, bad) = await InvoiceAsync(77);
        var booking = await Loft.WithAsync<Settlements, int>(s => s.WriteOffAsync(bad.Id, null, "bankrupt"));
        var given = await Loft.WithAsync<BooksContext, int>(db =>
            db.Settlements.Where(s => s.BookingId == booking).Select(s => s.Id).SingleAsync()
        );
        await Loft.WithAsync<Settlements>(s => s.RecoverAsync(given, 1_000));
        var over = await Loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(Loft.Yard, Loft.Today, Loft.Bank, 5_000, "too much", []))
        );
        var credit = await Loft.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.ReceiptId == over).Select(i => i.Id).SingleAsync()
        );
        await Loft.WithAsync<Refunds>(r =>
            r.PayAsync(
                new RefundToPay(credit, 1_000, Loft.Bank, Loft.Today, new Payee("Yard", "EE471000001020145685"), "back")
            )
        );
        var (_, bounced) = await InvoiceAsync(21);
        var returned = await Loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(Loft.Yard, Loft.Today, Loft.Bank, 2_604, "", [(bounced.Id, 2_604)]))
        );
        await Loft.WithAsync<Returns>(r => r.ReturnAsync(returned, Loft.Today, "no cover"));
        var other = await Loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(null, 0, new CustomerDetails { Name = "Other", Currency = "EUR" })
        );
        var moved = await Loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(Loft.Yard, Loft.Today, Loft.Bank, 700, "theirs", []))
        );
        await Loft.WithAsync<Transfers>(t => t.MoveAsync(moved, other));
        var undone = await Loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(Loft.Yard, Loft.Today, Loft.Bank, 123, "mistake", []))
        );
        await Loft.WithAsync<Undoing>(async u =>
            await u.UndoAsync(
                await Loft.WithAsync<BooksContext, int>(db =>
                    db.Receipts.Where(r => r.Id == undone).Select(r => r.BookingId!.Value).SingleAsync()
                )
            )
        );
        var (_, apart) = await InvoiceAsync(9);
        await Loft.ReceiveAsync(1_116, (apart.Id, 1_116));
        await Loft.WithAsync<Receipts>(async r =>
            await r.TakeAwayAsync(
                await Loft.WithAsync<BooksContext, int>(db =>
                    db.Allocations.Where(a => a.RaisingId == apart.Id).Select(a => a.Id).SingleAsync()
                )
            )
        );
        await Loft.WithAsync<OtherMoneyDesk>(async o =>
            await o.PostAsync(
                new OtherMoneyToPost(
                    Loft.Today,
                    Loft.Bank,
                    await LedgerAsync("4940"),
                    1_240,
                    Loft.Std,
                    "a find at the quay"
                )
            )
        );
    }

    private Task<int> LedgerAsync(string code) =>
        Loft.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Code == code).Select(a => a.Id).SingleAsync()
        );

    private async Task CounterAsync()
    {
        var (cash, card) = (await LedgerAsync("1010"), await LedgerAsync("1020"));
        var content = new DraftContent
        {
            Date = Loft.Today,
            PricesIncludeTax = true,
            Lines = [new DraftLine(null, "Shackle", 3, "H87", 10.01m, null, null, Loft.Std, Loft.Sales)],
        };
        var sold = await Loft.DocumentAsync(
            await Loft.WithAsync<CounterSales, int>(c =>
                c.SellAsync(
                    new CounterSale(
                        null,
                        content,
                        [new CounterPart(card, 2_001), new CounterPart(cash, null)],
                        null,
                        false
                    )
                )
            )
        );
        await Loft.WithAsync<CounterReturns>(r =>
            r.TakeBackAsync(
                new CounterReturn(
                    sold.Id,
                    new Dictionary<int, decimal> { [sold.Lines[0].Id] = 1 },
                    "wrong size",
                    false,
                    card
                )
            )
        );
        var holds = await Loft.WithAsync<Tills, long>(t => t.ExpectedAsync(cash));
        await Loft.WithAsync<Tills>(t =>
            t.CountAsync(new TillToCount(cash, holds - 5, holds, "a coin was lost", null))
        );
    }

    /// <summary>
    /// A statement: placed as a receipt, joined with one, to a ledger account, between our own accounts, and not at
    /// all.
    /// </summary>
    private async Task BankAsync()
    {
        var (invoice, item) = await InvoiceAsync(50, daysAgo: 4);
        var byHand = await Loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(Loft.Yard, Loft.Today.AddDays(-1), Loft.Bank, 777, "", []))
        );
        var day = Loft.Today.AddDays(-1);
        StatementLine[] lines =
        [
            new(day, 6_200, "Yard", "EE471000001020145685", "", StructuredReference.Of(invoice.Number!), "R1"),
            new(day, 777, "Yard", "EE471000001020145685", "by hand", "", "R2"),
            new(day, -350, "Bank", "", "fee", "", "R3"),
            new(day, 4_000, "Terminal", "", "payout", "", "R4"),
            new(day, 88, "Stranger", "", "?", "", "R5"),
            new(day, -1_000, "Yard", "EE471000001020145685", "back", "", "R6"),
        ];
        await Loft.WithAsync<Statements>(s =>
            s.ReadInAsync(
                CamtWriter.Write(
                    "EE030099220012345678",
                    Core.Amounts.Currency.Of("EUR"),
                    "009",
                    Loft.Today.AddDays(-9),
                    day,
                    1_000,
                    lines
                ),
                "s.xml",
                Loft.Bank
            )
        );
        var ids = await Loft.WithAsync<BooksContext, Dictionary<string, int>>(db =>
            db.BankLines.ToDictionaryAsync(l => l.BankReference, l => l.Id)
        );
        await Loft.WithAsync<MatchingBench>(b =>
            b.PlaceAsync(ids["R1"], [new LinePart(6_200, Loft.Yard, [(item.Id, 6_200)], [])], true)
        );
        await Loft.WithAsync<MatchingBench>(b => b.JoinAsync(ids["R2"], byHand));
        await Loft.WithAsync<MatchingBench>(async b =>
            await b.PlaceAsync(ids["R3"], [new LinePart(-350, null, [], [], await LedgerAsync("4950"))], true)
        );
        await Loft.WithAsync<OwnTransfers>(async t => await t.PlaceAsync(ids["R4"], await LedgerAsync("1020"), 4_000));
        await Loft.WithAsync<MatchingBench>(async b =>
            await b.JoinGoneAsync(
                ids["R6"],
                await Loft.WithAsync<BooksContext, int>(db =>
                    db.Refunds.Where(r => r.Amount == 1_000).Select(r => r.BookingId).SingleAsync()
                )
            )
        );
    }

    private async Task RepeatedAsync()
    {
        var id = await Loft.WithAsync<StandingDesk, int>(s =>
            s.SaveAsync(
                null,
                new StandingDetails
                {
                    Name = "Storage",
                    Schedule = new Schedule(Loft.Today.AddMonths(-2), 1, Pace.Months, Times: 12),
                    Way = StandingWay.Issue,
                    MakesUp = true,
                },
                Loft.Yard,
                Loft.Content(1, 20)
            )
        );
        await Loft.WithAsync<StandingRun>(r => r.RunAsync(Loft.Today));
        await Loft.WithAsync<StandingDesk>(s => s.SkipAsync(id));
        var mailed = await Loft.IssuedAsync(Loft.Content() with { Particulars = new Particulars { Language = "sv" } });
        await Loft.WithAsync<PostTray>(async t =>
            await t.AddAsync(await Loft.WithAsync<MailComposing, MailToSend>(m => m.ForDocumentAsync(mailed.Id)))
        );
        await Loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        Loft.Carrier.Before = _ => throw new CarrierException("The line broke.", CarrierFate.Unknown);
        var lost = await Loft.WithAsync<PostTray, int>(t =>
            t.AddAsync(new MailToSend("other@slip.example", "Hello", "Body") { CustomerId = Loft.Yard })
        );
        await Loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        await Loft.WithAsync<PostTray>(t => t.SettleAsync(lost));
        Loft.Carrier.Before = _ => { };
    }

    /// <summary>Money in crowns, with charges on the way in and back, a conversion, and what is not realised.</summary>
    /// <summary>Tax at a rate of its authority, and some of it given up.</summary>
    private async Task ToldAtOwnRateAsync()
    {
        var authority = await Loft.WithAsync<BooksContext, Core.Taxes.TaxAuthority>(db =>
            db.TaxAuthorities.FirstAsync()
        );
        Task SetAsync(bool own) =>
            Loft.WithAsync<TaxDesk, int>(d =>
                d.SaveAuthorityAsync(authority.Id, authority.Details() with { HasOwnRates = own })
            );
        await SetAsync(true);
        await Loft.WithAsync<AuthorityRatesDesk, int>(d =>
            d.EnterAsync(authority.Id, "SEK", Loft.Today, new QuotedRate(0.0850m, false))
        );
        var told = await Loft.IssuedAsync(Loft.Content(4, 1000, Loft.Swede));
        var item = await Loft.ItemOfAsync(told.Id);
        await Loft.WithAsync<Settlements, int>(s => s.WriteOffAsync(item.Id, 50_000, "as agreed"));
        await SetAsync(false);
    }

    private async Task ForeignAsync()
    {
        Task<int> AccountAsync(string code, AccountRole role, string currency) =>
            Loft.WithAsync<AccountsDesk, int>(a =>
                a.SaveAccountAsync(
                    null,
                    new AccountDetails
                    {
                        Code = code,
                        Name = code,
                        Role = role,
                        Currency = currency,
                    }
                )
            );
        var crowns = await AccountAsync("1710", AccountRole.Money, "SEK");
        var fees = await AccountAsync("6910", AccountRole.Other, "");
        await Loft.ExecuteAsync($"UPDATE Businesses SET FeeAccountId = {fees} WHERE FeeAccountId IS NULL");
        var content = Loft.Content(3, 1000, Loft.Swede);
        var invoice = await Loft.IssuedAsync(
            content with
            {
                Particulars = content.Particulars with
                {
                    TypedRate = new QuotedRate(11.2m, PerHome: true),
                    RateReason = "as agreed",
                    RateHeldUntil = Loft.Today,
                },
            }
        );
        var item = await Loft.ItemOfAsync(invoice.Id);
        var receipt = await Loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(
                new ReceiptToPost(Loft.Swede, Loft.Today, crowns, 300_000, "", [(item.Id, 200_000)])
                {
                    Arrived = 299_000,
                    Charge = 1_000,
                }
            )
        );
        var credit = await Loft.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.ReceiptId == receipt).Select(i => i.Id).SingleAsync()
        );
        await Loft.WithAsync<Refunds, int>(r =>
            r.PayAsync(
                new RefundToPay(credit, 50_000, crowns, Loft.Today, new Payee("Varv", "EE471000001020145685"), "")
                {
                    Charge = 1_000,
                }
            )
        );
        await Loft.WithAsync<Conversions, int>(c =>
            c.MakeAsync(
                new ConversionToMake(crowns, Loft.Bank, 100_000, 8_900, Loft.Today, "To the bank")
                {
                    Charge = 100,
                    ChargeOnTo = true,
                }
            )
        );
        await Loft.WithAsync<ValuationDesk, int>(v => v.PostAsync(Loft.Today));
    }

    private async Task AnswersAsync()
    {
        var lost = await Loft.IssuedAsync(Loft.Content(), DocumentKind.Quote);
        await Loft.WithAsync<Quotes>(q => q.AnswerAsync(lost.Id, false, "too dear", LossReason.TooDear));
        var revised = await Loft.IssuedAsync(Loft.Content(), DocumentKind.Quote);
        await IssueAsync(await Loft.WithAsync<Quotes, int>(q => q.ReviseAsync(revised.Id)));
        var offered = await Loft.IssuedAsync(
            Loft.Content() with
            {
                Lines =
                [
                    .. Loft.Content().Lines,
                    Loft.Content().Lines[0] with
                    {
                        Choice = LineChoice.Optional,
                        Chosen = true,
                    },
                ],
            },
            DocumentKind.Quote
        );
        await Loft.WithAsync<Quotes>(q => q.AnswerAsync(offered.Id, true));
        await Loft.DraftAsync();
    }
}
