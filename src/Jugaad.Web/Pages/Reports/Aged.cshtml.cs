using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>Aged balances on any day, with the items behind them.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class AgedModel(AgedReports reports, Periods periods) : DeskPage
{
    public AgedBalances Aged { get; private set; } = null!;

    public IReadOnlyList<IGrouping<Currency, AgedRow>> Groups { get; private set; } = [];

    // More would make a page that takes longer to be drawn than anybody reads of it.
    private const int MostItems = 1_000;

    /// <summary>Whether the items stand behind each balance here, or only in the customer's account.</summary>
    public bool ShowsItems => Aged.Rows.Sum(r => r.Items.Count) <= MostItems;

    /// <summary>A customer's account on the day.</summary>
    public string AccountOf(AgedRow row) => $"/customers/{row.CustomerId}?on={Aged.Day:yyyy-MM-dd}";

    public bool AgeingRefused => Request.HasFormContentType;

    public string Blank(long minor, Currency currency) => minor == 0 ? "" : Amount(minor, currency);

    protected override async Task<bool> ShowAsync()
    {
        Aged = await reports.AgedAsync(AskedDay("on") ?? Today);
        Groups = Aged
            .Rows.GroupBy(r => r.Currency)
            .OrderBy(g => g.Key.Equals(Business!.HomeCurrency) ? 0 : 1)
            .ThenBy(g => g.Key.Code)
            .ToList();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await periods.AgeAsync(Form.Text("edges"), Form.Ticked("byDate"), Form.Key);
        return Done("Balances are aged so from now on.");
    }
}
