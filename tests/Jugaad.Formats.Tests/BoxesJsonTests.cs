using Jugaad.Core;
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
}
