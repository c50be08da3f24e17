using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Goods go once, whichever of delivering and billing comes first.</summary>
public sealed class StockOnceTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private int _hank;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _hank = await _loft.WithAsync<ItemsDesk, int>(i =>
            i.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "H",
                    Name = "Hank",
                    IsGoods = true,
                    KeepsCount = true,
                    Price = 2,
                    TaxCodeId = _loft.Std,
                    LedgerAccountId = _loft.Sales,
                }
            )
        );
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private DraftContent Hanks(decimal quantity = 10) =>
        _loft.Content() with
        {
            Lines = [new DraftLine(_hank, "Hank", quantity, "C62", 2, null, null, _loft.Std, _loft.Sales)],
        };

    private Task<decimal> OnHandAsync() =>
        _loft.WithAsync<BooksContext, decimal>(db =>
            db.Items.Where(i => i.Id == _hank).Select(i => i.OnHand).SingleAsync()
        );

    private async Task<Document> IssueAsync(int id)
    {
        await _loft.WithAsync<IssuingDesk>(async i => await i.IssueAsync(id, (await _loft.DocumentAsync(id)).Version));
        return await _loft.DocumentAsync(id);
    }

    private async Task<Document> IssueAsync(int id, decimal quantity)
    {
        var draft = await _loft.DocumentAsync(id);
        await _loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    draft.Kind,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines =
                        [
                            .. draft
                                .Content()
                                .Lines.Select(l => l.Role.HasFigures() ? l with { Quantity = quantity } : l),
                        ],
                    },
                    draft.FromDocumentId
                )
            )
        );
        return await IssueAsync(id);
    }

    private Task<int> BillAsync(int order) => _loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order));

    private Task<int> DeliveryAsync(int order) => _loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order));

    [Fact]
    public async Task An_order_billed_first_and_delivered_later_moves_its_goods_once()
    {
        var order = await _loft.IssuedAsync(Hanks(), DocumentKind.Order);
        await IssueAsync(await BillAsync(order.Id), 6);
        (await OnHandAsync()).ShouldBe(-6);
        await IssueAsync(await DeliveryAsync(order.Id), 8);
        (await OnHandAsync()).ShouldBe(-8, "six of the eight had gone with the bill");
        await IssueAsync(await BillAsync(order.Id));
        (await OnHandAsync()).ShouldBe(-10);
        await IssueAsync(await DeliveryAsync(order.Id));
        (await OnHandAsync()).ShouldBe(-10);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Goods_billed_in_stages_go_with_the_last_or_with_the_delivery()
    {
        var order = await _loft.IssuedAsync(Hanks(), DocumentKind.Order);
        await IssueAsync(await _loft.WithAsync<Stages, int>(s => s.BillAsync(order.Id, new StageWish(Percent: 40))));
        (await OnHandAsync()).ShouldBe(0);
        await IssueAsync(await _loft.WithAsync<Stages, int>(s => s.BillAsync(order.Id, new StageWish(Rest: true))));
        (await OnHandAsync()).ShouldBe(-10);
        await IssueAsync(await DeliveryAsync(order.Id));
        (await OnHandAsync()).ShouldBe(-10);
    }

    [Fact]
    public async Task What_comes_back_and_is_billed_again_goes_again_and_a_cancelled_bill_of_a_delivery_moves_nothing()
    {
        var order = await _loft.IssuedAsync(Hanks(), DocumentKind.Order);
        var note = await IssueAsync(await DeliveryAsync(order.Id));
        var bill = await IssueAsync(
            (await _loft.WithAsync<Deliveries, IReadOnlyList<int>>(d => d.BillAsync([note.Id], false)))[0]
        );
        (await OnHandAsync()).ShouldBe(-10);
        await _loft.WithAsync<Credits>(c => c.CancelAsync(bill.Id, "wrong date"));
        (await OnHandAsync()).ShouldBe(-10, "what was delivered stays delivered");
        bill = await IssueAsync(
            (await _loft.WithAsync<Deliveries, IReadOnlyList<int>>(d => d.BillAsync([note.Id], false)))[0]
        );
        await IssueAsync(await _loft.WithAsync<Credits, int>(c => c.DraftAsync(bill.Id, "four came back")), 4);
        (await OnHandAsync()).ShouldBe(-6);
        await IssueAsync(await BillAsync(order.Id));
        (await OnHandAsync()).ShouldBe(-10);
        var free = await _loft.IssuedAsync(Hanks(5));
        (await OnHandAsync()).ShouldBe(-15);
        await _loft.WithAsync<Credits>(c => c.CancelAsync(free.Id, "not wanted"));
        (await OnHandAsync()).ShouldBe(-10, "what the bill itself moved comes back");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_delivery_note_of_an_order_warns_of_what_is_not_on_hand()
    {
        var order = await _loft.IssuedAsync(Hanks(), DocumentKind.Order);
        var note = await DeliveryAsync(order.Id);
        (await _loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(note, false))).ShouldContain(f =>
            f.Words.StartsWith("10 of Hank would go, and 0 are on hand", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task What_is_only_made_cheaper_does_not_come_back()
    {
        var invoice = await _loft.IssuedAsync(Hanks());
        var id = await _loft.WithAsync<Credits, int>(c => c.DraftAsync(invoice.Id, "a scratch"));
        var draft = await _loft.DocumentAsync(id);
        await _loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    DocumentKind.CreditNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines[0] with { UnitPrice = 0.5m, Shares = false }],
                    },
                    invoice.Id
                )
            )
        );
        await IssueAsync(id);
        (await OnHandAsync()).ShouldBe(-10);
    }
}
