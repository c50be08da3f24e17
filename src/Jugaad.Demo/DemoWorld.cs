using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;

namespace Jugaad.Demo;

/// <summary>How a made-up customer behaves.</summary>
/// <param name="PerMonth">Invoices in a usual month.</param>
/// <param name="LateDays">Days after the due day on which they usually pay; below zero for early.</param>
/// <param name="Jitter">How far a payment strays from that.</param>
/// <param name="Instalments">In how many parts they pay an invoice.</param>
/// <param name="Items">Codes of what they usually buy.</param>
internal sealed record Habit(
    string Code,
    double PerMonth,
    int LateDays,
    int Jitter,
    int Instalments,
    string TaxCode,
    string[] Items,
    bool Mails = true,
    double NeverPays = 0
);

/// <summary>The made-up people, places and goods of the demo.</summary>
internal static class DemoWorld
{
    /// <summary>Why no tax is charged, to those who are written to in another language.</summary>
    internal static IReadOnlyList<(string Code, Dictionary<string, string> Said)> TaxReasons { get; } =
    [
        (
            "EU",
            new()
            {
                ["fi"] = "Tavaroiden myynti toiseen jäsenvaltioon, ilman arvonlisäveroa.",
                ["sv"] = "Varuförsäljning till ett annat medlemsland, utan moms.",
            }
        ),
        (
            "RC",
            new()
            {
                ["fi"] = "Käännetty verovelvollisuus: ostaja maksaa arvonlisäveron.",
                ["sv"] = "Omvänd betalningsskyldighet: köparen redovisar momsen.",
            }
        ),
        ("EXP", new() { ["no"] = "Eksport ut av Den europeiske union, uten merverdiavgift." }),
    ];

    internal static readonly DateOnly FirstDay = new(2025, 2, 3);
    internal static readonly DateOnly Today = new(2025, 9, 17);

    internal const string OwnerName = "Maarja Kask";
    internal const string OwnerEmail = "maarja@ternandtackle.example";
    internal const string ClerkName = "Joosep Tamm";
    internal const string ClerkEmail = "joosep@ternandtackle.example";
    internal const string Password = "mend the mainsail first";

    /// <summary>Whoever works with the books besides the owner.</summary>
    internal static (string Name, string Email, PersonRole Role)[] Others { get; } =
    [
        (ClerkName, ClerkEmail, PersonRole.Bookkeeper),
        ("Triin Saarela", "triin@ternandtackle.example", PersonRole.Seller),
        ("Lauri Aruvald", "lauri@aruvald.example", PersonRole.Reader),
    ];

    internal static BusinessDetails Business =>
        new()
        {
            Name = "Tern & Tackle Sail Loft OÜ",
            Address = new Address("Kai 7", "93815", "Nasva Sadam", "EE"),
            RegistrationNumber = "14730926",
            TaxNumber = "EE101188342",
            Email = "office@ternandtackle.example",
            Phone = "+372 5550 0142",
            Website = "ternandtackle.example",
            Electronic = DemoEInvoices.Ours,
            Footer =
                "Sails, covers and rigging, made and mended at Nasva harbour. Goods stay ours until they are paid.",
            HomeCurrency = "EUR",
            CashStep = 0.05m,
            DecimalMark = ".",
            DatePattern = "d MMM yyyy",
        };

    internal static AccountDetails Bank =>
        new()
        {
            Code = "1000",
            Name = "Sadama Pank",
            BankName = "Sadama Pank",
            Iban = Iban.Make("EE", "9922001234567890"),
            Bic = "SADMEE2X",
            OnPapers = true,
        };

    /// <summary>The same bank's account in Swedish crowns.</summary>
    internal static AccountDetails Crowns =>
        new()
        {
            Code = "1050",
            Name = "Sadama Pank, crowns",
            Role = Jugaad.Core.Journal.AccountRole.Money,
            Currency = "SEK",
            BankName = "Sadama Pank",
            Iban = Iban.Make("EE", "9922001234567903"),
            Bic = "SADMEE2X",
            OnPapers = true,
        };

    internal static (CustomerDetails Details, string Terms)[] Customers { get; } =
    [
        (
            new()
            {
                Code = "KORALL",
                Name = "Korall Boatyard OÜ",
                Kind = CustomerKind.Business,
                RegistrationNumber = "10118834",
                TaxNumber = "EE102277456",
                ContactName = "Ruta Org",
                Email = "accounts@korall.example",
                Phone = "+372 5550 0201",
                Address = new("Laevatehase 3", "93812", "Kuressaare", "EE"),
                Currency = "EUR",
                CreditLimit = 1_500_000,
                TradeDiscount = 5,
                Tags = "boatyard, trade",
                RiskGrade = "A",
                Contacts =
                [
                    new("Ruta Org", "accounts@korall.example", "+372 5550 0201", true, true),
                    new("Mihkel Org", "mihkel@korall.example", "+372 5550 0221", Decides: true),
                ],
                Places = [new(null, "Slip 2, east side", new("Laevatehase 5", "93812", "Kuressaare", "EE"))],
            },
            "Trade, 30 days"
        ),
        (
            new()
            {
                Code = "PIIRI",
                Name = "Piirissaar Slipway OÜ",
                Kind = CustomerKind.Business,
                RegistrationNumber = "10227745",
                TaxNumber = "EE103366560",
                ContactName = "Ants Lepik",
                Email = "office@piirislip.example",
                Phone = "+372 5550 0202",
                Address = new("Slipi 12", "60542", "Piirissaar", "EE"),
                Currency = "EUR",
                CreditLimit = 1_200_000,
                TradeDiscount = 5,
                Tags = "boatyard, trade",
            },
            "Trade, 30 days"
        ),
        (
            new()
            {
                Code = "SKERRY",
                Name = "Skerry Charter OÜ",
                Kind = CustomerKind.Business,
                RegistrationNumber = "10336656",
                TaxNumber = "EE104455674",
                ContactName = "Helen Saar",
                Email = "fleet@skerrycharter.example",
                Phone = "+372 5550 0203",
                Address = new("Regati 1", "11911", "Tallinn", "EE"),
                Currency = "EUR",
                CreditLimit = 600_000,
                Tags = "charter",
                PrivateNote = "Keeps close to its limit from June to August.",
            },
            "14 days"
        ),
        (
            new()
            {
                Code = "NORTHP",
                Name = "Northern Point Sailing School MTÜ",
                Kind = CustomerKind.Business,
                RegistrationNumber = "80101123",
                ContactName = "Kadri Vaher",
                Email = "kool@northernpoint.example",
                Phone = "+372 5550 0204",
                Address = new("Neeme tee 40", "74010", "Viimsi", "EE"),
                Currency = "EUR",
            },
            "14 days"
        ),
        (
            new()
            {
                Code = "OARLCK",
                Name = "Oarlock Rowing Club MTÜ",
                Kind = CustomerKind.Business,
                RegistrationNumber = "80101456",
                ContactName = "Treasurer",
                Email = "treasurer@oarlock.example",
                Phone = "+372 5550 0205",
                Address = new("Jõe 9", "51007", "Tartu", "EE"),
                Currency = "EUR",
                PrivateNote = "Pays by instalments; agreed with the board.",
            },
            "30 days"
        ),
        (
            new()
            {
                Code = "MUSEUM",
                Name = "Museum Ship Tuuleratas SA",
                Kind = CustomerKind.PublicBody,
                RegistrationNumber = "90006789",
                ContactName = "Dr. Eha Rand",
                Email = "invoices@tuuleratas.example",
                Phone = "+372 5550 0206",
                Address = new("Lennusadama 6", "10415", "Tallinn", "EE"),
                Currency = "EUR",
            },
            "30 days"
        ),
        (
            new()
            {
                Code = "KAIJO",
                Language = "fi",
                Name = "Kaijonokka Chandlery Oy",
                Kind = CustomerKind.Business,
                RegistrationNumber = "2913457-1",
                TaxNumber = "FI29134571",
                ContactName = "Sanna Virta",
                Email = "ostot@kaijonokka.example",
                Phone = "+358 5550 0207",
                Address = new("Satamakuja 5", "10900", "Hanko", "FI"),
                Currency = "EUR",
                // For a shop on the other shore.
                AlsoIn = "SEK",
            },
            "30 days"
        ),
        (
            new()
            {
                Code = "BRANNO",
                Language = "sv",
                Name = "Brännholm Varvsservice AB",
                Kind = CustomerKind.Business,
                RegistrationNumber = "556731-0841",
                TaxNumber = "SE556731084101",
                ContactName = "Nils Ekdahl",
                Email = "faktura@brannholm.example",
                Phone = "+46 5550 0208",
                Address = new("Varvsgatan 2", "414 51", "Göteborg", "SE"),
                Currency = "SEK",
            },
            "30 days"
        ),
        (
            new()
            {
                Code = "SVART",
                Language = "no",
                Name = "Svartholm Båt AS",
                Kind = CustomerKind.Business,
                RegistrationNumber = "912345688",
                TaxNumber = "NO912345688MVA",
                ContactName = "Ingrid Moen",
                Email = "regnskap@svartholm.example",
                Phone = "+47 5550 0209",
                Address = new("Bryggen 18", "4610", "Kristiansand", "NO"),
                Currency = "NOK",
            },
            "14 days"
        ),
        (
            new()
            {
                Code = "THISTL",
                Name = "Rowan Thistlewood",
                Kind = CustomerKind.Consumer,
                ContactName = "Rowan",
                Email = "rowan@thistlewood.example",
                Phone = "+44 5550 0210",
                Address = new("3 Mill Creek", "PO11 9ZZ", "Hayling Island", "GB"),
                Currency = "GBP",
            },
            "14 days"
        ),
        (
            new()
            {
                Code = "MERIV",
                Name = "Liis Meriväli",
                Kind = CustomerKind.Consumer,
                ContactName = "Liis",
                Email = "liis@merivali.example",
                Phone = "+372 5550 0211",
                Address = new("Kadaka 4", "93811", "Kuressaare", "EE"),
                Currency = "EUR",
            },
            "14 days"
        ),
        (
            new()
            {
                Code = "KALLAS",
                Name = "Otto Rannakallas",
                Kind = CustomerKind.Consumer,
                ContactName = "Otto",
                Email = "otto@rannakallas.example",
                Phone = "+372 5550 0212",
                Address = new("Ranna 22", "93822", "Nasva", "EE"),
                Currency = "EUR",
                PrivateNote = "Always pays some 20 days late. No need to chase before that.",
            },
            "14 days"
        ),
        (
            new()
            {
                Code = "LAINE",
                Name = "Peeter Lainela",
                Kind = CustomerKind.Consumer,
                ContactName = "Peeter",
                Email = "peeter@lainela.example",
                Phone = "+372 5550 0213",
                Address = new("Sadama põik 1", "93815", "Nasva Sadam", "EE"),
                Currency = "EUR",
                PrivateNote = "Promises by phone. Ask for it in writing.",
            },
            "14 days"
        ),
        (
            new()
            {
                Code = "TAMBRG",
                Name = "Elo Tamberg",
                Kind = CustomerKind.Consumer,
                ContactName = "Elo",
                Email = "elo@tamberg.example",
                Phone = "+372 5550 0214",
                Address = new("Pihlaka 8", "80010", "Pärnu", "EE"),
                Currency = "EUR",
            },
            "14 days"
        ),
    ];

    internal static IReadOnlyList<DemoItem> Items { get; } =
    [
        new("H-SAIL", "Sail repair, hour", "Sail repair by the hour", false, "HUR", 48m, "STD", "3000", ""),
        new("H-RIG", "Rigging, hour", "Rigging work by the hour", false, "HUR", 56m, "STD", "3000", ""),
        new(
            "H-CALL",
            "Call-out, hour",
            "Call-out to the boat, by the hour, travel included",
            false,
            "HUR",
            72m,
            "STD",
            "3000",
            ""
        ),
        new("M-WEB25", "Webbing 25 mm", "Polyester webbing, 25 mm", true, "MTR", 1.85m, "STD", "3010", "4740010000015"),
        new("M-BOLT", "Bolt rope 8 mm", "Bolt rope, 8 mm", true, "MTR", 3.4m, "STD", "3010", "4740010000022"),
        new("M-PIPE", "Piping", "Piping for covers", true, "MTR", 1.2m, "STD", "3010", "4740010000039"),
        new(
            "M-TAPE",
            "Sail repair tape 50 mm",
            "Sail repair tape, 50 mm, self-adhesive",
            true,
            "MTR",
            2.375m,
            "STD",
            "3010",
            "4740010000046"
        ),
        new(
            "Q-CLOTH",
            "Sailcloth 280 g",
            "Sailcloth, 280 g, cut to measure",
            true,
            "MTK",
            31.5m,
            "STD",
            "3010",
            "4740010000053"
        ),
        new(
            "Q-COVER",
            "Boat cover, made to measure",
            "Boat cover, made to measure",
            true,
            "MTK",
            64m,
            "STD",
            "3010",
            ""
        ),
        new("Q-SPRAY", "Sprayhood cloth", "Acrylic cloth for sprayhoods", true, "MTK", 42.9m, "STD", "3010", ""),
        new(
            "P-BATT",
            "Batten, fibreglass",
            "Batten, fibreglass, cut to length",
            true,
            "H87",
            14.9m,
            "STD",
            "3010",
            "4740010000060"
        ),
        new(
            "P-HANK",
            "Piston hank, bronze",
            "Piston hank, bronze, no. 2",
            true,
            "H87",
            6.25m,
            "STD",
            "3010",
            "4740010000077"
        ),
        new("P-SHACK", "Shackle 8 mm", "Shackle, stainless, 8 mm", true, "H87", 7.8m, "STD", "3010", "4740010000084"),
        new("P-BLOCK", "Block 40 mm", "Single block, 40 mm", true, "H87", 23.5m, "STD", "3010", "4740010000091"),
        new("P-EYE", "Eyelet, pressed in", "Eyelet, brass, pressed in", true, "H87", 2.1m, "STD", "3010", ""),
        new(
            "P-UV",
            "UV strip for a headsail",
            "UV strip for a furling headsail",
            true,
            "MTR",
            11.6m,
            "STD",
            "3010",
            ""
        ),
        new("F-RIGCHK", "Rig check", "Rig check, aloft, with a written report", false, "C62", 185m, "STD", "3000", ""),
        new("F-WASH", "Sail wash", "Sail washed, dried and folded", false, "H87", 68m, "STD", "3000", ""),
        new("F-MEAS", "Measuring", "Measuring on board", false, "C62", 90m, "STD", "3000", ""),
        new(
            "S-STORE",
            "Winter storage of sails",
            "Storage of sails, dry and aired, for a month",
            false,
            "MON",
            26m,
            "STD",
            "3020",
            ""
        ),
        new(
            "B-HAND1",
            "Handbook: Mending Sails at Sea",
            "Handbook “Mending Sails at Sea”",
            true,
            "H87",
            28m,
            "RED",
            "3030",
            "9789949000012"
        ),
        new(
            "B-HAND2",
            "Handbook: The Canvas Bench",
            "Handbook “The Canvas Bench”",
            true,
            "H87",
            34m,
            "RED",
            "3030",
            "9789949000029"
        ),
        new(
            "T-COURSE",
            "Course: splicing and whipping",
            "Training course, splicing and whipping, one day",
            false,
            "C62",
            120m,
            "EX",
            "3040",
            ""
        ),
        new("X-FREIGHT", "Freight", "Freight and packing", false, "C62", 18m, "STD", "3050", ""),
    ];

    /// <summary>Prices of the trade list; the chandlery abroad that buys in quantity has it.</summary>
    internal static (string Item, decimal Price)[] TradePrices { get; } =
    [("M-TAPE", 2.05m), ("M-WEB25", 1.6m), ("P-EYE", 1.8m), ("P-HANK", 5.4m), ("P-SHACK", 6.7m)];

    /// <summary>How many there were when the books began, of what is counted.</summary>
    internal static (string Item, decimal Count)[] Counts { get; } =
    [("P-BATT", 180), ("P-HANK", 400), ("P-SHACK", 160), ("P-BLOCK", 130), ("B-HAND1", 40), ("B-HAND2", 30)];

    internal static Habit[] Habits { get; } =
    [
        new("KORALL", 2.0, -2, 3, 1, "STD", ["H-SAIL", "H-RIG", "Q-CLOTH", "M-BOLT", "P-SHACK", "P-BLOCK"]),
        new("PIIRI", 1.4, 4, 5, 1, "STD", ["H-SAIL", "M-WEB25", "P-HANK", "Q-CLOTH", "F-WASH"]),
        new("SKERRY", 1.8, 9, 6, 1, "STD", ["F-WASH", "H-SAIL", "P-UV", "H-CALL", "P-BATT", "Q-SPRAY"]),
        new("NORTHP", 0.9, 1, 3, 1, "STD", ["P-BATT", "P-HANK", "H-SAIL", "B-HAND1", "T-COURSE"]),
        new("OARLCK", 0.5, 12, 5, 3, "STD", ["Q-COVER", "M-PIPE", "P-EYE", "F-MEAS"]),
        new("MUSEUM", 0.6, 6, 4, 1, "STD", ["H-SAIL", "Q-CLOTH", "M-BOLT", "H-RIG"]),
        new("KAIJO", 1.0, -6, 3, 1, "EU", ["M-TAPE", "M-WEB25", "P-EYE"]),
        new("BRANNO", 0.6, 3, 4, 1, "RC", ["H-SAIL", "F-MEAS", "H-RIG"]),
        new("SVART", 0.5, 5, 5, 1, "EXP", ["Q-CLOTH", "P-HANK", "M-BOLT"]),
        new("THISTL", 0.4, 2, 4, 1, "STD", ["F-RIGCHK", "H-RIG", "P-SHACK"]),
        new("MERIV", 0.6, -4, 4, 1, "STD", ["F-WASH", "S-STORE", "H-SAIL"]),
        new("KALLAS", 0.7, 20, 2, 1, "STD", ["H-SAIL", "F-WASH", "P-BATT", "F-RIGCHK"]),
        new("LAINE", 0.5, 55, 25, 2, "STD", ["H-CALL", "H-SAIL", "P-BLOCK"], NeverPays: 0.4),
        new("TAMBRG", 0.4, -1, 3, 1, "STD", ["F-WASH", "S-STORE", "B-HAND2"], Mails: false),
    ];

    /// <summary>What the tax board's form asks for.</summary>
    /// <summary>The second authority, to which a levy is owed.</summary>
    internal const string Harbour = "Nasva Harbour Office";

    /// <summary>Whose boats are worked on at the harbour's slip.</summary>
    internal const string OnTheSlip = "MERIV";

    internal static IReadOnlyList<ReturnBox> Boxes { get; } =
    [
        Box("1", "Sales at the standard rate", BoxSum.Taxable) with
        {
            Components = ["VAT"],
        },
        Box("2", "Sales at the reduced rate", BoxSum.Taxable) with
        {
            Components = ["VAT reduced"],
        },
        Box("3", "Sales without tax", BoxSum.Taxable) with
        {
            Categories =
            [
                TaxCategory.Zero,
                TaxCategory.Exempt,
                TaxCategory.ReverseCharge,
                TaxCategory.IntraUnion,
                TaxCategory.Export,
            ],
        },
        Box("3.1", "Of that, goods to businesses in the union", BoxSum.Taxable) with
        {
            Categories = [TaxCategory.IntraUnion],
        },
        Box("3.2", "Of that, exports", BoxSum.Taxable) with
        {
            Categories = [TaxCategory.Export],
        },
        Box("4", "Tax on 1", BoxSum.Tax) with
        {
            Components = ["VAT"],
        },
        Box("5", "Tax on 2", BoxSum.Tax) with
        {
            Components = ["VAT reduced"],
        },
        Box("5.1", "Tax on what was bought", BoxSum.Typed),
        Box("6", "Tax to be paid", BoxSum.Formula) with
        {
            Formula = "4 + 5 - 5.1",
            IsOwed = true,
        },
        Box("7", "All sales, in whole units", BoxSum.Formula) with
        {
            Formula = "1 + 2 + 3",
            Rounding = BoxRounding.Unit,
        },
    ];

    private static ReturnBox Box(string number, string name, BoxSum sum) =>
        new()
        {
            Number = number,
            Name = name,
            Sum = sum,
        };
}

/// <summary>What the loft sells.</summary>
internal sealed record DemoItem(
    string Code,
    string Name,
    string Text,
    bool Goods,
    string Unit,
    decimal Price,
    string Tax,
    string Account,
    string Barcode
);
