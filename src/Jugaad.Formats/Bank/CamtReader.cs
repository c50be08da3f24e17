using System.Globalization;
using System.Xml;
using System.Xml.Linq;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Bank-to-customer statements, ISO 20022 camt.053, versions 02, 08 and later: only local names are looked at, as the
/// versions differ in little else. The file is read in a stream, entry by entry. Entries that sum up a batch are split
/// where their details come to them.
/// </summary>
internal static class CamtReader
{
    /// <summary>Where a rate may stand.</summary>
    private static readonly string[] Changed = ["InstdAmt", "TxAmt", "CntrValAmt"];

    /// <summary>Deeper than this no statement nests.</summary>
    private const int MostDeep = 32;

    /// <summary>More than this no entry and no head of a statement holds.</summary>
    private const int MostElements = 200_000;

    internal static IReadOnlyList<StatementFile> Read(Stream file)
    {
        try
        {
            var settings = new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                IgnoreWhitespace = true,
                IgnoreComments = true,
                IgnoreProcessingInstructions = true,
                MaxCharactersInDocument = 2L * StatementReader.MostBytes,
            };
            using var reader = XmlReader.Create(file, settings);
            var statements = new List<StatementFile>();
            while (reader.Read())
            {
                if (reader.Depth > MostDeep)
                    throw TooDeep(reader);
                if (reader is { NodeType: XmlNodeType.Element, LocalName: "Stmt", IsEmptyElement: false })
                    statements.Add(Statement(reader));
            }

            return statements.Count > 0
                ? statements
                : throw new RefusalException("file", "There is no statement in this file.");
        }
        catch (XmlException broken)
        {
            throw new RefusalException(
                "file",
                $"The XML is broken or not allowed at line {broken.LineNumber}, position {broken.LinePosition}. Ask the bank for the file again."
            );
        }
    }

    /// <summary>Reads on to the end of a statement; its entries are turned into lines as they come.</summary>
    private static StatementFile Statement(XmlReader reader)
    {
        var head = new XElement("Stmt");
        var remarks = new List<string>();
        var lines = new List<StatementLine>();
        var (entries, depth) = (0, reader.Depth);
        Currency? currency = null;
        reader.Read();
        while (reader.Depth > depth)
        {
            if (reader.NodeType != XmlNodeType.Element)
            {
                reader.Read();
                continue;
            }

            var element = Element(reader);
            if (element.Name.LocalName != "Ntry")
            {
                head.Add(element);
                continue;
            }

            currency ??= CurrencyOf(head, element);
            lines.AddRange(Entry(element, currency, $"Entry {++entries}", remarks));
        }

        currency ??= CurrencyOf(head, null);
        var account = At(head, "Acct");
        var id = Text(At(account, "Id", "IBAN")) is { Length: > 0 } iban ? iban : Text(At(account, "Id", "Othr", "Id"));
        var period = At(head, "FrToDt");
        return new StatementFile(
            id,
            currency,
            Text(At(head, "ElctrncSeqNb")) is { Length: > 0 } sequence ? sequence
                : Text(At(head, "LglSeqNb")) is { Length: > 0 } legal ? legal
                : Text(At(head, "Id")),
            DayOf(Text(At(period, "FrDtTm"))) ?? DayOf(Text(At(period, "FrDt"))),
            DayOf(Text(At(period, "ToDtTm"))) ?? DayOf(Text(At(period, "ToDt"))),
            Balance(head, currency, "OPBD", "PRCD"),
            Balance(head, currency, "CLBD"),
            lines,
            remarks
        )
        {
            Format = "CAMT",
        };
    }

    /// <summary>One element with what is in it, bounded in depth and size; the reader then stands behind it.</summary>
    private static XElement Element(XmlReader reader)
    {
        XElement? at = null;
        var elements = 0;
        var depth = reader.Depth;
        do
        {
            if (reader.Depth - depth > MostDeep)
                throw TooDeep(reader);
            switch (reader.NodeType)
            {
                case XmlNodeType.Element:
                    if (++elements > MostElements)
                        throw new RefusalException(
                            "file",
                            "An entry of this file holds more than any bank writes. Ask the bank for the file again."
                        );
                    var element = new XElement(reader.LocalName);
                    if (reader.GetAttribute("Ccy") is { } ccy)
                        element.SetAttributeValue("Ccy", ccy);
                    at?.Add(element);
                    var ends = reader.IsEmptyElement;
                    if (!ends)
                        at = element;
                    else if (at is null)
                    {
                        reader.Read();
                        return element;
                    }

                    break;
                case XmlNodeType.Text or XmlNodeType.CDATA:
                    at!.Add(reader.Value);
                    break;
                case XmlNodeType.EndElement:
                    if (at!.Parent is null)
                    {
                        reader.Read();
                        return at;
                    }

                    at = at.Parent;
                    break;
            }
        } while (reader.Read());
        return at!;
    }

    private static RefusalException TooDeep(XmlReader reader) =>
        new(
            "file",
            $"The XML nests deeper than any statement does{(reader is IXmlLineInfo at ? $", at line {at.LineNumber}" : "")}. Ask the bank for the file again."
        );

    private static Currency CurrencyOf(XElement head, XElement? entry)
    {
        var code = Text(At(head, "Acct", "Ccy")) is { Length: > 0 } ccy
            ? ccy
            : head.Descendants()
                .Concat(entry?.Descendants() ?? [])
                .Select(e => e.Attribute("Ccy")?.Value)
                .FirstOrDefault(c => c is not null)
                ?? "";
        return Figures.CurrencyOf(code, "The account's currency");
    }

    private static IEnumerable<StatementLine> Entry(
        XElement entry,
        Currency currency,
        string where,
        List<string> remarks
    )
    {
        var status = Text(At(entry, "Sts", "Cd")) is { Length: > 0 } coded ? coded : Text(At(entry, "Sts"));
        if (status is not ("" or "BOOK"))
        {
            remarks.Add($"{where} is not booked yet ({status}) and was left out.");
            yield break;
        }

        var sign = Sign(entry);
        var amount = sign * Figures.Amount(Text(At(entry, "Amt")), currency, where, '.');
        var date =
            DayOf(Text(At(entry, "BookgDt", "Dt")))
            ?? DayOf(Text(At(entry, "BookgDt", "DtTm")))
            ?? DayOf(Text(At(entry, "ValDt", "Dt")))
            ?? throw new RefusalException("file", $"{where} has no booking day.");
        var reference = Text(At(entry, "AcctSvcrRef"));
        var details = All(entry, "NtryDtls").SelectMany(d => All(d, "TxDtls")).ToList();
        if (details.Count <= 1)
        {
            yield return Line(details.Count == 1 ? details[0] : null, entry, date, amount, reference, currency, where);
            yield break;
        }

        var parts = details.ConvertAll(d => Part(d, currency, where));
        // What the bank kept for itself is not in what the parts come to.
        var kept = parts.TrueForAll(p => p is not null) ? parts.Sum(p => p!.Value) - Math.Abs(amount) : long.MaxValue;
        var charges = ChargesOf(entry, currency, where) + details.Sum(d => ChargesOf(d, currency, where));
        if (kept != 0 && kept != charges)
        {
            remarks.Add(
                $"{where} sums up {details.Count} payments whose amounts the bank does not give; it is one line here."
            );
            yield return Line(null, entry, date, amount, reference, currency, where);
            yield break;
        }

        for (var i = 0; i < details.Count; i++)
        {
            var own = Text(At(details[i], "Refs", "AcctSvcrRef"));
            yield return Line(
                details[i],
                entry,
                date,
                sign * parts[i]!.Value,
                own.Length > 0 && own != reference ? own
                    : reference.Length > 0 ? $"{reference}/{i + 1}"
                    : "",
                currency,
                where
            );
        }

        if (kept != 0)
            yield return new StatementLine(
                date,
                -sign * kept,
                "",
                "",
                "charges kept of a batch",
                "",
                Figures.Short(reference.Length > 0 ? $"{reference}/charges" : "", 80)
            );
    }

    private static StatementLine Line(
        XElement? details,
        XElement entry,
        DateOnly date,
        long amount,
        string reference,
        Currency currency,
        string where
    )
    {
        var parties = At(details, "RltdPties");
        // A payment that comes back keeps the parties that it had when it went.
        var returned = Text(At(entry, "RvslInd")) is "true" or "1" || At(details, "RtrInf") is not null;
        var other = amount > 0 != returned ? "Dbtr" : "Cdtr";
        if (returned && Name(parties, other).Length == 0)
            other = other == "Dbtr" ? "Cdtr" : "Dbtr";
        var (name, ultimate) = (Name(parties, other), Name(parties, "Ultmt" + other));
        var account = Text(At(parties, other + "Acct", "Id", "IBAN")) is { Length: > 0 } iban
            ? iban
            : Text(At(parties, other + "Acct", "Id", "Othr", "Id"));
        var remittance = At(details, "RmtInf");
        var text = string.Join(' ', All(remittance, "Ustrd").Select(Text));
        if (text.Length == 0)
            text = Text(At(details, "AddtlTxInf")) is { Length: > 0 } more ? more : Text(At(entry, "AddtlNtryInf"));
        var said = new List<string> { text };
        // Whose debt it is counts, not whose account paid it.
        if (ultimate.Length > 0 && ultimate != name && name.Length > 0)
            said.Add($"paid by {name}");
        if (returned)
            said.Add(Reason(At(details, "RtrInf")));
        var charges = ChargesOf(entry, currency, where) + (details is null ? 0 : ChargesOf(details, currency, where));
        if (charges > 0)
            said.Add($"charges of {new Money(charges, currency)} kept");
        var (given, givenIn) = GivenOf(details ?? entry, currency, where);
        if (givenIn is not null)
            said.Add(
                $"{new Money(given, givenIn)} {givenIn} given{(RateOf(details ?? entry) is { Length: > 0 } rate ? $", changed at {Figures.Short(rate, 20)}" : "")}"
            );
        var structured =
            All(remittance, "Strd").Select(s => Text(At(s, "CdtrRefInf", "Ref"))).FirstOrDefault(r => r.Length > 0)
            ?? "";
        return new StatementLine(
            date,
            amount,
            Figures.Short(ultimate.Length > 0 ? ultimate : name, 140),
            Figures.Short(account, 40),
            Figures.Short(string.Join(", ", said.Where(s => s.Length > 0))),
            Figures.Short(structured, 40),
            Figures.Short(reference, 80)
        )
        {
            Returned = returned,
            Given = given,
            GivenIn = givenIn,
            Charge = Math.Max(0, charges),
        };
    }

    /// <summary>
    /// What the payer gave where it was in another currency: as instructed, or as it was before the bank changed it.
    /// </summary>
    private static (long Given, Currency? In) GivenOf(XElement element, Currency currency, string where)
    {
        foreach (var part in new[] { "InstdAmt", "TxAmt" })
            if (
                At(element, "AmtDtls", part, "Amt") is { } amount
                && amount.Attribute("Ccy")?.Value is { } code
                && code != currency.Code
                && Currency.TryOf(code, out var other)
            )
                return (Figures.Amount(Text(amount), other, where, '.'), other);
        return (0, null);
    }

    /// <summary>The rate at which the bank changed it, as it says.</summary>
    private static string RateOf(XElement element) =>
        Changed
            .Select(part => Text(At(element, "AmtDtls", part, "CcyXchg", "XchgRate")))
            .FirstOrDefault(r => r.Length > 0)
        ?? "";

    /// <summary>From version 08 on, a party's name stands one level deeper.</summary>
    private static string Name(XElement? parties, string party) =>
        Text(At(parties, party, "Nm")) is { Length: > 0 } near ? near : Text(At(parties, party, "Pty", "Nm"));

    private static string Reason(XElement? information)
    {
        var words = string.Join(
            ' ',
            new[] { Text(At(information, "Rsn", "Cd")), Text(At(information, "Rsn", "Prtry")) }
                .Concat(All(information, "AddtlInf").Select(Text))
                .Where(t => t.Length > 0)
        );
        return words.Length > 0 ? $"returned: {words}" : "returned";
    }

    /// <summary>
    /// What the bank kept of the amount, in minor units; what it took beside it is an entry of its own.
    /// </summary>
    private static long ChargesOf(XElement element, Currency currency, string where) =>
        All(At(element, "Chrgs"), "Rcrd")
            .Where(r =>
                Text(At(r, "ChrgInclInd")) is "true" or "1"
                && (At(r, "Amt")?.Attribute("Ccy")?.Value ?? currency.Code) == currency.Code
            )
            .Sum(r =>
                (Text(At(r, "CdtDbtInd")) == "CRDT" ? -1 : 1) * Figures.Amount(Text(At(r, "Amt")), currency, where, '.')
            );

    private static long? Part(XElement details, Currency currency, string where)
    {
        foreach (var amount in new[] { At(details, "Amt"), At(details, "AmtDtls", "TxAmt", "Amt") })
            if (amount is not null && (amount.Attribute("Ccy")?.Value ?? currency.Code) == currency.Code)
                return Math.Abs(Figures.Amount(Text(amount), currency, where, '.'));
        return null;
    }

    /// <summary>Money in is above zero; the mark tells which way the money went, also where it goes back.</summary>
    private static int Sign(XElement element) => Text(At(element, "CdtDbtInd")) == "DBIT" ? -1 : 1;

    private static long? Balance(XElement statement, Currency currency, params string[] kinds)
    {
        foreach (var kind in kinds)
            if (All(statement, "Bal").FirstOrDefault(b => Text(At(b, "Tp", "CdOrPrtry", "Cd")) == kind) is { } balance)
                return Sign(balance) * Figures.Amount(Text(At(balance, "Amt")), currency, $"Balance {kind}", '.');
        return null;
    }

    private static DateOnly? DayOf(string text) =>
        text.Length >= 10
        && DateOnly.TryParseExact(
            text[..10],
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var day
        )
            ? day
            : null;

    private static IEnumerable<XElement> All(XElement? element, string name) =>
        element?.Elements().Where(e => e.Name.LocalName == name) ?? [];

    private static XElement? At(XElement? element, params string[] path) =>
        path.Aggregate(element, (at, name) => All(at, name).FirstOrDefault());

    private static string Text(XElement? element) => element is null || element.HasElements ? "" : element.Value.Trim();
}
