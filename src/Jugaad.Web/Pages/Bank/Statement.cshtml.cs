using Jugaad.Core.Banking;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Bank;

/// <summary>One bank statement with what each line was placed as.</summary>
[Needs(Right.See)]
[Posts(Right.Money)]
public sealed class StatementModel(BankScreens screens, Statements statements) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public BankStatement Statement { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.StatementAsync(Id) is not { } statement)
            return false;
        Statement = statement;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await statements.TakeOutAsync(Id, Form.Key);
        Say("The statement is out again, with all its lines.");
        return Redirect("/bank");
    }
}
