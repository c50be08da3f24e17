using CsCheck;
using Jugaad.Core.Accounts;

namespace Jugaad.Core.Tests;

/// <summary>
/// Early-payment discounts, what is taken off with its tax, what comes back of it, and pairing credits with invoices.
/// </summary>
public sealed class SettlementTests
{
    private static readonly DateOnly Day = new(2025, 9, 1);

    [Theory]
    [InlineData(0, 0, true)]
    [InlineData(10, 0, true)]
    [InlineData(11, 0, false)]
    [InlineData(5, 1, false)]
    public void The_discount_is_offered_up_to_its_day_and_while_nothing_is_paid(int days, long paid, bool offered)
    {
        var offer = EarlyPayment.Of(12_345, 2, Day.AddDays(10), paid, false, Day.AddDays(days));
        (offer.Amount, offer.IsOffered).ShouldBe((247, offered));
        if (!offered)
            offer.NotOffered.ShouldNotBeNullOrEmpty();
    }

    [Fact]
    public void Terms_without_a_discount_or_too_small_a_one_give_none()
    {
        EarlyPayment.Of(12_345, 0, null, 0, false, Day).IsOffered.ShouldBeFalse();
        EarlyPayment.Of(10, 2, Day, 0, false, Day).IsOffered.ShouldBeFalse();
    }

    [Fact]
    public void What_is_taken_off_is_split_over_each_net_and_tax_by_treatment()
    {
        // 100.00 at 24 % and 50.00 at 9 %: 178.50 in all. 3 % of it is 5.36 (5.355).
        var invoice = DocumentTests.Issued((100, 24), (50, 9));
        invoice.Payable.ShouldBe(17_850);
        var shares = TaxShares.Of(invoice.Taxes, 536, lowersTax: true);
        shares
            .Select(s => (s.Position, s.IsTax, s.Amount))
            .ShouldBe([(0, false, 300), (0, true, 72), (1, false, 150), (1, true, 14)]);
        TaxShares.Of(invoice.Taxes, 536, lowersTax: false).ShouldAllBe(s => !s.IsTax);
        var all = TaxShares.Of(invoice.Taxes, invoice.Payable, lowersTax: true);
        all.Where(s => s.IsTax).Select(s => s.Amount).ShouldBe([2_400, 450]);
    }

    [Fact]
    public void Shares_add_up_and_none_is_more_than_what_it_is_of() =>
        (
            from lines in Gen.Select(Gen.Int[1, 5_000], Gen.Int[0, 4].Select(i => new[] { 0, 5, 9, 22, 24 }[i])).List[
                1,
                5
            ]
            from part in Gen.Int[1, 100]
            select (lines, part)
        ).Sample(x =>
        {
            var invoice = DocumentTests.Issued([.. x.lines.Select(l => ((decimal)l.Item1, (decimal)l.Item2))]);
            var amount = Math.Max(1, invoice.Payable * x.part / 100);
            var shares = TaxShares.Of(invoice.Taxes, amount, lowersTax: true);
            shares.Sum(s => s.Amount).ShouldBe(amount);
            foreach (var share in shares)
            {
                var tax = invoice.Taxes.Single(t => t.Position == share.Position);
                share.Amount.ShouldBeInRange(0, share.IsTax ? tax.Tax : tax.Taxable);
            }
        });

    [Fact]
    public void However_a_debt_comes_back_all_of_its_tax_comes_back_with_it() =>
        (from price in Gen.Int[10, 4_000] from cuts in Gen.Int[1, 60].List[1, 6] select (price, cuts)).Sample(x =>
        {
            var invoice = DocumentTests.Issued((x.price, 24), (x.price / 3m, 9));
            var item = Generators.Item(AccountItemKind.Invoice, 1, Day, 14, invoice.Payable);
            Booking Booked(BookingKind kind) => new(kind, Day, 1, "me");
            var given = new Settlement(
                SettlementKind.BadDebt,
                item,
                Day,
                invoice.Payable,
                1,
                "gone",
                TaxShares.Of(invoice.Taxes, invoice.Payable, true),
                invoice.Taxes,
                Booked(BookingKind.WriteOff)
            );
            given.Tax.ShouldBe(invoice.Tax);
            var back = new List<Settlement>();
            foreach (var cut in x.cuts)
                back.Add(
                    Settlement.Recover(
                        given,
                        back,
                        Day,
                        Math.Max(1, (given.Amount - back.Sum(b => b.Amount)) * cut / 100),
                        Booked(BookingKind.Recovery)
                    )
                );
            var rest = given.Amount - back.Sum(b => b.Amount);
            if (rest > 0)
                back.Add(Settlement.Recover(given, back, Day, rest, Booked(BookingKind.Recovery)));
            back.Sum(b => b.Tax).ShouldBe(given.Tax);
            back.Sum(b => b.Amount).ShouldBe(given.Amount);
            Should.Throw<RefusalException>(() => Settlement.Recover(given, back, Day, 1, Booked(BookingKind.Recovery)));
        });

    [Fact]
    public void Credits_are_paired_in_their_order_and_never_over() =>
        (
            from lowering in Gen.Long[0, 500].List[0, 6]
            from raising in Gen.Long[0, 500].List[0, 6]
            select (lowering, raising)
        ).Sample(x =>
        {
            var pairs = Pairing.Of(x.lowering, x.raising);
            pairs.Sum(p => p.Amount).ShouldBe(Math.Min(x.lowering.Sum(), x.raising.Sum()));
            pairs.ShouldAllBe(p => p.Amount > 0);
            for (var i = 0; i < x.lowering.Count; i++)
                pairs.Where(p => p.Lowering == i).Sum(p => p.Amount).ShouldBeLessThanOrEqualTo(x.lowering[i]);
            for (var i = 0; i < x.raising.Count; i++)
                pairs.Where(p => p.Raising == i).Sum(p => p.Amount).ShouldBeLessThanOrEqualTo(x.raising[i]);
            pairs.Select(p => (p.Lowering, p.Raising)).ShouldBe(pairs.Select(p => (p.Lowering, p.Raising)).Order());
        });
}
