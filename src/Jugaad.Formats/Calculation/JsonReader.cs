using System.Text.Json;
using Jugaad.Core;

namespace Jugaad.Formats.Calculation;

/// <summary>
/// An object of JSON that is read field by field; what is missing, of the wrong type or unknown is refused with its
/// place.
/// </summary>
internal readonly struct JsonReader
{
    private readonly JsonElement _element;
    private readonly string _at;

    internal JsonReader(JsonElement element, string at)
    {
        (_element, _at) = (element, at);
        if (element.ValueKind != JsonValueKind.Object)
            throw Wrong(at, "an object in braces", element);
    }

    internal string Place(string name) => _at.Length == 0 ? name : $"{_at}.{name}";

    /// <summary>Refuses fields that mean nothing here, as they are most likely misspelt.</summary>
    internal void Only(params ReadOnlySpan<string> names)
    {
        foreach (var property in _element.EnumerateObject())
            if (!names.Contains(property.Name))
                throw new RefusalException(
                    Place(property.Name),
                    $"“{property.Name}” means nothing here. Use one of {string.Join(", ", names.ToArray())}."
                );
    }

    internal string Text(string name) => OptionalText(name) ?? throw Missing(name);

    internal string? OptionalText(string name) =>
        Find(name) is not { } value ? null
        : value.ValueKind == JsonValueKind.String ? value.GetString()
        : throw Wrong(Place(name), "a text in quotes", value);

    internal bool Flag(string name) =>
        Find(name) is { } value
        && value.ValueKind switch
        {
            JsonValueKind.True => true,
            JsonValueKind.False => false,
            _ => throw Wrong(Place(name), "true or false", value),
        };

    internal DateOnly? OptionalDate(string name) =>
        OptionalText(name) is not { } text ? null
        : DateOnly.TryParseExact(text, "yyyy-MM-dd", out var date) ? date
        : throw new RefusalException(Place(name), $"“{text}” is not a date. Write it like 2025-09-17.");

    internal DateOnly Date(string name) => OptionalDate(name) ?? throw Missing(name);

    /// <summary>The objects of an array, each with its place; none where it is left out.</summary>
    internal IEnumerable<JsonReader> Each(string name)
    {
        if (Find(name) is not { } value)
            yield break;
        if (value.ValueKind != JsonValueKind.Array)
            throw Wrong(Place(name), "an array in brackets", value);
        var i = 0;
        foreach (var element in value.EnumerateArray())
            yield return new JsonReader(element, $"{Place(name)}[{i++}]");
    }

    internal static RefusalException Wrong(string place, string wanted, JsonElement found) =>
        new(place, $"This should be {wanted}, and is {Kind(found)}.");

    private RefusalException Missing(string name) => new(Place(name), $"“{name}” is missing.");

    private JsonElement? Find(string name) =>
        _element.TryGetProperty(name, out var value) && value.ValueKind != JsonValueKind.Null ? value : null;

    private static string Kind(JsonElement element) =>
        element.ValueKind switch
        {
            JsonValueKind.Array => "an array",
            JsonValueKind.Object => "an object",
            JsonValueKind.String => "a text",
            JsonValueKind.Number => "a number without quotes",
            JsonValueKind.Null => "null",
            _ => "true or false",
        };
}
