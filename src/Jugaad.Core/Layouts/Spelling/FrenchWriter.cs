namespace Jugaad.Core.Layouts.Spelling;

internal sealed class FrenchWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "zéro",
        "un",
        "deux",
        "trois",
        "quatre",
        "cinq",
        "six",
        "sept",
        "huit",
        "neuf",
        "dix",
        "onze",
        "douze",
        "treize",
        "quatorze",
        "quinze",
        "seize",
        "dix-sept",
        "dix-huit",
        "dix-neuf",
    ];

    private static readonly string[] Tens = ["", "", "vingt", "trente", "quarante", "cinquante", "soixante"];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        return Groups.Join(
            millions == 0
                ? ""
                : $"{Below1000(millions, true, Gender.Masculine)} {(millions == 1 ? "million" : "millions")}",
            thousands == 0 ? ""
                : thousands == 1 ? "mille"
                : $"{Below1000(thousands, false, Gender.Masculine)} mille",
            rest == 0 ? "" : Below1000(rest, true, of)
        );
    }

    /// <param name="ends">Whether nothing that is counted on stands behind it, so that cent and vingt take their s.</param>
    private static string Below1000(int n, bool ends, Gender of)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        var high =
            hundreds == 0 ? ""
            : hundreds == 1 ? "cent"
            : $"{Small[hundreds]} cent{(rest == 0 && ends ? "s" : "")}";
        return Groups.Join(high, rest == 0 ? "" : Below100(rest, ends, of));
    }

    private static string Below100(int n, bool ends, Gender of)
    {
        string One() => of == Gender.Feminine ? "une" : "un";
        if (n < 20)
            return n == 1 ? One() : Small[n];
        var (tens, ones) = Math.DivRem(n, 10);
        if (tens is 7 or 9)
        {
            var (high, teen) = (tens == 7 ? "soixante" : "quatre-vingt", Small[10 + ones]);
            return n == 71 ? "soixante et onze" : $"{high}-{teen}";
        }

        if (tens == 8)
            return ones == 0 ? $"quatre-vingt{(ends ? "s" : "")}" : $"quatre-vingt-{(ones == 1 ? One() : Small[ones])}";
        return ones == 0 ? Tens[tens]
            : ones == 1 ? $"{Tens[tens]} et {One()}"
            : $"{Tens[tens]}-{Small[ones]}";
    }
}
