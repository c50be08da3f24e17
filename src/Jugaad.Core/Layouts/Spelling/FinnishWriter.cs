namespace Jugaad.Core.Layouts.Spelling;

internal sealed class FinnishWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "nolla",
        "yksi",
        "kaksi",
        "kolme",
        "neljä",
        "viisi",
        "kuusi",
        "seitsemän",
        "kahdeksan",
        "yhdeksän",
        "kymmenen",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        return Groups.Join(
            millions == 0 ? ""
                : millions == 1 ? "miljoona"
                : $"{Below1000(millions)} miljoonaa",
            thousands == 0 ? ""
                : thousands == 1 ? "tuhat"
                : $"{Below1000(thousands)}tuhatta",
            rest == 0 ? "" : Below1000(rest)
        );
    }

    private static string Below1000(int n)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        var high =
            hundreds == 0 ? ""
            : hundreds == 1 ? "sata"
            : $"{Small[hundreds]}sataa";
        return high + (rest == 0 ? "" : Below100(rest));
    }

    private static string Below100(int n)
    {
        if (n <= 10)
            return Small[n];
        var (tens, ones) = Math.DivRem(n, 10);
        return tens == 1 ? $"{Small[ones]}toista" : $"{Small[tens]}kymmentä{(ones == 0 ? "" : Small[ones])}";
    }
}
