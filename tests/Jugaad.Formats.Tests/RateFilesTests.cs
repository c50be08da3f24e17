using System.IO.Compression;
using System.Text;
using Jugaad.Core;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Rates;

namespace Jugaad.Formats.Tests;

/// <summary>Exchange rates from files, as they are published and as somebody types them into a table.</summary>
public sealed class RateFilesTests
{
    private const string Published = """
        <?xml version="1.0" encoding="UTF-8"?>
        <gesmes:Envelope xmlns:gesmes="http://www.gesmes.org/xml/2002-08-01" xmlns="http://www.ecb.int/vocabulary/2002-08-01/eurofxref">
          <gesmes:subject>Reference rates</gesmes:subject>
          <gesmes:Sender><gesmes:name>European Central Bank</gesmes:name></gesmes:Sender>
          <Cube>
            <Cube time='2025-09-17'>
              <Cube currency='SEK' rate='11.0465'/>
              <Cube currency='JPY' rate='173.21'/>
            </Cube>
            <Cube time="2025-09-16"><Cube currency="SEK" rate="11.0130"/></Cube>
          </Cube>
        </gesmes:Envelope>
        """;

    private static IReadOnlyList<FileRate> Read(string text) => new RateFiles().Read(Encoding.UTF8.GetBytes(text));

    private static string Refused(string text) =>
        Should.Throw<RefusalException>(() => Read(text)).Refusals.Single().Message;

    [Fact]
    public void The_reference_rates_are_read_as_xml() =>
        Read(Published)
            .Select(r => (r.Day, r.Base, r.Currency, r.Figure))
            .ShouldBe([
                (new DateOnly(2025, 9, 17), "EUR", "SEK", 11.0465m),
                (new DateOnly(2025, 9, 17), "EUR", "JPY", 173.21m),
                (new DateOnly(2025, 9, 16), "EUR", "SEK", 11.0130m),
            ]);

    [Theory]
    [InlineData("Date, USD, SEK, \n17 September 2025, 1.1837, 11.0465, \n")]
    [InlineData("Date,USD,SEK,CYP,\n2025-09-17,1.1837,11.0465,N/A,\n")]
    public void The_reference_rates_are_read_as_csv(string csv) =>
        Read(csv)
            .Select(r => (r.Day, r.Base, r.Currency, r.Figure))
            .ShouldBe([
                (new DateOnly(2025, 9, 17), "EUR", "USD", 1.1837m),
                (new DateOnly(2025, 9, 17), "EUR", "SEK", 11.0465m),
            ]);

    [Fact]
    public void The_csv_is_read_in_the_archive_in_which_it_is_published()
    {
        using var packed = new MemoryStream();
        using (var archive = new ZipArchive(packed, ZipArchiveMode.Create, leaveOpen: true))
        using (var writer = new StreamWriter(archive.CreateEntry("eurofxref.csv").Open()))
            writer.Write("Date, SEK, \n17 September 2025, 11.0465, \n");
        new RateFiles().Read(packed.ToArray()).Single().Figure.ShouldBe(11.0465m);
    }

    [Fact]
    public void A_plain_table_says_which_way_round_and_what_the_bank_buys_and_sells_at()
    {
        var rates = Read(
            "day;currency;rate;for one;buying;selling\n17.9.2025;SEK;11,0465;EUR;11,10;10,99\n2025-09-17;NOK;0.0859;;;\n"
        );
        rates[0].ShouldBe(new FileRate(new DateOnly(2025, 9, 17), "SEK", 11.0465m, "EUR", 11.10m, 10.99m, "row 2"));
        rates[1].ShouldBe(new FileRate(new DateOnly(2025, 9, 17), "NOK", 0.0859m, Where: "row 3"));
    }

    [Theory]
    [InlineData("day,currency,rate\n2025-09-17,SEK,eleven\n", "row 2")]
    [InlineData("day,currency,rate\n2025-09-17,SEK,-1\n", "row 2")]
    [InlineData("day,currency,rate\n2025-09-17,SEK,0\n", "row 2")]
    [InlineData("day,currency,rate\n2025-09-17,SEK,1e9\n", "row 2")]
    [InlineData("day,currency,rate\n2025-09-31,SEK,11.3\n", "row 2")]
    [InlineData("day,currency,rate\n2025-09-17,ÄÖÜ,11.3\n", "row 2")]
    [InlineData("when,currency,rate\n2025-09-17,SEK,11.3\n", "No column")]
    [InlineData("day,what\n2025-09-17,SEK\n", "No column")]
    [InlineData("<a><Cube time='2025-09-17'><Cube currency='SEK' rate='x'/></Cube></a>", "line 1")]
    [InlineData("<a><Cube time='2025-09-17'><Cube currency='SEK'", "broken")]
    [InlineData("<a/>", "no exchange rate")]
    [InlineData("<!DOCTYPE a [<!ENTITY x SYSTEM 'file:///etc/passwd'>]><a>&x;</a>", "broken")]
    [InlineData("", "empty")]
    public void What_cannot_be_read_is_refused_and_says_where(string file, string says) =>
        Refused(file).ShouldContain(says);

    [Fact]
    public void An_archive_that_swells_is_refused()
    {
        using var packed = new MemoryStream();
        using (var archive = new ZipArchive(packed, ZipArchiveMode.Create, leaveOpen: true))
        using (var stream = archive.CreateEntry("eurofxref.csv", CompressionLevel.SmallestSize).Open())
            for (var i = 0; i < 30; i++)
                stream.Write(new byte[1024 * 1024]);
        Should
            .Throw<RefusalException>(() => new RateFiles().Read(packed.ToArray()))
            .Refusals[0]
            .Message.ShouldContain("larger than 20 MB");
    }
}
