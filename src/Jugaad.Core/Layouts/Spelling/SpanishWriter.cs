namespace Jugaad.Core.Layouts.Spelling;

internal sealed class SpanishWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "cero",
        "un",
        "dos",
        "tres",
        "cuatro",
        "cinco",
        "seis",
        "siete",
        "ocho",
        "nueve",
        "diez",
        "once",
        "doce",
        "trece",
        "catorce",
        "quince",
        "dieciséis",
        "diecisiete",
        "dieciocho",
        "diecinueve",
        "veinte",
        "veintiún",
        "veintidós",
        "veintitrés",
        "veinticuatro",
        "veinticinco",
        "veintiséis",
        "veintisiete",
        "veintiocho",
        "veintinueve",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "",
        "treinta",
        "cuarenta",
        "cincuenta",
        "sesenta",
        "setenta",
        "ochenta",
        "noventa",
    ];

    private static readonly string[] Hundreds =
    [
        "",
        "ciento",
        "doscientos",
        "trescientos",
        "cuatrocientos",
        "quinientos",
        "seiscientos",
        "setecientos",
        "ochocientos",
        "novecientos",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        return Groups.Join(
            millions == 0 ? ""
                : millions == 1 ? "un millón"
                : $"{Below1000(millions, Gender.Masculine)} millones",
            thousands == 0 ? ""
                : thousands == 1 ? "mil"
                : $"{Below1000(thousands, of)} mil",
            rest == 0 ? "" : Below1000(rest, of)
        );
    }

    private static string Below1000(int n, Gender of)
    {
        if (n == 100)
            return "cien";
        var her = of == Gender.Feminine;
        var (hundreds, rest) = Math.DivRem(n, 100);
        var high = her && hundreds > 1 ? Hundreds[hundreds][..^2] + "as" : Hundreds[hundreds];
        var small =
            rest == 0 ? ""
            : rest == 1 && her ? "una"
            : rest == 21 && her ? "veintiuna"
            : rest < 30 ? Small[rest]
            : Tens[rest / 10] + (rest % 10 == 0 ? "" : $" y {(rest % 10 == 1 && her ? "una" : Small[rest % 10])}");
        return Groups.Join(high, small);
    }
}
