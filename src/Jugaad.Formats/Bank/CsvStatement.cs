using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Formats.Tables;

namespace Jugaad.Formats.Bank;

/// <summary>Statements as CSV, read by the heads of their columns as the bookkeeper said once for the account.</summary>
internal static class CsvStatement
{
    private static readonly string[] Patterns = ["yyyy-MM-dd", "dd.MM.yyyy", "d.M.yyyy", "dd/MM/yyyy", "d/M/yyyy", "MM/dd/yyyy", "yyyyMMdd", "dd-MM-yyyy", "yyyy/MM/dd", "dd.MM.yy"];

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
            throw new RefusalException("columns", "Say which column has the day and which the amount; it is remembered for this account.");
        var refusals = new Refusals();
        int? At(string head)
        {
            if (head.Length == 0) return null;
            var at = table.Columns.ToList().FindIndex(c => c.Trim().Equals(head.Trim(), StringComparison.OrdinalIgnoreCase));
            if (at < 0) refusals.Add("columns", $"There is no column “{head}” in this file. Choose its columns anew.");
            return at < 0 ? null : at;
        }

        var (date, amount, outgoing) = (At(columns.Date), At(columns.Amount), At(columns.Out));
        var (name, account, text, reference, bank) = (At(columns.Name), At(columns.Account), At(columns.Text), At(columns.Reference), At(columns.BankReference));
        refusals.ThrowIfAny();
        var days = table.Rows.Select(r => r[date!.Value].Trim()).ToList();
        var pattern = columns.DatePattern.Length > 0 ? columns.DatePattern : PatternOf(days);
        var lines = new List<StatementLine>();
        for (var i = 0; i < table.Rows.Count; i++)
        {
            var row = table.Rows[i];
            string Of(int? at) => at is { } column ? row[column] : "";
            var where = $"Row {i + 2}";
            if (row.All(c => c.Trim().Length == 0)) continue;
            long Read(int? at) => Of(at).Trim().Length == 0 ? 0 : Figures.Amount(Of(at), currency, where);
            // With two columns, money out counts below zero however its column writes it.
            var minor = outgoing is null ? Read(amount) : Read(amount) - Math.Abs(Read(outgoing));
            if (minor == 0) continue;
            lines.Add(new StatementLine(Figures.Day(days[i], pattern, where), minor, Figures.Short(Of(name), 140), Figures.Short(Of(account), 40), Figures.Short(Of(text)), Figures.Short(Of(reference), 40), Figures.Short(Of(bank), 80)));
        }

        return new StatementFile("", currency, "", null, null, null, null, lines, ["CSV gives no balances, so what is missing between two files cannot be seen."]);
    }

    private static string PatternOf(List<string> days) =>
        Array.Find(Patterns, p => days.Where(d => d.Length > 0).All(d => DateOnly.TryParseExact(d, p, CultureInfo.InvariantCulture, DateTimeStyles.None, out _)))
        ?? throw new RefusalException("columns", $"The days of this file, such as “{days.FirstOrDefault()}”, cannot be read. Choose another column, or say how days are written.");
}
