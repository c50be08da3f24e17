using Jugaad.Core.Accounts;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>One customer's account.</summary>
public sealed class AccountModel(AccountScreens screens) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public AccountView View { get; private set; } = null!;

    public string WordOf(AccountItemKind kind) => kind switch
    {
        AccountItemKind.CreditNote => "credit note",
        AccountItemKind.DebitNote => "debit note",
        AccountItemKind.WriteOff => "write-off",
        _ => kind.ToString().ToLowerInvariant(),
    };

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.AccountAsync(Id, int.TryParse(Request.Query["page"], out var page) ? page : 1) is not { } view) return false;
        View = view;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
