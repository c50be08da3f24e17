using System.Globalization;
using System.Text;
using System.Xml.Linq;
using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Outside;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Writes credit transfers as ISO 20022 pain.001.001.09: one payment information with all transfers, in euro as SEPA
/// transfers. Texts keep to the Latin letters, digits and signs that every bank takes.
/// </summary>
public sealed class CreditTransferWriter : IPaymentFileWriter
{
    private static readonly XNamespace Ns = "urn:iso:std:iso:20022:tech:xsd:pain.001.001.09";
    private const string Signs = "/-?:().,'+ ";

    /// <inheritdoc/>
    public byte[] Write(
        string reference,
        DateOnly madeOn,
        DateOnly payOn,
        PayingAccount payer,
        Currency currency,
        IReadOnlyList<Refund> refunds
    )
    {
        XElement E(string name, params object[] content) => new(Ns + name, content);
        string Amount(long minor) => new Money(minor, currency).ToString();
        // An agent whose BIC nobody said is said to be found by the account's number.
        XElement Agent(string name, string bic) =>
            E(name, E("FinInstnId", bic.Length > 0 ? E("BICFI", bic) : E("Othr", E("Id", "NOTPROVIDED"))));
        var sepa = currency.Code == "EUR";
        XElement Transfer(Refund refund) =>
            E(
                "CdtTrfTxInf",
                E("PmtId", E("EndToEndId", Plain(refund.Number, 35))),
                E("Amt", E("InstdAmt", new XAttribute("Ccy", currency.Code), Amount(refund.Amount))),
                Agent("CdtrAgt", refund.Bic),
                E("Cdtr", E("Nm", Plain(refund.PayeeName, 70))),
                E("CdtrAcct", E("Id", E("IBAN", refund.Iban))),
                E("RmtInf", E("Ustrd", Plain(refund.Reference.Length > 0 ? refund.Reference : refund.Number, 140)))
            );
        var (count, sum) = (refunds.Count.ToString(CultureInfo.InvariantCulture), Amount(refunds.Sum(r => r.Amount)));
        var payment = E(
            "PmtInf",
            E("PmtInfId", $"{reference}-1"),
            E("PmtMtd", "TRF"),
            E("BtchBookg", "true"),
            E("NbOfTxs", count),
            E("CtrlSum", sum),
            sepa ? E("PmtTpInf", E("SvcLvl", E("Cd", "SEPA"))) : "",
            E("ReqdExctnDt", E("Dt", Day(payOn))),
            E("Dbtr", E("Nm", Plain(payer.Name, 70))),
            E("DbtrAcct", E("Id", E("IBAN", payer.Iban)), E("Ccy", currency.Code)),
            Agent("DbtrAgt", payer.Bic),
            E("ChrgBr", sepa ? "SLEV" : "SHAR"),
            refunds.Select(Transfer)
        );
        var head = E(
            "GrpHdr",
            E("MsgId", reference),
            E("CreDtTm", Day(madeOn) + "T12:00:00"),
            E("NbOfTxs", count),
            E("CtrlSum", sum),
            E("InitgPty", E("Nm", Plain(payer.Name, 70)))
        );
        var document = new XDocument(
            new XDeclaration("1.0", "UTF-8", null),
            E("Document", E("CstmrCdtTrfInitn", head, payment))
        );
        using var file = new MemoryStream();
        document.Save(file);
        return file.ToArray();
    }

    private static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>In the letters that every bank takes: accented ones without accents, all else a blank.</summary>
    private static string Plain(string text, int most)
    {
        var plain = new StringBuilder();
        foreach (var c in text)
        {
            var letters =
                char.IsAsciiLetterOrDigit(c) || Signs.Contains(c, StringComparison.Ordinal)
                    ? c.ToString()
                    : PlainLetters.Of(c.ToString());
            if (!letters.All(l => char.IsAsciiLetterOrDigit(l) || Signs.Contains(l, StringComparison.Ordinal)))
                letters = " ";
            plain.Append(char.IsUpper(c) ? letters.ToUpperInvariant() : letters);
        }

        var cut = plain.Length > most ? plain.ToString(0, most) : plain.ToString();
        return cut.Trim() is { Length: > 0 } said ? said : "-";
    }
}
