using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>Aged balances on any day.</summary>
[Needs(Right.See)]
public sealed class AgedModel(AccountScreens screens) : DeskPage
{
    public DateOnly AsOf { get; private set; }

    public IReadOnlyList<IGrouping<Currency, (int Id, string Name, Currency Currency, AgedBalance Aged)>> Groups { get; private set; } = [];

    public string Blank(long minor, Currency currency) => minor == 0 ? "" : Amount(minor, currency);

    protected override async Task<bool> ShowAsync()
    {
        AsOf = DateOnly.TryParseExact(Request.Query["on"], "yyyy-MM-dd", out var day) ? day : Today;
        Groups = (await screens.AgedAsync(AsOf)).GroupBy(r => r.Currency).OrderBy(g => g.Key.Equals(Business!.HomeCurrency) ? 0 : 1).ThenBy(g => g.Key.Code).ToList();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
