using System.Globalization;
using System.Xml.Linq;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;

namespace Jugaad.Outside;

/// <summary>Writes statements as ISO 20022 camt.053.001.08, as the bank stand-in gives them out.</summary>
public static class CamtWriter
{
    private static readonly XNamespace Ns = "urn:iso:std:iso:20022:tech:xsd:camt.053.001.08";

    /// <param name="opening">Minor units.</param>
    public static byte[] Write(
        string iban,
        Currency currency,
        string number,
        DateOnly from,
        DateOnly until,
        long opening,
        IReadOnlyList<StatementLine> lines
    )
    {
        XElement E(string name, params object[] content) => new(Ns + name, content);
        string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        XElement Amount(string name, long minor) =>
            E(name, new XAttribute("Ccy", currency.Code), new Money(Math.Abs(minor), currency).ToString());
        string Side(long minor) => minor < 0 ? "DBIT" : "CRDT";
        XElement Balance(string kind, long minor, DateOnly day) =>
            E(
                "Bal",
                E("Tp", E("CdOrPrtry", E("Cd", kind))),
                Amount("Amt", minor),
                E("CdtDbtInd", Side(minor)),
                E("Dt", E("Dt", Day(day)))
            );
        XElement Entry(StatementLine line)
        {
            var other = line.Amount > 0 ? "Dbtr" : "Cdtr";
            var parties = E("RltdPties", E(other, E("Pty", E("Nm", line.Name))));
            if (line.Account.Length > 0)
                parties.Add(E(other + "Acct", E("Id", E("IBAN", line.Account))));
            var remittance = E("RmtInf");
            if (line.Text.Length > 0)
                remittance.Add(E("Ustrd", line.Text));
            if (line.Reference.Length > 0)
                remittance.Add(
                    E("Strd", E("CdtrRefInf", E("Tp", E("CdOrPrtry", E("Cd", "SCOR"))), E("Ref", line.Reference)))
                );
            return E(
                "Ntry",
                Amount("Amt", line.Amount),
                E("CdtDbtInd", Side(line.Amount)),
                E("Sts", E("Cd", "BOOK")),
                E("BookgDt", E("Dt", Day(line.Date))),
                E("ValDt", E("Dt", Day(line.Date))),
                E("AcctSvcrRef", line.BankReference),
                E(
                    "NtryDtls",
                    E(
                        "TxDtls",
                        E("Refs", E("AcctSvcrRef", line.BankReference)),
                        Amount("Amt", line.Amount),
                        E("CdtDbtInd", Side(line.Amount)),
                        parties,
                        remittance
                    )
                )
            );
        }

        var statement = E(
            "Stmt",
            E("Id", $"{iban}-{number}"),
            E("ElctrncSeqNb", number),
            E("CreDtTm", Day(until) + "T23:59:00"),
            E("FrToDt", E("FrDtTm", Day(from) + "T00:00:00"), E("ToDtTm", Day(until) + "T23:59:59")),
            E("Acct", E("Id", E("IBAN", iban)), E("Ccy", currency.Code)),
            Balance("OPBD", opening, from),
            Balance("CLBD", opening + lines.Sum(l => l.Amount), until),
            lines.Select(Entry)
        );
        var document = new XDocument(
            new XDeclaration("1.0", "UTF-8", null),
            E(
                "Document",
                E(
                    "BkToCstmrStmt",
                    E("GrpHdr", E("MsgId", $"{iban}-{number}"), E("CreDtTm", Day(until) + "T23:59:00")),
                    statement
                )
            )
        );
        using var file = new MemoryStream();
        document.Save(file);
        return file.ToArray();
    }
}
