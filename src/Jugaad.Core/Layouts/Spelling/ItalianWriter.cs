namespace Jugaad.Core.Layouts.Spelling;

internal sealed class ItalianWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "zero",
        "uno",
        "due",
        "tre",
        "quattro",
        "cinque",
        "sei",
        "sette",
        "otto",
        "nove",
        "dieci",
        "undici",
        "dodici",
        "tredici",
        "quattordici",
        "quindici",
        "sedici",
        "diciassette",
        "diciotto",
        "diciannove",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "venti",
        "trenta",
        "quaranta",
        "cinquanta",
        "sessanta",
        "settanta",
        "ottanta",
        "novanta",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        if (number == 1)
            return of == Gender.Feminine ? "una" : "un";
        var (millions, thousands, rest) = Groups.Of(number);
        var low =
            (
                thousands == 0 ? ""
                : thousands == 1 ? "mille"
                : $"{Below1000(thousands)}mila"
            ) + (rest == 0 ? "" : Below1000(rest));
        // A three at the end of a longer word has its accent.
        if (low.Length > 3 && rest % 10 == 3 && rest % 100 != 13)
            low = low[..^1] + "é";
        return Groups.Join(
            millions == 0 ? ""
                : millions == 1 ? "un milione"
                : $"{Below1000(millions)} milioni",
            low
        );
    }

    private static string Below1000(int n)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        return (hundreds == 0 ? "" : (hundreds == 1 ? "" : Small[hundreds]) + "cento")
            + (rest == 0 ? "" : Below100(rest));
    }

    private static string Below100(int n)
    {
        if (n < 20)
            return Small[n];
        var (tens, ones) = Math.DivRem(n, 10);
        // The vowel goes before uno and otto.
        return ones is 1 or 8 ? Tens[tens][..^1] + Small[ones] : Tens[tens] + (ones == 0 ? "" : Small[ones]);
    }
}
