using Jugaad.Core;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;

namespace Jugaad.Web.Shell;

/// <summary>Which report is asked for, as the address says it: the same for its page and for its files.</summary>
/// <param name="On">For what is open on a day.</param>
/// <param name="Account">The ledger account whose book it is; 0 for none.</param>
internal sealed record ReportWish(string Name, DateOnly On, DateOnly From, DateOnly Until, int Account, string Customer)
{
    /// <summary>Reads the address; what it does not say is today, or the month up to today.</summary>
    /// <param name="name">The report's name.</param>
    /// <param name="query">The address's wishes.</param>
    /// <param name="asked">The day that a field of the address asks for; null where it asks for none.</param>
    /// <param name="today">What holds where no day is asked for.</param>
    internal static ReportWish Read(string name, IQueryCollection query, Func<string, DateOnly?> asked, DateOnly today)
    {
        var until = asked("until") ?? today;
        return new ReportWish(
            name,
            asked("on") ?? today,
            asked("from") ?? new DateOnly(until.Year, until.Month, 1),
            until,
            int.TryParse(query["account"], out var account) ? account : 0,
            query["customer"].ToString()
        );
    }

    /// <summary>Whether it is about a range of days rather than about one day.</summary>
    internal bool IsRange => Name is "sales" or "receipts" or "account" or "entries";

    /// <returns>Null where there is no report of that name.</returns>
    /// <exception cref="RefusalException">When the account or the customer is not there, or the range runs
    /// backwards.</exception>
    internal async Task<Report?> MakeAsync(
        AgedReports aged,
        JournalReports journal,
        CancellationToken stop = default
    ) =>
        Name switch
        {
            "aged" => await aged.AgedReportAsync(On, stop),
            "open-items" => await aged.OpenItemsAsync(On, stop),
            "statement" => await aged.StatementAsync(Customer, On, stop),
            "sales" => await journal.SalesAsync(From, Until, stop),
            "receipts" => await journal.ReceiptsAsync(From, Until, stop),
            "account" => await journal.AccountBookAsync(Account, From, Until, stop),
            "entries" => await journal.JournalAsync(From, Until, stop),
            _ => null,
        };

    /// <summary>The address of its file, but for the form.</summary>
    internal string FileAddress(string form)
    {
        static string D(DateOnly day) => day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        return $"/reports/{Name}/file?form={form}&"
            + (IsRange ? $"from={D(From)}&until={D(Until)}" : $"on={D(On)}")
            + (Account > 0 ? $"&account={Account}" : "")
            + (Customer.Length > 0 ? $"&customer={Uri.EscapeDataString(Customer)}" : "");
    }
}
