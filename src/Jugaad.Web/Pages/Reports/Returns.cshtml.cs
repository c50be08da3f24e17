using Jugaad.Core.Returns;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>The next return to each tax authority, and all that were filed.</summary>
[Needs(Right.See)]
public sealed class ReturnsModel(ReturnFiling filing, ReturnBalances balances) : DeskPage
{
    public IReadOnlyList<AuthorityReturns> Authorities { get; private set; } = [];

    /// <summary>What is left of each return.</summary>
    public IReadOnlyDictionary<int, ReturnBalance> Balances { get; private set; } =
        new Dictionary<int, ReturnBalance>();

    /// <summary>Where a return is looked at.</summary>
    public static string Address(int authority, DateOnly first, DateOnly last) =>
        $"/reports/returns/{authority}/{first:yyyy-MM-dd}/{last:yyyy-MM-dd}";

    /// <summary>Such as <c>due in 3 days</c>.</summary>
    public static string Words(ReturnDue due) =>
        !due.HasEnded ? $"its period still runs; due {Days(due.DaysLeft)}"
        : due.DaysLeft < 0 ? $"{-due.DaysLeft} {(due.DaysLeft == -1 ? "day" : "days")} late"
        : $"due {Days(due.DaysLeft)}";

    private static string Days(int days) =>
        days switch
        {
            0 => "today",
            1 => "tomorrow",
            _ => $"in {days} days",
        };

    protected override async Task<bool> ShowAsync()
    {
        Authorities = await filing.AuthoritiesAsync();
        Balances = await balances.BalancesAsync([.. Authorities.SelectMany(a => a.Filed).Select(r => r.Id)]);
        return true;
    }

    public async Task<IActionResult> OnGetAsync()
    {
        var shown = await ShownAsync();
        // Any days can be looked at.
        if (
            int.TryParse(Request.Query["authority"], out var authority)
            && AskedDay("first") is { } first
            && AskedDay("last") is { } last
            && first <= last
        )
            return Redirect(Address(authority, first, last));
        return shown;
    }
}
