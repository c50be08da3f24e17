using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>A deposit that a quote asks for: said on it, and billed once as the customer accepts.</summary>
public sealed class AcceptedDepositTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    /// <summary>543.30 without tax, 673.69 with 24 %.</summary>
    private Task<Document> QuoteAsync(decimal? percent, long? amount = null) =>
        _loft.IssuedAsync(
            _loft.Content() with
            {
                Particulars = Particulars.None with { DepositPercent = percent, DepositAmount = amount },
                ValidUntil = Loft.Today.AddDays(30),
                Lines =
                [
                    new DraftLine(null, "Sailcloth", 10, "MTK", 33.33m, null, null, _loft.Std, _loft.Sales),
                    new DraftLine(null, "Sewing", 4, "HUR", 50, null, null, _loft.Std, _loft.Sales),
                ],
                Charges = [new DraftCharge("Freight", 1_000, _loft.Std, _loft.Sales)],
            },
            DocumentKind.Quote
        );

    private async Task AcceptAsync(Document quote) =>
        await _loft.WithAsync<CustomerAnswers, int>(a =>
            a.AnswerAsync(quote.Id, quote.Version, true, "Rowan", "", null)
        );

    private Task<bool> IssueAsync(Document quote) =>
        _loft.WithAsync<AcceptedDeposits, bool>(d => d.IssueAsync(quote.Id));

    private Task<Document?> BillOfAsync(Document quote) =>
        _loft.WithAsync<AcceptedDeposits, Document?>(d => d.OfAsync(quote.Id));

    private async Task<string> PaperAsync(Document quote)
    {
        var paper = await _loft.WithAsync<PaperRoom, DisplayList>(p => p.ComposeAsync(quote.Id));
        return string.Join(' ', paper.Pages.SelectMany(p => p.Marks).OfType<TextMark>().Select(m => m.Text));
    }

    [Theory]
    [InlineData(30.0, null, 202_11, "(30\u00a0%)")]
    [InlineData(33.3333, null, 224_56, "(33.3333\u00a0%)")]
    [InlineData(100.0, null, 673_69, "(100\u00a0%)")]
    [InlineData(null, 100_00L, 124_00, "124.00")]
    public async Task What_the_quote_says_is_what_is_billed_and_comes_off_the_last_bill(
        double? percent,
        long? amount,
        long total,
        string said
    )
    {
        var quote = await QuoteAsync((decimal?)percent, amount);
        DepositAsked.TotalOf(quote).ShouldBe(total);
        (await PaperAsync(quote)).ShouldContain(said);
        (await IssueAsync(quote)).ShouldBeFalse("nobody accepted it");
        await AcceptAsync(quote);
        (await IssueAsync(quote)).ShouldBeTrue();
        (await IssueAsync(quote)).ShouldBeTrue("it is there");
        var bill = (await BillOfAsync(quote))!;
        (bill.State, bill.Payable).ShouldBe((DocumentState.Issued, total));
        (await _loft.NumberAsync("SELECT COUNT(*) FROM Post")).ShouldBe(1, "it went in the post once");
        (await _loft.NumberAsync("SELECT COUNT(*) FROM Documents WHERE Kind = 'Invoice'")).ShouldBe(1);
        var last = await _loft.DocumentAsync(await _loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(quote.Id)));
        (last.Payable + bill.Payable).ShouldBe(673_69);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Where_it_cannot_be_billed_the_acceptance_stands_and_the_trail_says_why()
    {
        var quote = await QuoteAsync(30);
        await AcceptAsync(quote);
        await _loft.ExecuteAsync("UPDATE Customers SET Inactive = 1");
        (await IssueAsync(quote)).ShouldBeFalse();
        (await _loft.DocumentAsync(quote.Id)).State.ShouldBe(DocumentState.Accepted);
        (await BillOfAsync(quote)).ShouldBeNull("nothing half made stays");
        (
            await _loft.NumberAsync("SELECT COUNT(*) FROM Trail WHERE Text LIKE 'The deposit could not be billed:%'")
        ).ShouldBe(1);
        await _loft.ExecuteAsync("UPDATE Customers SET Inactive = 0");
        var draft = await _loft.WithAsync<AcceptedDeposits, int>(d => d.DraftAsync(quote.Id));
        (await _loft.WithAsync<AcceptedDeposits, int>(d => d.DraftAsync(quote.Id))).ShouldBe(draft);
        (await _loft.DocumentAsync(draft)).Payable.ShouldBe(202_11);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_deposit_that_cannot_be_is_refused_and_other_kinds_ask_for_none()
    {
        foreach (var (percent, amount) in new (decimal?, long?)[] { (0, null), (100.01m, null), (null, 0), (null, -1) })
            (await Should.ThrowAsync<RefusalException>(() => QuoteAsync(percent, amount)))
                .Refusals.Select(r => r.Field)
                .ShouldBe(["deposit"]);
        (await Should.ThrowAsync<RefusalException>(() => QuoteAsync(null, 543_31))).Message.ShouldContain(
            "0.01 more than the whole quote"
        );
        var none = await QuoteAsync(null);
        DepositAsked.TotalOf(none).ShouldBeNull();
        await AcceptAsync(none);
        (await IssueAsync(none)).ShouldBeFalse();
        await Should.ThrowAsync<RefusalException>(() => _loft.WithAsync<AcceptedDeposits>(d => d.DraftAsync(none.Id)));
        var asks = await QuoteAsync(30);
        await AcceptAsync(asks);
        var order = await _loft.WithAsync<MakingDesk, int>(m => m.OrderAsync(asks.Id));
        (await _loft.DocumentAsync(order)).Particulars.AsksDeposit.ShouldBeFalse();
        await _loft.ExecuteAsync("UPDATE Documents SET Particulars_DepositAmount = 1 WHERE Kind = 'Quote'");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("asks for a deposit that cannot be"));
    }
}
