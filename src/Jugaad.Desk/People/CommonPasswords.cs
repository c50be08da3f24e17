using System.Text;

namespace Jugaad.Desk.People;

/// <summary>
/// The commonest passwords, as guessers try them first: the list of the package @zxcvbn-ts/language-common (its licence
/// lies beside it). A common word counts also in other letters (p4ssw0rd), with figures and signs around it, and said
/// over and over.
/// </summary>
internal static class CommonPasswords
{
    private const int LeastCore = 4;

    private static readonly Lazy<HashSet<string>> Known = new(Read);

    /// <summary>Figures and signs that stand for letters.</summary>
    private static readonly Dictionary<char, char> Letters = new()
    {
        ['0'] = 'o',
        ['1'] = 'l',
        ['3'] = 'e',
        ['4'] = 'a',
        ['5'] = 's',
        ['7'] = 't',
        ['8'] = 'b',
        ['9'] = 'g',
        ['@'] = 'a',
        ['$'] = 's',
        ['!'] = 'i',
        ['+'] = 't',
        ['|'] = 'l',
    };

    internal static bool Has(string password)
    {
        var plain = password.ToLowerInvariant();
        return Forms(plain).Any(form => form.Length == 0 || Known.Value.Contains(form) || IsRepeated(form));
    }

    /// <summary>
    /// The word that guessers would make this of: as it is, without what is around it, and with letters for figures.
    /// </summary>
    private static IEnumerable<string> Forms(string plain)
    {
        yield return plain;
        yield return Core(plain);
        var read = string.Concat(plain.Select(c => Letters.GetValueOrDefault(c, c)));
        yield return read;
        yield return Core(read);
        // What stands around it may itself look like letters: P@ssw0rd1! is read without its end too.
        yield return Core(string.Concat(Core(plain).Select(c => Letters.GetValueOrDefault(c, c))));
        yield return string.Concat(plain.Where(char.IsLetter));
    }

    private static string Core(string text) => text.Trim([.. text.Where(c => !char.IsLetter(c)).Distinct()]);

    private static bool IsRepeated(string form)
    {
        for (var length = 1; length <= form.Length / 2; length++)
        {
            if (form.Length % length != 0)
                continue;
            var unit = form[..length];
            if (
                string.Concat(Enumerable.Repeat(unit, form.Length / length)) == form
                && (length < LeastCore || Known.Value.Contains(unit) || Known.Value.Contains(Core(unit)))
            )
                return true;
        }

        return false;
    }

    private static HashSet<string> Read()
    {
        using var list = typeof(CommonPasswords).Assembly.GetManifestResourceStream(
            "Jugaad.Desk.People.Common.passwords.txt"
        )!;
        using var lines = new StreamReader(list, Encoding.UTF8);
        var known = new HashSet<string>(StringComparer.Ordinal);
        while (lines.ReadLine() is { } line)
            if (line.Length >= LeastCore)
                known.Add(line);
        return known;
    }
}
