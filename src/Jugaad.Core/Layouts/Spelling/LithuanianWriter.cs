namespace Jugaad.Core.Layouts.Spelling;

internal sealed class LithuanianWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "nulis",
        "vienas",
        "du",
        "trys",
        "keturi",
        "penki",
        "šeši",
        "septyni",
        "aštuoni",
        "devyni",
        "dešimt",
        "vienuolika",
        "dvylika",
        "trylika",
        "keturiolika",
        "penkiolika",
        "šešiolika",
        "septyniolika",
        "aštuoniolika",
        "devyniolika",
    ];

    private static readonly string[] Hers =
    [
        "",
        "viena",
        "dvi",
        "trys",
        "keturios",
        "penkios",
        "šešios",
        "septynios",
        "aštuonios",
        "devynios",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "dvidešimt",
        "trisdešimt",
        "keturiasdešimt",
        "penkiasdešimt",
        "šešiasdešimt",
        "septyniasdešimt",
        "aštuoniasdešimt",
        "devyniasdešimt",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        return Groups.Join(
            millions == 0
                ? ""
                : $"{Below1000(millions, Gender.Masculine)} {Plurals.Baltic(millions, "milijonas", "milijonai", "milijonų")}",
            thousands == 0
                ? ""
                : $"{Below1000(thousands, Gender.Masculine)} {Plurals.Baltic(thousands, "tūkstantis", "tūkstančiai", "tūkstančių")}",
            rest == 0 ? "" : Below1000(rest, of)
        );
    }

    private static string Below1000(int n, Gender of)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        string One(int ones) => of == Gender.Feminine && ones < 10 ? Hers[ones] : Small[ones];
        return Groups.Join(
            hundreds == 0 ? "" : $"{Small[hundreds]} {(hundreds == 1 ? "šimtas" : "šimtai")}",
            rest < 20 ? "" : Tens[rest / 10],
            rest is > 0 and < 20 ? One(rest)
                : rest % 10 == 0 ? ""
                : One(rest % 10)
        );
    }
}
