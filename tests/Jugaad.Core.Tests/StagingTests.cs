using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Tests;

public sealed class StagingTests
{
    private static readonly Currency Eur = Currency.Of("EUR");

    private static StagedPart[] Parts(params long[] wholes) => [.. wholes.Select(w => new StagedPart(w, 0))];

    [Fact]
    public void A_percentage_is_of_each_part() =>
        Staging.ByPercent(Parts(10_000, 333, 5), 30, Eur).ShouldBe([3_000L, 100L, 2L]);

    [Fact]
    public void An_amount_is_apportioned_over_what_is_left() =>
        Staging.ByAmount([new StagedPart(10_000, 9_000), new StagedPart(2_000, 0)], 1_000, Eur).ShouldBe([333L, 667L]);

    [Fact]
    public void The_rest_is_exactly_what_is_left() =>
        Staging
            .Rest([new StagedPart(10_000, 9_999), new StagedPart(-500, -200), new StagedPart(7, 7)], _ => true)
            .ShouldBe([1L, -300L, 0L]);

    [Fact]
    public void More_than_is_left_is_refused_with_what_is_left()
    {
        var percent = Should
            .Throw<RefusalException>(() => Staging.ByPercent([new StagedPart(10_000, 8_000)], 30, Eur))
            .Refusals[0];
        (percent.Field, percent.Message.Contains("20.00", StringComparison.Ordinal)).ShouldBe(("percent", true));
        var amount = Should
            .Throw<RefusalException>(() => Staging.ByAmount([new StagedPart(10_000, 8_000)], 2_001, Eur))
            .Refusals[0];
        (amount.Field, amount.Message.Contains("at most 20.00", StringComparison.Ordinal)).ShouldBe(("amount", true));
        Should.Throw<RefusalException>(() => Staging.ByPercent(Parts(100), 0, Eur));
        Should.Throw<RefusalException>(() => Staging.ByPercent(Parts(100), 33.33333m, Eur));
        Should.Throw<RefusalException>(() => Staging.ByAmount(Parts(100), 0, Eur));
    }

    [Fact]
    public void Three_thirds_never_bill_beyond_the_whole()
    {
        var parts = Parts(100, 50, 1);
        for (var i = 0; i < 2; i++)
        {
            var now = Staging.ByPercent(parts, 33.34m, Eur);
            parts = [.. parts.Select((p, k) => p with { Before = p.Before + now[k] })];
        }

        var last = Staging.ByPercent(parts, 33.34m, Eur);
        parts.Zip(last).ShouldAllBe(p => p.First.Before + p.Second <= p.First.Whole);
    }

    /// <summary>At most a sixth; nothing where that is more than is left.</summary>
    private static long[] Percent(StagedPart[] parts, decimal percent, Currency currency)
    {
        try
        {
            return Staging.ByPercent(parts, Math.Max(0.0001m, Math.Round(percent, 4)), currency);
        }
        catch (RefusalException)
        {
            return new long[parts.Length];
        }
    }

    /// <summary>
    /// However a document is cut into stages, net and each tax of the stages add up to the document to the cent.
    /// </summary>
    [Fact]
    public void Stages_add_up_to_the_whole_tax_included() =>
        (
            from document in Generators.Documents(negative: false)
            from cuts in (
                from way in Gen.Bool
                from share in Gen.Int[1, 999_999]
                select (ByPercent: way, Share: share)
            ).Array[0, 5]
            select (document, cuts)
        ).Sample(t =>
        {
            var whole = Calculator.Compute(t.document);
            var treatments = t
                .document.Lines.Select(l => l.Treatment)
                .Concat(t.document.Charges.Select(c => c.Treatment))
                .ToList();
            var parts = whole
                .LineBases.Concat(t.document.Charges.Select(c => c.Amount))
                .Select(w => new StagedPart(w, 0))
                .ToArray();
            var stages = new List<Totals>();
            foreach (var (byPercent, share) in t.cuts)
            {
                var left = parts.Sum(p => p.Left);
                var now =
                    byPercent ? Percent(parts, share / 60_000m, t.document.Currency)
                    : left > 0
                        ? Staging.ByAmount(
                            parts,
                            Math.Max(1, Rounding.Share(left, share, 1_000_000)),
                            t.document.Currency
                        )
                    : new long[parts.Length];
                Bill(now);
            }

            Bill(Staging.Rest(parts, _ => true));
            parts.ShouldAllBe(p => p.Left == 0);
            foreach (var treatment in whole.Treatments)
            {
                var same = stages
                    .SelectMany(s => s.Treatments)
                    .Where(x => x.Treatment.Equals(treatment.Treatment))
                    .ToList();
                same.Sum(x => x.Net).ShouldBe(treatment.Net);
                for (var i = 0; i < treatment.Taxes.Count; i++)
                    same.Sum(x => x.Taxes[i].Tax).ShouldBe(treatment.Taxes[i].Tax);
            }

            stages.Sum(s => s.Total).ShouldBe(whole.Total);

            void Bill(long[] now)
            {
                stages.Add(
                    Calculator.Compute(
                        t.document with
                        {
                            DiscountPercent = null,
                            DiscountAmount = null,
                            Charges = [],
                            Lines =
                            [
                                .. now.Select(
                                    (n, i) =>
                                        new LineFigures(
                                            Math.Sign(n),
                                            new Money(Math.Abs(n), t.document.Currency).Units,
                                            treatments[i]
                                        )
                                        {
                                            Before = new BilledBefore(BeforeOf(i)),
                                        }
                                ),
                            ],
                        }
                    )
                );
                parts = [.. parts.Select((p, i) => p with { Before = p.Before + now[i] })];
            }

            // What was taxed together before is noted once.
            long BeforeOf(int i) =>
                t.document.TaxRounding == TaxRounding.Line ? parts[i].Before
                : treatments.FindIndex(x => x.Equals(treatments[i])) == i
                    ? parts.Where((_, k) => treatments[k].Equals(treatments[i])).Sum(p => p.Before)
                : 0;
        });

    /// <summary>
    /// The same where a stage that later ones went on from was cancelled, and its part billed again by the last.
    /// </summary>
    [Fact]
    public void Stages_add_up_where_one_in_between_was_cancelled() =>
        (
            from document in Generators.Documents(negative: false)
            from shares in Gen.Int[1, 400_000].Array[2, 5]
            from cancelled in Gen.Int[0, 4]
            select (document, shares, cancelled)
        ).Sample(t =>
        {
            var whole = Calculator.Compute(t.document);
            var treatments = t
                .document.Lines.Select(l => l.Treatment)
                .Concat(t.document.Charges.Select(c => c.Treatment))
                .ToList();
            var wholes = whole.LineBases.Concat(t.document.Charges.Select(c => c.Amount)).ToArray();
            var live = new List<(int Id, Totals Totals, List<EarlierPart> Lines)>();
            for (var id = 0; id < t.shares.Length; id++)
                Bill(id, [.. Left().Select(l => Rounding.Share(l, t.shares[id], 1_000_000))]);
            live.RemoveAt(t.cancelled % live.Count);
            Bill(99, Left());

            Left().ShouldAllBe(l => l == 0);
            (live.Sum(s => s.Totals.Net), live.Sum(s => s.Totals.Tax), live.Sum(s => s.Totals.Total)).ShouldBe(
                (whole.Net, whole.Tax, whole.Total)
            );
            foreach (var treatment in whole.Treatments)
                for (var i = 0; i < treatment.Taxes.Count; i++)
                    live.SelectMany(s => s.Totals.Treatments)
                        .Where(x => x.Treatment.Equals(treatment.Treatment))
                        .Sum(x => x.Taxes[i].Tax)
                        .ShouldBe(treatment.Taxes[i].Tax);

            long[] Left() =>
                [.. wholes.Select((w, i) => w - live.Sum(s => s.Lines.Where(l => l.LineId == i).Sum(l => l.Amount)))];

            BilledBefore Before(int i, Treatment treatment)
            {
                var byLine = t.document.TaxRounding == TaxRounding.Line;
                if (!byLine && treatments.FindIndex(x => x.Equals(treatment)) != i)
                    return BilledBefore.Nothing;
                return BilledBefore.By(
                    live.SelectMany(s => s.Lines)
                        .Where(l => byLine ? l.LineId == i : l.Treatment == treatment.ToString()),
                    treatment,
                    t.document.PricesIncludeTax
                );
            }

            void Bill(int id, long[] now)
            {
                var lines = now.Select(
                        (n, i) =>
                            new LineFigures(
                                Math.Sign(n),
                                new Money(Math.Abs(n), t.document.Currency).Units,
                                treatments[i]
                            )
                            {
                                Before = Before(i, treatments[i]),
                            }
                    )
                    .ToList();
                var totals = Calculator.Compute(
                    t.document with
                    {
                        DiscountPercent = null,
                        DiscountAmount = null,
                        CashStep = null,
                        Charges = [],
                        Lines = lines,
                    }
                );
                live.Add(
                    (
                        id,
                        totals,
                        [
                            .. now.Select(
                                (n, i) => new EarlierPart(id, 1, i, null, treatments[i].ToString(), n, lines[i].Before)
                            ),
                        ]
                    )
                );
            }
        });

    /// <summary>
    /// A deposit that is taken off brings its tax back to the cent, whatever else is on the final invoice.
    /// </summary>
    [Fact]
    public void A_deposit_and_the_final_invoice_add_up_to_the_whole() =>
        (
            from document in Generators.Documents(negative: false)
            from share in Gen.Int[1, 999_999]
            select (document, share)
        ).Sample(t =>
        {
            var whole = Calculator.Compute(t.document with { TaxRounding = TaxRounding.Document });
            var bases = t
                .document.Lines.Select((l, i) => (l.Treatment, Amount: whole.LineBases[i]))
                .Concat(t.document.Charges.Select(c => (c.Treatment, c.Amount)))
                .GroupBy(p => p.Treatment)
                .Select(g => (g.Key, Sum: g.Sum(p => p.Amount)));
            var asked = bases.Select(b => (b.Key, Amount: Rounding.Share(b.Sum, t.share, 1_000_000))).ToList();
            LineFigures Line(Treatment treatment, long amount, TakenBack? back) =>
                new(back is null ? 1 : -1, new Money(amount, t.document.Currency).Units, treatment)
                {
                    TakesBack = back,
                    TakesOff = back is not null,
                };
            TakenBack Back(TaxedGroup group, int n) =>
                new(
                    $"1.{n}",
                    group.Base,
                    [.. group.Totals.Taxes.Select(x => x.Tax)],
                    0,
                    [.. group.Totals.Taxes.Select(_ => 0L)]
                );
            var deposit = Calculator.Compute(
                new DocumentFigures(t.document.Currency, [.. asked.Select(a => Line(a.Key, a.Amount, null))])
                {
                    PricesIncludeTax = t.document.PricesIncludeTax,
                }
            );
            var final = Calculator.Compute(
                new DocumentFigures(
                    t.document.Currency,
                    [
                        .. t.document.Lines.Select((l, i) => Line(l.Treatment, whole.LineBases[i], null)),
                        .. deposit.Groups.Select((g, n) => Line(g.Totals.Treatment, g.Base, Back(g, n))),
                    ]
                )
                {
                    Charges = t.document.Charges,
                    PricesIncludeTax = t.document.PricesIncludeTax,
                }
            );
            (deposit.Net + final.Net, deposit.Tax + final.Tax).ShouldBe((whole.Net, whole.Tax));
        });
}
