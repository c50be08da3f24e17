using System.Text.RegularExpressions;
using Jugaad.Core.Banking;

namespace Jugaad.Formats.Bank;

/// <summary>
/// What field 86 of an MT940 movement tells: in numbered subfields (?20, ?32 …, whatever sign stands before the
/// numbers), in names between strokes, or in plain words.
/// </summary>
internal static partial class Mt940Details
{
    /// <summary>A subfield that is full goes on in the next, in the middle of a word.</summary>
    private const int Full = 27;

    internal static StatementLine Read(StatementLine line, string value)
    {
        var flat = value.ReplaceLineEndings("");
        if (Numbered().Match(flat) is { Success: true } numbered)
            return Subfields(line, flat, numbered.Groups["mark"].Value[0]);
        return flat.StartsWith('/') && StrokeName().IsMatch(flat)
            ? Strokes(line, flat)
            : line with
            {
                Text = Figures.Short(value),
            };
    }

    /// <summary>After the code of the business comes the sign that all subfields begin with.</summary>
    [GeneratedRegex(@"^(?:\d{3})?(?<mark>[?~<>|^+*#!;§@&])(?:00|1\d|2\d|3[0-8]|6[0-3])")]
    private static partial Regex Numbered();

    private static StatementLine Subfields(StatementLine line, string flat, char mark)
    {
        var parts = flat.Split(mark)
            .Skip(1)
            .Where(p => p.Length >= 2 && char.IsAsciiDigit(p[0]) && char.IsAsciiDigit(p[1]))
            .Select(p => (Code: p[..2], Text: p[2..]))
            .ToList();
        var words = Joined([
            .. parts
                .Where(p =>
                    string.CompareOrdinal(p.Code, "20") >= 0 && string.CompareOrdinal(p.Code, "29") <= 0
                    || string.CompareOrdinal(p.Code, "60") >= 0 && string.CompareOrdinal(p.Code, "63") <= 0
                )
                .Select(p => p.Text),
        ]);
        var told = Tagged(words);
        var name = string.Concat(parts.Where(p => p.Code is "32" or "33").Select(p => p.Text));
        // Whose debt it is counts, not whose account paid it.
        var ultimate = told.GetValueOrDefault(line.Amount > 0 ? "ABWA" : "ABWE", "");
        var text = told.GetValueOrDefault("", "") + (told.TryGetValue("SVWZ", out var purpose) ? " " + purpose : "");
        if (told.TryGetValue("EREF", out var end) && end is not ("" or "NOTPROVIDED"))
            text += " " + end;
        if (ultimate.Length > 0 && name.Length > 0)
            text += $", paid by {name}";
        return line with
        {
            Text = Figures.Short(text),
            Name = Figures.Short(ultimate.Length > 0 ? ultimate : name, 140),
            Account = Figures.Short(
                told.TryGetValue("IBAN", out var iban)
                    ? iban
                    : string.Concat(parts.Where(p => p.Code == "31").Select(p => p.Text)),
                40
            ),
        };
    }

    private static string Joined(IReadOnlyList<string> parts)
    {
        var words = new System.Text.StringBuilder();
        for (var i = 0; i < parts.Count; i++)
        {
            // One that is not full ends where a word does, unless it ends in the middle of a number; and so does one
            // before a new tag.
            if (
                i > 0
                && (
                    (parts[i - 1].Length < Full && !parts[i - 1].EndsWith('-') && !parts[i - 1].EndsWith('/'))
                    || Tag().Match(parts[i]) is { Success: true, Index: 0 }
                )
            )
                words.Append(' ');
            words.Append(parts[i]);
        }

        return words.ToString();
    }

    /// <summary>What stands behind each tag such as <c>SVWZ+</c>; what stands before the first one has none.</summary>
    private static Dictionary<string, string> Tagged(string words)
    {
        var told = new Dictionary<string, string>();
        var tags = Tag().Matches(words);
        told[""] = (tags.Count == 0 ? words : words[..tags[0].Index]).Trim();
        for (var i = 0; i < tags.Count; i++)
        {
            var from = tags[i].Index + tags[i].Length;
            told[tags[i].Groups[1].Value] = words[from..(i + 1 < tags.Count ? tags[i + 1].Index : words.Length)].Trim();
        }

        return told;
    }

    [GeneratedRegex(@"(EREF|KREF|MREF|CRED|DEBT|COAM|OAMT|SVWZ|ABWA|ABWE|IBAN|BIC)\+")]
    private static partial Regex Tag();

    private static StatementLine Strokes(StatementLine line, string flat)
    {
        string Of(string name)
        {
            var at = flat.IndexOf($"/{name}/", StringComparison.Ordinal);
            if (at < 0)
                return "";
            var rest = flat[(at + name.Length + 2)..];
            var end = StrokeName().Match(rest);
            return end.Success ? rest[..end.Index] : rest;
        }

        // The other side may stand in one piece: account, bank, name, town.
        var other = Of("CNTP").Split('/');
        var (name, account) = (Of("NAME"), Of("IBAN"));
        if (account.Length == 0)
            account = other[0];
        if (name.Length == 0 && other.Length > 2)
            name = other[2];
        return line with
        {
            Text = Figures.Short(Unstructured(Of("REMI"))),
            Name = Figures.Short(name, 140),
            Account = Figures.Short(account, 40),
            Returned = line.Returned || Of("RTRN").Length > 0,
        };
    }

    /// <summary>Words may stand behind a name of their own: <c>/REMI/USTD//words</c>.</summary>
    private static string Unstructured(string text) =>
        text.StartsWith("USTD//", StringComparison.Ordinal) || text.StartsWith("STRD//", StringComparison.Ordinal)
            ? text[6..].TrimEnd('/')
            : text.TrimEnd('/');

    [GeneratedRegex(
        "/(NAME|REMI|IBAN|BIC|EREF|MARF|CSID|TRTP|TRCD|ORDP|BENM|ISDT|PREF|RTRN|SVCL|CNTP|ULTD|ULTC|PURP|INIT)/"
    )]
    private static partial Regex StrokeName();
}
