using System.Globalization;
using System.Text.RegularExpressions;

namespace Jugaad.Desk.Keeping;

/// <summary>
/// How a backup's file is called: the books' own mark, when it was made by the machine's clock, and whether it is
/// sealed.
/// </summary>
public static partial class BackupName
{
    private const string Moment = "yyyyMMdd-HHmmss";

    public static string Of(string mark, DateTime local, bool isSealed) =>
        $"jugaad-{mark}-{local.ToString(Moment, CultureInfo.InvariantCulture)}.tar.gz{(isSealed ? ".pgp" : "")}";

    /// <summary>When a backup of these books was made, by its name; null where it is none of theirs.</summary>
    public static DateTime? MadeAt(string name, string mark) =>
        Names().Match(name) is { Success: true } match
        && match.Groups["mark"].Value == mark
        && DateTime.TryParseExact(
            match.Groups["at"].Value,
            Moment,
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var at
        )
            ? at
            : null;

    /// <summary>Whether it is a name that this program gives; no such name leads to another folder.</summary>
    public static bool IsOne(string name) => Names().IsMatch(name);

    [GeneratedRegex(
        @"^jugaad-(?<mark>[a-z0-9]{8})-(?<at>\d{8}-\d{6})\.tar\.gz(\.pgp)?$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Names();
}
