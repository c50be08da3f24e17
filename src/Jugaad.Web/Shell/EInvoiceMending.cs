using System.Globalization;
using System.Text.RegularExpressions;

namespace Jugaad.Web.Shell;

/// <summary>Where what an e-invoice lacks is typed, by the term of the standard at which a rule is broken.</summary>
public static partial class EInvoiceMending
{
    /// <param name="place">As a breach tells it, such as <c>BT-55</c> or <c>BT-158 of line 2</c>.</param>
    /// <returns>Null where it is of the document itself, which never changes once it is issued.</returns>
    public static (string Address, string Words)? Of(string place, int customerId)
    {
        if (Term().Match(place) is not { Success: true } found)
            return null;
        var number = int.Parse(found.Groups[2].ValueSpan, CultureInfo.InvariantCulture);
        return (found.Groups[1].Value, number) switch
        {
            ("BT", >= 27 and <= 43) or ("BG", >= 4 and <= 6) => ("/setup", "The business"),
            ("BT", >= 44 and <= 58) or ("BG", >= 7 and <= 9) => ($"/customers/{customerId}/edit", "The customer"),
            ("BT", >= 81 and <= 91) or ("BG", >= 16 and <= 19) => ("/setup/accounts", "Bank accounts"),
            ("BT", >= 117 and <= 121) or ("BT", 151 or 152) => ("/setup/taxes", "Tax codes"),
            ("BT", >= 153 and <= 159) => ("/items", "Items"),
            _ => null,
        };
    }

    [GeneratedRegex(@"\b(BT|BG)-(\d{1,3})\b")]
    private static partial Regex Term();
}
