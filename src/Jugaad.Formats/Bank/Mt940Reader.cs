using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Trade;

namespace Jugaad.Formats.Bank;

/// <summary>
/// SWIFT customer statements, MT940, read line by line. What field 86 says is read by <see cref="Mt940Details"/>.
/// </summary>
internal static partial class Mt940Reader
{
    [GeneratedRegex(
        @"^(?<value>\d{6})(?<booked>\d{4})?(?<sign>R?[CD])(?<letter>[A-Z])?(?<amount>\d+,\d*)(?<kind>[A-Z][A-Z0-9]{3})(?<reference>[^\n]*)"
    )]
    private static partial Regex Movement();

    [GeneratedRegex(@"^(?<sign>[CD])(?<day>\d{6})(?<currency>[A-Z]{3})(?<amount>\d+,\d*)")]
    private static partial Regex Balance();

    internal static IReadOnlyList<StatementFile> Read(TextReader text)
    {
        var statements = new List<StatementFile>();
        var open = new Open();
        // What field 86 tells of is the movement right before it; behind the closing balance it tells of the whole
        // statement.
        var before = "";
        foreach (var (tag, value) in Fields(text))
        {
            switch (tag)
            {
                case "20":
                    if (open.Begun)
                        statements.Add(open.CutOff(statements));
                    open = new Open();
                    break;
                case "25":
                    open.Account = AccountOf(value);
                    break;
                case "28" or "28C":
                    open.Number = value.Trim();
                    break;
                case "60F" or "60M":
                    if (open.Closed)
                        open = new Open { Account = open.Account };
                    (open.Currency, open.Opening) = Read60(value, tag);
                    break;
                case "61":
                    open.Lines.Add(
                        Line(
                            value,
                            open.Currency
                                ?? throw new RefusalException(
                                    "file",
                                    "A movement (61) stands before the opening balance (60)."
                                ),
                            open.Lines.Count + 1
                        )
                    );
                    break;
                case "86" when before == "61":
                    open.Lines[^1] = Mt940Details.Read(open.Lines[^1], value);
                    break;
                case "62F" or "62M":
                    var (_, closing) = Read60(value, tag);
                    statements.Add(open.Close(closing));
                    break;
            }

            before = tag;
        }

        if (open.Begun && statements.Count > 0)
        {
            var whole = statements[^1];
            statements[^1] = whole with
            {
                Remarks =
                [
                    .. whole.Remarks,
                    $"The file ends in the middle of another statement{(open.Number.Length > 0 ? $", number {open.Number}" : "")}, with {open.Lines.Count} movements and no closing balance; that one was left out. Ask the bank for the file again.",
                ],
            };
        }

        return statements.Count > 0
            ? statements
            : throw new RefusalException(
                "file",
                "There is no whole statement in this file: a closing balance (field 62) is missing."
            );
    }

    /// <summary>A statement that is being read.</summary>
    private sealed class Open
    {
        public string Account { get; set; } = "";

        public string Number { get; set; } = "";

        public Currency? Currency { get; set; }

        public (long Amount, DateOnly Day)? Opening { get; set; }

        public List<StatementLine> Lines { get; } = [];

        public bool Closed { get; private set; }

        /// <summary>Whether something of it was read that has no end yet.</summary>
        public bool Begun => !Closed && (Opening is not null || Lines.Count > 0);

        public StatementFile Close((long Amount, DateOnly Day) closing)
        {
            Closed = true;
            return new StatementFile(
                Account,
                Currency
                    ?? throw new RefusalException("file", "A closing balance (62) stands before the opening one (60)."),
                Number,
                Opening?.Day,
                closing.Day,
                Opening?.Amount,
                closing.Amount,
                [.. Lines],
                []
            )
            {
                Format = "MT940",
            };
        }

        /// <summary>
        /// A statement within a file whose end is missing is taken in by its lines, and that is said.
        /// </summary>
        public StatementFile CutOff(List<StatementFile> whole)
        {
            Closed = true;
            return new StatementFile(
                Account,
                Currency!,
                Number,
                Opening?.Day,
                null,
                Opening?.Amount,
                null,
                [.. Lines],
                [
                    $"Statement {whole.Count + 1} of the file{(Number.Length > 0 ? $", number {Number}," : "")} has no closing balance: it is cut off, and movements of it may be missing.",
                ]
            )
            {
                Format = "MT940",
            };
        }
    }

    /// <summary>An account may stand behind the bank's code and a stroke, and before its currency.</summary>
    private static string AccountOf(string value)
    {
        var account = value.Split('/')[^1].Trim();
        if (account.Length <= 3 || !Currency.TryOf(account[^3..].ToUpperInvariant(), out _))
            return account;
        var bare = account[..^3].Trim();
        return bare.All(char.IsAsciiDigit) || IsIban(bare) || !IsIban(account) ? bare : account;
    }

    private static bool IsIban(string text)
    {
        try
        {
            Iban.Check(text, "file");
            return text.Length > 4 && char.IsAsciiLetter(text[0]);
        }
        catch (RefusalException)
        {
            return false;
        }
    }

    private static (Currency Currency, (long Amount, DateOnly Day)) Read60(string value, string tag)
    {
        var found = Balance().Match(value);
        if (!found.Success)
            throw new RefusalException("file", $"Field {tag}: “{Figures.Short(value, 30)}” is not a balance.");
        var currency = Figures.CurrencyOf(found.Groups["currency"].Value, $"Field {tag}");
        var amount = Figures.Amount(found.Groups["amount"].Value, currency, $"Field {tag}", ',');
        return (
            currency,
            (
                found.Groups["sign"].Value == "D" ? -amount : amount,
                Figures.Day(found.Groups["day"].Value, "yyMMdd", $"Field {tag}")
            )
        );
    }

    private static StatementLine Line(string value, Currency currency, int count)
    {
        var where = $"Movement {count}";
        var found = Movement().Match(value);
        if (!found.Success)
            throw new RefusalException("file", $"{where} (field 61): “{Figures.Short(value, 40)}” cannot be read.");
        var day = Figures.Day(found.Groups["value"].Value, "yyMMdd", where);
        if (
            found.Groups["booked"].Success
            && DateOnly.TryParseExact(
                day.Year.ToString(CultureInfo.InvariantCulture) + found.Groups["booked"].Value,
                "yyyyMMdd",
                out var booked
            )
        )
        {
            // The booking day has no year: around the turn of one it is the nearer of the two.
            if (booked.DayNumber - day.DayNumber > 180)
                booked = booked.AddYears(-1);
            if (day.DayNumber - booked.DayNumber > 180)
                booked = booked.AddYears(1);
            day = booked;
        }

        var amount = Figures.Amount(found.Groups["amount"].Value, currency, where, ',');
        var reference = found.Groups["reference"].Value;
        var bank = reference.Contains("//", StringComparison.Ordinal)
            ? reference[(reference.IndexOf("//", StringComparison.Ordinal) + 2)..].Trim()
            : "";
        // RC takes a credit back, RD a debit.
        var sign = found.Groups["sign"].Value;
        return new StatementLine(day, sign is "D" or "RC" ? -amount : amount, "", "", "", "", Figures.Short(bank, 80))
        {
            Returned = sign.Length == 2,
        };
    }

    /// <summary>Fields with the lines that go on from them.</summary>
    private static IEnumerable<(string Tag, string Value)> Fields(TextReader text)
    {
        string? tag = null;
        var value = new StringBuilder();
        while (text.ReadLine() is { } read)
        {
            var line = read.TrimEnd('\r');
            var start = FieldStart().Match(line);
            if (start.Success || line is "-" or "-}")
            {
                if (tag is not null)
                    yield return (tag, value.ToString());
                tag = start.Success ? start.Groups[1].Value : null;
                value.Clear();
                if (start.Success)
                    value.Append(line, start.Length, line.Length - start.Length);
            }
            else if (tag is not null && value.Length < 10_000)
            {
                value.Append('\n').Append(line);
            }
        }

        if (tag is not null)
            yield return (tag, value.ToString());
    }

    [GeneratedRegex(@"^:(\d{2}[A-Z]?):")]
    private static partial Regex FieldStart();
}
