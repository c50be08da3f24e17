using Jugaad.Core.Amounts;

namespace Jugaad.Core.Taxes;

/// <summary>A percentage that is in force from a day until the next rate begins.</summary>
public sealed class TaxRate
{
    /// <summary>What is said of a rate that cannot be.</summary>
    public const string CannotBe = "Give a rate from 0 to 100 with at most 4 decimals.";

    private TaxRate() { }

    /// <param name="from">First day in force.</param>
    /// <param name="percent">0 to 100 with at most 4 decimals.</param>
    public TaxRate(DateOnly from, decimal percent) => (From, Percent) = (from, percent);

    public int Id { get; private set; }

    public DateOnly From { get; private set; }

    public decimal Percent { get; private set; }

    public static bool CanBe(decimal percent) =>
        percent is >= 0 and <= 100 && PlainDecimal.DecimalsOf(percent) <= Limits.PercentDecimals;
}
