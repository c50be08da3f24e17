namespace Jugaad.Core.Layouts.Spelling;

internal sealed class EstonianWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "null",
        "üks",
        "kaks",
        "kolm",
        "neli",
        "viis",
        "kuus",
        "seitse",
        "kaheksa",
        "üheksa",
        "kümme",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        return Groups.Join(
            millions == 0 ? "" : $"{Below1000(millions)} {(millions == 1 ? "miljon" : "miljonit")}",
            thousands == 0 ? "" : $"{Below1000(thousands)} tuhat",
            rest == 0 ? "" : Below1000(rest)
        );
    }

    private static string Below1000(int n)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        var (tens, ones) = Math.DivRem(rest, 10);
        return Groups.Join(
            hundreds == 0 ? "" : $"{Small[hundreds]}sada",
            rest is > 10 and < 20 ? $"{Small[ones]}teist"
                : rest == 10 ? Small[10]
                : tens == 0 ? ""
                : $"{Small[tens]}kümmend",
            rest is >= 10 and < 20 || ones == 0 ? "" : Small[ones]
        );
    }
}
