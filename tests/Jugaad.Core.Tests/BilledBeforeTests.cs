using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Tests;

/// <summary>What the tax of a stage goes on from.</summary>
public sealed class BilledBeforeTests
{
    private static readonly Treatment Vat = new(TaxCategory.Standard, [new TreatmentPart(1, "VAT", 22.5m, false)]);
    private static readonly Treatment Two = new(
        TaxCategory.Standard,
        [new TreatmentPart(1, "First", 5, false), new TreatmentPart(2, "Second", 9.975m, true)]
    );

    private static EarlierPart Stage(int document, long amount, BilledBefore before = default) =>
        new(document, 1, 1, null, Vat.ToString(), amount, before);

    [Fact]
    public void Nothing_before_is_nothing()
    {
        BilledBefore.By([], Vat, false).IsNothing.ShouldBeTrue();
        BilledBefore.Nothing.Charged(Two, false).ShouldBe([0L, 0L]);
    }

    [Fact]
    public void Stages_that_went_on_from_each_other_need_no_more_than_their_sum()
    {
        // 22.5 % of 2.02 is 0.4545; of 4.04 0.909; of 6.06 1.3635.
        EarlierPart[] stages =
        [
            Stage(1, 202),
            Stage(2, 202, new BilledBefore(202)),
            Stage(3, 202, new BilledBefore(404)),
        ];
        BilledBefore.By(stages, Vat, false).ShouldBe(new BilledBefore(606));
    }

    [Fact]
    public void Where_one_in_between_is_gone_what_was_charged_is_kept_apart()
    {
        // The first and the last of three charged 0.45 and 0.45; on 4.04 it would be 0.91.
        var before = BilledBefore.By([Stage(1, 202), Stage(3, 202, new BilledBefore(404))], Vat, false);
        before.ShouldBe(new BilledBefore(404, "90"));
        before.Charged(Vat, false).ShouldBe([90L]);
    }

    [Fact]
    public void A_stage_after_that_takes_the_cent_that_is_missing()
    {
        var figures = new DocumentFigures(
            Currency.Of("EUR"),
            [new LineFigures(1, 2.02m, Vat) { Before = new BilledBefore(404, "90") }]
        );
        var totals = Calculator.Compute(figures);
        // All three together are taxed 1.36, and 0.90 was charged.
        (totals.Net, totals.Tax).ShouldBe((202, 46));
    }

    [Fact]
    public void With_tax_in_the_price_the_net_takes_what_the_tax_leaves()
    {
        var figures = new DocumentFigures(
            Currency.Of("EUR"),
            [new LineFigures(1, 1.00m, Vat) { Before = new BilledBefore(200, "38") }]
        )
        {
            PricesIncludeTax = true,
        };
        var totals = Calculator.Compute(figures);
        // In 3.00 there are 0.55 of tax; 0.38 was charged.
        (totals.Net, totals.Tax, totals.Total).ShouldBe((83, 17, 100));
    }

    [Theory]
    [InlineData(10_000, "500;1047")]
    [InlineData(0, "0;0")]
    public void Compound_parts_are_charged_each_by_itself(long amount, string taxes) =>
        string.Join(';', new BilledBefore(amount).Charged(Two, false)).ShouldBe(taxes);
}
