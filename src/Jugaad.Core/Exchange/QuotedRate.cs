using System.Globalization;
using System.Numerics;
using System.Text.Json;
using System.Text.Json.Serialization;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Exchange;

/// <summary>
/// What a currency is worth in home currency, exactly as it was quoted: so many units of home for one of it, or so many
/// of it for one unit of home. It is never turned round and kept.
/// </summary>
/// <param name="Figure">Above zero.</param>
/// <param name="PerHome">Whether the figure is units of the currency for one of home.</param>
[JsonConverter(typeof(AsJson))]
public readonly record struct QuotedRate(decimal Figure, bool PerHome = false)
{
    /// <summary>The most significant digits that a rate is typed with.</summary>
    public const int Digits = 10;

    private const string TurnedRound = "1/";

    /// <summary>The rate of the home currency itself.</summary>
    public static QuotedRate One => new(1);

    /// <summary>So many units of home for one.</summary>
    public static implicit operator QuotedRate(decimal homeForOne) => FromDecimal(homeForOne);

    /// <inheritdoc cref="op_Implicit"/>
    public static QuotedRate FromDecimal(decimal homeForOne) => new(homeForOne);

    /// <summary>Units of home for one of the currency, for comparing and for estimates; amounts are never converted by
    /// it, as it may be rounded.</summary>
    public decimal HomeForOne => PerHome ? 1 / Figure : Figure;

    /// <summary>The rate at which two amounts are the same money, with ten significant digits.</summary>
    /// <param name="home">Minor units of <paramref name="of"/>, above zero.</param>
    /// <param name="minor">Minor units of <paramref name="currency"/>, above zero.</param>
    public static QuotedRate Between(long minor, Currency currency, long home, Currency of) =>
        new(Shortened(new Money(home, of).Units / new Money(minor, currency).Units));

    /// <summary>Rounded half away from zero to ten significant digits.</summary>
    public static decimal Shortened(decimal value)
    {
        if (value == 0)
            return 0;
        var whole = Math.Abs(value);
        var above = 0;
        for (; whole >= 1; whole /= 10)
            above++;
        for (; whole < 0.1m; whole *= 10)
            above--;
        if (above >= Digits)
            return Math.Round(value, 0, MidpointRounding.AwayFromZero);
        return Math.Round(value, Math.Min(28, Digits - above), MidpointRounding.AwayFromZero);
    }

    /// <exception cref="RefusalException">When it cannot be one.</exception>
    public void Check(string field)
    {
        if (Figure is <= 0 or > 1_000_000 || Shortened(Figure) != Figure || PlainDecimal.DecimalsOf(Figure) > 20)
            throw new RefusalException(
                field,
                $"Give a rate above zero, at most 1000000, with at most {Digits} digits that count."
            );
    }

    /// <summary>A price of home in the currency, rounded half away from zero to so many decimals.</summary>
    public decimal PriceOf(decimal home, int decimals) =>
        Math.Round(PerHome ? home * Figure : home / Figure, decimals, MidpointRounding.AwayFromZero);

    /// <summary>As it was quoted: <c>1 SEK = 0.0885 EUR</c> or <c>1 EUR = 11.3 SEK</c>.</summary>
    public string Words(Currency currency, Currency home, Func<decimal, string>? figure = null)
    {
        var written = (figure ?? PlainDecimal.Text)(Figure);
        return PerHome ? $"1 {home} = {written} {currency}" : $"1 {currency} = {written} {home}";
    }

    /// <summary>The same in a sentence, with its figure as whoever reads it writes figures.</summary>
    public Phrase Said(Currency currency, Currency home)
    {
        var (one, many) = PerHome ? (home, currency) : (currency, home);
        return $"1 {one} = {Figure} {many}";
    }

    /// <summary>As it is kept: <c>0.0885</c>, or <c>1/11.3</c> where it is quoted for one unit of home.</summary>
    public override string ToString() => $"{(PerHome ? TurnedRound : "")}{PlainDecimal.Text(Figure)}";

    /// <param name="text">As <see cref="ToString"/> writes it.</param>
    /// <exception cref="FormatException">When it is no rate.</exception>
    public static QuotedRate Read(string text)
    {
        var turned = text.StartsWith(TurnedRound, StringComparison.Ordinal);
        return new(
            decimal.Parse(
                turned ? text[TurnedRound.Length..] : text,
                NumberStyles.Number,
                CultureInfo.InvariantCulture
            ),
            turned
        );
    }

    /// <summary>An amount in minor units × or ÷ the rate, rounded once, half away from zero.</summary>
    /// <param name="back">Whether the amount is home's, and the currency's is asked for.</param>
    internal BigInteger Convert(BigInteger minor, long perUnit, long homePerUnit, bool back)
    {
        var (above, below) = Fraction();
        if (PerHome != back)
            (above, below) = (below, above);
        var (from, to) = back ? (homePerUnit, perUnit) : (perUnit, homePerUnit);
        return Rounding.Divide(minor * above * to, below * from);
    }

    private (BigInteger Above, BigInteger Below) Fraction()
    {
        var bits = decimal.GetBits(Figure);
        return (
            new BigInteger((uint)bits[0])
                + (new BigInteger((uint)bits[1]) << 32)
                + (new BigInteger((uint)bits[2]) << 64),
            BigInteger.Pow(10, (bits[3] >> 16) & 0xFF)
        );
    }

    /// <summary>A number for what is quoted in home, and a text for what is quoted the other way round.</summary>
    private sealed class AsJson : JsonConverter<QuotedRate>
    {
        public override QuotedRate Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
            reader.TokenType == JsonTokenType.Number ? reader.GetDecimal() : QuotedRate.Read(reader.GetString() ?? "");

        public override void Write(Utf8JsonWriter writer, QuotedRate value, JsonSerializerOptions options)
        {
            if (value.PerHome)
                writer.WriteStringValue(value.ToString());
            else
                writer.WriteNumberValue(value.Figure);
        }
    }
}
