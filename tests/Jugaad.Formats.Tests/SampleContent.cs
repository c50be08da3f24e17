using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;

namespace Jugaad.Formats.Tests;

/// <summary>What papers say, for tests of how it is set.</summary>
internal static class SampleContent
{
    internal static PaperContent Invoice(int lines, string text = "Boat cover, made to measure", string note = "") =>
        new()
        {
            Heading = "Invoice",
            Number = "INV-2025-0001",
            CurrencyCode = "EUR",
            Amount = minor => $"{minor / 100}.{minor % 100:00}",
            Note = note,
            Sender = new Sender(
                "Little Loft OÜ",
                "Quay 1\n1 Harbour",
                "123",
                "EE123",
                "loft@little.example",
                "Bank",
                "EE382200221020145685",
                "BANKEE2X",
                "The footer."
            ),
            Addressee = new Addressee("Õige & Ärimees <b>", "Slip 2\nHarbour", "EE", "EE9", "", ""),
            Facts = [("Date", "17 Sep 2025"), ("Due", "1 Oct 2025")],
            Values = new Dictionary<string, string>
            {
                ["Date"] = "17 Sep 2025",
                ["Until"] = "1 Oct 2025",
                ["Total"] = "1.24 EUR",
                ["TotalNumber"] = "1.24",
                ["Remarks"] = "Please pay by 1 Oct 2025.",
            },
            Lines =
            [
                .. Enumerable
                    .Range(1, lines)
                    .Select(i => new PaperLine($"{text} {i}", "2", "m²", "64.00", "", "24 %", "128.00", i * 12_800)),
            ],
            Totals = [new("Without tax", "1.00"), new("Tax", "0.24"), new("To pay EUR", "1.24", true)],
            Taxes = [new("VAT 24 %", "1.00", "0.24")],
            Closing = ["Please pay by 1 Oct 2025."],
        };

    internal static string TextOf(PaperPage page) =>
        string.Join('\n', page.Marks.OfType<TextMark>().Select(t => t.Text));

    internal static string TextOf(DisplayList paper) => string.Join('\n', paper.Pages.Select(TextOf));
}
