using System.Text.Json;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Reports;
using Jugaad.Formats.Reports;

namespace Jugaad.Formats.Tests;

/// <summary>Expected money for programs.</summary>
public sealed class ExpectedJsonTests
{
    private static readonly DateOnly Day = new(2025, 9, 17);
    private static readonly Currency Euro = Currency.Of("EUR");

    private static ExpectedRow Row(string number, long home, ExpectedDay? expected, string why) =>
        new(
            new OpenOnDay(1, 1, AccountItemKind.Invoice, number, Day, Day, Euro, home, home, home, 1, 1, null),
            "OIE",
            "Õie \"Quay\"",
            home,
            new ExpectedPart(1, home, expected),
            why
        );

    [Fact]
    public void Weeks_and_items_have_their_names_and_amounts_are_texts()
    {
        List<ExpectedRow> rows =
        [
            Row("R-1", 1234_56, ExpectedDay.Said(Day, Day.AddDays(2), ExpectedBecause.Promise), "promised"),
            Row("R-2", 10_00, null, "in dispute"),
        ];
        var then = new ExpectedThen(Day, Euro, ExpectedMoney.Of(Day, 1, rows.ConvertAll(r => r.Part)), rows, 5);
        using var json = JsonDocument.Parse(ExpectedJson.Write(then));
        JsonSerializer
            .Serialize(json.RootElement)
            .ShouldBe(
                """{"weeks":[{"from":"2025-09-17","to":"2025-09-23","amount":"1234.56","low":"1234.56","high":"1234.56","promised":"1234.56"}],"later":"0.00","inDispute":"10.00","total":"1244.56","items":[{"number":"R-1","customer":"OIE","open":"1234.56","expected":"2025-09-19","why":"promised"},{"number":"R-2","customer":"OIE","open":"10.00","expected":null,"why":"in dispute"}]}"""
            );
    }
}
