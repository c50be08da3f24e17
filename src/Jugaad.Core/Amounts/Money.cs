using System.Globalization;

namespace Jugaad.Core.Amounts;

/// <summary>An amount: a whole number of minor units of one currency. Amounts of two currencies never meet.</summary>
/// <param name="Minor">Minor units: 1234 is 12.34 in EUR.</param>
/// <param name="Currency">The currency; its decimals say what a minor unit is.</param>
public readonly record struct Money(long Minor, Currency Currency) : IComparable<Money>
{
    public static Money Zero(Currency currency) => new(0, currency);

    /// <summary>The amount in units, exact: 12.34.</summary>
    public decimal Units => (decimal)Minor / Currency.MinorPerUnit;

    public bool IsZero => Minor == 0;

    /// <exception cref="InvalidOperationException">When the currencies differ.</exception>
    /// <exception cref="OverflowException">When the sum does not fit.</exception>
    public static Money operator +(Money a, Money b) => new(checked(a.Minor + Same(a, b).Minor), a.Currency);

    /// <inheritdoc cref="op_Addition"/>
    public static Money operator -(Money a, Money b) => new(checked(a.Minor - Same(a, b).Minor), a.Currency);

    public static Money operator -(Money a) => new(checked(-a.Minor), a.Currency);

    public static Money Add(Money a, Money b) => a + b;

    public static Money Subtract(Money a, Money b) => a - b;

    public static Money Negate(Money a) => -a;

    /// <inheritdoc cref="op_Addition"/>
    public int CompareTo(Money other) => Minor.CompareTo(Same(this, other).Minor);

    public static bool operator <(Money a, Money b) => a.CompareTo(b) < 0;

    public static bool operator >(Money a, Money b) => a.CompareTo(b) > 0;

    public static bool operator <=(Money a, Money b) => a.CompareTo(b) <= 0;

    public static bool operator >=(Money a, Money b) => a.CompareTo(b) >= 0;

    /// <summary>
    /// Reads a plain decimal such as <c>-12.5</c>. Fewer decimals than the currency has are fine; more are refused,
    /// never cut.
    /// </summary>
    /// <exception cref="RefusalException">When it is not a number, has too many decimals or is too large.</exception>
    public static Money Parse(string text, Currency currency, string field)
    {
        var value = PlainDecimal.Parse(text, currency.Decimals, field);
        return FromUnits(value, currency, field);
    }

    /// <inheritdoc cref="Parse"/>
    public static Money FromUnits(decimal units, Currency currency, string field)
    {
        var minor = units * currency.MinorPerUnit;
        if (minor != decimal.Truncate(minor))
            throw new RefusalException(
                field,
                $"{units} has more than the {currency.Decimals} decimals of {currency.Code}. Leave them out."
            );
        if (Math.Abs(minor) > Limits.AmountMinor)
            throw new RefusalException(field, $"{units} is more than an amount can be. Give less.");
        return new Money((long)minor, currency);
    }

    /// <summary>Exactly the currency's decimals, no grouping: <c>1234.50</c>, <c>3704</c>.</summary>
    public override string ToString() => Units.ToString("F" + Currency.Decimals, CultureInfo.InvariantCulture);

    private static Money Same(Money a, Money b) =>
        ReferenceEquals(a.Currency, b.Currency)
            ? b
            : throw new InvalidOperationException(
                $"{a.Currency} and {b.Currency} cannot meet without an exchange rate."
            );
}
