using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Formats.Calculation;

/// <summary>
/// The core's computation as JSON in and out. Amounts, quantities and percentages are decimal texts in both directions,
/// so that no reader's floating point touches them.
/// </summary>
public static class CalculationJson
{
    private static readonly JsonWriterOptions Indented = new()
    {
        Indented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>Computes one document, or each of an array.</summary>
    /// <param name="input">UTF-8, with or without a byte order mark.</param>
    /// <returns>True when it was one document and it was refused.</returns>
    /// <exception cref="RefusalException">When the input is no JSON, or neither an object nor an array; the field is
    /// the place.</exception>
    public static bool Run(ReadOnlyMemory<byte> input, Stream output)
    {
        if (input.Span.StartsWith("\uFEFF"u8))
            input = input[3..];
        using var parsed = Parse(input);
        using var writer = new Utf8JsonWriter(output, Indented);
        if (parsed.RootElement.ValueKind == JsonValueKind.Array)
        {
            writer.WriteStartArray();
            foreach (var element in parsed.RootElement.EnumerateArray())
                Answer(element, writer);
            writer.WriteEndArray();
            return false;
        }

        if (parsed.RootElement.ValueKind != JsonValueKind.Object)
            throw JsonReader.Wrong("", "one document in braces, or an array of them", parsed.RootElement);
        return !Answer(parsed.RootElement, writer);
    }

    /// <summary>Writes a refusal of the whole input in the shape that a refused document has.</summary>
    public static void WriteRefusal(RefusalException refused, Stream output)
    {
        using var writer = new Utf8JsonWriter(output, Indented);
        Write(refused.Refusals[0], writer);
    }

    private static JsonDocument Parse(ReadOnlyMemory<byte> input)
    {
        try
        {
            return JsonDocument.Parse(input, new JsonDocumentOptions { MaxDepth = 32 });
        }
        catch (JsonException bad)
        {
            throw new RefusalException(
                $"line {bad.LineNumber + 1}, byte {bad.BytePositionInLine + 1}",
                "This is not JSON: something is out of place here. Check the quotes, commas and brackets around it."
            );
        }
    }

    private static bool Answer(JsonElement element, Utf8JsonWriter writer)
    {
        try
        {
            Write(Calculator.Compute(Read(new JsonReader(element, ""), out var currency)), currency, writer);
            return true;
        }
        catch (RefusalException refused)
        {
            Write(refused.Refusals[0], writer);
            return false;
        }
        catch (InvalidOperationException)
        {
            // A text that is no Unicode, such as half of a surrogate pair, is found only when it is read.
            Write(new Refusal("", "A text in this document holds a broken character. Write it in UTF-8."), writer);
            return false;
        }
    }

    private static DocumentFigures Read(JsonReader document, out Currency currency)
    {
        document.Only(
            "currency",
            "date",
            "taxDate",
            "taxCodes",
            "lines",
            "charges",
            "discountPercent",
            "discountAmount",
            "pricesIncludeTax",
            "taxRounding",
            "cashRounding"
        );
        var unit = currency = Currency.Of(document.Text("currency"));
        var date = document.Date("date");
        var taxDate = document.OptionalDate("taxDate");
        var dateField = taxDate is null ? "date" : "taxDate";
        var codes = TaxCodesJson.Read(document);
        var treatments = new Dictionary<string, Treatment>();
        Treatment TreatmentOf(JsonReader at)
        {
            var name = at.Text("taxCode");
            if (treatments.TryGetValue(name, out var known))
                return known;
            if (!codes.TryGetValue(name, out var code))
                throw new RefusalException(
                    at.Place("taxCode"),
                    $"There is no tax code “{name}” among taxCodes. Add it there, or use one of {string.Join(", ", codes.Keys)}."
                );
            return treatments[name] = code.TreatmentOn(taxDate ?? date, dateField, TaxStanding.Always);
        }

        return new DocumentFigures(
            unit,
            document.Each("lines").Select(line => ReadLine(line, unit, TreatmentOf)).ToList()
        )
        {
            Charges = document.Each("charges").Select(charge => ReadCharge(charge, unit, TreatmentOf)).ToList(),
            DiscountPercent = Figure(document, "discountPercent", Limits.PercentDecimals),
            DiscountAmount = Amount(document, "discountAmount", unit),
            PricesIncludeTax = document.Flag("pricesIncludeTax"),
            TaxRounding = document.OptionalText("taxRounding") switch
            {
                null or "document" => TaxRounding.Document,
                "line" => TaxRounding.Line,
                var other => throw new RefusalException(
                    "taxRounding",
                    $"“{other}” is no way of rounding. Use document or line."
                ),
            },
            CashStep = Amount(document, "cashRounding", unit),
        };
    }

    private static LineFigures ReadLine(JsonReader line, Currency currency, Func<JsonReader, Treatment> treatment)
    {
        line.Only("quantity", "unitPrice", "taxCode", "discountPercent", "discountAmount", "text");
        return new LineFigures(
            Required(line, "quantity"),
            Required(line, "unitPrice"),
            treatment(line),
            Figure(line, "discountPercent", Limits.PercentDecimals),
            Amount(line, "discountAmount", currency)
        );
    }

    private static ChargeFigures ReadCharge(JsonReader charge, Currency currency, Func<JsonReader, Treatment> treatment)
    {
        charge.Only("amount", "taxCode", "text");
        return new ChargeFigures(
            Money.Parse(charge.Text("amount"), currency, charge.Place("amount")).Minor,
            treatment(charge)
        );
    }

    private static decimal Required(JsonReader at, string name) =>
        PlainDecimal.Parse(at.Text(name), Limits.FigureDecimals, at.Place(name));

    private static decimal? Figure(JsonReader at, string name, int decimals) =>
        at.OptionalText(name) is { } text ? PlainDecimal.Parse(text, decimals, at.Place(name)) : null;

    private static long? Amount(JsonReader at, string name, Currency currency) =>
        at.OptionalText(name) is { } text ? Money.Parse(text, currency, at.Place(name)).Minor : null;

    private static void Write(Refusal refusal, Utf8JsonWriter writer)
    {
        writer.WriteStartObject();
        writer.WriteStartObject("error");
        writer.WriteString("field", refusal.Field);
        writer.WriteString("message", refusal.Message);
        writer.WriteEndObject();
        writer.WriteEndObject();
    }

    private static void Write(Totals totals, Currency currency, Utf8JsonWriter writer)
    {
        void Amount(string name, long minor) => writer.WriteString(name, new Money(minor, currency).ToString());
        writer.WriteStartObject();
        writer.WriteString("currency", currency.Code);
        writer.WriteStartArray("lines");
        foreach (var line in totals.Lines)
        {
            writer.WriteStartObject();
            Amount("extension", line.Extension);
            Amount("discount", line.Discount);
            Amount("amount", line.Amount);
            writer.WriteEndObject();
        }

        writer.WriteEndArray();
        Amount("subtotal", totals.Subtotal);
        Amount("discount", totals.Discount);
        Amount("charges", totals.Charges);
        writer.WriteStartArray("taxes");
        foreach (
            var (treatment, tax) in totals.Treatments.SelectMany(t =>
                t.Taxes.Select(x => (t, (ComponentTax?)x)).DefaultIfEmpty((t, null))
            )
        )
        {
            writer.WriteStartObject();
            writer.WriteString("category", treatment.Treatment.Category.Letters());
            writer.WriteString("component", tax?.Part.Name ?? "");
            writer.WriteString("percent", PlainDecimal.Text(tax?.Part.Percent ?? 0));
            Amount("taxable", treatment.Net);
            Amount("tax", tax?.Tax ?? 0);
            writer.WriteEndObject();
        }

        writer.WriteEndArray();
        Amount("net", totals.Net);
        Amount("tax", totals.Tax);
        Amount("total", totals.Total);
        Amount("rounding", totals.Rounding);
        Amount("payable", totals.Payable);
        writer.WriteEndObject();
    }
}
