using ZXing;
using ZXing.OneD;

namespace Jugaad.Formats.Codes;

/// <summary>The dark stripes of a code of plain letters (ISO/IEC 15417, Code 128) with its quiet zones.</summary>
internal static class Stripes
{
    private const int Quiet = 10;

    /// <returns>Where each stripe begins and how wide it is, in the unit of what is given.</returns>
    internal static IEnumerable<(double X, double Width)> Of(string text, double left, double width)
    {
        var modules = new Code128Writer().encode(text);
        var side = width / (modules.Length + (2 * Quiet));
        for (var i = 0; i < modules.Length; i++)
        {
            if (!modules[i])
                continue;
            var from = i;
            while (i + 1 < modules.Length && modules[i + 1])
                i++;
            yield return (left + ((Quiet + from) * side), (i - from + 1) * side);
        }
    }
}
