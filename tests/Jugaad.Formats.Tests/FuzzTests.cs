using System.Diagnostics;
using System.Formats.Tar;
using System.IO.Compression;
using System.Text;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Lists;
using Jugaad.Formats.Archives;
using Jugaad.Formats.Bank;
using Jugaad.Formats.Calculation;
using Jugaad.Formats.Pictures;
using Jugaad.Formats.Tables;
using Jugaad.Formats.Taxes;
using Jugaad.Tests;

namespace Jugaad.Formats.Tests;

/// <summary>
/// Every reader of files is given good files with damage of all sorts, from a fixed seed. It reads them or refuses them
/// in words; anything else, or taking seconds over a few kilobytes, is a defect. JUGAAD_FUZZ_SECONDS has each go on for
/// so long, from a seed of the moment; what is found is kept in the folder fuzz and becomes a case.
/// </summary>
public sealed class FuzzTests
{
    private const int Usual = 300;
    private static readonly TimeSpan MostOfOne = TimeSpan.FromSeconds(20);
    private static readonly string Cases = Path.Combine(SourceTree.Root, "tests", "Jugaad.Formats.Tests", "fuzz");

    private static readonly Currency Eur = Currency.Of("EUR");

    /// <summary>Pieces that mean something to one reader or another.</summary>
    private static readonly byte[][] Tokens = new[]
    {
        "<",
        ">",
        "</Ntry>",
        "<Ntry>",
        "<!DOCTYPE a [<!ENTITY b \"b\">]>",
        "&b;",
        "&#x0;",
        "<![CDATA[",
        "\"",
        "\"\"",
        ";",
        ",",
        "\t",
        "\n",
        "\r\n",
        "'",
        "=",
        "{",
        "}",
        "[",
        "]",
        "null",
        "true",
        "-",
        "--",
        "1e400",
        "99999999999999999999999999",
        "-0",
        "0.0000000001",
        "NaN",
        "\u0000",
        "\uFEFF",
        "\uD83D\uDE00",
        "\u202E",
        "XFD1048576",
        ":61:",
        ":86:",
        "<STMTTRN>",
        "!Type:",
        "^",
        "2025-02-30",
        "9999-12-31",
        "0001-01-01",
        "EUR",
        "XXX",
        "%",
        "PK\u0003\u0004",
    }
        .Select(Encoding.UTF8.GetBytes)
        .ToArray();

    private static readonly string[] StatementSeeds =
    [
        """<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.02"><BkToCstmrStmt><Stmt><Acct><Id><IBAN>EE471000001020145685</IBAN></Id><Ccy>EUR</Ccy></Acct><Bal><Tp><CdOrPrtry><Cd>CLBD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">10.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Dt><Dt>2025-09-30</Dt></Dt></Bal><Ntry><Amt Ccy="EUR">10.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><BookgDt><Dt>2025-09-03</Dt></BookgDt><NtryDtls><TxDtls><RmtInf><Ustrd>INV-1</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry></Stmt></BkToCstmrStmt></Document>""",
        "OFXHEADER:100\nDATA:OFXSGML\n\n<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR<BANKACCTFROM><ACCTID>1</BANKACCTFROM><BANKTRANLIST><STMTTRN><TRNTYPE>CREDIT<DTPOSTED>20250905<TRNAMT>124.00<FITID>F1<NAME>Korall &amp; Co</STMTTRN></BANKTRANLIST></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>",
        ":20:1\n:25:EE47/1\n:28C:1\n:60F:C250901EUR100,00\n:61:2509030903C10,00NTRFINV-1//B1\n:86:?20INV-1?32Korall\n:62F:C250930EUR110,00\n-",
        "!Type:Bank\nD9/ 5'25\nT1,124.00\nPKorall\nMINV-1\n^\nD9/30'25\nT-4.50\nPBank\n^\n",
        "Kuupäev;Saaja;Selgitus;Summa\n05.09.2025;Korall;INV-1;1 124,00\n30.09.2025;Pank;Tasu;-4,50\n",
    ];

    private static readonly Desk.Outside.SealKey Key = new OpenPgpSeal().NewKey("Fuzz");

    public static TheoryData<string> Readers => [.. All.Keys];

    private static readonly Dictionary<string, (Action<byte[]> Read, Func<IEnumerable<byte[]>> Seeds)> All = new()
    {
        ["statements"] = (Statements, () => StatementSeeds.Select(Encoding.UTF8.GetBytes)),
        ["tables"] = (bytes => new TableFiles().Read(bytes), TableSeeds),
        ["calculations"] = (
            bytes =>
            {
                using var output = new MemoryStream();
                CalculationJson.Run(bytes, output);
            },
            () =>
                [
                    File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "figures.json"))[..2_500],
                    Encoding.UTF8.GetBytes(
                        """{"currency":"EUR","date":"2025-09-17","taxCodes":[{"code":"A","category":"S","parts":[{"component":"VAT","percent":"24"}]}],"lines":[{"quantity":"3","unitPrice":"1234.5","discountPercent":"2","taxCode":"A"}]}"""
                    ),
                ]
        ),
        ["tax kits"] = (
            bytes => TaxKitJson.Read(bytes),
            () => new ShippedKits().All.Take(3).Select(k => TaxKitJson.Write(k.Kit))
        ),
        ["pictures"] = (
            bytes => new PictureCleaner().Clean(bytes, "logo"),
            () =>
                [
                    Convert.FromBase64String(
                        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
                    ),
                    Encoding.UTF8.GetBytes(DrawingTests.Sail),
                ]
        ),
        ["backups"] = (Unpack, () => [Backup()]),
        ["sealed backups"] = (Open, () => [Sealed()]),
    };

    [Theory]
    [MemberData(nameof(Readers))]
    public void Whatever_is_in_a_file_it_is_read_or_refused_in_words(string reader)
    {
        var (read, seeds) = All[reader];
        var good = seeds().ToList();
        foreach (var seed in good)
            Try(reader, read, seed);
        foreach (var kept in Directory.Exists(Cases) ? Directory.GetFiles(Cases, $"{reader.Replace(' ', '-')}-*") : [])
            Try(reader, read, File.ReadAllBytes(kept));
        var seconds = int.TryParse(Environment.GetEnvironmentVariable("JUGAAD_FUZZ_SECONDS"), out var asked)
            ? asked
            : 0;
        var dice = new Random(seconds > 0 ? Environment.TickCount : 20250917);
        var watch = Stopwatch.StartNew();
        for (var i = 0; seconds > 0 ? watch.Elapsed.TotalSeconds < seconds : i < Usual; i++)
            Try(reader, read, Damaged(good[dice.Next(good.Count)], good, dice));
    }

    private static void Try(string reader, Action<byte[]> read, byte[] file)
    {
        var watch = Stopwatch.StartNew();
        Exception? broken = null;
        try
        {
            read(file);
        }
        catch (RefusalException)
        {
            // That is how it should be.
        }
        catch (Exception other)
        {
            broken = other;
        }

        if (broken is null && watch.Elapsed < MostOfOne)
            return;
        Directory.CreateDirectory(Cases);
        var name =
            $"{reader.Replace(' ', '-')}-{Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(file))[..12]}";
        File.WriteAllBytes(Path.Combine(Cases, name), file);
        Assert.Fail($"{name}, {file.Length} bytes, {watch.Elapsed.TotalSeconds:0.0} s: {broken}");
    }

    private static byte[] Damaged(byte[] seed, List<byte[]> others, Random dice)
    {
        var bytes = seed.ToList();
        for (var times = dice.Next(1, 6); times > 0 && bytes.Count > 0; times--)
        {
            var at = dice.Next(bytes.Count);
            var length = dice.Next(1, Math.Max(2, Math.Min(200, bytes.Count - at)));
            switch (dice.Next(8))
            {
                case 0:
                    bytes[at] ^= (byte)(1 << dice.Next(8));
                    break;
                case 1:
                    bytes[at] = (byte)dice.Next(256);
                    break;
                case 2:
                    bytes.RemoveRange(at, Math.Min(length, bytes.Count - at));
                    break;
                case 3:
                    bytes.InsertRange(at, bytes.GetRange(at, Math.Min(length, bytes.Count - at)));
                    break;
                case 4:
                    bytes.InsertRange(at, Tokens[dice.Next(Tokens.Length)]);
                    break;
                case 5:
                    bytes.InsertRange(
                        at,
                        Enumerable.Repeat(Tokens[dice.Next(Tokens.Length)], dice.Next(1, 300)).SelectMany(t => t)
                    );
                    break;
                case 6:
                    bytes.RemoveRange(at, bytes.Count - at);
                    break;
                default:
                    var other = others[dice.Next(others.Count)];
                    var from = dice.Next(other.Length);
                    bytes.InsertRange(at, other[from..Math.Min(other.Length, from + length)]);
                    break;
            }
        }

        return [.. bytes];
    }

    private static void Statements(byte[] bytes)
    {
        using var file = new MemoryStream(bytes);
        new StatementReader().Read(file, "file", null, Eur);
    }

    private static IEnumerable<byte[]> TableSeeds()
    {
        var table = new Table(
            ["code", "name", "price"],
            [
                ["A", "First; \"quoted\"", "1.50"],
                ["B", "=1+1", "2,5"],
            ]
        );
        yield return new TableFiles().Write(table, TableForm.Csv);
        yield return new TableFiles().Write(table, TableForm.Xlsx);
        yield return Encoding.Unicode.GetBytes("code\tname\nA\tÕ\n");
    }

    private static byte[] Backup()
    {
        using var file = new MemoryStream();
        using (var packed = new GZipStream(file, CompressionLevel.NoCompression, leaveOpen: true))
        using (var tar = new TarWriter(packed, TarEntryFormat.Pax))
        {
            var content = "SQLite format 3"u8.ToArray();
            var manifest = new ArchiveManifest(
                ArchiveManifest.PresentForm,
                DateTime.UnixEpoch,
                "Loft",
                "x",
                [
                    new ArchivedFile(
                        "books.db",
                        content.Length,
                        Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(content))
                    ),
                ]
            );
            tar.WriteEntry(
                new PaxTarEntry(TarEntryType.RegularFile, "books.db") { DataStream = new MemoryStream(content) }
            );
            tar.WriteEntry(
                new PaxTarEntry(TarEntryType.RegularFile, ArchiveManifest.FileName)
                {
                    DataStream = new MemoryStream(manifest.ToBytes()),
                }
            );
        }

        return file.ToArray();
    }

    private static void Unpack(byte[] bytes)
    {
        var folder = Directory.CreateTempSubdirectory("jugaad-fuzz-").FullName;
        try
        {
            var file = Path.Combine(folder, "backup");
            File.WriteAllBytes(file, bytes);
            new ArchiveReader(new OpenPgpSeal())
                .UnpackAsync(file, Path.Combine(folder, "unpacked"), [Key.Private])
                .GetAwaiter()
                .GetResult();
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static byte[] Sealed()
    {
        using var to = new MemoryStream();
        using (var into = new OpenPgpSeal().Seal(to, [Key.Public]))
            into.Write(Backup());
        return to.ToArray();
    }

    private static void Open(byte[] bytes) => Unpack(bytes);
}
