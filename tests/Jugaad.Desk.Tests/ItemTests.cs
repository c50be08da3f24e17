using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Jugaad.Core.Pricing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Items changed many at once and back, the count on hand, accounts, terms and series.</summary>
public sealed class ItemTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private int _list;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _list = await _loft.WithAsync<ItemsDesk, int>(i => i.AddPriceListAsync(new PriceList("Trade", "EUR", false)));
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> AddAsync(string code, decimal price, Func<ItemDetails, ItemDetails>? more = null)
    {
        var details = new ItemDetails
        {
            Code = code,
            Name = $"Item {code}",
            IsGoods = true,
            Price = price,
            TaxCodeId = _loft.Std,
            LedgerAccountId = _loft.Sales,
        };
        return _loft.WithAsync<ItemsDesk, int>(i => i.SaveAsync(null, 0, more is null ? details : more(details)));
    }

    private Task<Item> LoadAsync(int id) =>
        _loft.WithAsync<BooksContext, Item>(db => db.Items.AsNoTracking().SingleAsync(i => i.Id == id));

    private Task<string[]> RefusedAsync(Func<ItemsDesk, Task> work) => RefusedAsync<ItemsDesk>(work);

    private async Task<string[]> RefusedAsync<T>(Func<T, Task> work)
        where T : notnull =>
        (await Should.ThrowAsync<RefusalException>(() => _loft.WithAsync(work)))
            .Refusals.Select(r => r.Field)
            .ToArray();

    [Fact]
    public async Task Prices_of_many_move_after_a_preview_and_back_in_one_go()
    {
        var ids = new List<int>();
        foreach (var price in new[] { 1m, 9.99m, 24.5m })
            ids.Add(
                await AddAsync(
                    $"P{price}",
                    price,
                    d => d with { Prices = new Dictionary<int, decimal> { [_list] = price / 2 } }
                )
            );
        var change = new ItemChange
        {
            Percent = 4,
            Step = 0.05m,
            Classification = "5607",
            ClassificationList = "HS",
        };
        (await RefusedAsync<ItemBatches>(b => b.ApplyAsync(ids, change with { ClassificationList = "??" }))).ShouldBe([
            "classificationList",
        ]);
        (await RefusedAsync<ItemBatches>(b => b.ApplyAsync(ids, change with { Classification = null }))).ShouldBe([
            "classification",
        ]);
        var preview = await _loft.WithAsync<ItemBatches, IReadOnlyList<ItemChangePreview>>(b =>
            b.PreviewAsync(ids, change)
        );
        preview.Select(p => p.After.Price).Order().ShouldBe([1.05m, 10.4m, 25.5m]);
        (await LoadAsync(ids[1])).Price.ShouldBe(9.99m);

        var batch = await _loft.WithAsync<ItemBatches, int>(b => b.ApplyAsync(ids, change));
        var changed = await LoadAsync(ids[1]);
        changed.ClassificationList.ShouldBe("HS");
        (changed.Price, changed.Classification, changed.Prices.Single().Price).ShouldBe((10.4m, "5607", 4.995m));
        await _loft.WithAsync<ItemBatches>(b => b.UndoAsync(batch));
        var back = await LoadAsync(ids[1]);
        (back.Price, back.Classification, back.ClassificationList).ShouldBe((9.99m, "", ""));
        (await RefusedAsync<ItemBatches>(b => b.UndoAsync(batch))).ShouldBe([""]);
    }

    [Fact]
    public async Task An_undo_leaves_what_was_changed_since_and_says_so()
    {
        var (a, b) = (await AddAsync("A", 10), await AddAsync("B", 20));
        var batch = await _loft.WithAsync<ItemBatches, int>(x =>
            x.ApplyAsync([a, b], new ItemChange { Percent = 10, PriceListId = null })
        );
        var touched = await LoadAsync(a);
        await _loft.WithAsync<ItemsDesk>(i => i.SaveAsync(a, touched.Version, touched.Details() with { Price = 99 }));
        await _loft.WithAsync<ItemBatches>(x => x.UndoAsync(batch));
        ((await LoadAsync(a)).Price, (await LoadAsync(b)).Price).ShouldBe((99m, 20m));
        (
            await _loft.WithAsync<BooksContext, string>(db =>
                db.Trail.OrderByDescending(t => t.Id).Select(t => t.Text).FirstAsync()
            )
        ).ShouldEndWith("left as they are, because they were changed since: A");
    }

    [Fact]
    public async Task A_change_that_cannot_be_is_refused_and_nothing_is_changed()
    {
        var id = await AddAsync("A", 10);
        (await RefusedAsync<ItemBatches>(b => b.ApplyAsync([], new ItemChange { Percent = 1 }))).ShouldBe([""]);
        (
            await RefusedAsync<ItemBatches>(b =>
                b.ApplyAsync(
                    [id],
                    new ItemChange
                    {
                        TaxCodeId = 99,
                        LedgerAccountId = _loft.Bank,
                        PriceListId = 98,
                        Percent = 1,
                    }
                )
            )
        ).ShouldBe(["taxCodeId", "ledgerAccountId", "priceListId"]);
        (await RefusedAsync<ItemBatches>(b => b.ApplyAsync([id], new ItemChange { TaxCodeId = _loft.Std }))).ShouldBe([
            "",
        ]);
        (await LoadAsync(id)).Version.ShouldBe(1);
    }

    [Fact]
    public async Task Papers_move_the_count_and_a_correction_gives_its_reason()
    {
        var rope = await AddAsync("ROPE", 3, d => d with { KeepsCount = true });
        await _loft.WithAsync<ItemsDesk>(i => i.CorrectCountAsync(rope, 100, "counted"));
        DraftContent Content(decimal quantity, int? from = null) =>
            _loft.Content() with
            {
                Lines = [new DraftLine(rope, "Rope", quantity, "MTR", 3, null, null, _loft.Std, _loft.Sales, from)],
            };
        var delivery = await _loft.IssuedAsync(Content(30), DocumentKind.DeliveryNote);
        (await LoadAsync(rope)).OnHand.ShouldBe(70);
        await _loft.IssuedAsync(Content(30, delivery.Lines[0].Id));
        (await LoadAsync(rope)).OnHand.ShouldBe(70);
        await _loft.IssuedAsync(Content(12.5m));
        (await LoadAsync(rope)).OnHand.ShouldBe(57.5m);
        await _loft.IssuedAsync(
            Content(2.5m) with
            {
                Particulars = new Particulars { Reason = "came back" },
            },
            DocumentKind.CreditNote
        );
        await _loft.IssuedAsync(Content(7), DocumentKind.Quote);
        (await LoadAsync(rope)).OnHand.ShouldBe(60);
        var moves = await _loft.WithAsync<ItemScreens, IReadOnlyList<StockRow>>(s => s.MovesAsync(rope));
        moves.Select(m => m.Quantity).ShouldBe([2.5m, -12.5m, -30, 100]);
        moves[1].Reason.ShouldStartWith("Invoice INV-");
        (await RefusedAsync(i => i.CorrectCountAsync(rope, 60, "counted"))).ShouldBe(["quantity"]);
        (await RefusedAsync(i => i.CorrectCountAsync(rope, 61, ""))).ShouldBe(["reason"]);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync("UPDATE Items SET OnHand = 1");
        (await _loft.CheckAsync()).Differences.ShouldHaveSingleItem().ShouldContain("ROPE");
    }

    [Fact]
    public async Task More_than_is_on_hand_is_pointed_out_and_not_refused()
    {
        var rope = await AddAsync("ROPE", 3, d => d with { KeepsCount = true });
        await _loft.WithAsync<ItemsDesk>(i => i.CorrectCountAsync(rope, 10, "counted"));
        DraftLine Line(decimal quantity) => new(rope, "Rope", quantity, "MTR", 3, null, null, _loft.Std, _loft.Sales);
        async Task<IReadOnlyList<Refusal>> Warnings(params DraftLine[] lines)
        {
            var document = await _loft.WithAsync<Drafting.Drafts, Document>(d =>
                d.TryOutAsync(DocumentKind.Invoice, _loft.Content() with { Lines = lines })
            );
            return await _loft.WithAsync<Issuing.DraftWarnings, IReadOnlyList<Refusal>>(w => w.OfAsync(document, null));
        }

        (await Warnings(Line(4), Line(6))).ShouldBeEmpty();
        (await Warnings(Line(4), Line(7)))
            .Single()
            .Message.ShouldStartWith("11 of Item ROPE would go, and 10 are on hand");
        await _loft.IssuedAsync(_loft.Content() with { Lines = [Line(12)] });
        (await LoadAsync(rope)).OnHand.ShouldBe(-2);
    }

    [Fact]
    public async Task A_barcode_belongs_to_one_item()
    {
        await AddAsync("A", 1, d => d with { Barcode = "4006381333931, OWN_1" });
        (
            await Should.ThrowAsync<RefusalException>(() => AddAsync("B", 1, d => d with { Barcode = "OWN_1" }))
        ).Message.ShouldContain("Item A");
        await AddAsync("C", 1, d => d with { Barcode = "OWNX1" });
        (await _loft.WithAsync<ItemScreens, Stretch<ItemRow>>(s => s.ListAsync("4006381333931", "", ListPlace.Start)))
            .Rows.Single()
            .Code.ShouldBe("A");
    }

    [Fact]
    public async Task Accounts_are_added_renamed_and_retired_and_what_was_posted_stays()
    {
        var account = await _loft.WithAsync<AccountsDesk, int>(a =>
            a.AddAccountAsync("3010", "Sales: cloth", AccountRole.Sales)
        );
        var invoice = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [new DraftLine(null, "Cloth", 1, "MTR", 10, null, null, _loft.Std, account)],
            }
        );
        await _loft.WithAsync<AccountsDesk>(a =>
            a.SaveAccountAsync(
                account,
                new AccountDetails
                {
                    Code = "3011",
                    Name = "Sales: sailcloth",
                    Role = AccountRole.Other,
                }
            )
        );
        await _loft.WithAsync<AccountsDesk>(a => a.RetireAccountAsync(account, true));
        var kept = await _loft.WithAsync<BooksContext, LedgerAccount>(db =>
            db.LedgerAccounts.AsNoTracking().SingleAsync(a => a.Id == account)
        );
        (kept.Name, kept.Role, kept.Retired).ShouldBe(("Sales: sailcloth", AccountRole.Sales, true));
        (
            await _loft.WithAsync<BooksContext, long>(db =>
                db.Set<JournalLine>().Where(l => l.AccountId == account).SumAsync(l => l.Credit)
            )
        ).ShouldBe(1_000);
        (await RefusedAsync<AccountsDesk>(a => a.RetireAccountAsync(_loft.Sales, true))).ShouldBe([""]);
        (await RefusedAsync<AccountsDesk>(a => a.AddAccountAsync("3000", "Again", AccountRole.Sales))).ShouldBe([
            "code",
        ]);
        (await RefusedAsync<AccountsDesk>(a => a.AddAccountAsync("1201", "Second", AccountRole.Receivables))).ShouldBe([
            "role",
        ]);
        await _loft.WithAsync<AccountsDesk>(a => a.RetireAccountAsync(account, false));
        await _loft.WithAsync<AccountsDesk>(a => a.SetUsualAccountAsync(account));
        (await _loft.WithAsync<BooksHead, Business>(h => h.BusinessAsync())).DefaultLedgerAccountId.ShouldBe(account);
        invoice.Id.ShouldBeGreaterThan(0);
    }

    [Fact]
    public async Task Money_comes_in_somewhere_and_terms_have_names_of_their_own()
    {
        var money = await _loft.WithAsync<BooksContext, List<int>>(db =>
            db.LedgerAccounts.Where(a => a.Role == AccountRole.Money).Select(a => a.Id).ToListAsync()
        );
        foreach (var id in money.Skip(1))
            await _loft.WithAsync<AccountsDesk>(a => a.RetireAccountAsync(id, true));
        (await RefusedAsync<AccountsDesk>(a => a.RetireAccountAsync(money[0], true))).ShouldBe([""]);
        (
            await RefusedAsync<Receiving.Receipts>(r =>
                r.PostAsync(new Receiving.ReceiptToPost(_loft.Yard, Loft.Today, money[1], 100, "", []))
            )
        ).ShouldBe(["moneyAccountId"]);
        (await _loft.WithAsync<ReceiveScreens, IReadOnlyList<MoneyPlace>>(s => s.MoneyAccountsAsync()))
            .Select(a => a.Id)
            .ShouldBe([money[0]]);
        (
            await RefusedAsync<AccountsDesk>(a => a.AddTermsAsync(new PaymentTerms("14 days", DueRule.DaysAfter, 14)))
        ).ShouldBe(["name"]);
        var week = await _loft.WithAsync<AccountsDesk, int>(a =>
            a.AddTermsAsync(new PaymentTerms("A week", DueRule.DaysAfter, 7))
        );
        await _loft.WithAsync<AccountsDesk>(a => a.SetUsualTermsAsync(week));
        (await RefusedAsync<AccountsDesk>(a => a.RetireTermsAsync(week, true))).ShouldBe([""]);
        (await _loft.IssuedAsync()).DueDate.ShouldBe(Loft.Today.AddDays(7));
    }

    [Fact]
    public async Task Numbers_come_from_the_series_that_is_chosen_or_from_the_usual_one()
    {
        var shop = await _loft.WithAsync<SeriesDesk, int>(s =>
            s.AddAsync("Shop", "Invoice", "SHOP-{yy}{mm}-{000}", SeriesRestart.CalendarYear)
        );
        await _loft.WithAsync<SeriesDesk>(s => s.GoOnFromAsync(shop, Loft.Today, 118));
        (await _loft.IssuedAsync(_loft.Content() with { SeriesId = shop })).Number.ShouldBe("SHOP-2509-118");
        (await _loft.IssuedAsync()).Number.ShouldBe("INV-2025-0001");
        await _loft.WithAsync<SeriesDesk>(s => s.MakeUsualAsync(shop));
        (await _loft.IssuedAsync()).Number.ShouldBe("SHOP-2509-119");
        (await RefusedAsync<SeriesDesk>(s => s.RetireAsync(shop, true))).ShouldBe([""]);
        (await RefusedAsync<SeriesDesk>(s => s.GoOnFromAsync(shop, Loft.Today, 500))).ShouldBe(["next"]);
        (
            await RefusedAsync<SeriesDesk>(s =>
                s.AddAsync("Shop", "Invoice", "SHOP-{yy}{mm}-{000}", SeriesRestart.CalendarYear)
            )
        ).ShouldBe(["pattern", "name"]);
        (await RefusedAsync<SeriesDesk>(s => s.AddAsync("", "Letter", "", SeriesRestart.CalendarYear))).ShouldBe([
            "name",
            "pattern",
            "usedFor",
        ]);
        (
            await RefusedAsync<SeriesDesk>(s => s.AddAsync("Bad", "Invoice", "X-{0000}", SeriesRestart.CalendarYear))
        ).ShouldBe(["pattern"]);
        var draft = await _loft.DraftAsync(_loft.Content() with { SeriesId = 1 });
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<Issuing.IssuingDesk>(i => i.IssueAsync(draft, 1))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("seriesId");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Papers_are_headed_with_the_trading_name_and_say_both_addresses_and_the_registered_name()
    {
        await _loft.WithAsync<BusinessDesk>(b =>
            b.DescribeAsync(
                new BusinessDetails
                {
                    Name = "Little Loft OÜ",
                    TradingName = "The Loft",
                    Address = new Address("Quay 1", "1", "Harbour", "EE"),
                    OtherAddress = "Workshop:\r\nYard 3",
                }
            )
        );
        var sender = (await _loft.IssuedAsync()).Sender!;
        (sender.Name, sender.AddressLines).ShouldBe(
            ("The Loft", "Little Loft OÜ\nQuay 1\n1 Harbour\nEstonia\nWorkshop:\nYard 3")
        );
        (
            await RefusedAsync<BusinessDesk>(b =>
                b.DescribeAsync(
                    new BusinessDetails
                    {
                        Name = "L",
                        Address = new Address(Country: "EE"),
                        OtherAddress = "1\n2\n3\n4\n5",
                    }
                )
            )
        ).ShouldBe(["otherAddress"]);
    }

    [Fact]
    public async Task Each_kind_has_its_note_and_footer()
    {
        await _loft.WithAsync<BusinessDesk>(b =>
            b.WriteTextsAsync([
                (DocumentKind.Invoice, "Thank you for your order.", "Invoice foot"),
                (DocumentKind.Quote, "", ""),
            ])
        );
        (await _loft.IssuedAsync()).Sender!.Footer.ShouldBe("Invoice foot");
        (await _loft.IssuedAsync(kind: DocumentKind.Quote)).Sender!.Footer.ShouldBe("");
        (
            await RefusedAsync<BusinessDesk>(b => b.WriteTextsAsync([(DocumentKind.Quote, new string('x', 4_001), "")]))
        ).ShouldBe(["note-Quote"]);
    }
}
