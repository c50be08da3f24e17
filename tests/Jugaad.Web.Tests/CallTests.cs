using Jugaad.Web.Shell;

namespace Jugaad.Web.Tests;

/// <summary>What a telephone dials of a number as people write it.</summary>
public class CallTests
{
    [Theory]
    [InlineData("+372 5550 0203", "+37255500203")]
    [InlineData("(0)20 7946-0958", "02079460958")]
    [InlineData("5550 0203 ask for Helen", "55500203")]
    [InlineData("the yard's", "")]
    [InlineData("\"><script>1", "1")]
    public void Only_digits_and_a_plus_before_them_are_dialled(string number, string dialled) =>
        CallTag.Dialled(number).ShouldBe(dialled);
}
