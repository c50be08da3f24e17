using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Formats.Tables;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Statements as CSV, read by the heads of their columns as the bookkeeper said once for the account.
/// </summary>
internal static class CsvStatement
{
    /// <summary>How banks of the larger European languages write which way money went.</summary>
    private static readonly HashSet<string> Outgoing = new(StringComparer.OrdinalIgnoreCase)
    {
        "D",
        "DR",
        "DBIT",
        "DEBIT",
        "DEBET",
        "S",
        "SOLL",
        "AF",
        "W",
        "OUT",
        "-",
        "DÉBIT",
        "DEBE",
        "DARE",
        "DEEBET",
        "MA",
    };
    private static readonly HashSet<string> Incoming = new(StringComparer.OrdinalIgnoreCase)
    {
        "C",
        "CR",
        "K",
        "CRDT",
        "CREDIT",
        "KREDIT",
        "H",
        "HABEN",
        "BIJ",
        "IN",
        "+",
        "CRÉDIT",
        "HABER",
        "AVERE",
        "KREEDIT",
        "WN",
    };

    internal static IReadOnlyList<string> HeadsOf(byte[] file)
    {
        try
        {
            return CsvTable.Read(file).Columns;
        }
        catch (RefusalException)
        {
            return [];
        }
    }

    internal static StatementFile Read(byte[] file, CsvColumns? columns, Currency currency)
    {
        var table = CsvTable.Read(file);
        if (columns is null || columns.Date.Length == 0 || (columns.Amount.Length == 0 && columns.Out.Length == 0))
            throw new RefusalException(
                "columns",
                "Say which column has the day and which the amount; it is remembered for this account."
            );
        var refusals = new Refusals();
        int? At(string head)
        {
            if (head.Length == 0)
                return null;
            var at = table
                .Columns.ToList()
                .FindIndex(c => c.Trim().Equals(head.Trim(), StringComparison.OrdinalIgnoreCase));
            if (at < 0)
                refusals.Add("columns", $"There is no column “{head}” in this file. Choose its columns anew.");
            return at < 0 ? null : at;
        }

        var (date, amount, outgoing, side) = (At(columns.Date), At(columns.Amount), At(columns.Out), At(columns.Side));
        var (name, account, text, reference, bank) = (
            At(columns.Name),
            At(columns.Account),
            At(columns.Text),
            At(columns.Reference),
            At(columns.BankReference)
        );
        refusals.ThrowIfAny();
        string Of(IReadOnlyList<string> row, int? at) => at is { } column ? row[column] : "";
        var rows = table
            .Rows.Select((Row, I) => (Row, Where: $"Row {I + 2}"))
            .Where(r => Of(r.Row, amount).Trim().Length + Of(r.Row, outgoing).Trim().Length > 0)
            .ToList();
        var days = DayOrder.Read(rows.ConvertAll(r => r.Row[date!.Value].Trim()), columns.DateOrder, "columns");
        var mark = QifReader.Mark(
            rows.SelectMany(r => new[] { Of(r.Row, amount), Of(r.Row, outgoing) }),
            columns.DecimalMark,
            currency
        );
        var lines = new List<StatementLine>();
        foreach (var ((row, where), day) in rows.Zip(days))
        {
            long Read(int? at) =>
                Of(row, at).Trim().Length == 0 ? 0 : Figures.Amount(Of(row, at), currency, where, mark);
            // With two columns, money out counts below zero however its column writes it.
            var minor = outgoing is null ? Read(amount) : Read(amount) - Math.Abs(Read(outgoing));
            if (minor == 0)
                continue;
            if (side is not null)
                minor = Math.Abs(minor) * Way(Of(row, side).Trim(), where);
            lines.Add(
                new StatementLine(
                    day,
                    minor,
                    Figures.Short(Of(row, name), 140),
                    Figures.Short(Of(row, account), 40),
                    Figures.Short(Of(row, text)),
                    Figures.Short(Of(row, reference), 40),
                    Figures.Short(Of(row, bank), 80)
                )
            );
        }

        return new StatementFile(
            "",
            currency,
            "",
            null,
            null,
            null,
            null,
            lines,
            ["CSV gives no balances, so what is missing between two files cannot be seen."]
        )
        {
            Format = "CSV",
        };
    }

    private static int Way(string word, string where) =>
        Outgoing.Contains(word) ? -1
        : Incoming.Contains(word) ? 1
        : throw new RefusalException(
            "columns",
            $"{where}: “{Figures.Short(word, 20)}” does not say whether money came in or went out. Choose another column, or leave it out."
        );
}
