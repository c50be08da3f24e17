using QRCoder;

namespace Jugaad.Formats.Codes;

/// <summary>
/// The dark parts of a square code (ISO/IEC 18004, error correction M, with its quiet zone), those of a row that touch
/// as one.
/// </summary>
internal sealed record CodeModules(int Side, IReadOnlyList<(int X, int Y, int Length)> Runs)
{
    internal static CodeModules Of(string text)
    {
        using var generator = new QRCodeGenerator();
        using var code = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M, forceUtf8: true);
        var rows = code.ModuleMatrix;
        var runs = new List<(int, int, int)>();
        for (var y = 0; y < rows.Count; y++)
        {
            for (var x = 0; x < rows.Count; x++)
            {
                if (!rows[y][x])
                    continue;
                var from = x;
                while (x + 1 < rows.Count && rows[y][x + 1])
                    x++;
                runs.Add((from, y, x - from + 1));
            }
        }

        return new CodeModules(rows.Count, runs);
    }
}
