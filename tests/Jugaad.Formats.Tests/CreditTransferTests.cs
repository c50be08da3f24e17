using System.Xml.Linq;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Bank;

namespace Jugaad.Formats.Tests;

/// <summary>Payment files by ISO 20022, pain.001.001.09.</summary>
public sealed class CreditTransferTests
{
    private static readonly XNamespace Ns = "urn:iso:std:iso:20022:tech:xsd:pain.001.001.09";
    private static readonly DateOnly Day = new(2025, 9, 17);

    private static Refund Refund(
        string number,
        long amount,
        string name,
        string bic = "",
        string currency = "EUR",
        string reference = ""
    ) =>
        new(
            1,
            number,
            1,
            Day,
            1,
            Currency.Of(currency),
            amount,
            MoneySide.Plain(Currency.Of(currency), amount, 1),
            new Payee(name, "EE471000001020145685", bic),
            reference,
            new Booking(BookingKind.Refund, Day, 1, "me")
        );

    private static XElement Write(string currency, params Refund[] refunds) =>
        XDocument
            .Parse(
                System
                    .Text.Encoding.UTF8.GetString(
                        new CreditTransferWriter().Write(
                            "PAY-20250917-1",
                            Day,
                            Day.AddDays(1),
                            new PayingAccount("Tern & Tackle Sail Loft OÜ", "EE039922001234567890", "SADMEE2X"),
                            Currency.Of(currency),
                            refunds
                        )
                    )
                    .TrimStart('\uFEFF')
            )
            .Root!;

    private static string Of(XElement root, string path) =>
        path.Split('/')
            .Aggregate(
                root,
                (at, name) =>
                    at.Element(Ns + name) ?? throw new Xunit.Sdk.XunitException($"no {name} in {at.Name.LocalName}")
            )
            .Value;

    [Fact]
    public void Head_and_payment_say_how_many_and_how_much()
    {
        var root = Write(
            "EUR",
            Refund("REF-2025-0001", 15_000, "Skerry Charter OÜ"),
            Refund("REF-2025-0002", 5, "Liis Meriväli", "HABAEE2X")
        );
        foreach (var at in new[] { "CstmrCdtTrfInitn/GrpHdr", "CstmrCdtTrfInitn/PmtInf" })
            (Of(root, at + "/NbOfTxs"), Of(root, at + "/CtrlSum")).ShouldBe(("2", "150.05"));
        Of(root, "CstmrCdtTrfInitn/PmtInf/ReqdExctnDt/Dt").ShouldBe("2025-09-18");
        Of(root, "CstmrCdtTrfInitn/PmtInf/DbtrAcct/Id/IBAN").ShouldBe("EE039922001234567890");
        Of(root, "CstmrCdtTrfInitn/PmtInf/PmtTpInf/SvcLvl/Cd").ShouldBe("SEPA");
        Of(root, "CstmrCdtTrfInitn/PmtInf/Dbtr/Nm").ShouldBe("Tern   Tackle Sail Loft OU");
    }

    [Fact]
    public void Each_transfer_has_its_amount_payee_and_words_in_plain_letters()
    {
        var transfers = Write(
                "EUR",
                Refund("REF-2025-0001", 15_000, "Skerry Õ. Ähm", reference: "Zurück & danke €"),
                Refund("REF-2025-0002", 5, "Liis", "HABAEE2X")
            )
            .Descendants(Ns + "CdtTrfTxInf")
            .ToList();
        (
            Of(transfers[0], "PmtId/EndToEndId"),
            Of(transfers[0], "Amt/InstdAmt"),
            Of(transfers[0], "Cdtr/Nm"),
            Of(transfers[0], "CdtrAcct/Id/IBAN")
        ).ShouldBe(("REF-2025-0001", "150.00", "Skerry O. Ahm", "EE471000001020145685"));
        Of(transfers[0], "RmtInf/Ustrd").ShouldBe("Zuruck   danke");
        Of(transfers[0], "CdtrAgt/FinInstnId/Othr/Id").ShouldBe("NOTPROVIDED");
        Of(transfers[1], "CdtrAgt/FinInstnId/BICFI").ShouldBe("HABAEE2X");
        Of(transfers[1], "RmtInf/Ustrd").ShouldBe("REF-2025-0002");
    }

    [Fact]
    public void In_another_currency_it_is_no_sepa_transfer_and_charges_are_shared()
    {
        var root = Write("SEK", Refund("REF-1", 990, "Varv", currency: "SEK"));
        root.Descendants(Ns + "PmtTpInf").ShouldBeEmpty();
        Of(root, "CstmrCdtTrfInitn/PmtInf/ChrgBr").ShouldBe("SHAR");
        root.Descendants(Ns + "InstdAmt").Single().Attribute("Ccy")!.Value.ShouldBe("SEK");
    }
}
