using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>How customers can pay online: an address of the business's own, and cards.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class PayingModel(PayLinks pay, PaySetup setup, PayerScreens screens, ICardService service) : DeskPage
{
    public PayingSettings Settings { get; private set; } = null!;

    public bool StandIn => service.IsStandIn;

    public IReadOnlyList<LedgerAccount> Clearing { get; private set; } = [];

    public IReadOnlyList<LedgerAccount> Sales { get; private set; } = [];

    /// <summary>The address that the pattern makes of an example; empty where there is none.</summary>
    public string Example { get; private set; } = "";

    public string Warning { get; private set; } = "";

    private static string Text(int id) => id.ToString(CultureInfo.InvariantCulture);

    public IEnumerable<(string, string)> ClearingChoices =>
        [("", "the first one"), .. Clearing.Select(a => (Text(a.Id), $"{a.Code} {a.Name}"))];

    public IEnumerable<(string, string)> SalesChoices =>
        [("", "that of the invoice's lines"), .. Sales.Select(a => (Text(a.Id), $"{a.Code} {a.Name}"))];

    public static IEnumerable<(string, string)> CardChoices =>
        [("", "No, by bank and the address above only"), ("yes", "Yes, on papers' pages and customers' own pages")];

    protected override async Task<bool> ShowAsync()
    {
        Settings = await pay.SettingsAsync();
        Clearing = await screens.ClearingAccountsAsync();
        Sales = await screens.SalesAccountsAsync();
        if (Settings.Pattern.Length > 0)
        {
            Example = PaySetup.Preview(
                Settings.Pattern,
                new Money(123_450, Business!.HomeCurrency),
                "INV-2025-0123",
                "CUSTOMER"
            );
            Warning = PayPattern.Warning(Settings.Pattern)?.In(Format) ?? "";
        }

        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var typed = new PayingToSet(
            form.Text("pattern"),
            form.Text("card") == "yes",
            form.Id("clearing"),
            form.Text("secret"),
            form.Figure("surchargePercent", 2),
            form.Amount("surchargeFixed", Business!.HomeCurrency),
            form.Id("surchargeAccount")
        );
        form.ThrowIfAny();
        await setup.SetAsync(typed, form.Key);
        Say("Saved. Try it, to be sure.");
        return Redirect("/setup/paying");
    }

    /// <summary>Asks the card service for a payment that nobody makes, and goes to its page.</summary>
    public async Task<IActionResult> OnPostTryAsync()
    {
        try
        {
            return Redirect(await setup.TryAsync($"{Request.Scheme}://{Request.Host}/setup/paying"));
        }
        catch (CarrierException not)
        {
            throw new RefusalException("", $"The card service does not answer: {not.Message}");
        }
    }
}
