using System.Text.Json;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Lists;

namespace Jugaad.Formats.Reports;

/// <summary>Reports as JSON (RFC 8259). Amounts are texts, so that no reader's floating point touches them.</summary>
public static class ReportJson
{
    private static readonly JsonWriterOptions Options = new()
    {
        Indented = true,
        NewLine = "\n",
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>The same for what is written as a whole.</summary>
    internal static JsonSerializerOptions Style { get; } =
        new()
        {
            WriteIndented = Options.Indented,
            NewLine = Options.NewLine,
            Encoder = Options.Encoder,
        };

    public static byte[] Write(Report report)
    {
        using var file = new MemoryStream();
        using (var json = new Utf8JsonWriter(file, Options))
        {
            json.WriteStartObject();
            json.WriteString("report", report.Name);
            json.WriteString("title", report.Title);
            json.WriteString("about", report.About);
            json.WriteStartArray("rows");
            foreach (var row in report.Rows.Where(r => !r.IsSum))
                Row(json, report, row);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        return file.ToArray();
    }

    private static void Row(Utf8JsonWriter json, Report report, ReportRow row)
    {
        json.WriteStartObject();
        for (var i = 0; i < report.Columns.Count; i++)
        {
            json.WritePropertyName(report.Columns[i].Key);
            switch (row.Cells[i])
            {
                case null:
                    json.WriteNullValue();
                    break;
                case int whole:
                    json.WriteNumberValue(whole);
                    break;
                case Money money:
                    json.WriteStringValue(money.ToString());
                    break;
                default:
                    json.WriteStringValue(Report.Text(row.Cells[i]));
                    break;
            }
        }

        json.WriteEndObject();
    }
}
