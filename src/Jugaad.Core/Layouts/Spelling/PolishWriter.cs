namespace Jugaad.Core.Layouts.Spelling;

internal sealed class PolishWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "zero",
        "jeden",
        "dwa",
        "trzy",
        "cztery",
        "pięć",
        "sześć",
        "siedem",
        "osiem",
        "dziewięć",
        "dziesięć",
        "jedenaście",
        "dwanaście",
        "trzynaście",
        "czternaście",
        "piętnaście",
        "szesnaście",
        "siedemnaście",
        "osiemnaście",
        "dziewiętnaście",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "dwadzieścia",
        "trzydzieści",
        "czterdzieści",
        "pięćdziesiąt",
        "sześćdziesiąt",
        "siedemdziesiąt",
        "osiemdziesiąt",
        "dziewięćdziesiąt",
    ];

    private static readonly string[] Hundreds =
    [
        "",
        "sto",
        "dwieście",
        "trzysta",
        "czterysta",
        "pięćset",
        "sześćset",
        "siedemset",
        "osiemset",
        "dziewięćset",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        if (number == 1 && of != Gender.Masculine)
            return of == Gender.Feminine ? "jedna" : "jedno";
        var (millions, thousands, rest) = Groups.Of(number);
        return Groups.Join(
            millions == 0
                ? ""
                : $"{Below1000(millions, Gender.Masculine)} {Plurals.Slavic(millions, "milion", "miliony", "milionów")}",
            thousands == 0
                ? ""
                : $"{Below1000(thousands, Gender.Masculine)} {Plurals.Slavic(thousands, "tysiąc", "tysiące", "tysięcy")}",
            rest == 0 ? "" : Below1000(rest, of)
        );
    }

    private static string Below1000(int n, Gender of)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        string One(int ones) => ones == 2 && of == Gender.Feminine ? "dwie" : Small[ones];
        return Groups.Join(
            Hundreds[hundreds],
            rest < 20 ? "" : Tens[rest / 10],
            rest is > 0 and < 20 ? One(rest)
                : rest % 10 == 0 ? ""
                : One(rest % 10)
        );
    }
}
