using System.Text;
using System.Text.Json;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using System.Text.RegularExpressions;

namespace Jugaad.Core.Layouts;

/// <summary>
/// A layout as one JSON file with its pictures. What is as it would be anyway is not written; what is not known is
/// refused with its place.
/// </summary>
public static partial class LayoutFile
{
    /// <summary>In bytes; pictures make a layout large, not words.</summary>
    public const int Most = 8_000_000;

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        MaxDepth = 16,
        RespectNullableAnnotations = true,
        TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { LeaveOutDefaults } },
    };

    private static readonly JsonSerializerOptions Whole = new(Options)
    {
        TypeInfoResolver = new DefaultJsonTypeInfoResolver(),
    };

    private static readonly JsonSerializerOptions Indented = new(Options) { WriteIndented = true };

    public static string Write(Layout layout) => JsonSerializer.Serialize(layout, Options);

    /// <summary>The same, for people to read.</summary>
    public static string WriteIndented(Layout layout) => JsonSerializer.Serialize(layout, Indented) + "\n";

    /// <summary>With all that it could say, for whoever changes it and must not know what is usual.</summary>
    public static string WriteWhole(Layout layout) => JsonSerializer.Serialize(layout, Whole);

    /// <summary>The JSON schema (2020-12) of the file.</summary>
    public static string Schema()
    {
        var schema = JsonSchemaExporter.GetJsonSchemaAsNode(
            Options,
            typeof(Layout),
            new JsonSchemaExporterOptions { TreatNullObliviousAsNonNullable = true }
        );
        schema["$schema"] = "https://json-schema.org/draft/2020-12/schema";
        schema["title"] = "A layout of papers";
        return schema.ToJsonString(Indented) + "\n";
    }

    /// <exception cref="RefusalException">With the places of what is unknown or wrong in it.</exception>
    public static Layout Read(string json)
    {
        var layout = Parse(json);
        var wrong = LayoutCheck.Of(layout);
        return wrong.Count == 0 ? layout : throw new RefusalException([.. wrong]);
    }

    /// <summary>Reads it without asking whether it can be used: for work that is half done.</summary>
    /// <exception cref="RefusalException">Where it is no layout at all.</exception>
    public static Layout Parse(string json)
    {
        if (Encoding.UTF8.GetByteCount(json) > Most)
            throw new RefusalException(
                "",
                $"The file is larger than {Most / 1_000_000} MB. Make its pictures smaller."
            );
        try
        {
            return JsonSerializer.Deserialize<Layout>(json, Options)
                ?? throw new RefusalException("", "The file holds no layout.");
        }
        catch (JsonException wrong)
        {
            var place = (wrong.Path ?? "$").TrimStart('$', '.');
            throw new RefusalException(place, Words(place, wrong));
        }
        catch (Exception wrong) when (wrong is NotSupportedException or InvalidOperationException or ArgumentException)
        {
            throw new RefusalException("", "The file holds no layout that can be read.");
        }
    }

    private static string Words(string place, JsonException wrong)
    {
        var at = place.Length > 0 ? $"{place}: " : "";
        if (Unmapped().Match(wrong.Message) is { Success: true } unknown)
            return $"{at}“{unknown.Groups[1].Value}” is not known here. Take it out, or see how it is spelt in docs/layouts.md.";
        return wrong.LineNumber is { } line && (place.Length == 0 || wrong.InnerException is JsonException)
            ? $"{at}line {line + 1} of the file cannot be read as JSON of a layout."
            : $"{at}the value is not one that can stand here.";
    }

    /// <summary>Only what differs from an empty one of its kind is written; the form of the file always is.</summary>
    private static void LeaveOutDefaults(JsonTypeInfo info)
    {
        if (info.Kind != JsonTypeInfoKind.Object || info.Type.GetConstructor(Type.EmptyTypes) is null)
            return;
        var empty = Activator.CreateInstance(info.Type)!;
        foreach (var property in info.Properties)
        {
            if (property.Get is not { } get || property.Name == "version")
                continue;
            var usual = get(empty);
            property.ShouldSerialize = (_, value) =>
                value switch
                {
                    System.Collections.ICollection { Count: 0 } => false,
                    _ => !Equals(value, usual),
                };
        }
    }

    [GeneratedRegex("JSON property '([^']*)'")]
    private static partial Regex Unmapped();
}
