using Jugaad.Core.Amounts;

namespace Jugaad.Core.Trade;

/// <summary>How the due day follows from the date.</summary>
public enum DueRule
{
    /// <summary>So many days after the date.</summary>
    DaysAfter,

    /// <summary>A day of the next month, or of the one after.</summary>
    DayOfMonth,

    /// <summary>So many days after the end of the date's month.</summary>
    EndOfMonth,

    /// <summary>On the date itself.</summary>
    OnReceipt,
}

/// <summary>When an invoice falls due, and the early-payment discount, if any.</summary>
public sealed class PaymentTerms : IRetirable
{
    private PaymentTerms() => Name = "";

    /// <param name="days">Days after the date, or after the end of its month.</param>
    /// <param name="dayOfMonth">1 to 31; a day that the month does not have becomes its last day.</param>
    /// <param name="monthsAhead">1 for the next month, 2 for the one after.</param>
    /// <exception cref="RefusalException">When a figure cannot be.</exception>
    public PaymentTerms(
        string name,
        DueRule rule,
        int days = 0,
        int dayOfMonth = 0,
        int monthsAhead = 1,
        decimal earlyPercent = 0,
        int earlyDays = 0
    )
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", name, 80, "Give these terms a name.");
        if (days is < 0 or > 3650)
            refusals.Add("days", "Give 0 to 3650 days.");
        if (rule == DueRule.DayOfMonth && dayOfMonth is < 1 or > 31)
            refusals.Add("dayOfMonth", "A day of the month is 1 to 31.");
        if (rule == DueRule.DayOfMonth && monthsAhead is < 1 or > 2)
            refusals.Add("monthsAhead", "Choose the next month or the one after.");
        if (earlyPercent is < 0 or >= 100)
            refusals.Add("earlyPercent", "The early-payment discount is 0 to less than 100 percent.");
        if (PlainDecimal.DecimalsOf(earlyPercent) > Limits.PercentDecimals)
            refusals.Add("earlyPercent", "Give at most 4 decimals.");
        if (earlyDays is < 0 or > 3650)
            refusals.Add("earlyDays", "Give 0 to 3650 days.");
        refusals.ThrowIfAny();
        (Name, Rule, Days, DayOfMonth, MonthsAhead, EarlyPercent, EarlyDays) = (
            name.Trim(),
            rule,
            days,
            dayOfMonth,
            monthsAhead,
            earlyPercent,
            earlyDays
        );
    }

    public int Id { get; private set; }

    public string Name { get; private set; }

    public DueRule Rule { get; private set; }

    public int Days { get; private set; }

    public int DayOfMonth { get; private set; }

    public int MonthsAhead { get; private set; }

    /// <summary>Percent off when paid within <see cref="EarlyDays"/> of the date; 0 for none.</summary>
    public decimal EarlyPercent { get; private set; }

    public int EarlyDays { get; private set; }

    /// <summary>No longer offered; who has them keeps them.</summary>
    public bool Retired { get; private set; }

    public void Retire(bool retired) => Retired = retired;

    /// <summary>The due day of a document of that date; never before the date.</summary>
    public DateOnly DueOn(DateOnly date) =>
        Rule switch
        {
            DueRule.DaysAfter => date.AddDays(Days),
            DueRule.DayOfMonth => DayIn(new DateOnly(date.Year, date.Month, 1).AddMonths(MonthsAhead), DayOfMonth),
            DueRule.EndOfMonth => DayIn(date, 31).AddDays(Days),
            _ => date,
        };

    /// <summary>The last day on which the early-payment discount is offered; null where there is none.</summary>
    public DateOnly? EarlyUntil(DateOnly date) => EarlyPercent > 0 ? date.AddDays(EarlyDays) : null;

    private static DateOnly DayIn(DateOnly month, int day) =>
        new(month.Year, month.Month, Math.Min(day, DateTime.DaysInMonth(month.Year, month.Month)));
}
