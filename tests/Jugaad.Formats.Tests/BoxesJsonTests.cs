using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Formats.Taxes;

namespace Jugaad.Formats.Tests;

/// <summary>Sets of boxes as JSON.</summary>
public sealed class BoxesJsonTests
{
    [Fact]
    public void What_is_written_is_read_back_the_same()
    {
        ReturnBox[] set =
        [
            new()
            {
                Number = "1",
                Name = "Käive",
                Sum = BoxSum.Taxable,
                Categories = [TaxCategory.Standard],
                Percents = [9.975m],
                Places = [Place.Union],
                Supplies = [Supply.Services],
                Components = ["VAT"],
                Rounding = BoxRounding.UnitDown,
            },
            new()
            {
                Number = "2",
                Name = "Rest",
                Formula = "1",
            },
        ];
        var text = TaxKitJson.WriteBoxes(set);
        text.ShouldContain("\"unitDown\"");
        TaxKitJson.WriteBoxes(TaxKitJson.ReadBoxes(text)).ShouldBe(text);
        TaxKitJson.ReadBoxes(" ").ShouldBeEmpty();
    }

    [Theory]
    [InlineData("{}", "These are no boxes")]
    [InlineData("[{\"number\":\"1\",\"name\":\"A\",\"sum\":\"all\"}]", "[0].sum")]
    [InlineData("[{\"number\":\"1\",\"name\":\"A\",\"sum\":\"tax\",\"categories\":[\"X\"]}]", "not a tax category")]
    [InlineData("[{\"number\":\"1\",\"name\":\"A\",\"sum\":\"tax\",\"extra\":1}]", "[0].extra")]
    [InlineData("[{\"number\":null}]", "[0].number")]
    [InlineData("[{\"number\":\"1\",\"name\":\"A\",\"formula\":\"7\"}]", "There is no box 7")]
    [InlineData("[null]", "These are no boxes")]
    public void What_is_no_set_is_refused_with_its_place(string text, string why) =>
        Should.Throw<RefusalException>(() => TaxKitJson.ReadBoxes(text)).Message.ShouldContain(why);

    /// <summary>Whatever is sold with the taxes of a kit, what its set asks for is the tax, less what is typed in.</summary>
    [Fact]
    public void The_set_of_each_shipped_kit_asks_for_all_tax_once()
    {
        var euro = Currency.Of("EUR");
        foreach (var (key, kit) in new ShippedKits().All.Where(k => k.Kit.Authorities.Count > 0))
        {
            foreach (var authority in kit.Authorities)
            {
                var rows = kit
                    .Codes.SelectMany(code => code.Parts.Select(part => (code.Category, part.Component)))
                    .Where(c => kit.Components.Single(k => k.Name == c.Component).Authority == authority.Name)
                    .Select(
                        (c, i) =>
                            new ReturnRow(
                                i,
                                $"{i}",
                                default,
                                default,
                                new TaxKey(c.Category, c.Component, 10, Place.Home, Supply.Goods),
                                1000 + i,
                                100 + i,
                                false,
                                i % 2 == 0 ? RowOrigin.Sales : RowOrigin.Credits
                            )
                    )
                    .ToList();
                rows.Count.ShouldBeGreaterThan(0, $"{key} {authority.Name}");
                var typed = authority
                    .Boxes.Where(b => b.Sum == BoxSum.Typed)
                    .Select(b => new TypedBox(b.Number, 40, "bought", 1))
                    .ToList();
                var boxes = BoxFigure.Of(authority.Boxes, rows, euro, typed);
                var owed = ReturnOwed.Of(authority.Boxes, boxes, typed, rows.Sum(r => r.Tax));
                authority.Boxes.Count(b => b.IsOwed).ShouldBe(1, $"{key} {authority.Name}");
                owed.Rounding.ShouldBe(0, $"{key} {authority.Name}");
                owed.Owed.ShouldBe(rows.Sum(r => r.Tax) - (40 * typed.Count), $"{key} {authority.Name}");
            }
        }
    }
}
