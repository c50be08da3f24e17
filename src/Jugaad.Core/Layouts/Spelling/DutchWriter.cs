namespace Jugaad.Core.Layouts.Spelling;

internal sealed class DutchWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "nul",
        "een",
        "twee",
        "drie",
        "vier",
        "vijf",
        "zes",
        "zeven",
        "acht",
        "negen",
        "tien",
        "elf",
        "twaalf",
        "dertien",
        "veertien",
        "vijftien",
        "zestien",
        "zeventien",
        "achttien",
        "negentien",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "twintig",
        "dertig",
        "veertig",
        "vijftig",
        "zestig",
        "zeventig",
        "tachtig",
        "negentig",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        return Groups.Join(
            millions > 0 ? $"{Below1000(millions)} miljoen" : "",
            thousands > 0 ? (thousands == 1 ? "" : Below1000(thousands)) + "duizend" : "",
            rest > 0 ? Below1000(rest) : ""
        );
    }

    private static string Below1000(int n)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        var small =
            rest == 0 ? ""
            : rest < 20 ? Small[rest]
            : Two(rest);
        return (hundreds == 0 ? "" : (hundreds == 1 ? "" : Small[hundreds]) + "honderd") + small;
    }

    private static string Two(int n)
    {
        var (tens, ones) = Math.DivRem(n, 10);
        return ones == 0 ? Tens[tens] : Small[ones] + (Small[ones].EndsWith('e') ? "ën" : "en") + Tens[tens];
    }
}
