using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;

namespace Jugaad.Desk.Collecting;

/// <summary>A line of what is said about a customer's credit: an amount, or words.</summary>
/// <param name="Key">Its name in files that programs read.</param>
/// <param name="IsLate">Whether it speaks against more credit.</param>
public sealed record CreditLine(string Key, string What, Money? Amount, string Told = "", bool IsLate = false);

/// <summary>What is said about a customer's credit, once for the page and for the paper.</summary>
public static class CreditLines
{
    /// <summary>What is used, with tax, and what the limit leaves; in the customer's currency.</summary>
    public static IReadOnlyList<CreditLine> Used(CustomerCredit credit)
    {
        var (use, currency) = (credit.Use, credit.Customer.Currency);
        CreditLine Line(string key, string what, long minor, bool late = false) =>
            new(key, what, new Money(minor, currency), IsLate: late);
        var lines = new List<CreditLine>
        {
            Line("open", "Open on the account", use.Open),
            Line("delivered", "Delivered and not billed", use.Delivered),
            Line("ordered", "Ordered", use.Ordered),
            Line("drafts", "Bills that are written and not issued", use.Drafts),
            Line("used", "Used in all", use.Used),
        };
        if (use.Limit is not { } limit)
            return [.. lines, new CreditLine("limit", "Limit", null, "none")];
        lines.Add(Line("limit", "Limit", limit));
        lines.Add(
            use.Left < 0 ? Line("left", "Over it by", -use.Left.Value, late: true) : Line("left", "Left", use.Left ?? 0)
        );
        return lines;
    }

    /// <summary>How they paid in twelve months, and what the register says.</summary>
    /// <param name="day">How a day is written.</param>
    public static IReadOnlyList<CreditLine> Record(CustomerCredit credit, Func<DateOnly, string> day)
    {
        var customer = credit.Customer;
        return
        [
            new("paid", "Paid in twelve months", new Money(credit.Paid, customer.Currency)),
            new("daysToPay", "From the bill to the money", null, ToPay(credit.DaysToPay)),
            new("daysLate", "Against the due day", null, Against(credit.DaysLate)),
            new("kept", "Promises kept", null, Number(credit.Kept)),
            new("broken", "Promises broken", null, Number(credit.Broken), credit.TooOftenBroken),
            new(
                "lateNow",
                "The oldest that can be asked for is late by",
                null,
                credit.LateNow > 0 ? Days(credit.LateNow) : "nothing is late",
                credit.TooLate
            ),
            new("grade", "Grade in the register", null, Grade()),
        ];

        string Grade()
        {
            if (customer.RiskGrade.Length == 0)
                return "not known";
            var since = customer.GradedOn is { } on ? $", since {day(on)}" : "";
            return $"{customer.RiskGrade}: {RiskGrades.Words(customer.RiskGrade)}{since}";
        }
    }

    public static string Days(int days) => days == 1 ? "1 day" : $"{days} days";

    private static string Number(int count) => count.ToString(CultureInfo.InvariantCulture);

    private static string ToPay(int? days) => days is { } known ? Days(known) : "nothing came yet";

    private static string Against(int? late) =>
        late switch
        {
            null => "",
            < 0 => $"{Days(-late.Value)} before",
            _ => $"{Days(late.Value)} after",
        };
}
