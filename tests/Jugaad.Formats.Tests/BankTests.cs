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

    private static IReadOnlyList<StatementFile> Read(string text, CsvColumns? columns = null) => new StatementReader().Read(Encoding.UTF8.GetBytes(text), "file", columns, Eur);

    private static string Camt(string version, string entries, string balances = "") => $"""
        <?xml version="1.0" encoding="UTF-8"?><Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.{version}"><BkToCstmrStmt><GrpHdr><MsgId>1</MsgId></GrpHdr><Stmt><Id>S1</Id><ElctrncSeqNb>9</ElctrncSeqNb>
        <FrToDt><FrDtTm>2025-09-01T00:00:00</FrDtTm><ToDtTm>2025-09-30T23:59:59</ToDtTm></FrToDt><Acct><Id><IBAN>EE030099220012345678</IBAN></Id><Ccy>EUR</Ccy></Acct>{balances}{entries}</Stmt></BkToCstmrStmt></Document>
        """;

    private static string Balance(string kind, string amount) => $"<Bal><Tp><CdOrPrtry><Cd>{kind}</Cd></CdOrPrtry></Tp><Amt Ccy=\"EUR\">{amount}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Dt><Dt>2025-09-30</Dt></Dt></Bal>";

    [Fact]
    public void Camt_version_2_has_names_at_once_and_states_as_text()
    {
        var statement = Read(Camt("02", """
            <Ntry><Amt Ccy="EUR">124.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>2025-09-05</Dt></BookgDt><AcctSvcrRef>R1</AcctSvcrRef><NtryDtls><TxDtls>
            <RltdPties><Dbtr><Nm>Korall</Nm></Dbtr><DbtrAcct><Id><IBAN>EE471000001020145685</IBAN></Id></DbtrAcct></RltdPties><RmtInf><Ustrd>INV-2025-</Ustrd><Ustrd>0001</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry>
            <Ntry><Amt Ccy="EUR">4.50</Amt><CdtDbtInd>DBIT</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>2025-09-30</Dt></BookgDt><AddtlNtryInf>Monthly fee</AddtlNtryInf></Ntry>
            <Ntry><Amt Ccy="EUR">9.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts>PDNG</Sts><BookgDt><Dt>2025-09-30</Dt></BookgDt></Ntry>
            """, Balance("OPBD", "100.00") + Balance("CLBD", "219.50"))).Single();
        (statement.Account, statement.Number, statement.Opening, statement.Closing, statement.From).ShouldBe(("EE030099220012345678", "9", 10_000, 21_950, new DateOnly(2025, 9, 1)));
        statement.Lines.ShouldBe([new StatementLine(new DateOnly(2025, 9, 5), 12_400, "Korall", "EE471000001020145685", "INV-2025- 0001", "", "R1"), new StatementLine(new DateOnly(2025, 9, 30), -450, "", "", "Monthly fee", "", "")]);
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
        string Batch(string amount) => $"<Ntry><Amt Ccy=\"EUR\">{amount}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts><BookgDt><DtTm>2025-09-05T10:00:00</DtTm></BookgDt><AcctSvcrRef>B</AcctSvcrRef><NtryDtls>{parts}</NtryDtls></Ntry>";
        Read(Camt("08", Batch("100.00"))).Single().Lines.Select(l => (l.Name, l.Amount, l.Reference, l.BankReference)).ShouldBe([("One", 6_000, "RF18539007547034", "A"), ("Two", 4_000, "", "B/2")]);
        var whole = Read(Camt("08", Batch("101.00"))).Single();
        whole.Lines.Single().Amount.ShouldBe(10_100);
        whole.Remarks.Single().ShouldContain("sums up 2 payments");
    }

    [Fact]
    public void What_does_not_add_up_is_said() =>
        Read(Camt("08", "", Balance("OPBD", "100.00") + Balance("CLBD", "90.00"))).Single().Difference(Format)!.ShouldContain("is not in the file");

    [Theory]
    [InlineData("<?xml version=\"1.0\"?><!DOCTYPE Document [<!ENTITY a \"aaaa\"><!ENTITY b \"&a;&a;&a;\">]><Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\"><x>&b;</x></Document>")]
    [InlineData("<?xml version=\"1.0\"?><!DOCTYPE Document SYSTEM \"file:///etc/passwd\"><Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\"/>")]
    [InlineData("<Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\"><BkToCstmrStmt>")]
    [InlineData("<Document xmlns=\"urn:iso:std:iso:20022:tech:xsd:camt.053.001.08\"/>")]
    [InlineData("<html><body>Please sign in</body></html>")]
    [InlineData("")]
    [InlineData("OFXHEADER:100\n<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR")]
    [InlineData("OFXHEADER:100\n<OFX></OFX>")]
    [InlineData(":20:X\n:25:1\n:60F:C250901EUR1,00\n:61:garbage\n:62F:C250901EUR1,00\n")]
    [InlineData(":20:X\n:25:1\n:60F:C250901EUR1,00\n")]
    [InlineData("!Type:Bank\nDyesterday\nT5.00\n^\n")]
    public void What_is_broken_or_unsafe_is_refused_with_a_word(string text) => Should.Throw<RefusalException>(() => Read(text)).Refusals[0].Field.ShouldBe("file");

    [Fact]
    public void Too_large_a_file_is_not_read() => Should.Throw<RefusalException>(() => new StatementReader().Read(new byte[StatementReader.MostBytes + 1], "x", null, Eur)).Message.ShouldContain("50 MB");

    private const string Ofx1 = "OFXHEADER:100\nDATA:OFXSGML\n\n<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR<BANKACCTFROM><ACCTID>12345678</BANKACCTFROM><BANKTRANLIST><DTSTART>20250901<DTEND>20250930<STMTTRN><TRNTYPE>CREDIT<DTPOSTED>20250905120000[0:GMT]<TRNAMT>124.00<FITID>F1<NAME>Korall &amp; Co<MEMO>INV-2025-0001</STMTTRN><STMTTRN><TRNTYPE>FEE<DTPOSTED>20250930<TRNAMT>-4.50<FITID>F2<NAME>Bank</STMTTRN></BANKTRANLIST><LEDGERBAL><BALAMT>219.50<DTASOF>20250930</LEDGERBAL></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>";

    [Fact]
    public void Ofx_is_read_with_and_without_closed_tags()
    {
        var one = Read(Ofx1).Single();
        (one.Account, one.Opening, one.Closing).ShouldBe(("12345678", 10_000, 21_950));
        one.Lines[0].ShouldBe(new StatementLine(new DateOnly(2025, 9, 5), 12_400, "Korall & Co", "", "INV-2025-0001", "", "F1"));
        var two = Read("<?xml version=\"1.0\"?><?OFX OFXHEADER=\"200\"?><OFX><STMTRS><CURDEF>EUR</CURDEF><BANKACCTFROM><ACCTID>1</ACCTID></BANKACCTFROM><BANKTRANLIST><STMTTRN><DTPOSTED>20250905</DTPOSTED><TRNAMT>-1,50</TRNAMT><FITID>a</FITID><NAME>Shop</NAME></STMTTRN></BANKTRANLIST></STMTRS></OFX>").Single();
        (two.Lines.Single().Amount, two.Lines.Single().Name).ShouldBe((-150, "Shop"));
    }

    [Fact]
    public void Mt940_is_read_with_subfields_strokes_or_plain_words()
    {
        var statement = Read("""
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
            """).Single();
        (statement.Account, statement.Number, statement.Opening, statement.Closing).ShouldBe(("EE030099220012345678", "00009/001", 10_000, 21_050));
        statement.Lines[0].ShouldBe(new StatementLine(new DateOnly(2025, 9, 5), 12_400, "Korall Boatyard", "EE471000001020145685", "INV-2025-0001", "", "R1"));
        statement.Lines[1].ShouldBe(new StatementLine(new DateOnly(2025, 9, 6), -450, "Sadama Pank", "EE12", "Monthly fee", "", "R2"));
        (statement.Lines[2].Date, statement.Lines[2].Amount, statement.Lines[2].Text).ShouldBe((new DateOnly(2026, 1, 2), -900, "Words over two lines"));
        statement.Difference(Format).ShouldBeNull();
    }

    [Fact]
    public void Qif_days_are_read_the_way_that_fits_all_of_them()
    {
        Read("!Type:Bank\nD25/09/2025\nT1,124.00\nPKorall\nMINV-1\n^\nD05/09/2025\nT-4.50\n^\n").Single().Lines.Select(l => (l.Date, l.Amount)).ShouldBe([(new DateOnly(2025, 9, 25), 112_400), (new DateOnly(2025, 9, 5), -450)]);
        Read("!Type:Bank\nD9/25'25\nT5\n^\n").Single().Lines.Single().Date.ShouldBe(new DateOnly(2025, 9, 25));
        Read("!Type:Bank\nD05/09/2025\nT5\n^\n").Single().Remarks.Single().ShouldContain("either way round");
    }

    [Fact]
    public void Csv_needs_its_columns_said_and_takes_in_and_out_apart()
    {
        const string csv = "Kuupäev;Saaja/maksja;Selgitus;Laekumine;Väljaminek\n05.09.2025;Korall;INV-1;1 124,00;\n30.09.2025;Pank;Tasu;;4,50\n";
        Should.Throw<RefusalException>(() => Read(csv)).Refusals[0].Field.ShouldBe("columns");
        var columns = new CsvColumns { Date = "kuupäev", Amount = "Laekumine", Out = "Väljaminek", Name = "Saaja/maksja", Text = "Selgitus" };
        Read(csv, columns).Single().Lines.Select(l => (l.Date, l.Amount, l.Name, l.Text)).ShouldBe([(new DateOnly(2025, 9, 5), 112_400, "Korall", "INV-1"), (new DateOnly(2025, 9, 30), -450, "Pank", "Tasu")]);
        Should.Throw<RefusalException>(() => Read(csv, columns with { Name = "Nimi" })).Message.ShouldContain("no column “Nimi”");
        new StatementReader().HeadsOf(Encoding.Latin1.GetBytes(csv)).ShouldContain("Kuupäev");
    }

    [Fact]
    public void What_the_stand_in_writes_is_read_back()
    {
        StatementLine[] lines = [new(new DateOnly(2025, 9, 5), 12_400, "Korall <OÜ>", "EE471000001020145685", "a & b", "RF18539007547034", "R1"), new(new DateOnly(2025, 9, 6), -450, "Bank", "", "Fee", "", "R2")];
        var read = new StatementReader().Read(CamtWriter.Write("EE030099220012345678", Eur, "009", new DateOnly(2025, 9, 1), new DateOnly(2025, 9, 30), 100, lines), "x", null, Eur).Single();
        read.Lines.ShouldBe(lines);
        (read.Opening, read.Closing, read.Difference(Format)).ShouldBe((100, 12_050, null));
    }

    [Fact]
    public void Equal_lines_are_told_apart_and_the_same_file_gives_the_same_marks()
    {
        var line = new StatementLine(new DateOnly(2025, 9, 5), 500, "Korall", "", "x", "", "");
        var marks = Fingerprints.Of([line, line, line with { Amount = 501 }]);
        marks.Distinct().Count().ShouldBe(3);
        Fingerprints.Of([line with { Name = "KORALL" }, line, line with { Amount = 501 }]).ShouldBe(marks);
    }
}
