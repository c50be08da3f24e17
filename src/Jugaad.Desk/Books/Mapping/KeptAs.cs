using System.Text.Json;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>What a column has in place of what the program has.</summary>
internal static class KeptAs
{
    internal static ValueConverter<DraftContent, string> Content() =>
        new(
            value => JsonSerializer.Serialize(value, (JsonSerializerOptions?)null),
            text => JsonSerializer.Deserialize<DraftContent>(text, (JsonSerializerOptions?)null)!
        );

    internal static ValueConverter<T?, string?> Json<T>()
        where T : class =>
        new(
            value => value == null ? null : JsonSerializer.Serialize(value, (JsonSerializerOptions?)null),
            text => text == null ? null : JsonSerializer.Deserialize<T>(text, (JsonSerializerOptions?)null)
        );

    /// <summary>A list that is replaced as a whole, never changed.</summary>
    internal static ValueConverter<IReadOnlyList<T>, string> JsonList<T>() =>
        new(
            value => JsonSerializer.Serialize(value, (JsonSerializerOptions?)null),
            text => JsonSerializer.Deserialize<List<T>>(text, (JsonSerializerOptions?)null) ?? new List<T>()
        );

    /// <summary>Figures of at most 6 decimals as whole millionths.</summary>
    internal sealed class Millionths()
        : ValueConverter<decimal, long>(value => (long)(value * 1_000_000m), kept => kept / 1_000_000m);

    /// <summary>Exchange rates as they were quoted.</summary>
    internal sealed class Quoted()
        : ValueConverter<QuotedRate, string>(value => value.ToString(), kept => QuotedRate.Read(kept));

    internal sealed class CurrencyCode()
        : ValueConverter<Currency, string>(currency => currency.Code, code => Currency.Of(code, "currency"));
}
