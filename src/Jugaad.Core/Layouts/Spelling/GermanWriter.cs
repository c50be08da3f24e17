namespace Jugaad.Core.Layouts.Spelling;

internal sealed class GermanWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "null",
        "ein",
        "zwei",
        "drei",
        "vier",
        "fünf",
        "sechs",
        "sieben",
        "acht",
        "neun",
        "zehn",
        "elf",
        "zwölf",
        "dreizehn",
        "vierzehn",
        "fünfzehn",
        "sechzehn",
        "siebzehn",
        "achtzehn",
        "neunzehn",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "zwanzig",
        "dreißig",
        "vierzig",
        "fünfzig",
        "sechzig",
        "siebzig",
        "achtzig",
        "neunzig",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        if (number == 1)
            return of == Gender.Feminine ? "eine" : "ein";
        var (millions, thousands, rest) = Groups.Of(number);
        var low = (thousands > 0 ? Below1000(thousands) + "tausend" : "") + (rest > 0 ? Below1000(rest) : "");
        // Where it ends with one, that stands in full.
        if (rest % 100 == 1)
            low += "s";
        return Groups.Join(
            millions == 0 ? ""
                : millions == 1 ? "eine Million"
                : $"{Below1000(millions)} Millionen",
            low
        );
    }

    private static string Below1000(int n)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        var small =
            rest == 0 ? ""
            : rest < 20 ? Small[rest]
            : (rest % 10 == 0 ? "" : $"{Small[rest % 10]}und") + Tens[rest / 10];
        return (hundreds == 0 ? "" : $"{Small[hundreds]}hundert") + small;
    }
}
