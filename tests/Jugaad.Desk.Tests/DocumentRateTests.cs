using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Setup;

namespace Jugaad.Desk.Tests;

/// <summary>The rate of a document: the list's, a typed one with its reason, or one that a quote holds.</summary>
public sealed class DocumentRateTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync() => _loft = await Loft.OpenAsync();

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private DraftContent Rated(QuotedRate? typed, string reason = "", DateOnly? heldUntil = null)
    {
        var content = _loft.Content(customer: _loft.Swede);
        return content with
        {
            Particulars = content.Particulars with
            {
                TypedRate = typed,
                RateReason = reason,
                RateHeldUntil = heldUntil,
            },
        };
    }

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task A_typed_rate_needs_its_reason_and_comes_before_the_list()
    {
        var typed = new QuotedRate(11.2m, PerHome: true);
        (await Should.ThrowAsync<RefusalException>(() => _loft.DraftAsync(Rated(typed))))
            .Refusals[0]
            .Field.ShouldBe("rateReason");
        (await Should.ThrowAsync<RefusalException>(() => _loft.DraftAsync(Rated(0m, "x"))))
            .Refusals.Select(r => r.Field)
            .ShouldContain("typedRate");
        var invoice = await _loft.IssuedAsync(Rated(typed, "as the contract says"));
        // 124.00 ÷ 11.20 = 11.07.
        (invoice.ExchangeRate, (await _loft.ItemOfAsync(invoice.Id)).HomeAmount).ShouldBe((typed, 1_107L));
        // What corrects it has its rate, whatever the list says by then.
        await _loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("SEK", Loft.Today, 0.0950m)));
        await _loft.WithAsync<Credits>(c => c.CancelAsync(invoice.Id, "wrong"));
        await HealthyAsync();
        // At home there is nothing to type.
        var home = _loft.Content();
        var own = await _loft.IssuedAsync(
            home with
            {
                Particulars = home.Particulars with { TypedRate = 2m, RateReason = "x" },
            }
        );
        own.ExchangeRate.ShouldBe(QuotedRate.One);
        await HealthyAsync();
    }

    [Theory]
    [InlineData(3, "0.0901")]
    [InlineData(5, "0.0901")]
    [InlineData(6, "0.095")]
    public async Task A_quote_holds_its_rate_up_to_its_day_and_not_longer(int after, string rate)
    {
        var quote = await _loft.IssuedAsync(Rated(null, heldUntil: Loft.Today.AddDays(5)), DocumentKind.Quote);
        quote.ExchangeRate.ShouldBe(0.0901m);
        _loft.Clock.Advance(TimeSpan.FromDays(after));
        await _loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("SEK", Loft.Today.AddDays(1), 0.0950m)));
        var id = await _loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(quote.Id));
        var draft = await _loft.DocumentAsync(id);
        draft.ExchangeRate.ToString().ShouldBe(rate);
        await _loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, draft.Version));
        (await _loft.DocumentAsync(id)).ExchangeRate.ToString().ShouldBe(rate);
        await HealthyAsync();
    }
}
