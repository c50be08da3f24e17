using Jugaad.Core.Trade;

namespace Jugaad.Desk.Moving;

/// <summary>
/// The parts of a customer that repeat, in one cell each: entries apart by bars, their values apart by semicolons. A
/// bar or a semicolon within a value is written with a backslash before it.
/// </summary>
internal static class CustomerCells
{
    internal static string Write(IEnumerable<ContactDetails> contacts) =>
        Join(
            contacts.Select(c =>
                new[]
                {
                    c.Name,
                    c.Email,
                    c.Phone,
                    string.Join(
                        ' ',
                        new[]
                        {
                            c.GetsInvoices ? "invoices" : "",
                            c.GetsReminders ? "reminders" : "",
                            c.Decides ? "decides" : "",
                        }.Where(p => p.Length > 0)
                    ),
                }
            )
        );

    internal static string Write(PaperForm form) =>
        form switch
        {
            PaperForm.HybridPdf => "hybrid pdf",
            PaperForm.EInvoice => "e-invoice",
            PaperForm.Print => "print",
            _ => "pdf",
        };

    /// <returns>Null where the cell names none.</returns>
    internal static PaperForm? Form(string cell) =>
        Enum.GetValues<PaperForm>()
            .Cast<PaperForm?>()
            .FirstOrDefault(f => Write(f!.Value).Equals(cell.Trim(), StringComparison.OrdinalIgnoreCase));

    internal static string Write(IEnumerable<PlaceDetails> places) =>
        Join(
            places.Select(p =>
                new[]
                {
                    p.Label,
                    p.Address.Street,
                    p.Address.PostalCode,
                    p.Address.City,
                    p.Address.Region,
                    p.Address.Country,
                }
            )
        );

    internal static string Write(IEnumerable<CertificateDetails> certificates) =>
        Join(
            certificates.Select(c =>
                new[] { c.Number, c.From?.ToString("yyyy-MM-dd") ?? "", c.Until?.ToString("yyyy-MM-dd") ?? "" }
            )
        );

    internal static List<ContactDetails> Contacts(string cell) =>
        Split(cell, 4)
            .ConvertAll(v => new ContactDetails(
                v[0],
                v[1],
                v[2],
                Part(v[3], "invoices"),
                Part(v[3], "reminders"),
                Part(v[3], "decides")
            ));

    /// <summary>
    /// A place that is there by the same name keeps its identity; one without a country is in the customer's.
    /// </summary>
    internal static List<PlaceDetails> Places(string cell, IReadOnlyList<PlaceDetails> before, string country) =>
        Split(cell, 6)
            .ConvertAll(v =>
            {
                var address = new Address(
                    v[1],
                    v[2],
                    v[3],
                    v[5].Length > 0 ? Countries.Find(v[5]) ?? v[5] : country,
                    v[4]
                );
                return new PlaceDetails(before.FirstOrDefault(p => p.Label == v[0])?.Id, v[0], address);
            });

    internal static List<CertificateDetails> Certificates(RowCells row)
    {
        DateOnly? Day(string text)
        {
            if (text.Length == 0)
                return null;
            if (DateOnly.TryParseExact(text, "yyyy-MM-dd", out var day))
                return day;
            row.Refused.Add("certificates", $"“{text}” is not a day. Write it like 2026-03-31.");
            return null;
        }

        return Split(row.Text("certificates"), 3).ConvertAll(v => new CertificateDetails(v[0], Day(v[1]), Day(v[2])));
    }

    private static bool Part(string parts, string part) => parts.Split(' ').Contains(part);

    private static string Join(IEnumerable<string[]> entries) =>
        string.Join(
            " | ",
            entries.Select(e =>
                string.Join(
                    "; ",
                    e.Select(v =>
                        v.Replace("\\", "\\\\", StringComparison.Ordinal)
                            .Replace(";", "\\;", StringComparison.Ordinal)
                            .Replace("|", "\\|", StringComparison.Ordinal)
                    )
                )
            )
        );

    private static List<string[]> Split(string cell, int values)
    {
        var entries = new List<string[]>();
        if (cell.Length == 0)
            return entries;
        var entry = new List<string> { "" };
        for (var i = 0; i < cell.Length; i++)
        {
            if (cell[i] == '\\' && i + 1 < cell.Length)
                entry[^1] += cell[++i];
            else if (cell[i] == ';')
                entry.Add("");
            else if (cell[i] == '|')
            {
                entries.Add(Whole(entry, values));
                entry = [""];
            }
            else
                entry[^1] += cell[i];
        }

        entries.Add(Whole(entry, values));
        return entries;
    }

    private static string[] Whole(List<string> entry, int values) =>
        Enumerable.Range(0, values).Select(i => i < entry.Count ? entry[i].Trim() : "").ToArray();
}
