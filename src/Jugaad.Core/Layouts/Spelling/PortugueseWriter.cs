namespace Jugaad.Core.Layouts.Spelling;

internal sealed class PortugueseWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "zero",
        "um",
        "dois",
        "três",
        "quatro",
        "cinco",
        "seis",
        "sete",
        "oito",
        "nove",
        "dez",
        "onze",
        "doze",
        "treze",
        "catorze",
        "quinze",
        "dezasseis",
        "dezassete",
        "dezoito",
        "dezanove",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "vinte",
        "trinta",
        "quarenta",
        "cinquenta",
        "sessenta",
        "setenta",
        "oitenta",
        "noventa",
    ];

    private static readonly string[] Hundreds =
    [
        "",
        "cento",
        "duzentos",
        "trezentos",
        "quatrocentos",
        "quinhentos",
        "seiscentos",
        "setecentos",
        "oitocentos",
        "novecentos",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        var high = Groups.Join(
            millions == 0 ? ""
                : millions == 1 ? "um milhão"
                : $"{Below1000(millions, Gender.Masculine)} milhões",
            thousands == 0 ? ""
                : thousands == 1 ? "mil"
                : $"{Below1000(thousands, of)} mil"
        );
        // What is one word alone is tied to what stands before it.
        return high.Length > 0 && rest > 0 && (rest < 100 || rest % 100 == 0)
            ? $"{high} e {Below1000(rest, of)}"
            : Groups.Join(high, rest == 0 ? "" : Below1000(rest, of));
    }

    private static string Below1000(int n, Gender of)
    {
        if (n == 100)
            return "cem";
        var her = of == Gender.Feminine;
        var (hundreds, rest) = Math.DivRem(n, 100);
        var high = her && hundreds > 1 ? Hundreds[hundreds][..^2] + "as" : Hundreds[hundreds];
        var small =
            rest == 0 ? ""
            : rest < 20 ? One(rest, her)
            : Tens[rest / 10] + (rest % 10 == 0 ? "" : $" e {One(rest % 10, her)}");
        return high.Length > 0 && small.Length > 0 ? $"{high} e {small}" : high + small;
    }

    private static string One(int n, bool her) =>
        (n, her) switch
        {
            (1, true) => "uma",
            (2, true) => "duas",
            _ => Small[n],
        };
}
