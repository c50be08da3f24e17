namespace Jugaad.Core.Taxes;

/// <summary>A percentage that is in force from a day until the next rate begins.</summary>
public sealed class TaxRate
{
    private TaxRate() { }

    /// <param name="from">First day in force.</param>
    /// <param name="percent">0 to 100 with at most 4 decimals.</param>
    public TaxRate(DateOnly from, decimal percent) => (From, Percent) = (from, percent);

    public int Id { get; private set; }

    public DateOnly From { get; private set; }

    public decimal Percent { get; private set; }
}
