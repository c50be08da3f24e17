using Jugaad.Core.Documents;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>What the square code of a euro transfer says, line by line, by EPC069-12.</summary>
public sealed class TransferCodeTests
{
    [Fact]
    public void Each_line_stands_in_its_place()
    {
        var lines = TransferCode
            .Of("Tern & Tackle Sail Loft OÜ", "EE039922001234567890", "SADMEE2X", 123_456, "INV-2025-0041")
            .Split('\n');
        lines.ShouldBe([
            "BCD",
            "002",
            "1",
            "SCT",
            "SADMEE2X",
            "Tern & Tackle Sail Loft OÜ",
            "EE039922001234567890",
            "EUR1234.56",
            "",
            StructuredReference.Of("INV-2025-0041"),
            "",
        ]);
    }

    [Fact]
    public void A_number_that_gives_no_reference_goes_as_a_message()
    {
        var lines = TransferCode
            .Of("Loft", "EE039922001234567890", "", 5, "A-number-that-is-much-too-long-1")
            .Split('\n');
        (lines[7], lines[9], lines[10]).ShouldBe(("EUR0.05", "", "A-number-that-is-much-too-long-1"));
    }

    [Theory]
    [InlineData("Loft\nBCD", "LoftBCD")]
    [InlineData(
        "A very long name that goes on and on and on beyond what fits into a line",
        "A very long name that goes on and on and on beyond what fits into a li"
    )]
    public void No_name_breaks_the_code(string name, string said) =>
        TransferCode.Of(name, "EE039922001234567890", "", 100, "INV-1").Split('\n')[5].ShouldBe(said);
}
