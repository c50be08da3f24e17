using System.Globalization;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>One customer's account.</summary>
[Posts(Right.Money)]
public sealed class AccountModel(
    AccountScreens screens,
    SettlementScreens settlements,
    CreditStanding standing,
    OpenItems open,
    IAgreements agreements,
    ReceiveScreens money,
    Receipts receipts,
    PayerScreens payers,
    CustomerLinks links,
    EInvoiceScreens einvoices
) : DeskPage
{
    /// <summary>E-invoices that they refused and that are not put right yet.</summary>
    public IReadOnlyList<EInvoiceRow> Refused { get; private set; } = [];

    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public AccountView View { get; private set; } = null!;

    /// <summary>What was done with money on this account, newest first.</summary>
    public IReadOnlyList<DoneRow> DoneRows { get; private set; } = [];

    public MapView Map { get; private set; } = null!;

    public ILookup<int, SetAgainstRow> SetAgainst { get; private set; } = null!;

    /// <summary>Null where nothing was paid lately.</summary>
    public PaymentHabits? Habits { get; private set; }

    /// <summary>The address of their own page; null where none was made.</summary>
    public AccountLink? Link { get; private set; }

    /// <summary>What of all currencies counts against the credit limit, in minor units of the usual one.</summary>
    public long LimitUsed { get; private set; }

    /// <summary>How an address of this page names the side that is shown.</summary>
    public string InSide => View.Sides.Count > 0 ? $"in={View.Side.Key}" : "";

    /// <summary>What was owed in all at the end of <see cref="OnDay"/>.</summary>
    public string OwedThen =>
        Sums.Of(OpenThen.Select(i => new Money(i.Sign * i.Open, i.Currency))) is { Count: > 0 } owed
            ? owed.Words(Format)
            : Format.WithCode(0, View.Customer.Currency);

    public bool OpenOnly => Request.Query["show"] == "open";

    /// <summary>The day of which it is asked what was owed; null where it is not.</summary>
    public DateOnly? OnDay { get; private set; }

    public IReadOnlyList<OpenOnDay> OpenThen { get; private set; } = [];

    /// <summary>
    /// How much of the credit limit is used: a line that fills, and passes its notch where the limit is passed.
    /// </summary>
    public IHtmlContent LimitDrawing
    {
        get
        {
            var (limit, balance) = (View.Customer.CreditLimit ?? 0, Math.Max(0, LimitUsed));
            var share = limit == 0 ? 1 : (double)balance / limit;
            var words = $"{Math.Round(share * 100)} percent of the credit limit is used";
            const double notch = 200;
            static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
            var svg =
                $"<svg width=\"250\" height=\"14\" viewBox=\"0 0 250 14\" role=\"img\" aria-label=\"{words}\"><title>{words}</title><line class=\"gauge-term\" x1=\"0\" y1=\"7\" x2=\"250\" y2=\"7\"/><line class=\"gauge-gone\" x1=\"0\" y1=\"7\" x2=\"{N(Math.Min(share, 1) * notch)}\" y2=\"7\"/>";
            if (share > 1)
                svg +=
                    $"<line class=\"gauge-late\" x1=\"{N(notch)}\" y1=\"7\" x2=\"{N(notch + Math.Min(50, (share - 1) * notch))}\" y2=\"7\"/>";
            return new HtmlString(
                svg + $"<line class=\"gauge-notch\" x1=\"{N(notch)}\" y1=\"1\" x2=\"{N(notch)}\" y2=\"13\"/></svg>"
            );
        }
    }

    /// <summary>What else is agreed or known, a line each.</summary>
    public IEnumerable<string> Facts
    {
        get
        {
            var c = View.Customer;
            if (c.TradeDiscount > 0)
                yield return $"trade discount {Format.Percent(c.TradeDiscount)}";
            if (View.PriceList.Length > 0)
                yield return $"price list {View.PriceList}";
            if (View.Seller.Length > 0)
                yield return $"looked after by {View.Seller}";
            if (c.Tags.Length > 0)
                yield return $"tags: {string.Join(", ", c.TagList)}";
            if (c.RiskGrade.Length > 0)
                yield return $"risk grade {c.RiskGrade}";
            foreach (var certificate in c.Certificates)
                yield return $"exempt with certificate {certificate.Number}{(certificate.Until is { } until ? certificate.HoldsOn(Today) ? $" until {Day(until)}" : $", expired on {Day(until)}" : "")}";
        }
    }

    protected override async Task<bool> ShowAsync()
    {
        if (
            await screens.AccountAsync(
                Id,
                int.TryParse(Request.Query["page"], out var page) ? page : 1,
                OpenOnly,
                Request.Query["in"]
            )
            is not { } view
        )
            return false;
        View = view;
        Refused = SeesMoney ? await einvoices.RefusedByAsync(Id) : [];
        Link = await payers.LinkAsync(Id);
        Map = await settlements.MapAsync(Id, view.Side);
        LimitUsed = view.Customer.CreditLimit is null ? 0 : (await standing.OfAsync(Id)).Open;
        SetAgainst = await settlements.SetAgainstAsync([.. view.Movement.Rows.Select(r => r.Id)]);
        Habits = await settlements.HabitsAsync(Id, view.Side);
        if (AskedDay("on") is { } day)
        {
            OnDay = day;
            var agreed = await agreements.OnAsync(day, Id);
            OpenThen = [.. (await open.OnAsync(day, Id)).Select(agreed.Due).OrderBy(i => i.Due).ThenBy(i => i.ItemId)];
        }

        DoneRows = await money.DoneAsync(Id);
        return true;
    }

    public async Task<IActionResult> OnGetAsync()
    {
        var shown = await ShownAsync();
        return View?.Customer.MergedIntoId is { } into ? Redirect($"/customers/{into}") : shown;
    }

    public async Task<IActionResult> OnPostPlaceAsync()
    {
        await receipts.PlaceOldestFirstAsync(Form.Whole("item"), Form.Key);
        Say("Set against what is oldest.");
        return Redirect($"/customers/{Id}");
    }

    [Posts(Right.Draft)]
    public async Task<IActionResult> OnPostLinkAsync()
    {
        Say($"They see their account at {await links.AccountAddressAsync(Id)}");
        return Redirect($"/customers/{Id}");
    }

    [Posts(Right.Draft)]
    public async Task<IActionResult> OnPostEndLinkAsync()
    {
        await links.TakeBackAccountAsync(Id, Form.Key);
        Say("The link opens nothing any more.");
        return Redirect($"/customers/{Id}");
    }

    [Posts(Right.Draft)]
    public async Task<IActionResult> OnPostNewLinkAsync()
    {
        await links.RenewAccountAsync(Id, Form.Key);
        Say($"The link is another now, and the one before opens nothing: {await links.AccountAddressAsync(Id)}");
        return Redirect($"/customers/{Id}");
    }
}
