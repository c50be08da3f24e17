using System.Text;
using CsCheck;
using Jugaad.Core;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Moving;
using Jugaad.Formats.Tables;

namespace Jugaad.Formats.Tests;

/// <summary>Tables from files as people have them, and back.</summary>
public sealed class TableTests
{
    private static readonly TableFiles Files = new();
    private static readonly Encoding Windows = Windows1252();

    private static Encoding Windows1252()
    {
        Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);
        return Encoding.GetEncoding(1252);
    }

    private const string Plain =
        "name;town;note\r\nÕige & Ülle;Käina;\"two\r\nlines; and a \"\"quote\"\"\"\r\nÅsa;Malmö;\r\n";

    public static TheoryData<string, byte[]> Encodings =>
        new()
        {
            { "UTF-8", Encoding.UTF8.GetBytes(Plain) },
            { "UTF-8", [.. Encoding.UTF8.Preamble, .. Encoding.UTF8.GetBytes(Plain)] },
            { "UTF-16", [.. Encoding.Unicode.Preamble, .. Encoding.Unicode.GetBytes(Plain)] },
            { "UTF-16", [.. Encoding.BigEndianUnicode.Preamble, .. Encoding.BigEndianUnicode.GetBytes(Plain)] },
            { "UTF-16", Encoding.Unicode.GetBytes(Plain) },
            { "UTF-16", Encoding.BigEndianUnicode.GetBytes(Plain) },
            { "Windows-1252", Windows.GetBytes(Plain) },
        };

    [Theory]
    [MemberData(nameof(Encodings))]
    public void Every_usual_encoding_is_told_by_itself(string name, byte[] file)
    {
        var table = Files.Read(file);
        table.Note.ShouldBe($"CSV with semicolons, {name}");
        table.Columns.ShouldBe(["name", "town", "note"]);
        table.Rows.Count.ShouldBe(2);
        table.Rows[0].ShouldBe(["Õige & Ülle", "Käina", "two\r\nlines; and a \"quote\""]);
        table.Rows[1].ShouldBe(["Åsa", "Malmö", ""]);
    }

    [Theory]
    [InlineData("a,b\n1,2\n3,4\n", "commas")]
    [InlineData("a;b\n1,5;2,5\n3,5;4,5\n", "semicolons")]
    [InlineData("a\tb\n1,5\t2;3\n", "tabs")]
    [InlineData("a|b\nx, y|z\n", "bars")]
    [InlineData("\"a;x\",b\n\"1;2;3\",2\n", "commas")]
    [InlineData("alone\nx\ny\n", "commas")]
    public void The_separator_is_the_one_that_stands_equally_often(string text, string words) =>
        Files.Read(Encoding.UTF8.GetBytes(text)).Note.ShouldStartWith($"CSV with {words}");

    [Fact]
    public void Short_rows_long_rows_blank_lines_and_heads_without_a_name_are_taken_as_meant()
    {
        var table = Files.Read("name,,mail,\n\nA\nB,x,b@c.example,more\n"u8.ToArray());
        table.Columns.ShouldBe(["name", "column 2", "mail", "column 4"]);
        table.Rows.Select(r => string.Join("/", r)).ShouldBe(["A///", "B/x/b@c.example/more"]);
        Files.Read("name,,\nA,,\n"u8.ToArray()).Columns.ShouldBe(["name"]);
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("name,mail\n", "no row below")]
    [InlineData("name,mail\n\"A,b\nC,d\n", "not closed")]
    public void What_is_no_table_is_refused(string text, string said) =>
        Should.Throw<RefusalException>(() => Files.Read(Encoding.UTF8.GetBytes(text))).Message.ShouldContain(said);

    [Fact]
    public void A_workbook_that_is_broken_or_a_picture_is_refused_in_words()
    {
        Should
            .Throw<RefusalException>(() => Files.Read([(byte)'P', (byte)'K', 3, 4, 1, 2, 3, 4]))
            .Message.ShouldContain("cannot be read");
        var png = new byte[400];
        new Random(7).NextBytes(png);
        "\u0089PNG"u8.CopyTo(png);
        Should.Throw<RefusalException>(() => Files.Read(png));
    }

    [Theory]
    [InlineData("=1+1")]
    [InlineData("+cmd|'/c calc'!A0")]
    [InlineData("-2+3")]
    [InlineData("@SUM(A1)")]
    [InlineData("\tx")]
    [InlineData("'=quoted")]
    [InlineData("''=twice")]
    public void Text_that_a_spreadsheet_would_take_for_a_formula_is_made_harmless_and_read_back(string cell)
    {
        var file = Files.Write(
            new Table(
                ["a"],
                [
                    [cell],
                ]
            ),
            TableForm.Csv
        );
        Encoding.UTF8.GetString(file).Split("\r\n")[1].Trim('"').ShouldStartWith("'");
        if (cell[0] != '\t')
            Files.Read(file).Rows[0][0].ShouldBe(cell);
    }

    [Theory]
    [InlineData("-12.50")]
    [InlineData("+3")]
    [InlineData("-1,5")]
    [InlineData("plain")]
    [InlineData("it's")]
    [InlineData("'tis")]
    public void Figures_and_usual_text_stay_as_they_are(string cell) =>
        Encoding
            .UTF8.GetString(
                Files.Write(
                    new Table(
                        ["a"],
                        [
                            [cell],
                        ]
                    ),
                    TableForm.Csv
                )
            )
            .Split("\r\n")[1]
            .Trim('"')
            .ShouldBe(cell);

    [Theory]
    [InlineData(TableForm.Csv)]
    [InlineData(TableForm.Xlsx)]
    public void What_is_written_is_read_back(TableForm form)
    {
        var cell = Gen.OneOf(
            Gen.String[Gen.OneOf(Gen.Char['a', 'z'], Gen.Char['0', '9'], Gen.Char[",;\"'|=+-@ \nõäöüß€"]), 0, 12]
                .Select(s => s.Trim().TrimStart('\'').Trim()),
            Gen.Decimal[-10_000, 10_000]
                .Select(d => Math.Round(d, 2).ToString(System.Globalization.CultureInfo.InvariantCulture))
        );
        Gen.Select(Gen.Int[1, 5], Gen.Int[1, 8])
            .SelectMany((columns, rows) => cell.Array[columns].Array[rows])
            .Sample(
                rows =>
                {
                    // A row of empty cells is no row in a file.
                    var kept = rows.Select(r =>
                            (IReadOnlyList<string>)r.Select((c, i) => i == 0 && c.Length == 0 ? "x" : c).ToList()
                        )
                        .ToList();
                    var table = new Table(Enumerable.Range(1, kept[0].Count).Select(i => $"c{i}").ToList(), kept);
                    var read = Files.Read(Files.Write(table, form));
                    read.Columns.ShouldBe(table.Columns);
                    read.Rows.Select(r => string.Join("\u0001", r.Select(c => c.ReplaceLineEndings("\n"))))
                        .ShouldBe(kept.Select(r => string.Join("\u0001", r)));
                },
                iter: form == TableForm.Csv ? 400 : 60
            );
    }

    [Theory]
    [InlineData("17.9.2025", DateOrder.DayFirst, "2025-09-17")]
    [InlineData("17/09/25", DateOrder.DayFirst, "2025-09-17")]
    [InlineData("9/17/2025", DateOrder.MonthFirst, "2025-09-17")]
    [InlineData("2025/9/17", DateOrder.YearFirst, "2025-09-17")]
    [InlineData("2025-09-17", DateOrder.MonthFirst, "2025-09-17")]
    [InlineData("2025-09-17 00:00:00", DateOrder.DayFirst, "2025-09-17")]
    [InlineData("17 Sep 2025", DateOrder.DayFirst, "2025-09-17")]
    [InlineData("31.2.2025", DateOrder.DayFirst, null)]
    [InlineData("9/17/2025", DateOrder.DayFirst, null)]
    [InlineData("soon", DateOrder.DayFirst, null)]
    public void Dates_are_read_in_the_order_of_the_file(string text, DateOrder order, string? date)
    {
        var format = new CellFormat('.', order);
        if (date is null)
            Should.Throw<RefusalException>(() => format.Date(text, "date")).Refusals[0].Field.ShouldBe("date");
        else
            format.Date(text, "date").ShouldBe(DateOnly.Parse(date));
    }

    [Theory]
    [InlineData("12,50|1.234,00|3", "", ',', DateOrder.DayFirst)]
    [InlineData("12.50|1,234.00|3", "", '.', DateOrder.DayFirst)]
    [InlineData("1.234|1,5", "", ',', DateOrder.DayFirst)]
    [InlineData("1.234.567", "", ',', DateOrder.DayFirst)]
    [InlineData("0.125", "", '.', DateOrder.DayFirst)]
    [InlineData("1234.567|-12", "", '.', DateOrder.DayFirst)]
    [InlineData("1.5", "9/17/2025|1/2/2025", '.', DateOrder.MonthFirst)]
    [InlineData("1", "17/9/2025|1/2/2025", '.', DateOrder.DayFirst)]
    [InlineData("1", "1.2.2025|2025-01-02", '.', DateOrder.DayFirst)]
    [InlineData("1", "17.2.2025|01.13.2025", '.', DateOrder.DayFirst)]
    [InlineData("name|x|", "", '.', DateOrder.DayFirst)]
    public void How_figures_and_dates_are_written_is_seen_from_the_whole_column(
        string figures,
        string dates,
        char mark,
        DateOrder order
    ) =>
        CellFormat
            .Guess(figures.Split('|'), dates.Split('|'))
            .ShouldBe(new FormatGuess(new CellFormat(mark, order), false, false));

    [Theory]
    [InlineData("1.234|5", "2025-01-02", true, false)]
    [InlineData("1,234", "", true, false)]
    [InlineData("1,5|1.5", "", true, false)]
    [InlineData("1.5", "1/2/2025|3/3/2025", false, true)]
    [InlineData("1.5", "17/2/2025|3/17/2025", false, true)]
    public void What_a_file_does_not_tell_is_left_in_doubt(
        string figures,
        string dates,
        bool figuresInDoubt,
        bool datesInDoubt
    )
    {
        var guess = CellFormat.Guess(figures.Split('|'), dates.Split('|'));
        (guess.FiguresInDoubt, guess.DatesInDoubt).ShouldBe((figuresInDoubt, datesInDoubt));
    }

    [Fact]
    public void Cells_that_hold_figures_keep_their_value_whatever_the_text_beside_them_says()
    {
        using var stream = new MemoryStream();
        MiniExcelLibs.MiniExcel.SaveAs(
            stream,
            new[]
            {
                new Dictionary<string, object> { ["code"] = "A", ["price"] = 1.234 },
                new Dictionary<string, object> { ["code"] = "B", ["price"] = "1,5" },
            },
            excelType: MiniExcelLibs.ExcelType.XLSX
        );
        var table = new Jugaad.Formats.Tables.TableFiles().Read(stream.ToArray());
        table.Figures.ShouldBe([(0, 1)]);
        var comma = new CellFormat(',', DateOrder.DayFirst);
        decimal Price(int row) =>
            new RowCells(
                new Dictionary<string, string> { ["price"] = table.Rows[row][1] },
                comma,
                table.Figures.Contains((row, 1)) ? new HashSet<string> { "price" } : new HashSet<string>()
            ).Figure("price", 6);
        (Price(0), Price(1)).ShouldBe((1.234m, 1.5m));
    }

    [Fact]
    public void Columns_are_guessed_by_their_heads_each_once()
    {
        var guess = MovingFields.Guess(
            MovingKind.Customers,
            [
                "Customer No.",
                "Company Name",
                "E-Mail",
                "VAT Number",
                "ZIP",
                "City",
                "Street address",
                "Colour",
                "Credit limit EUR",
            ]
        );
        guess.ShouldBe(
            new Dictionary<string, int>
            {
                ["code"] = 0,
                ["name"] = 1,
                ["mail"] = 2,
                ["tax number"] = 3,
                ["postal code"] = 4,
                ["town"] = 5,
                ["street"] = 6,
                ["credit limit"] = 8,
            },
            ignoreOrder: true
        );
        foreach (var kind in Enum.GetValues<MovingKind>())
        {
            var keys = MovingFields.Of(kind).Select(f => f.Key).ToList();
            MovingFields.Guess(kind, keys).OrderBy(g => g.Value).Select(g => g.Key).ShouldBe(keys);
            MovingFields.Find(MovingFields.Key(kind)).ShouldBe(kind);
        }
    }
}
