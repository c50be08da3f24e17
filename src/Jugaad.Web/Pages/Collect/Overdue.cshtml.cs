using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>The overdue list.</summary>
[Needs(Right.See)]
[Posts(Right.See)]
public sealed class OverdueModel(LateList list, LateScreens screens, Reminders reminders) : DeskPage
{
    public Stretch<LateCustomer> List { get; private set; } = null!;

    public IReadOnlyDictionary<int, LastReminded> Reminded { get; private set; } = new Dictionary<int, LastReminded>();

    protected override async Task<bool> ShowAsync()
    {
        Reminded = await screens.RemindedAsync();
        List = await list.ReadAsync(Listing);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public Task<IActionResult> OnPostPickedAsync() =>
        PickedAsync(
            "/collect/overdue",
            list,
            asked =>
                asked == "remind"
                    ? new PickedAct("reminded; the mails are in the post", (id, once) => reminders.SendAsync(id, once))
                    : null
        );
}
