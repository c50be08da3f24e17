using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>A deposit is never forgotten and never taken off twice, however its quote goes on.</summary>
public sealed class DepositTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private DraftContent Job() =>
        _loft.Content() with
        {
            Lines =
            [
                new DraftLine(null, "Sailcloth", 10, "MTK", 33.33m, null, null, _loft.Std, _loft.Sales),
                new DraftLine(null, "Sewing", 4, "HUR", 50, null, null, _loft.Std, _loft.Sales),
            ],
            Charges = [new DraftCharge("Freight", 1_000, _loft.Std, _loft.Sales)],
        };

    private async Task<Document> IssueAsync(int id)
    {
        await _loft.WithAsync<IssuingDesk>(async i => await i.IssueAsync(id, (await _loft.DocumentAsync(id)).Version));
        return await _loft.DocumentAsync(id);
    }

    private async Task<Document> DepositAsync(int source, decimal percent) =>
        await IssueAsync(await _loft.WithAsync<Stages, int>(s => s.DepositAsync(source, percent, null)));

    private Task<int> BillAsync(int source) => _loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(source));

    private Task<int> StageAsync(int source, StageWish wish) =>
        _loft.WithAsync<Stages, int>(s => s.BillAsync(source, wish));

    private async Task<long> LeftAsync(int id) =>
        (await _loft.WithAsync<Deposits, IReadOnlyList<Chain>>(d => d.OfAsync(id))).Sum(c => c.LeftToTakeOff);

    private static long Off(Document bill) => -bill.Lines.Where(l => l.Role == LineRole.Deduction).Sum(l => l.Amount);

    private async Task<Document> DeliverAsync(int order, params decimal[] quantities)
    {
        var id = await _loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order));
        var draft = await _loft.DocumentAsync(id);
        var lines = draft
            .Content()
            .Lines.Zip(quantities, (l, q) => l with { Quantity = q })
            .Where(l => l.Quantity != 0)
            .ToList();
        await _loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    DocumentKind.DeliveryNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = lines,
                    },
                    order
                )
            )
        );
        return await IssueAsync(id);
    }

    [Fact]
    public async Task A_deposit_on_a_quote_comes_off_the_bills_of_the_deliveries_of_its_order_and_all_adds_up()
    {
        var quote = await _loft.IssuedAsync(Job(), DocumentKind.Quote);
        var deposit = await DepositAsync(quote.Id, 30);
        var order = await IssueAsync(await _loft.WithAsync<MakingDesk, int>(m => m.OrderAsync(quote.Id)));
        var bills = new List<Document>();
        foreach (var quantities in new decimal[][] { [3, 4], [2, 0], [5, 0] })
        {
            var note = await DeliverAsync(order.Id, quantities.Where((_, i) => i == 0 || quantities[i] != 0).ToArray());
            foreach (var member in new[] { quote.Id, order.Id, note.Id })
                (await LeftAsync(member)).ShouldBe(
                    deposit.Net - bills.Sum(Off),
                    "one figure on every document of the chain"
                );
            bills.Add(
                await IssueAsync(
                    (await _loft.WithAsync<Deliveries, IReadOnlyList<int>>(d => d.BillAsync([note.Id], false)))[0]
                )
            );
        }

        bills.ShouldAllBe(b => Off(b) > 0, "each bill takes its share off");
        bills.Sum(Off).ShouldBe(deposit.Net);
        (bills.Sum(b => b.Net) + deposit.Net, bills.Sum(b => b.Tax) + deposit.Tax).ShouldBe((quote.Net, quote.Tax));
        (await LeftAsync(quote.Id)).ShouldBe(0);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task All_of_it_comes_off_at_once_where_the_business_says_so()
    {
        await _loft.ExecuteAsync("UPDATE Businesses SET DepositsAtOnce = 1");
        var quote = await _loft.IssuedAsync(Job(), DocumentKind.Quote);
        var deposit = await DepositAsync(quote.Id, 30);
        Off(await IssueAsync(await StageAsync(quote.Id, new StageWish(Percent: 50)))).ShouldBe(deposit.Net);
        Off(await IssueAsync(await StageAsync(quote.Id, new StageWish(Rest: true)))).ShouldBe(0);
    }

    [Fact]
    public async Task Over_the_stages_of_an_order_each_bears_its_share_and_the_last_the_rest()
    {
        var quote = await _loft.IssuedAsync(Job(), DocumentKind.Quote);
        var deposit = await DepositAsync(quote.Id, 30);
        var order = await IssueAsync(await _loft.WithAsync<MakingDesk, int>(m => m.OrderAsync(quote.Id)));
        var first = await IssueAsync(await StageAsync(order.Id, new StageWish(Percent: 25)));
        Off(first)
            .ShouldBeInRange(
                Core.Amounts.Rounding.Percent(deposit.Net, 25) - 1,
                Core.Amounts.Rounding.Percent(deposit.Net, 25) + 1
            );
        var last = await IssueAsync(await StageAsync(order.Id, new StageWish(Rest: true)));
        (Off(first) + Off(last)).ShouldBe(deposit.Net);
        (first.Net + last.Net + deposit.Net, first.Tax + last.Tax + deposit.Tax).ShouldBe((quote.Net, quote.Tax));
    }

    [Fact]
    public async Task A_draft_counts_as_nothing_and_is_not_issued_once_nothing_is_left_to_bill()
    {
        var quote = await _loft.IssuedAsync(Job(), DocumentKind.Quote);
        var draft = await _loft.WithAsync<Stages, int>(s => s.DepositAsync(quote.Id, 30, null));
        (await LeftAsync(quote.Id)).ShouldBe(0);
        Off(await IssueAsync(await BillAsync(quote.Id))).ShouldBe(0);
        (await Should.ThrowAsync<RefusalException>(() => IssueAsync(draft))).Message.ShouldContain(
            "is left to bill from which this deposit"
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<Stages>(s => s.DepositAsync(quote.Id, 10, null))
            )
        ).Message.ShouldContain("comes too late");
    }

    [Fact]
    public async Task A_second_deposit_and_one_after_the_first_bill_ask_for_no_more_than_is_left()
    {
        var quote = await _loft.IssuedAsync(Job(), DocumentKind.Quote);
        var first = await DepositAsync(quote.Id, 30);
        var stage = await IssueAsync(await StageAsync(quote.Id, new StageWish(Percent: 40)));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<Stages>(s => s.DepositAsync(quote.Id, 60, null))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("percent");
        var second = await DepositAsync(quote.Id, 20);
        var last = await IssueAsync(await StageAsync(quote.Id, new StageWish(Rest: true)));
        (Off(stage) + Off(last)).ShouldBe(first.Net + second.Net);
        (first.Net + second.Net + stage.Net + last.Net, first.Tax + second.Tax + stage.Tax + last.Tax).ShouldBe(
            (quote.Net, quote.Tax)
        );
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_credited_of_a_deposit_is_not_taken_off()
    {
        var quote = await _loft.IssuedAsync(Job(), DocumentKind.Quote);
        var deposit = await DepositAsync(quote.Id, 30);
        var id = await _loft.WithAsync<Credits, int>(c => c.DraftAsync(deposit.Id, "too much"));
        var draft = await _loft.DocumentAsync(id);
        await _loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    DocumentKind.CreditNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines[0] with { UnitPrice = 50, Shares = false }],
                    },
                    deposit.Id
                )
            )
        );
        var credit = await IssueAsync(id);
        (await LeftAsync(quote.Id)).ShouldBe(deposit.Net - 5_000);
        var bill = await IssueAsync(await BillAsync(quote.Id));
        Off(bill).ShouldBe(deposit.Net - 5_000);
        (bill.Net + deposit.Net - credit.Net, bill.Tax + deposit.Tax - credit.Tax).ShouldBe((quote.Net, quote.Tax));
    }

    [Fact]
    public async Task The_last_bill_does_not_go_out_over_a_deposit_without_being_told()
    {
        var quote = await _loft.IssuedAsync(Job(), DocumentKind.Quote);
        var deposit = await DepositAsync(quote.Id, 30);
        var id = await BillAsync(quote.Id);
        async Task<bool> WarnsAsync() =>
            (await _loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(id, false))).Any(f =>
                f.Words.Contains("of a deposit is not taken off", StringComparison.Ordinal)
            );
        (await WarnsAsync()).ShouldBeFalse();
        var draft = await _loft.DocumentAsync(id);
        var freight = await ChargeAsync(quote.Id);
        await _loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    DocumentKind.Invoice,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [.. draft.Content().Lines.Where(l => l.Role != LineRole.Deduction)],
                        Charges = [new DraftCharge("Freight", 1_000, _loft.Std, _loft.Sales, freight)],
                    },
                    quote.Id
                )
            )
        );
        (await WarnsAsync()).ShouldBeTrue();
        (await LeftAsync(id)).ShouldBe(deposit.Net);
    }

    private Task<int> ChargeAsync(int document) =>
        _loft.WithAsync<BooksContext, int>(db =>
            db.Set<DocumentCharge>().Where(c => c.DocumentId == document).Select(c => c.Id).SingleAsync()
        );
}
