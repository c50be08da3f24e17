using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;

namespace Jugaad.Formats.Bank;

/// <summary>SWIFT customer statements, MT940. Details in field 86 are read with subfields (?20, ?32 …), with names between strokes, or as they stand.</summary>
internal static partial class Mt940Reader
{
    [GeneratedRegex(@"^(?<value>\d{6})(?<booked>\d{4})?(?<sign>R?[CD])(?<letter>[A-Z])?(?<amount>\d+,\d*)(?<kind>[A-Z][A-Z0-9]{3})(?<reference>[^\n]*)")]
    private static partial Regex Movement();

    [GeneratedRegex(@"^(?<sign>[CD])(?<day>\d{6})(?<currency>[A-Z]{3})(?<amount>\d+,\d*)")]
    private static partial Regex Balance();

    internal static IReadOnlyList<StatementFile> Read(string text)
    {
        var statements = new List<StatementFile>();
        Currency? currency = null;
        var (account, number) = ("", "");
        (long Amount, DateOnly Day)? opening = null;
        var lines = new List<StatementLine>();
        foreach (var (tag, value) in Fields(text))
        {
            switch (tag)
            {
                case "20":
                    (account, number, opening, currency) = ("", "", null, null);
                    lines = [];
                    break;
                case "25": account = value.Split('/')[^1].Trim(); break;
                case "28" or "28C": number = value.Trim(); break;
                case "60F" or "60M":
                    (currency, opening) = Read60(value, tag);
                    break;
                case "61": lines.Add(Line(value, currency ?? throw new RefusalException("file", "A movement (61) stands before the opening balance (60)."), lines.Count + 1)); break;
                case "86" when lines.Count > 0: lines[^1] = WithDetails(lines[^1], value); break;
                case "62F" or "62M":
                    var (_, closing) = Read60(value, tag);
                    statements.Add(new StatementFile(account, currency ?? throw new RefusalException("file", "A closing balance (62) stands before the opening one (60)."), number, opening?.Day, closing.Day, opening?.Amount, closing.Amount, lines, []));
                    break;
            }
        }

        return statements.Count > 0 ? statements : throw new RefusalException("file", "There is no whole statement in this file: a closing balance (field 62) is missing.");
    }

    private static (Currency Currency, (long Amount, DateOnly Day)) Read60(string value, string tag)
    {
        var found = Balance().Match(value);
        if (!found.Success) throw new RefusalException("file", $"Field {tag}: “{Figures.Short(value, 30)}” is not a balance.");
        var currency = Figures.CurrencyOf(found.Groups["currency"].Value, $"Field {tag}");
        var amount = Figures.Amount(found.Groups["amount"].Value, currency, $"Field {tag}");
        return (currency, (found.Groups["sign"].Value == "D" ? -amount : amount, Figures.Day(found.Groups["day"].Value, "yyMMdd", $"Field {tag}")));
    }

    private static StatementLine Line(string value, Currency currency, int count)
    {
        var where = $"Movement {count}";
        var found = Movement().Match(value);
        if (!found.Success) throw new RefusalException("file", $"{where} (field 61): “{Figures.Short(value, 40)}” cannot be read.");
        var day = Figures.Day(found.Groups["value"].Value, "yyMMdd", where);
        if (found.Groups["booked"].Success && DateOnly.TryParseExact(day.Year.ToString(CultureInfo.InvariantCulture) + found.Groups["booked"].Value, "yyyyMMdd", out var booked))
        {
            // The booking day has no year: around the turn of one it is the nearer of the two.
            if (booked.DayNumber - day.DayNumber > 180) booked = booked.AddYears(-1);
            if (day.DayNumber - booked.DayNumber > 180) booked = booked.AddYears(1);
            day = booked;
        }

        var amount = Figures.Amount(found.Groups["amount"].Value, currency, where);
        var reference = found.Groups["reference"].Value;
        var bank = reference.Contains("//", StringComparison.Ordinal) ? reference[(reference.IndexOf("//", StringComparison.Ordinal) + 2)..].Trim() : "";
        return new StatementLine(day, found.Groups["sign"].Value is "D" or "RC" ? -amount : amount, "", "", "", "", Figures.Short(bank, 80));
    }

    private static StatementLine WithDetails(StatementLine line, string value)
    {
        var flat = value.ReplaceLineEndings("");
        if (flat.Contains("?20", StringComparison.Ordinal) || flat.Contains("?32", StringComparison.Ordinal))
        {
            var parts = flat.Split('?').Skip(1).Where(p => p.Length >= 2).Select(p => (Code: p[..2], Text: p[2..])).ToList();
            string Of(Func<string, bool> codes, string between = "") => string.Join(between, parts.Where(p => codes(p.Code)).Select(p => p.Text));
            return line with
            {
                Text = Figures.Short(Of(c => string.CompareOrdinal(c, "20") >= 0 && string.CompareOrdinal(c, "29") <= 0 || string.CompareOrdinal(c, "60") >= 0 && string.CompareOrdinal(c, "63") <= 0)),
                Name = Figures.Short(Of(c => c is "32" or "33"), 140),
                Account = Figures.Short(Of(c => c == "31"), 40),
            };
        }

        if (flat.StartsWith('/') && flat.Contains("/NAME/", StringComparison.Ordinal) | flat.Contains("/REMI/", StringComparison.Ordinal))
        {
            string Between(string name)
            {
                var at = flat.IndexOf($"/{name}/", StringComparison.Ordinal);
                if (at < 0) return "";
                var rest = flat[(at + name.Length + 2)..];
                var end = StrokeName().Match(rest);
                return end.Success ? rest[..end.Index] : rest;
            }

            return line with { Text = Figures.Short(Between("REMI")), Name = Figures.Short(Between("NAME"), 140), Account = Figures.Short(Between("IBAN"), 40) };
        }

        return line with { Text = Figures.Short(value) };
    }

    [GeneratedRegex("/(NAME|REMI|IBAN|BIC|EREF|MARF|CSID|TRTP|ORDP|BENM|ISDT|PREF|RTRN|SVCL|CNTP)/")]
    private static partial Regex StrokeName();

    /// <summary>Fields with the lines that go on from them.</summary>
    private static IEnumerable<(string Tag, string Value)> Fields(string text)
    {
        string? tag = null;
        var value = new StringBuilder();
        foreach (var line in text.ReplaceLineEndings("\n").Split('\n'))
        {
            var start = FieldStart().Match(line);
            if (start.Success || line is "-" or "-}")
            {
                if (tag is not null) yield return (tag, value.ToString());
                tag = start.Success ? start.Groups[1].Value : null;
                value.Clear();
                if (start.Success) value.Append(line[start.Length..]);
            }
            else if (tag is not null)
            {
                value.Append('\n').Append(line);
            }
        }

        if (tag is not null) yield return (tag, value.ToString());
    }

    [GeneratedRegex(@"^:(\d{2}[A-Z]?):")]
    private static partial Regex FieldStart();
}
