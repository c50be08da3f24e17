using System.Text.Json;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Lists;
using Jugaad.Formats.Reports;
using Jugaad.Formats.Tables;

namespace Jugaad.Formats.Tests;

/// <summary>The same report as JSON, CSV and a workbook.</summary>
public sealed class ReportJsonTests
{
    private static readonly Report Sample = new(
        "open-items",
        "Open items",
        "at the end of 2025-09-17",
        [new("name", "Name"), new("due", "Due"), new("daysLate", "Days late", true), new("open", "Open", true)],
        [
            new(
                ["Õie \"Quay\" Ltd, west", new DateOnly(2025, 9, 1), 16, new Money(123_456, Currency.Of("EUR"))],
                "/papers/1"
            ),
            new(["=cmd", new DateOnly(2025, 9, 30), null, new Money(-500, Currency.Of("JPY"))]),
            new(["In all", null, null, null], IsSum: true),
        ]
    );

    [Fact]
    public void Amounts_are_texts_nothing_is_null_and_sums_are_left_out()
    {
        using var json = JsonDocument.Parse(ReportJson.Write(Sample));
        var root = json.RootElement;
        (root.GetProperty("report").GetString(), root.GetProperty("about").GetString()).ShouldBe(
            ("open-items", "at the end of 2025-09-17")
        );
        var rows = root.GetProperty("rows").EnumerateArray().ToList();
        rows.Count.ShouldBe(2);
        (
            rows[0].GetProperty("name").GetString(),
            rows[0].GetProperty("due").GetString(),
            rows[0].GetProperty("daysLate").GetInt32(),
            rows[0].GetProperty("open").GetString()
        ).ShouldBe(("Õie \"Quay\" Ltd, west", "2025-09-01", 16, "1234.56"));
        (rows[1].GetProperty("daysLate").ValueKind, rows[1].GetProperty("open").GetString()).ShouldBe(
            (JsonValueKind.Null, "-500")
        );
    }

    [Theory]
    [InlineData(TableForm.Csv)]
    [InlineData(TableForm.Xlsx)]
    public void As_a_table_it_reads_back_as_it_was(TableForm form)
    {
        var files = new TableFiles();
        var read = files.Read(files.Write(Sample.ToTable(), form));
        read.Columns.ShouldBe(["Name", "Due", "Days late", "Open"]);
        read.Rows.Select(r => string.Join('|', r))
            .ShouldBe(["Õie \"Quay\" Ltd, west|2025-09-01|16|1234.56", "=cmd|2025-09-30||-500"]);
    }
}
