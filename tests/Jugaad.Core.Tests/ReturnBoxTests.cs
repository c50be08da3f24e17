using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Tests;

/// <summary>What the boxes of a return say, and which sets cannot be.</summary>
public sealed class ReturnBoxTests
{
    private static readonly Currency Euro = Currency.Of("EUR");
    private static readonly DateOnly Day = new(2026, 3, 5);

    private static ReturnRow Row(
        long taxable,
        long tax,
        decimal percent = 22,
        TaxCategory category = TaxCategory.Standard,
        Place place = Place.Home,
        Supply supply = Supply.Goods
    ) => new(0, "A", Day, Day, new TaxKey(category, "VAT", percent, place, supply), taxable, tax, false);

    private static long Of(ReturnBox box, params ReturnRow[] rows) =>
        BoxFigure.Of([box with { Number = "1" }], rows, Euro)[0].Amount;

    [Fact]
    public void A_box_adds_up_the_rows_that_it_is_narrowed_to()
    {
        ReturnRow[] rows =
        [
            Row(100_00, 22_00),
            Row(50_00, 5_00, 10),
            Row(30_00, 0, 0, TaxCategory.IntraUnion, Place.Union),
            Row(7_00, 0, 0, TaxCategory.Export, Place.Abroad, Supply.Services),
        ];
        var taxable = new ReturnBox { Sum = BoxSum.Taxable };
        Of(taxable, rows).ShouldBe(187_00);
        Of(taxable with { Sum = BoxSum.Tax }, rows).ShouldBe(27_00);
        Of(taxable with { Percents = [10m] }, rows).ShouldBe(50_00);
        Of(taxable with { Categories = [TaxCategory.IntraUnion, TaxCategory.Export] }, rows).ShouldBe(37_00);
        Of(taxable with { Places = [Place.Abroad], Supplies = [Supply.Goods] }, rows).ShouldBe(0);
        Of(taxable with { Components = ["Levy"] }, rows).ShouldBe(0);
    }

    [Theory]
    [InlineData(BoxRounding.Cent, 10_50, 10_50)]
    [InlineData(BoxRounding.Unit, 10_50, 11_00)]
    [InlineData(BoxRounding.Unit, -10_50, -11_00)]
    [InlineData(BoxRounding.Unit, 10_49, 10_00)]
    [InlineData(BoxRounding.UnitDown, 10_99, 10_00)]
    [InlineData(BoxRounding.UnitDown, -10_01, -11_00)]
    [InlineData(BoxRounding.UnitUp, 10_01, 11_00)]
    [InlineData(BoxRounding.UnitUp, -10_99, -10_00)]
    public void A_box_is_rounded_once(BoxRounding rounding, long amount, long rounded) =>
        Of(new ReturnBox { Sum = BoxSum.Taxable, Rounding = rounding }, Row(amount, 0)).ShouldBe(rounded);

    /// <summary>10.50 and 10.50 are 11 and 11 in whole units: 22, although 21.00 was sold; less 4.62 of tax.</summary>
    [Fact]
    public void A_formula_takes_the_rounded_boxes_in_any_order()
    {
        ReturnBox[] set =
        [
            new()
            {
                Number = "T",
                Name = "Rest",
                Formula = "S - 3",
            },
            new()
            {
                Number = "S",
                Name = "Sum",
                Formula = "1 + 2",
            },
            new()
            {
                Number = "1",
                Name = "Goods",
                Sum = BoxSum.Taxable,
                Supplies = [Supply.Goods],
                Rounding = BoxRounding.Unit,
            },
            new()
            {
                Number = "2",
                Name = "Services",
                Sum = BoxSum.Taxable,
                Supplies = [Supply.Services],
                Rounding = BoxRounding.Unit,
            },
            new()
            {
                Number = "3",
                Name = "Tax",
                Sum = BoxSum.Tax,
            },
        ];
        ReturnBox.Check(set);
        BoxFigure
            .Of(set, [Row(10_50, 2_31), Row(10_50, 2_31, supply: Supply.Services)], Euro)
            .Select(b => b.Amount)
            .ShouldBe([17_38, 22_00, 11_00, 11_00, 4_62]);
    }

    [Theory]
    [InlineData("", "", "boxes[0].formula", "such as 2 + 3 - 5")]
    [InlineData("2 +", "", "boxes[0].formula", "such as 2 + 3 - 5")]
    [InlineData("2 2", "", "boxes[0].formula", "such as 2 + 3 - 5")]
    [InlineData("9", "", "boxes[0].formula", "There is no box 9")]
    [InlineData("1", "", "boxes[0].formula", "worked out from itself")]
    [InlineData("2", "1", "boxes[0].formula", "worked out from itself")]
    public void A_formula_that_cannot_be_is_refused_by_its_place(string first, string second, string field, string why)
    {
        ReturnBox[] set =
        [
            new()
            {
                Number = "1",
                Name = "One",
                Formula = first,
            },
            new()
            {
                Number = "2",
                Name = "Two",
                Sum = second.Length == 0 ? BoxSum.Tax : BoxSum.Formula,
                Formula = second,
            },
        ];
        var refused = Should.Throw<RefusalException>(() => ReturnBox.Check(set)).Refusals[0];
        refused.Field.ShouldBe(field);
        refused.Message.ShouldContain(why);
    }

    [Fact]
    public void Numbers_are_there_once_and_a_box_is_one_thing()
    {
        ReturnBox[] set =
        [
            new()
            {
                Number = "1",
                Name = "One",
                Sum = BoxSum.Tax,
            },
            new()
            {
                Number = "1",
                Name = "",
                Sum = BoxSum.Tax,
                Formula = "1",
            },
            new()
            {
                Number = "a b",
                Name = "Spaces",
                Sum = BoxSum.Tax,
            },
        ];
        Should
            .Throw<RefusalException>(() => ReturnBox.Check(set))
            .Refusals.Select(r => r.Field)
            .ShouldBe(["boxes[1].name", "boxes[1].number", "boxes[1].formula", "boxes[2].number"]);
    }
}
