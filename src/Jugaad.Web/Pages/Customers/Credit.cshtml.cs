using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>How much credit a customer uses, their record beside the register's grade, and letting a draft pass.</summary>
[Needs(Right.See)]
[Posts(Right.Masters)]
public sealed class CreditModel(CustomerCredits credits, CreditStanding standing, CustomersDesk customers) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public CustomerCredit View { get; private set; } = null!;

    public static string Word(LimitCheck check) =>
        check switch
        {
            LimitCheck.Stop => "Documents that pass it are not issued, unless somebody lets them.",
            LimitCheck.Off => "Nothing is said when a document passes it.",
            _ => "It is said when a document passes it.",
        };

    protected override async Task<bool> ShowAsync()
    {
        if (await credits.OfAsync(Id) is not { } view)
            return false;
        View = view;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    [Posts(Right.Pass)]
    public async Task<IActionResult> OnPostPassAsync()
    {
        var form = Form;
        await standing.LetPassAsync(form.Whole("document"), form.Text("reason"), form.Key);
        Say("It may pass the limit as it stands now.");
        return Redirect($"/customers/{Id}/credit");
    }

    public async Task<IActionResult> OnPostLimitAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var limit = form.OptionalAmount("limit", View.Customer.Currency);
        form.ThrowIfAny();
        await customers.LimitAsync(Id, limit, form.Key);
        Say(limit is null ? "There is no limit any more." : "The limit is set.");
        return Redirect($"/customers/{Id}/credit");
    }

    public async Task<IActionResult> OnPostNoMoreAsync()
    {
        await customers.NoMoreAsync(Id, Form.Text("reason"), Form.Key);
        Say("From now on what they buy falls due on its date.");
        return Redirect($"/customers/{Id}/credit");
    }
}
