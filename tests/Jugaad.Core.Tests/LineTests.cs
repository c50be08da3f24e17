using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>Sections and subtotals, wanted totals, and two revisions side by side.</summary>
public sealed class LineTests
{
    private static readonly TaxCode Vat = new(
        "STD",
        "VAT",
        TaxCategory.Standard,
        null,
        [new TaxCodePart(0, new TaxComponent("VAT", null, [new TaxRate(new DateOnly(2024, 1, 1), 24)]), false)]
    );

    private static Document Quote(params DraftLine[] lines)
    {
        var quote = new Document(DocumentKind.Quote, "me");
        quote.Rewrite(
            new DraftContent { Date = new DateOnly(2025, 9, 17), Lines = lines },
            new DraftMasters(
                new Customer(
                    new CustomerDetails
                    {
                        Code = "Y",
                        Name = "Yard",
                        Currency = "EUR",
                    }
                ),
                null,
                new Dictionary<int, TaxCode> { [1] = Vat },
                TaxRounding.Document,
                TaxStanding.Always
            )
        );
        return quote;
    }

    private static DraftLine Line(string text, decimal price, decimal quantity = 1) =>
        new(null, text, quantity, "C62", price, null, null, 1, 7);

    [Fact]
    public void Sections_and_subtotals_show_what_stands_in_them()
    {
        var quote = Quote(
            Line("before", 1),
            DraftLine.Words("Sails", LineRole.Section),
            Line("a", 10),
            Line("b", 20) with
            {
                Choice = LineChoice.Optional,
            },
            DraftLine.Words("", LineRole.Subtotal),
            Line("c", 5),
            DraftLine.Words("Rig", LineRole.Section),
            DraftLine.Words("words"),
            Line("d", 7)
        );
        Subtotals.Of(quote.Lines).ShouldBe([null, 1_500, null, null, 1_000, null, 700, null, null]);
        quote.Net.ShouldBe(2_300);
    }

    [Theory]
    [InlineData("a b c", "a b c", "")]
    [InlineData("a b c", "a c", "b taken out")]
    [InlineData("a c", "a b c", "b added")]
    [InlineData("a b c", "a x c", "x words")]
    [InlineData("a", "b c a", "b added, c added")]
    [InlineData("", "a", "a added")]
    public void Revisions_stand_side_by_side(string before, string after, string changes)
    {
        Document Of(string letters) =>
            Quote([.. letters.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(l => Line(l, 1))]);
        var rows = Comparison
            .Of(Of(before).Lines, Of(after).Lines)
            .Where(r => r.Changed.Count > 0)
            .Select(r => $"{(r.After ?? r.Before)!.Text} {string.Join('+', r.Changed)}");
        string.Join(", ", rows).ShouldBe(changes);
    }

    [Fact]
    public void What_changed_in_a_line_is_said()
    {
        var was = Quote(Line("a", 10, 2));
        var now = Quote(Line("a", 11, 3) with { DiscountPercent = 5 });
        Comparison.Of(was.Lines, now.Lines).Single().Changed.ShouldBe(["quantity", "price", "discount"]);
    }

    /// <summary>No line is lost or doubled, and each side keeps its order.</summary>
    [Fact]
    public void A_comparison_holds_each_line_of_both_once_and_in_order() =>
        (from a in Gen.Int[0, 4].Array[0, 9] from b in Gen.Int[0, 4].Array[0, 9] select (a, b)).Sample(t =>
        {
            var (before, after) = (
                Quote([.. t.a.Select(n => Line($"{n}", 1))]),
                Quote([.. t.b.Select(n => Line($"{n}", 1))])
            );
            var rows = Comparison.Of(before.Lines, after.Lines);
            rows.Select(r => r.Before).OfType<DocumentLine>().ShouldBe(before.Lines);
            rows.Select(r => r.After).OfType<DocumentLine>().ShouldBe(after.Lines);
        });

    /// <summary>No other discount, a cent more or less, comes nearer to the wanted total.</summary>
    [Fact]
    public void A_wanted_total_is_met_as_nearly_as_cents_allow() =>
        (
            from figures in Generators.Documents(negative: false)
            from share in Gen.Int[0, 1_000]
            select (figures, share)
        ).Sample(t =>
        {
            var figures = t.figures with { DiscountPercent = null };
            long TotalAt(long discount) => Calculator.Compute(figures with { DiscountAmount = discount }).Total;
            var subtotal = Math.Max(Calculator.Compute(figures).Subtotal, 0);
            var (most, least) = (TotalAt(0), TotalAt(subtotal));
            if (most < least)
                return;
            var wanted = least + Amounts.Rounding.Share(most - least, t.share, 1_000);
            var discount = WantedTotal.DiscountFor(figures, wanted);
            var off = Math.Abs(TotalAt(discount) - wanted);
            if (figures.TaxRounding == TaxRounding.Line)
                return;
            if (discount > 0)
                off.ShouldBeLessThanOrEqualTo(Math.Abs(TotalAt(discount - 1) - wanted));
            if (discount < subtotal)
                off.ShouldBeLessThanOrEqualTo(Math.Abs(TotalAt(discount + 1) - wanted));
        });
}
