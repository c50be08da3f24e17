namespace Jugaad.Core.Layouts.Spelling;

internal sealed class EnglishWriter : INumberWriter
{
    private static readonly string[] Small =
    [
        "zero",
        "one",
        "two",
        "three",
        "four",
        "five",
        "six",
        "seven",
        "eight",
        "nine",
        "ten",
        "eleven",
        "twelve",
        "thirteen",
        "fourteen",
        "fifteen",
        "sixteen",
        "seventeen",
        "eighteen",
        "nineteen",
    ];

    private static readonly string[] Tens =
    [
        "",
        "",
        "twenty",
        "thirty",
        "forty",
        "fifty",
        "sixty",
        "seventy",
        "eighty",
        "ninety",
    ];

    public string Write(long number, Gender of)
    {
        if (number == 0)
            return Small[0];
        var (millions, thousands, rest) = Groups.Of(number);
        var high = Groups.Join(
            millions > 0 ? $"{Below1000(millions)} million" : "",
            thousands > 0 ? $"{Below1000(thousands)} thousand" : ""
        );
        return high.Length > 0 && rest is > 0 and < 100
            ? $"{high} and {Below1000(rest)}"
            : Groups.Join(high, rest > 0 ? Below1000(rest) : "");
    }

    private static string Below1000(int n)
    {
        var (hundreds, rest) = Math.DivRem(n, 100);
        var small =
            rest < 20
                ? (rest == 0 ? "" : Small[rest])
                : Tens[rest / 10] + (rest % 10 == 0 ? "" : $"-{Small[rest % 10]}");
        return hundreds == 0 ? small : $"{Small[hundreds]} hundred{(rest == 0 ? "" : $" and {small}")}";
    }
}
