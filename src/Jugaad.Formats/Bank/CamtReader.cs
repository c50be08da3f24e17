using System.Globalization;
using System.Xml;
using System.Xml.Linq;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Bank-to-customer statements, ISO 20022 camt.053, versions 02, 08 and later: only local names are looked at, as the versions
/// differ in little else. Entries that sum up a batch are split where their details come to them.
/// </summary>
internal static class CamtReader
{
    internal static IReadOnlyList<StatementFile> Read(byte[] file)
    {
        XDocument document;
        try
        {
            var settings = new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, MaxCharactersInDocument = 2L * StatementReader.MostBytes };
            using var reader = XmlReader.Create(new MemoryStream(file), settings);
            document = XDocument.Load(reader);
        }
        catch (XmlException broken)
        {
            throw new RefusalException("file", $"The XML is broken or not allowed at line {broken.LineNumber}, position {broken.LinePosition}. Ask the bank for the file again.");
        }

        var statements = document.Descendants().Where(e => e.Name.LocalName == "Stmt").Select(Statement).ToList();
        return statements.Count > 0 ? statements : throw new RefusalException("file", "There is no statement in this file.");
    }

    private static StatementFile Statement(XElement statement)
    {
        var account = At(statement, "Acct");
        var id = Text(At(account, "Id", "IBAN")) is { Length: > 0 } iban ? iban : Text(At(account, "Id", "Othr", "Id"));
        var code = Text(At(account, "Ccy")) is { Length: > 0 } ccy ? ccy : statement.Descendants().Select(e => e.Attribute("Ccy")?.Value).FirstOrDefault(c => c is not null) ?? "";
        var currency = Figures.CurrencyOf(code, "The account's currency");
        var remarks = new List<string>();
        var lines = new List<StatementLine>();
        var entries = All(statement, "Ntry").ToList();
        for (var i = 0; i < entries.Count; i++) lines.AddRange(Entry(entries[i], currency, $"Entry {i + 1}", remarks));
        var period = At(statement, "FrToDt");
        return new StatementFile(id, currency, Text(At(statement, "ElctrncSeqNb")) is { Length: > 0 } sequence ? sequence : Text(At(statement, "LglSeqNb")) is { Length: > 0 } legal ? legal : Text(At(statement, "Id")),
            DayOf(Text(At(period, "FrDtTm"))) ?? DayOf(Text(At(period, "FrDt"))), DayOf(Text(At(period, "ToDtTm"))) ?? DayOf(Text(At(period, "ToDt"))),
            Balance(statement, currency, "OPBD", "PRCD"), Balance(statement, currency, "CLBD"), lines, remarks);
    }

    private static IEnumerable<StatementLine> Entry(XElement entry, Currency currency, string where, List<string> remarks)
    {
        var status = Text(At(entry, "Sts", "Cd")) is { Length: > 0 } coded ? coded : Text(At(entry, "Sts"));
        if (status is not ("" or "BOOK"))
        {
            remarks.Add($"{where} is not booked yet ({status}) and was left out.");
            yield break;
        }

        var sign = Sign(entry);
        var amount = sign * Figures.Amount(Text(At(entry, "Amt")), currency, where);
        var date = DayOf(Text(At(entry, "BookgDt", "Dt"))) ?? DayOf(Text(At(entry, "BookgDt", "DtTm"))) ?? DayOf(Text(At(entry, "ValDt", "Dt")))
            ?? throw new RefusalException("file", $"{where} has no booking day.");
        var reference = Text(At(entry, "AcctSvcrRef"));
        var details = All(entry, "NtryDtls").SelectMany(d => All(d, "TxDtls")).ToList();
        var parts = details.ConvertAll(d => Part(d, currency, where));
        if (details.Count > 1 && parts.TrueForAll(p => p is not null) && parts.Sum(p => p!.Value) == Math.Abs(amount))
        {
            for (var i = 0; i < details.Count; i++)
            {
                var own = Text(At(details[i], "Refs", "AcctSvcrRef"));
                yield return Line(details[i], entry, date, sign * parts[i]!.Value, own.Length > 0 && own != reference ? own : reference.Length > 0 ? $"{reference}/{i + 1}" : "");
            }

            yield break;
        }

        if (details.Count > 1) remarks.Add($"{where} sums up {details.Count} payments whose amounts the bank does not give; it is one line here.");
        yield return Line(details.Count == 1 ? details[0] : null, entry, date, amount, reference);
    }

    private static StatementLine Line(XElement? details, XElement entry, DateOnly date, long amount, string reference)
    {
        var parties = At(details, "RltdPties");
        var other = amount > 0 ? "Dbtr" : "Cdtr";
        // From version 08 on, a party's name stands one level deeper.
        var name = Text(At(parties, other, "Nm")) is { Length: > 0 } near ? near : Text(At(parties, other, "Pty", "Nm"));
        var account = Text(At(parties, other + "Acct", "Id", "IBAN")) is { Length: > 0 } iban ? iban : Text(At(parties, other + "Acct", "Id", "Othr", "Id"));
        var remittance = At(details, "RmtInf");
        var text = string.Join(' ', All(remittance, "Ustrd").Select(Text));
        if (text.Length == 0) text = Text(At(details, "AddtlTxInf")) is { Length: > 0 } more ? more : Text(At(entry, "AddtlNtryInf"));
        var structured = All(remittance, "Strd").Select(s => Text(At(s, "CdtrRefInf", "Ref"))).FirstOrDefault(r => r.Length > 0) ?? "";
        return new StatementLine(date, amount, Figures.Short(name, 140), Figures.Short(account, 40), Figures.Short(text), Figures.Short(structured, 40), Figures.Short(reference, 80));
    }

    private static long? Part(XElement details, Currency currency, string where)
    {
        foreach (var amount in new[] { At(details, "Amt"), At(details, "AmtDtls", "TxAmt", "Amt") })
            if (amount is not null && (amount.Attribute("Ccy")?.Value ?? currency.Code) == currency.Code) return Math.Abs(Figures.Amount(Text(amount), currency, where));
        return null;
    }

    /// <summary>Money in is above zero; a reversal says with its own mark which way the money goes.</summary>
    private static int Sign(XElement element) => Text(At(element, "CdtDbtInd")) == "DBIT" ? -1 : 1;

    private static long? Balance(XElement statement, Currency currency, params string[] kinds)
    {
        foreach (var kind in kinds)
            if (All(statement, "Bal").FirstOrDefault(b => Text(At(b, "Tp", "CdOrPrtry", "Cd")) == kind) is { } balance)
                return Sign(balance) * Figures.Amount(Text(At(balance, "Amt")), currency, $"Balance {kind}");
        return null;
    }

    private static DateOnly? DayOf(string text) => text.Length >= 10 && DateOnly.TryParseExact(text[..10], "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;

    private static IEnumerable<XElement> All(XElement? element, string name) => element?.Elements().Where(e => e.Name.LocalName == name) ?? [];

    private static XElement? At(XElement? element, params string[] path) => path.Aggregate(element, (at, name) => All(at, name).FirstOrDefault());

    private static string Text(XElement? element) => element is null || element.HasElements ? "" : element.Value.Trim();
}
