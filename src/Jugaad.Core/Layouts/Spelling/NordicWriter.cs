namespace Jugaad.Core.Layouts.Spelling;

/// <summary>Swedish, Norwegian and Danish, which differ in their words and in what stands between them.</summary>
internal sealed class NordicWriter : INumberWriter
{
    private readonly string[] _small;
    private readonly string[] _tens;

    /// <param name="small">From 0 to 19, with one as it stands within a number.</param>
    private NordicWriter(string[] small, string[] tens) => (_small, _tens) = (small, tens);

    /// <summary>One of what is counted, standing alone.</summary>
    private string One { get; init; } = "en";

    /// <summary>One hundred, or one thousand of.</summary>
    private string OneOf { get; init; } = "et";

    private string Hundred { get; init; } = "";

    private string Thousand { get; init; } = "";

    private string Million { get; init; } = "";

    private string Millions { get; init; } = "";

    /// <summary>What stands before tens and ones, behind hundreds and thousands.</summary>
    private string And { get; init; } = " og ";

    /// <summary>Between a digit and its hundred or thousand.</summary>
    private string Blank { get; init; } = " ";

    private bool OnesFirst { get; init; }

    internal static NordicWriter Swedish { get; } =
        new(
            [
                "noll",
                "ett",
                "två",
                "tre",
                "fyra",
                "fem",
                "sex",
                "sju",
                "åtta",
                "nio",
                "tio",
                "elva",
                "tolv",
                "tretton",
                "fjorton",
                "femton",
                "sexton",
                "sjutton",
                "arton",
                "nitton",
            ],
            ["", "", "tjugo", "trettio", "fyrtio", "femtio", "sextio", "sjuttio", "åttio", "nittio"]
        )
        {
            OneOf = "ett",
            Hundred = "hundra",
            Thousand = "tusen",
            Million = "miljon",
            Millions = "miljoner",
            And = "",
            Blank = "",
        };

    internal static NordicWriter Norwegian { get; } =
        new(
            [
                "null",
                "en",
                "to",
                "tre",
                "fire",
                "fem",
                "seks",
                "sju",
                "åtte",
                "ni",
                "ti",
                "elleve",
                "tolv",
                "tretten",
                "fjorten",
                "femten",
                "seksten",
                "sytten",
                "atten",
                "nitten",
            ],
            ["", "", "tjue", "tretti", "førti", "femti", "seksti", "sytti", "åtti", "nitti"]
        )
        {
            OneOf = "ett",
            Hundred = "hundre",
            Thousand = "tusen",
            Million = "million",
            Millions = "millioner",
        };

    internal static NordicWriter Danish { get; } =
        new(
            [
                "nul",
                "en",
                "to",
                "tre",
                "fire",
                "fem",
                "seks",
                "syv",
                "otte",
                "ni",
                "ti",
                "elleve",
                "tolv",
                "tretten",
                "fjorten",
                "femten",
                "seksten",
                "sytten",
                "atten",
                "nitten",
            ],
            ["", "", "tyve", "tredive", "fyrre", "halvtreds", "tres", "halvfjerds", "firs", "halvfems"]
        )
        {
            Hundred = "hundrede",
            Thousand = "tusind",
            Million = "million",
            Millions = "millioner",
            OnesFirst = true,
        };

    public string Write(long number, Gender of)
    {
        if (number == 1)
            return One;
        if (number == 0)
            return _small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        var high = Groups.Join(
            millions == 0 ? ""
                : millions == 1 ? $"{One} {Million}"
                : $"{Below1000(millions)} {Millions}",
            thousands == 0 ? "" : ThousandsOf(thousands)
        );
        return high.Length > 0 && rest is > 0 and < 100 && And.Length > 0
            ? $"{high}{And}{Below100(rest)}"
            : Groups.Join(high, rest > 0 ? Below1000(rest) : "");
    }

    private string ThousandsOf(int n)
    {
        var count = n == 1 ? OneOf : Below1000(n);
        // Three of one letter do not meet.
        return count.EndsWith("tt", StringComparison.Ordinal) && Blank.Length == 0
            ? count[..^1] + Thousand
            : count + Blank + Thousand;
    }

    private string Below1000(int n)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        if (hundreds == 0)
            return Below100(rest);
        var high = (hundreds == 1 ? OneOf : _small[hundreds]) + Blank + Hundred;
        return rest == 0 ? high : high + And + Below100(rest);
    }

    private string Below100(int n)
    {
        if (n < 20)
            return n == 0 ? "" : _small[n];
        var (tens, ones) = Math.DivRem(n, 10);
        return ones == 0 ? _tens[tens]
            : OnesFirst ? $"{_small[ones]}og{_tens[tens]}"
            : _tens[tens] + _small[ones];
    }
}
