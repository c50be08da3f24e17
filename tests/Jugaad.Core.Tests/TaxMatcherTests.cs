using Jugaad.Core.Amounts;
using Jugaad.Core.Matching;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>What was paid to a tax authority is recognised at the bank.</summary>
public sealed class TaxMatcherTests
{
    private static readonly TaxLeft[] Left =
    [
        new(1, "return of June", ["R-6", "LOFT 4711", "Tax Board"], 100_00),
        new(2, "return of July", ["R-7", "LOFT 4711", "Tax Board"], 250_00),
        new(3, "return of the harbour", ["", "", "Harbour"], 250_00),
        new(4, "return of August", ["", "LOFT 4711", "Tax Board"], -40_00),
    ];

    [Theory]
    [InlineData(100_00, true, "Loft4711", "1:Sure,2:Possible")] // a whole one first, and of another a part
    [InlineData(250_00, true, "tax board", "2:Likely,3:Likely")] // two have it: neither is sure
    [InlineData(100_00, true, "", "1:Likely")]
    [InlineData(99_00, true, "to the TAX BOARD", "1:Possible,2:Possible")]
    [InlineData(99_00, true, "", "")]
    [InlineData(40_00, false, "", "4:Likely")]
    [InlineData(40_00, false, "tax-board", "4:Sure")]
    [InlineData(30_00, false, "tax board", "")] // what comes back comes whole
    [InlineData(250_01, true, "tax board", "")]
    public void It_is_sure_only_where_one_return_alone_is_meant(long amount, bool isOut, string text, string expected)
    {
        var money = new IncomingMoney(new(2025, 9, 1), amount, Currency.Of("EUR"), text, "", "", "");
        var proposals = TaxMatcher.Propose(money, isOut, Left, new DisplayFormat('.', "yyyy-MM-dd"));
        string.Join(',', proposals.Select(p => $"{p.PaysReturnId}:{p.Certainty}")).ShouldBe(expected);
    }
}
