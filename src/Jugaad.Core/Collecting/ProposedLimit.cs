namespace Jugaad.Core.Collecting;

/// <summary>
/// A credit limit that follows from what a customer really paid: a twelfth of a year's payments for each month that
/// they take to pay, one at least, rounded down to two figures.
/// </summary>
public static class ProposedLimit
{
    private const int DaysOfMonth = 30;

    /// <param name="paid">In twelve months, in minor units.</param>
    /// <param name="daysToPay">From the day of the bill, on average.</param>
    /// <returns>Minor units; 0 where nothing was paid.</returns>
    public static long Of(long paid, int daysToPay)
    {
        var months = Math.Max(1, (Math.Max(0, daysToPay) + DaysOfMonth - 1) / DaysOfMonth);
        var plain = checked((long)((Int128)Math.Max(0, paid) * months / 12));
        var step = 1L;
        while (plain / step >= 100)
            step *= 10;
        return plain / step * step;
    }
}

/// <summary>What a register's grade of risk means.</summary>
public static class RiskGrades
{
    /// <returns>Empty where there is no such grade.</returns>
    public static string Words(string grade) =>
        grade switch
        {
            "A" => "hardly any risk",
            "B" => "little risk",
            "C" => "some risk",
            "D" => "much risk",
            "E" => "great risk: better no credit",
            _ => "",
        };
}
