namespace Jugaad.Core.Layouts.Spelling;

internal sealed class LatvianWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "nulle",
        "viens",
        "divi",
        "trīs",
        "četri",
        "pieci",
        "seši",
        "septiņi",
        "astoņi",
        "deviņi",
        "desmit",
        "vienpadsmit",
        "divpadsmit",
        "trīspadsmit",
        "četrpadsmit",
        "piecpadsmit",
        "sešpadsmit",
        "septiņpadsmit",
        "astoņpadsmit",
        "deviņpadsmit",
    ];

    private static readonly string[] Hers =
    [
        "",
        "viena",
        "divas",
        "trīs",
        "četras",
        "piecas",
        "sešas",
        "septiņas",
        "astoņas",
        "deviņas",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "divdesmit",
        "trīsdesmit",
        "četrdesmit",
        "piecdesmit",
        "sešdesmit",
        "septiņdesmit",
        "astoņdesmit",
        "deviņdesmit",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        return Groups.Join(
            millions == 0
                ? ""
                : $"{Below1000(millions, Gender.Masculine)} {Plurals.Baltic(millions, "miljons", "miljoni", "miljonu")}",
            thousands == 0
                ? ""
                : $"{Below1000(thousands, Gender.Masculine)} {Plurals.Baltic(thousands, "tūkstotis", "tūkstoši", "tūkstošu")}",
            rest == 0 ? "" : Below1000(rest, of)
        );
    }

    private static string Below1000(int n, Gender of)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        string One(int ones) => of == Gender.Feminine && ones < 10 ? Hers[ones] : Small[ones];
        return Groups.Join(
            hundreds == 0 ? "" : $"{Small[hundreds]} {(hundreds == 1 ? "simts" : "simti")}",
            rest < 20 ? "" : Tens[rest / 10],
            rest is > 0 and < 20 ? One(rest)
                : rest % 10 == 0 ? ""
                : One(rest % 10)
        );
    }
}
