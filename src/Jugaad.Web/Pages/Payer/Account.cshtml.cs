using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages.Payer;

/// <summary>What a customer sees of their account through its link: what is open, what was paid, papers, paying.</summary>
[AllowAnonymous]
[EnableRateLimiting("customer")]
[Posts(Right.Customer)]
public sealed class AccountModel(
    CustomerLinks links,
    PayerScreens screens,
    PayLinks pay,
    PayOffer offer,
    CardRequests requests,
    Wordings wordings
) : DeskPage, ISpeaksToCustomer
{
    public SiteWords? Says { get; private set; }

    [BindProperty(SupportsGet = true)]
    public string Token { get; set; } = "";

    public PayerAccount View { get; private set; } = null!;

    /// <summary>Whether cards are taken for this account.</summary>
    public bool Card { get; private set; }

    /// <summary>The business's own address for paying all that is owed; empty where it has none.</summary>
    public IReadOnlyList<(Money Amount, string Link)> OwnLinks { get; private set; } = [];

    public string Surcharge { get; private set; } = "";

    /// <summary>What was chosen and comes to what; null while nothing is.</summary>
    public PayOfferMade? Offer { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        if (await links.FindAccountAsync(Token) is not { } customer)
            return false;
        View = await screens.AccountAsync(customer);
        Says = new SiteWords(await wordings.InAsync(View.Customer.Language), Business!);
        var (home, code) = (Business!.HomeCurrency, View.Customer.Code);
        Card = View.Balance.In(home) > 0 && await pay.TakesCardAsync(home);
        var found = new List<(Money, string)>();
        foreach (var sum in View.Balance.Above)
            if (await pay.OwnAsync(sum.Minor, sum.Currency, code, code) is { Length: > 0 } link)
                found.Add((sum, link));
        OwnLinks = found;
        Surcharge = Card ? SurchargeWords(await offer.SurchargeOfAsync(customer)) : "";
        return true;
    }

    private string SurchargeWords(Surcharge surcharge)
    {
        var (percent, more) = (
            Says!.Percent(surcharge.Percent),
            Says.WithCode(surcharge.Fixed, Business!.HomeCurrency)
        );
        return surcharge switch
        {
            { IsNone: true } => "",
            { Fixed: 0 } => Says.Fill(PaperWord.SiteAdds, percent),
            { Percent: 0 } => Says.Fill(PaperWord.SiteAdds, more),
            _ => Says.Fill(PaperWord.SiteAddsBoth, percent, more),
        };
    }

    /// <summary>The due day, and how many days it is past.</summary>
    internal string DueWords(DateOnly due) =>
        due < Today
            ? $"{Says!.Day(due)} · {Says[PaperWord.DaysLate]}: {Today.DayNumber - due.DayNumber}"
            : Says!.Day(due);

    public async Task<IActionResult> OnGetAsync()
    {
        var result = await ShownAsync();
        if (
            View is not null
            && Business is { IsResting: false }
            && User.Identity?.IsAuthenticated != true
            && HttpMethods.IsGet(Request.Method)
        )
            await links.SeeAccountAsync(View.Customer.Id);
        return result;
    }

    private static List<int> Chosen(IEnumerable<string?> typed) =>
        [
            .. typed
                .Select(t => int.TryParse(t, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : 0)
                .Where(id => id > 0)
                .Distinct()
                .Take(500),
        ];

    /// <summary>The items that were ticked; or those of a plan, with what of each its next part pays.</summary>
    private (IReadOnlyCollection<int> Items, IReadOnlyDictionary<int, long>? Most) Wanted()
    {
        PartOf = View.Plans.FirstOrDefault(p => p.Plan.Id == Form.Whole("plan"));
        return PartOf is null
            ? (Chosen(Request.Form["item"]), null)
            : ([.. PartOf.Plan.Items.Select(i => i.ItemId)], View.NextPart(PartOf));
    }

    /// <summary>The plan of which a part is paid; null where what was ticked is.</summary>
    public PlanThen? PartOf { get; private set; }

    /// <summary>What the chosen come to, before anything is paid.</summary>
    public async Task<IActionResult> OnPostChooseAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var (items, most) = Wanted();
        Offer = await offer.OfAsync(View.Customer.Id, items, most);
        return Page();
    }

    /// <summary>To the card service's page.</summary>
    public async Task<IActionResult> OnPostPayAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var (items, most) = Wanted();
        return Redirect(
            await requests.AskAsync(
                View.Customer.Id,
                items,
                Form.Amount("total", Business!.HomeCurrency),
                $"/a/{Token}",
                most
            )
        );
    }
}
