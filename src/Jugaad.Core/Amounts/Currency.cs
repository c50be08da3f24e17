using System.Diagnostics.CodeAnalysis;

namespace Jugaad.Core.Amounts;

/// <summary>A currency of ISO 4217 with its code and the number of decimals of its minor unit.</summary>
public sealed class Currency : IEquatable<Currency>
{
    private Currency(string code, int decimals, string name)
    {
        Code = code;
        Decimals = decimals;
        Name = name;
        MinorPerUnit = (long)Math.Pow(10, decimals);
    }

    /// <summary>The alphabetic code, three capital letters.</summary>
    public string Code { get; }

    /// <summary>Decimals of the minor unit: 2 for EUR, 0 for JPY, 3 for KWD, 4 for UYW.</summary>
    public int Decimals { get; }

    public string Name { get; }

    /// <summary>Minor units in one unit: 100 for EUR.</summary>
    public long MinorPerUnit { get; }

    /// <summary>All currencies in use, by code.</summary>
    public static IReadOnlyCollection<Currency> All => Known.Values;

    private static readonly SortedDictionary<string, Currency> Known = Load();

    /// <exception cref="RefusalException">When ISO 4217 has no such currency in use.</exception>
    public static Currency Of(string code, string field = "currency") =>
        TryOf(code, out var currency)
            ? currency
            : throw new RefusalException(
                field,
                $"“{code}” is not a currency in use. Give a code of three letters of ISO 4217, such as EUR."
            );

    public static bool TryOf(string? code, [NotNullWhen(true)] out Currency? currency)
    {
        currency = null;
        return code is not null && Known.TryGetValue(code, out currency);
    }

    public bool Equals(Currency? other) => ReferenceEquals(this, other);

    public override bool Equals(object? obj) => Equals(obj as Currency);

    public override int GetHashCode() => Code.GetHashCode(StringComparison.Ordinal);

    public override string ToString() => Code;

    private static SortedDictionary<string, Currency> Load()
    {
        var known = new SortedDictionary<string, Currency>(StringComparer.Ordinal);
        foreach (var (code, decimals, name) in CurrencyTable.Rows)
            known.Add(code, new Currency(code, decimals, name));
        return known;
    }
}
