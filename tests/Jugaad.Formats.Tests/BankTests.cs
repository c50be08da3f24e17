using System.Text;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Formats.Bank;
using Jugaad.Outside;

namespace Jugaad.Formats.Tests;

/// <summary>Bank statements of every format that we read, and what is refused.</summary>
public sealed class BankTests
{
    private static readonly Currency Eur = Currency.Of("EUR");
    private static readonly DisplayFormat Format = new('.', "d MMM yyyy");

    private static IReadOnlyList<StatementFile> Read(string text, CsvColumns? columns = null) =>
        Read(Encoding.UTF8.GetBytes(text), columns);

    private static IReadOnlyList<StatementFile> Read(byte[] file, CsvColumns? columns = null) =>
        new StatementReader().Read(new MemoryStream(file), "file", columns, Eur);

    private static string Camt(string version, string entries, string balances = "") =>
        $"""
            <?xml version="1.0" encoding="UTF-8"?><Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.{version}"><BkToCstmrStmt><GrpHdr><MsgId>1</MsgId></GrpHdr><Stmt><Id>S1</Id><ElctrncSeqNb>9</ElctrncSeqNb>
            <FrToDt><FrDtTm>2025-09-01T00:00:00</FrDtTm><ToDtTm>2025-09-30T23:59:59</ToDtTm></FrToDt><Acct><Id><IBAN>EE030099220012345678</IBAN></Id><Ccy>EUR</Ccy></Acct>{balances}{entries}</Stmt></BkToCstmrStmt></Document>
            """;

    private static string Balance(string kind, string amount) =>
        $"<Bal><Tp><CdOrPrtry><Cd>{kind}</Cd></CdOrPrtry></Tp><Amt Ccy=\"EUR\">{amount}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Dt><Dt>2025-09-30</Dt></Dt></Bal>";

    [Fact]
    public void Camt_version_2_has_names_at_once_and_states_as_text()
    {
        var statement = Read(
                Camt(
                    "02",
                    """
                    <Ntry><Amt Ccy="EUR">124.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>2025-09-05</Dt></BookgDt><AcctSvcrRef>R1</AcctSvcrRef><NtryDtls><TxDtls>
                    <RltdPties><Dbtr><Nm>Korall</Nm></Dbtr><DbtrAcct><Id><IBAN>EE471000001020145685</IBAN></Id></DbtrAcct></RltdPties><RmtInf><Ustrd>INV-2025-</Ustrd><Ustrd>0001</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry>
                    <Ntry><Amt Ccy="EUR">4.50</Amt><CdtDbtInd>DBIT</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>2025-09-30</Dt></BookgDt><AddtlNtryInf>Monthly fee</AddtlNtryInf></Ntry>
                    <Ntry><Amt Ccy="EUR">9.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts>PDNG</Sts><BookgDt><Dt>2025-09-30</Dt></BookgDt></Ntry>
                    """,
                    Balance("OPBD", "100.00") + Balance("CLBD", "219.50")
                )
            )
            .Single();
        (statement.Account, statement.Number, statement.Opening, statement.Closing, statement.From).ShouldBe(
            ("EE030099220012345678", "9", 10_000, 21_950, new DateOnly(2025, 9, 1))
        );
        statement.Lines.ShouldBe([
            new StatementLine(
                new DateOnly(2025, 9, 5),
                12_400,
                "Korall",
                "EE471000001020145685",
                "INV-2025- 0001",
                "",
                "R1"
            ),
            new StatementLine(new DateOnly(2025, 9, 30), -450, "", "", "Monthly fee", "", ""),
        ]);
        statement.Remarks.Single().ShouldContain("not booked yet");
        statement.Difference(Format).ShouldBeNull();
    }

    [Fact]
    public void Camt_batches_are_split_where_their_parts_come_to_them()
    {
        const string parts = """
            <TxDtls><Refs><AcctSvcrRef>A</AcctSvcrRef></Refs><Amt Ccy="EUR">60.00</Amt><RltdPties><Dbtr><Pty><Nm>One</Nm></Pty></Dbtr></RltdPties><RmtInf><Strd><CdtrRefInf><Ref>RF18539007547034</Ref></CdtrRefInf></Strd></RmtInf></TxDtls>
            <TxDtls><Amt Ccy="EUR">40.00</Amt><RltdPties><Dbtr><Pty><Nm>Two</Nm></Pty></Dbtr></RltdPties></TxDtls>
            """;
        string Batch(string amount) =>
            $"<Ntry><Amt Ccy=\"EUR\">{amount}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts><BookgDt><DtTm>2025-09-05T10:00:00</DtTm></BookgDt><AcctSvcrRef>B</AcctSvcrRef><NtryDtls>{parts}</NtryDtls></Ntry>";
        Read(Camt("08", Batch("100.00")))
            .Single()
            .Lines.Select(l => (l.Name, l.Amount, l.Reference, l.BankReference))
            .ShouldBe([("One", 6_000, "RF18539007547034", "A"), ("Two", 4_000, "", "B/2")]);
        var whole = Read(Camt("08", Batch("101.00"))).Single();
        whole.Lines.Single().Amount.ShouldBe(10_100);
        whole.Remarks.Single().ShouldContain("sums up 2 payments");
    }

    [Fact]
    public void What_does_not_add_up_is_said() =>
        Read(Camt("08", "", Balance("OPBD", "100.00") + Balance("CLBD", "90.00")))
            .Single()
            .Difference(Format)!
            .ShouldContain("is not in the file");

    [Theory]
    [InlineData(
        "<?xml version=\"1.0\"?><!DOCTYPE Document [<!ENTITY a \"aaaa\"><!ENTITY b \"&a;&a;&a;\">]><Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\"><x>&b;</x></Document>"
    )]
    [InlineData(
        "<?xml version=\"1.0\"?><!DOCTYPE Document SYSTEM \"file:///etc/passwd\"><Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\"/>"
    )]
    [InlineData("<Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\"><BkToCstmrStmt>")]
    [InlineData("<Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\"/>")]
    [InlineData("<html><body>Please sign in</body></html>")]
    [InlineData("")]
    [InlineData("OFXHEADER:100\n<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR")]
    [InlineData("OFXHEADER:100\n<OFX></OFX>")]
    [InlineData(":20:X\n:25:1\n:60F:C250901EUR1,00\n:61:garbage\n:62F:C250901EUR1,00\n")]
    [InlineData(":20:X\n:25:1\n:60F:C250901EUR1,00\n")]
    [InlineData("!Type:Bank\nDyesterday\nT5.00\n^\n")]
    public void What_is_broken_or_unsafe_is_refused_with_a_word(string text) =>
        Should.Throw<RefusalException>(() => Read(text)).Refusals[0].Field.ShouldBe("file");

    [Fact]
    public void Too_large_a_file_is_not_read() =>
        Should
            .Throw<RefusalException>(() => Read(new byte[StatementReader.MostBytes + 1]))
            .Message.ShouldContain("50 MB");

    private const string Ofx1 =
        "OFXHEADER:100\nDATA:OFXSGML\n\n<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR<BANKACCTFROM><ACCTID>12345678</BANKACCTFROM><BANKTRANLIST><DTSTART>20250901<DTEND>20250930<STMTTRN><TRNTYPE>CREDIT<DTPOSTED>20250905120000[0:GMT]<TRNAMT>124.00<FITID>F1<NAME>Korall &amp; Co<MEMO>INV-2025-0001</STMTTRN><STMTTRN><TRNTYPE>FEE<DTPOSTED>20250930<TRNAMT>-4.50<FITID>F2<NAME>Bank</STMTTRN></BANKTRANLIST><LEDGERBAL><BALAMT>219.50<DTASOF>20250930</LEDGERBAL></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>";

    [Fact]
    public void Ofx_is_read_with_and_without_closed_tags()
    {
        var one = Read(Ofx1).Single();
        (one.Account, one.Opening, one.Closing).ShouldBe(("12345678", 10_000, 21_950));
        one.Lines[0]
            .ShouldBe(
                new StatementLine(new DateOnly(2025, 9, 5), 12_400, "Korall & Co", "", "INV-2025-0001", "", "F1")
            );
        var two = Read(
                "<?xml version=\"1.0\"?><?OFX OFXHEADER=\"200\"?><OFX><STMTRS><CURDEF>EUR</CURDEF><BANKACCTFROM><ACCTID>1</ACCTID></BANKACCTFROM><BANKTRANLIST><STMTTRN><DTPOSTED>20250905</DTPOSTED><TRNAMT>-1,50</TRNAMT><FITID>a</FITID><NAME>Shop</NAME></STMTTRN></BANKTRANLIST></STMTRS></OFX>"
            )
            .Single();
        (two.Lines.Single().Amount, two.Lines.Single().Name).ShouldBe((-150, "Shop"));
    }

    [Fact]
    public void Mt940_is_read_with_subfields_strokes_or_plain_words()
    {
        var statement = Read(
                """
                {1:F01BANKEE2XAXXX}{4:
                :20:STMT
                :25:BANKEE2X/EE030099220012345678
                :28C:00009/001
                :60F:C250901EUR100,00
                :61:2509050905C124,00NTRFNONREF//R1
                :86:166?00Credit?20INV-2025-?210001?31EE471000001020145685?32Korall Boat?33yard
                :61:2509060906D4,5NCHGNONREF//R2
                :86:/NAME/Sadama Pank/REMI/Monthly fee/IBAN/EE12
                :61:2512310102RC9,NTRFNONREF
                :86:Words over
                two lines
                :62F:C250930EUR210,50
                -}
                """
            )
            .Single();
        (statement.Account, statement.Number, statement.Opening, statement.Closing).ShouldBe(
            ("EE030099220012345678", "00009/001", 10_000, 21_050)
        );
        statement
            .Lines[0]
            .ShouldBe(
                new StatementLine(
                    new DateOnly(2025, 9, 5),
                    12_400,
                    "Korall Boatyard",
                    "EE471000001020145685",
                    "INV-2025-0001",
                    "",
                    "R1"
                )
            );
        statement
            .Lines[1]
            .ShouldBe(
                new StatementLine(new DateOnly(2025, 9, 6), -450, "Sadama Pank", "EE12", "Monthly fee", "", "R2")
            );
        (statement.Lines[2].Date, statement.Lines[2].Amount, statement.Lines[2].Text).ShouldBe(
            (new DateOnly(2026, 1, 2), -900, "Words over two lines")
        );
        statement.Difference(Format).ShouldBeNull();
    }

    [Fact]
    public void Qif_days_are_read_the_way_that_fits_all_of_them()
    {
        Read("!Type:Bank\nD25/09/2025\nT1,124.00\nPKorall\nMINV-1\n^\nD05/09/2025\nT-4.50\n^\n")
            .Single()
            .Lines.Select(l => (l.Date, l.Amount))
            .ShouldBe([(new DateOnly(2025, 9, 25), 112_400), (new DateOnly(2025, 9, 5), -450)]);
        Read("!Type:Bank\nD9/25'25\nT5\n^\n").Single().Lines.Single().Date.ShouldBe(new DateOnly(2025, 9, 25));
        Should
            .Throw<RefusalException>(() => Read("!Type:Bank\nD05/09/2025\nT5\n^\n"))
            .Message.ShouldContain("2025-09-05 or 2025-05-09");
        Read("!Type:Bank\nD05/09/2025\nT5\n^\n", new CsvColumns { DateOrder = "month" })
            .Single()
            .Lines.Single()
            .Date.ShouldBe(new DateOnly(2025, 5, 9));
    }

    [Fact]
    public void Csv_needs_its_columns_said_and_takes_in_and_out_apart()
    {
        const string csv =
            "Kuupäev;Saaja/maksja;Selgitus;Laekumine;Väljaminek\n05.09.2025;Korall;INV-1;1 124,00;\n30.09.2025;Pank;Tasu;;4,50\n";
        Should.Throw<RefusalException>(() => Read(csv)).Refusals[0].Field.ShouldBe("columns");
        var columns = new CsvColumns
        {
            Date = "kuupäev",
            Amount = "Laekumine",
            Out = "Väljaminek",
            Name = "Saaja/maksja",
            Text = "Selgitus",
        };
        Read(csv, columns)
            .Single()
            .Lines.Select(l => (l.Date, l.Amount, l.Name, l.Text))
            .ShouldBe([
                (new DateOnly(2025, 9, 5), 112_400, "Korall", "INV-1"),
                (new DateOnly(2025, 9, 30), -450, "Pank", "Tasu"),
            ]);
        Should
            .Throw<RefusalException>(() => Read(csv, columns with { Name = "Nimi" }))
            .Message.ShouldContain("no column “Nimi”");
        new StatementReader().HeadsOf(new MemoryStream(Encoding.Latin1.GetBytes(csv))).ShouldContain("Kuupäev");
    }

    [Fact]
    public void What_the_stand_in_writes_is_read_back()
    {
        StatementLine[] lines =
        [
            new(
                new DateOnly(2025, 9, 5),
                12_400,
                "Korall <OÜ>",
                "EE471000001020145685",
                "a & b",
                "RF18539007547034",
                "R1"
            ),
            new(new DateOnly(2025, 9, 6), -450, "Bank", "", "Fee", "", "R2"),
        ];
        var read = Read(
                CamtWriter.Write(
                    "EE030099220012345678",
                    Eur,
                    "009",
                    new DateOnly(2025, 9, 1),
                    new DateOnly(2025, 9, 30),
                    100,
                    lines
                )
            )
            .Single();
        read.Lines.ShouldBe(lines);
        (read.Opening, read.Closing, read.Difference(Format)).ShouldBe((100, 12_050, null));
    }

    private const string Parties =
        "<RltdPties><Dbtr><Pty><Nm>Korall</Nm></Pty></Dbtr><DbtrAcct><Id><IBAN>EE471000001020145685</IBAN></Id></DbtrAcct><UltmtDbtr><Pty><Nm>Piiri Yard</Nm></Pty></UltmtDbtr><Cdtr><Pty><Nm>Loft</Nm></Pty></Cdtr></RltdPties>";

    private static string Entry(string amount, string side, string more, string details) =>
        $"<Ntry><Amt Ccy=\"EUR\">{amount}</Amt><CdtDbtInd>{side}</CdtDbtInd>{more}<Sts><Cd>BOOK</Cd></Sts><BookgDt><Dt>2025-09-05</Dt></BookgDt><AcctSvcrRef>R</AcctSvcrRef><NtryDtls>{details}</NtryDtls></Ntry>";

    [Fact]
    public void Camt_tells_what_was_given_in_another_currency_and_at_which_rate_it_was_changed()
    {
        var line = Read(
                Camt(
                    "08",
                    Entry(
                        "110.00",
                        "CRDT",
                        "",
                        $"<TxDtls><AmtDtls><InstdAmt><Amt Ccy=\"SEK\">1240.00</Amt></InstdAmt><TxAmt><Amt Ccy=\"EUR\">111.50</Amt><CcyXchg><SrcCcy>SEK</SrcCcy><XchgRate>0.08992</XchgRate></CcyXchg></TxAmt></AmtDtls><Chrgs><Rcrd><Amt Ccy=\"EUR\">1.50</Amt><ChrgInclInd>true</ChrgInclInd></Rcrd></Chrgs>{Parties}<RmtInf><Ustrd>INV-1</Ustrd></RmtInf></TxDtls>"
                    )
                )
            )
            .Single()
            .Lines.Single();
        (line.Amount, line.Given, line.GivenIn?.Code, line.Charge).ShouldBe((11_000L, 124_000L, "SEK", 150L));
        line.Text.ShouldBe("INV-1, paid by Korall, charges of 1.50 kept, 1240.00 SEK given, changed at 0.08992");
        // What was given in the account's own currency is no other.
        var plain = Read(
                Camt(
                    "08",
                    Entry(
                        "110.00",
                        "CRDT",
                        "",
                        $"<TxDtls><AmtDtls><InstdAmt><Amt Ccy=\"EUR\">110.00</Amt></InstdAmt></AmtDtls>{Parties}</TxDtls>"
                    )
                )
            )
            .Single()
            .Lines.Single();
        (plain.Given, plain.GivenIn).ShouldBe((0L, null));
    }

    [Fact]
    public void Camt_tells_of_payments_that_came_back_of_charges_and_of_whose_debt_it_was()
    {
        var lines = Read(
                Camt(
                    "08",
                    Entry(
                        "98.00",
                        "CRDT",
                        "<Chrgs><Rcrd><Amt Ccy=\"EUR\">2.00</Amt><CdtDbtInd>DBIT</CdtDbtInd><ChrgInclInd>true</ChrgInclInd></Rcrd></Chrgs>",
                        $"<TxDtls>{Parties}<RmtInf><Ustrd>INV-1</Ustrd></RmtInf></TxDtls>"
                    )
                        + Entry(
                            "40.00",
                            "DBIT",
                            "<RvslInd>true</RvslInd>",
                            $"<TxDtls>{Parties}<RtrInf><Rsn><Cd>AC04</Cd></Rsn><AddtlInf>account closed</AddtlInf></RtrInf></TxDtls>"
                        )
                )
            )
            .Single()
            .Lines;
        lines[0]
            .ShouldBe(
                new StatementLine(
                    new DateOnly(2025, 9, 5),
                    9_800,
                    "Piiri Yard",
                    "EE471000001020145685",
                    "INV-1, paid by Korall, charges of 2.00 kept",
                    "",
                    "R"
                )
                {
                    Charge = 200,
                }
            );
        lines[1]
            .ShouldBe(
                new StatementLine(
                    new DateOnly(2025, 9, 5),
                    -4_000,
                    "Piiri Yard",
                    "EE471000001020145685",
                    "paid by Korall, returned: AC04 account closed",
                    "",
                    "R"
                )
                {
                    Returned = true,
                }
            );
        var batch = Read(
                Camt(
                    "08",
                    Entry(
                        "97.00",
                        "CRDT",
                        "",
                        string.Concat(
                            Enumerable.Repeat(
                                "<TxDtls><Amt Ccy=\"EUR\">50.00</Amt><Chrgs><Rcrd><Amt Ccy=\"EUR\">1.50</Amt><CdtDbtInd>DBIT</CdtDbtInd><ChrgInclInd>true</ChrgInclInd></Rcrd></Chrgs></TxDtls>",
                                2
                            )
                        )
                    )
                )
            )
            .Single();
        batch.Lines.Select(l => l.Amount).ShouldBe([5_000, 5_000, -300]);
        batch.Remarks.ShouldBeEmpty();
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void Camt_may_be_written_in_two_bytes_a_character(bool marked)
    {
        var text = Camt("08", Entry("1.00", "CRDT", "", "<TxDtls><RmtInf><Ustrd>šž</Ustrd></RmtInf></TxDtls>"))
            .Replace("UTF-8", "UTF-16", StringComparison.Ordinal);
        var bytes = Encoding.Unicode.GetBytes(text);
        Read(marked ? [.. Encoding.Unicode.GetPreamble(), .. bytes] : bytes)
            .Single()
            .Lines.Single()
            .Text.ShouldBe("šž");
    }

    [Fact]
    public void What_nests_without_end_is_refused()
    {
        var deep = string.Concat(Enumerable.Repeat("<a>", 5_000));
        Should
            .Throw<RefusalException>(() => Read(Camt("08", Entry("1.00", "CRDT", "", deep))))
            .Message.ShouldContain("nests deeper");
        Should
            .Throw<RefusalException>(() =>
                Read("<Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\">" + deep)
            )
            .Message.ShouldContain("nests deeper");
    }

    private static StatementLine Movement(string details, string account = "EE030099220012345678", string after = "") =>
        Read(
                $":20:S\n:25:{account}\n:28C:1\n:60F:C250901EUR0,00\n:61:2509050905C1,00NTRFNONREF//R1\n:86:{details}\n:62F:C250930EUR1,00\n{after}-\n"
            )
            .Single()
            .Lines.Single();

    [Theory]
    [InlineData("166~00Credit~20INV-2025-0001~32Korall", "INV-2025-0001", "Korall", "")]
    [InlineData("166<00Credit<20INV-2025-0001<31EE12<32Korall", "INV-2025-0001", "Korall", "EE12")]
    [InlineData(
        "166?00Credit?20EREF+NOTPROVIDED?21SVWZ+bill INV-2025-0148?22ABWA+Piiri Yard?32Korall",
        "bill INV-2025-0148, paid by Korall",
        "Piiri Yard",
        ""
    )]
    [InlineData(
        "166?20bills 0001, 0002 and many oth?21ers of this year?32Korall",
        "bills 0001, 0002 and many others of this year",
        "Korall",
        ""
    )]
    [InlineData("166?20two?21words?32Korall", "two words", "Korall", "")]
    [InlineData(
        "/TRTP/SEPA/CNTP/EE471000001020145685/BANKEE2X/Korall/Harbour/REMI/USTD//INV-1/",
        "INV-1",
        "Korall",
        "EE471000001020145685"
    )]
    [InlineData("paid 3?4 of it", "paid 3?4 of it", "", "")]
    public void Mt940_details_are_read_in_the_ways_of_many_banks(
        string details,
        string text,
        string name,
        string account
    )
    {
        var line = Movement(details);
        (line.Text, line.Name, line.Account).ShouldBe((text, name, account));
    }

    [Fact]
    public void Mt940_words_behind_the_closing_balance_are_not_those_of_the_last_movement() =>
        Movement("INV-1", after: ":86:of the whole statement\n").Text.ShouldBe("INV-1");

    [Theory]
    [InlineData("EE030099220012345678EUR", "EE030099220012345678")]
    [InlineData("12345678EUR", "12345678")]
    [InlineData("50010517/12345678EUR", "12345678")]
    [InlineData("EE030099220012345678", "EE030099220012345678")]
    public void Mt940_currencies_behind_accounts_are_no_part_of_them(string written, string account) =>
        Read($":20:S\n:25:{written}\n:60F:C250901EUR0,00\n:62F:C250930EUR0,00\n").Single().Account.ShouldBe(account);

    [Fact]
    public void Mt940_lines_of_several_statements_stay_apart_and_one_cut_off_is_said()
    {
        static string Day(string day, string text) =>
            $":60F:C25090{day}EUR0,00\n:61:25090{day}090{day}C1,00NTRFNONREF\n:86:{text}\n";
        var read = Read(
            ":20:A\n:25:1\n:28C:1\n"
                + Day("1", "one")
                + ":62F:C250901EUR1,00\n:28C:2\n"
                + Day("2", "two")
                + ":62F:C250902EUR1,00\n:20:C\n:25:1\n:28C:3\n"
                + Day("3", "three")
        );
        read.Select(s => s.Lines.Single().Text).ShouldBe(["one", "two"]);
        read[1].Remarks.Single().ShouldContain("number 3, with 1 movements and no closing balance");
        var middle = Read(
            ":20:A\n:25:1\n:28C:1\n"
                + Day("1", "one")
                + ":20:B\n:25:1\n:28C:2\n"
                + Day("2", "two")
                + ":62F:C250902EUR1,00\n"
        );
        middle
            .Select(s => (s.Lines.Single().Text, s.Closing, s.Remarks.Count))
            .ShouldBe([("one", null, 1), ("two", 100, 0)]);
    }

    [Fact]
    public void Ofx_characters_that_are_marked_as_such_stay_as_they_are()
    {
        var line = Read(Ofx1.Replace("Korall &amp; Co", "<![CDATA[Korall <&amp;> Co]]>", StringComparison.Ordinal))
            .Single()
            .Lines[0];
        (line.Name, line.Text).ShouldBe(("Korall <&amp;> Co", "INV-2025-0001"));
        Should
            .Throw<RefusalException>(() => Read("OFXHEADER:100\n<OFX><STMTRS><CURDEF>EUR<STMTRS><CURDEF>EUR</STMTRS>"))
            .Message.ShouldContain("before the next begins");
    }

    [Theory]
    [InlineData("1,000", null)]
    [InlineData("2.500", null)]
    [InlineData("1,000|12.50", '.')]
    [InlineData("1.000|12,5", ',')]
    [InlineData("1,000,000", '.')]
    [InlineData("1.234,56", ',')]
    [InlineData("0.125", '.')]
    [InlineData("1234,500", ',')]
    [InlineData("15|20", '.')]
    public void The_decimal_mark_is_found_out_over_all_amounts_and_never_guessed(string amounts, char? mark) =>
        DecimalMark.Of(amounts.Split('|'), Eur).ShouldBe(mark);

    [Fact]
    public void Amounts_that_may_be_thousands_are_asked_about()
    {
        Should
            .Throw<RefusalException>(() => Read("!Type:Bank\nD25/09/2025\nT1,000\n^\n"))
            .Message.ShouldContain("“1,000” may be thousands");
        Read("!Type:Bank\nD25/09/2025\nT1,000\n^\n", new CsvColumns { DecimalMark = "." })
            .Single()
            .Lines.Single()
            .Amount.ShouldBe(100_000);
        var columns = new CsvColumns { Date = "Day", Amount = "Amount" };
        Should
            .Throw<RefusalException>(() => Read("Day;Amount\n25.09.2025;2.500\n", columns))
            .Refusals[0]
            .Field.ShouldBe("columns");
        Read("Day;Amount\n25.09.2025;2.500\n26.09.2025;1,5\n", columns)
            .Single()
            .Lines.Select(l => l.Amount)
            .ShouldBe([250_000, 150]);
        Should
            .Throw<RefusalException>(() => Read("Day;Amount\n25.09.2025;1,50\n26.09.2025;1.50\n", columns))
            .Message.ShouldContain("two ways");
    }

    [Fact]
    public void Csv_may_say_in_a_column_which_way_money_went()
    {
        var columns = new CsvColumns
        {
            Date = "Day",
            Amount = "Amount",
            Side = "D/C",
        };
        Read("Day;Amount;D/C\n25.09.2025;2,50;D\n26.09.2025;1,50;C\n", columns)
            .Single()
            .Lines.Select(l => l.Amount)
            .ShouldBe([-250, 150]);
        Should
            .Throw<RefusalException>(() => Read("Day;Amount;D/C\n25.09.2025;2,50;X\n", columns))
            .Message.ShouldContain("Row 2: “X”");
    }

    [Fact]
    public void Days_are_told_from_months_over_the_whole_column()
    {
        var columns = new CsvColumns { Date = "Day", Amount = "Amount" };
        DateOnly[] Days(params string[] days) =>
            [
                .. Read("Day,Amount\n" + string.Concat(days.Select(d => $"{d},1.50\n")), columns)
                    .Single()
                    .Lines.Select(l => l.Date),
            ];
        Days("01/09/2025", "09/13/2025")[0].ShouldBe(new DateOnly(2025, 1, 9));
        Days("01/09/2025", "13/09/2025")[0].ShouldBe(new DateOnly(2025, 9, 1));
        // All could be either, but only one way round do they run in order.
        Days("30/08/2025".Replace("30", "11", StringComparison.Ordinal), "01/09/2025", "02/09/2025")[1]
            .ShouldBe(new DateOnly(2025, 9, 1));
        Should.Throw<RefusalException>(() => Days("01/02/2025", "03/04/2025")).Refusals[0].Field.ShouldBe("columns");
    }

    private static IReadOnlyList<int?> Known(
        string format,
        StatementLine[] lines,
        params (string Format, StatementLine Line)[] there
    ) => KnownLines.Find(format, lines, [.. there.Select((t, i) => new KnownLine(i + 1, t.Format, t.Line))]);

    [Fact]
    public void A_line_is_known_by_its_day_amount_and_the_banks_reference_whatever_the_format()
    {
        var camt = new StatementLine(
            new DateOnly(2025, 9, 5),
            500,
            "Korall",
            "EE471000001020145685",
            "INV-1",
            "",
            "R1"
        );
        Known("CAMT", [camt with { Text = "said otherwise" }], ("CAMT", camt)).ShouldBe([1]);
        Known("MT940", [camt with { Name = "", Account = "", Text = "INV 1" }], ("CAMT", camt)).ShouldBe([1]);
        Known("CSV", [camt with { BankReference = "", Account = "", Name = "KORALL" }], ("CAMT", camt)).ShouldBe([1]);
        Known("OFX", [camt with { BankReference = "20250905-77" }], ("CAMT", camt)).ShouldBe([1]);
        // Others: another day, amount, payer, or reference of the same bank.
        Known(
                "CAMT",
                [
                    camt with
                    {
                        Date = camt.Date.AddDays(1),
                    },
                    camt with
                    {
                        Amount = 501,
                    },
                    camt with
                    {
                        BankReference = "R2",
                    },
                ],
                ("CAMT", camt)
            )
            .ShouldBe([null, null, null]);
        Known("CSV", [camt with { BankReference = "", Account = "", Name = "Piiri" }], ("CAMT", camt)).ShouldBe([null]);
    }

    [Fact]
    public void Equal_lines_are_counted()
    {
        var line = new StatementLine(new DateOnly(2025, 9, 5), 500, "Korall", "", "x", "", "");
        Known("CSV", [line, line, line], ("CSV", line), ("CSV", line)).ShouldBe([1, 2, null]);
        // The one with the reference finds its own, whichever comes first.
        Known(
                "CAMT",
                [line with { BankReference = "A" }, line with { BankReference = "B" }],
                ("CSV", line),
                ("CAMT", line with { BankReference = "B" })
            )
            .ShouldBe([1, 2]);
        Known("CSV", [line with { Text = "y" }], ("CSV", line)).ShouldBe([null]);
    }
}
