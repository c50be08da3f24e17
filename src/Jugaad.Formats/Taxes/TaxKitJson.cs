using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Formats.Taxes;

/// <summary>
/// Tax kits as JSON (RFC 8259). Categories are the letters of UN/CEFACT code list 5305, percentages plain decimals in
/// quotation marks, days ISO 8601. What is written is read back the same.
/// </summary>
public static class TaxKitJson
{
    private const int MostBytes = 1_000_000;

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        WriteIndented = true,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        ReadCommentHandling = JsonCommentHandling.Skip,
        AllowTrailingCommas = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        Converters =
        {
            new CategoryLetters(),
            new PlainPercent(),
            new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false),
        },
    };

    /// <exception cref="RefusalException">With where it is no kit, or contradicts itself.</exception>
    public static TaxKit Read(ReadOnlySpan<byte> json)
    {
        if (json.Length > MostBytes)
            throw new RefusalException("file", "A kit has at most a million bytes. This is something else.");
        if (json.StartsWith("\uFEFF"u8))
            json = json[3..];
        TaxKit kit;
        try
        {
            kit =
                JsonSerializer.Deserialize<TaxKit>(json, Options)
                ?? throw new RefusalException("file", "The file is empty.");
        }
        catch (JsonException wrong)
        {
            throw new RefusalException(
                "file",
                $"This is not a kit: {Where(wrong)} is not as it should be. {Shorten(wrong.InnerException is RefusalException inner ? inner.Message : "Compare it with a kit that was exported here.")}"
            );
        }

        kit.Check();
        return kit;
    }

    /// <summary>The boxes of a return, as text.</summary>
    /// <exception cref="RefusalException">With where they are none, or contradict themselves.</exception>
    public static IReadOnlyList<ReturnBox> ReadBoxes(string json)
    {
        if (json.Length > MostBytes)
            throw new RefusalException("boxes", "This is more than a million characters. Boxes are far fewer.");
        IReadOnlyList<ReturnBox> boxes;
        try
        {
            boxes = string.IsNullOrWhiteSpace(json)
                ? []
                : JsonSerializer.Deserialize<List<ReturnBox>>(json.TrimStart('\uFEFF'), Options) ?? [];
        }
        catch (JsonException wrong)
        {
            throw new RefusalException(
                "boxes",
                $"These are no boxes: {Where(wrong)} is not as it should be. {Shorten(wrong.InnerException is RefusalException inner ? inner.Message : "Compare them with boxes that were exported here.")}"
            );
        }

        if (boxes.Any(b => b is null))
            throw new RefusalException("boxes", "These are no boxes: one of them is empty.");
        ReturnBox.Check(boxes);
        return boxes;
    }

    public static string WriteBoxes(IReadOnlyList<ReturnBox> boxes) =>
        JsonSerializer.Serialize(boxes, Options).ReplaceLineEndings("\n") + "\n";

    public static byte[] Write(TaxKit kit) => [.. JsonSerializer.SerializeToUtf8Bytes(kit, Options), (byte)'\n'];

    private static string Where(JsonException wrong) =>
        wrong.Path is { Length: > 2 } path
            ? $"{path[(path[1] == '.' ? 2 : 1)..]} (line {wrong.LineNumber + 1})"
            : $"line {(wrong.LineNumber ?? 0) + 1}";

    private static string Shorten(string text) => text.Length <= 200 ? text : text[..200] + "…";

    private sealed class CategoryLetters : JsonConverter<TaxCategory>
    {
        public override TaxCategory Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            if (reader.TokenType != JsonTokenType.String)
                throw new JsonException();
            try
            {
                return TaxCategories.Of(reader.GetString() ?? "", "category");
            }
            catch (RefusalException refused)
            {
                throw new JsonException(null, refused);
            }
        }

        public override void Write(Utf8JsonWriter writer, TaxCategory value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Letters());
    }

    private sealed class PlainPercent : JsonConverter<decimal>
    {
        public override decimal Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            try
            {
                return reader.TokenType == JsonTokenType.Number
                    ? reader.GetDecimal()
                    : PlainDecimal.Parse(
                        reader.TokenType == JsonTokenType.String ? reader.GetString()! : "",
                        Limits.PercentDecimals,
                        "percent"
                    );
            }
            catch (Exception wrong) when (wrong is RefusalException or FormatException)
            {
                throw new JsonException(null, wrong);
            }
        }

        public override void Write(Utf8JsonWriter writer, decimal value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.ToString("0.####", CultureInfo.InvariantCulture));
    }
}
