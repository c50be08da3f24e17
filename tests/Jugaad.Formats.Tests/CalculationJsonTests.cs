using System.Text;
using System.Text.Json.Nodes;
using Jugaad.Core;
using Jugaad.Formats.Calculation;

namespace Jugaad.Formats.Tests;

public sealed class CalculationJsonTests
{
    private const string Codes =
        """[{"code":"STD","category":"S","components":[{"name":"VAT","rates":[{"from":"2024-01-01","percent":"22"},{"from":"2025-07-01","percent":"24"}]}]}]""";

    private static (JsonNode Answer, bool Refused) Run(string json)
    {
        using var output = new MemoryStream();
        var refused = CalculationJson.Run(Encoding.UTF8.GetBytes(json), output);
        return (JsonNode.Parse(output.ToArray())!, refused);
    }

    private static string Document(string lines, string more = "") =>
        $$"""{"currency":"EUR","date":"2025-09-17","taxCodes":{{Codes}},"lines":{{lines}}{{more}}}""";

    /// <summary>Random documents with what a second implementation, made from exact fractions, says of them.</summary>
    public static IEnumerable<object[]> Figures() =>
        JsonNode
            .Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "figures.json")))!
            .AsArray()
            .Select((f, i) => new object[] { i, f!["document"]!.ToJsonString(), f["result"]!.ToJsonString() });

    [Theory]
    [MemberData(nameof(Figures))]
    public void Worked_figures_come_out_to_the_letter(int number, string document, string result)
    {
        number.ShouldBeGreaterThanOrEqualTo(0);
        Run(document).Answer.ToJsonString().ShouldBe(result);
    }

    [Fact]
    public void An_array_gives_an_array_and_a_refused_document_is_refused_in_its_place()
    {
        var good = Document("""[{"quantity":"3","unitPrice":"100.00","taxCode":"STD"}]""");
        var (answer, refused) = Run($"[{good},{Document("[]")},{good}]");
        refused.ShouldBeFalse();
        answer
            .AsArray()
            .Select(a => a!["total"]?.ToString() ?? a["error"]!["field"]!.ToString())
            .ShouldBe(["372.00", "lines", "372.00"]);
    }

    [Theory]
    [InlineData(
        """[{"quantity":"1","unitPrice":"10","taxCode":"STD","discountAmount":"10.01"}]""",
        "",
        "lines[0].discountAmount"
    )]
    [InlineData("""[{"quantity":"1.1234567","unitPrice":"10","taxCode":"STD"}]""", "", "lines[0].quantity")]
    [InlineData("""[{"quantity":"1e9","unitPrice":"10","taxCode":"STD"}]""", "", "lines[0].quantity")]
    [InlineData("""[{"quantity":1,"unitPrice":"10","taxCode":"STD"}]""", "", "lines[0].quantity")]
    [InlineData("""[{"unitPrice":"10","taxCode":"STD"}]""", "", "lines[0].quantity")]
    [InlineData("""[{"quantity":"1","unitPrice":"10","taxCode":"NIX"}]""", "", "lines[0].taxCode")]
    [InlineData(
        """[{"quantity":"1","unitPrice":"10","taxCode":"STD","discountAmount":"0.999"}]""",
        "",
        "lines[0].discountAmount"
    )]
    [InlineData("""[{"quantity":"1","unitPrice":"10","taxCode":"STD","qantity":"2"}]""", "", "lines[0].qantity")]
    [InlineData("""[7]""", "", "lines[0]")]
    [InlineData("""{}""", "", "lines")]
    [InlineData("""[{"quantity":"1","unitPrice":"10","taxCode":"STD"}]""", ""","taxDate":"2023-12-31" """, "taxDate")]
    [InlineData("""[{"quantity":"1","unitPrice":"10","taxCode":"STD"}]""", ""","taxDate":"31.12.2025" """, "taxDate")]
    [InlineData(
        """[{"quantity":"1","unitPrice":"10","taxCode":"STD"}]""",
        ""","taxRounding":"never" """,
        "taxRounding"
    )]
    [InlineData(
        """[{"quantity":"1","unitPrice":"10","taxCode":"STD"}]""",
        ""","pricesIncludeTax":"yes" """,
        "pricesIncludeTax"
    )]
    [InlineData(
        """[{"quantity":"1","unitPrice":"10","taxCode":"STD"}]""",
        ""","charges":[{"amount":"1.234","taxCode":"STD"}]""",
        "charges[0].amount"
    )]
    public void What_is_wrong_is_refused_with_its_place(string lines, string more, string field)
    {
        var (answer, refused) = Run(Document(lines, more));
        refused.ShouldBeTrue();
        answer["error"]!["field"]!.ToString().ShouldBe(field);
        answer["error"]!["message"]!.ToString().ShouldNotBeNullOrWhiteSpace();
    }

    [Theory]
    [InlineData("{\n \"currency\": }", "line 2, byte 14")]
    [InlineData("", "line 1, byte 1")]
    [InlineData("\"text\"", "")]
    public void What_is_no_json_is_refused_with_the_place(string text, string place) =>
        Should.Throw<RefusalException>(() => Run(text)).Refusals[0].Field.ShouldBe(place);

    [Theory]
    [InlineData("{\"currency\":\"\\ud800\"}")]
    [InlineData("{\"\\ud800\":1}")]
    public void A_broken_character_is_refused(string document)
    {
        var (answer, refused) = Run(document);
        (refused, answer["error"]!["message"]!.ToString().Length > 10).ShouldBe((true, true));
    }

    [Fact]
    public void A_byte_order_mark_does_no_harm() =>
        Run('\uFEFF' + Document("""[{"quantity":"1","unitPrice":"1","taxCode":"STD"}]""")).Refused.ShouldBeFalse();

    [Fact]
    public void A_rate_twice_on_one_day_and_a_code_twice_are_refused()
    {
        string With(string codes) =>
            Run($$"""{"currency":"EUR","date":"2025-09-17","taxCodes":{{codes}},"lines":[]}""").Answer["error"]![
                "field"
            ]!.ToString();
        With(
                """[{"code":"A","category":"S","components":[{"name":"V","rates":[{"from":"2024-01-01","percent":"1"},{"from":"2024-01-01","percent":"2"}]}]}]"""
            )
            .ShouldBe("taxCodes[0].components[0].rates[1].from");
        With("""[{"code":"A","category":"E"},{"code":"A","category":"E"}]""").ShouldBe("taxCodes[1].code");
        With("""[{"code":"A","category":"X"}]""").ShouldBe("taxCodes[0].category");
        With(
                """[{"code":"A","category":"S","components":[{"name":"V","rates":[{"from":"2024-01-01","percent":"101"}]}]}]"""
            )
            .ShouldBe("taxCodes[0].components[0].rates[0].percent");
    }
}
