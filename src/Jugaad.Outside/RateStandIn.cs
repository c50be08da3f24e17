using System.Globalization;
using System.Text;
using System.Xml.Linq;
using Jugaad.Desk.Outside;

namespace Jugaad.Outside;

/// <summary>
/// Stands in for the European Central Bank's page of euro reference rates: made-up figures, in the form in which they
/// are published, on each working day. The same day always has the same rates.
/// </summary>
public sealed class RateStandIn : IRateSource
{
    private static readonly XNamespace Envelope = "http://www.gesmes.org/xml/2002-08-01";
    private static readonly XNamespace Rates = "http://www.ecb.int/vocabulary/2002-08-01/eurofxref";

    /// <summary>For one euro, and with how many decimals it is published.</summary>
    private static readonly (string Currency, double Middle, int Decimals)[] Around =
    [
        ("USD", 1.1712, 4),
        ("JPY", 172.4, 2),
        ("CZK", 24.33, 3),
        ("DKK", 7.4632, 4),
        ("GBP", 0.8655, 5),
        ("HUF", 391.2, 2),
        ("PLN", 4.257, 4),
        ("SEK", 10.972, 4),
        ("CHF", 0.9341, 4),
        ("ISK", 143.2, 2),
        ("NOK", 11.965, 4),
    ];

    public string Name => "Euro reference rates (stand-in)";

    public Task<byte[]?> FetchAsync(DateOnly from, DateOnly until, CancellationToken stop)
    {
        var days = new List<DateOnly>();
        for (var day = from; day <= until && days.Count < 1_000; day = day.AddDays(1))
            if (day.DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday))
                days.Add(day);
        return Task.FromResult(days.Count == 0 ? null : Write(days));
    }

    private static byte[]? Write(IEnumerable<DateOnly> days)
    {
        var envelope = new XElement(
            Envelope + "Envelope",
            new XAttribute(XNamespace.Xmlns + "gesmes", Envelope.NamespaceName),
            new XAttribute("xmlns", Rates.NamespaceName),
            new XElement(Envelope + "subject", "Reference rates"),
            new XElement(Envelope + "Sender", new XElement(Envelope + "name", "Stand-in")),
            new XElement(
                Rates + "Cube",
                days.Reverse()
                    .Select(day => new XElement(
                        Rates + "Cube",
                        new XAttribute("time", day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)),
                        Around.Select(a => new XElement(
                            Rates + "Cube",
                            new XAttribute("currency", a.Currency),
                            new XAttribute("rate", On(day, a))
                        ))
                    ))
            )
        );
        return Encoding.UTF8.GetBytes($"<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n{envelope}");
    }

    /// <summary>A slow swing and a small daily one, some weeks apart from currency to currency.</summary>
    private static string On(DateOnly day, (string Currency, double Middle, int Decimals) around)
    {
        var shift = around.Currency.Sum(c => c) * 7;
        var swing =
            (0.018 * Math.Sin((day.DayNumber + shift) / 41.0)) + (0.003 * Math.Sin((day.DayNumber * 2.3) + shift));
        return Math.Round((decimal)(around.Middle * (1 + swing)), around.Decimals)
            .ToString(CultureInfo.InvariantCulture);
    }
}
