using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Making;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>Bills a quote or an order in stages: what was billed before, what would be now, what is left.</summary>
[Needs(Right.Draft)]
[Posts(Right.Draft)]
public sealed class StagesModel(Stages stages) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public StageView View { get; private set; } = null!;

    /// <summary>What the wish in the address would bill of each row; null where there is none.</summary>
    public long[]? Now { get; private set; }

    public string Typed(string field) => Request.Query[field].ToString();

    public bool Ticked(int row) =>
        Request.Query["part"].Contains(row.ToString(System.Globalization.CultureInfo.InvariantCulture))
        || (
            Request.HasFormContentType
            && Request.Form["part"].Contains(row.ToString(System.Globalization.CultureInfo.InvariantCulture))
        );

    protected override async Task<bool> ShowAsync()
    {
        if (await stages.ViewAsync(Id) is not { } view)
            return false;
        View = view;
        return true;
    }

    public async Task<IActionResult> OnGetAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var wish = Read(field => Request.Query[field].ToString(), Request.Query["part"]);
        if (wish != new StageWish())
            Now = Stages.Now(View, wish);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var made = await stages.BillAsync(Id, Read(Form.Text, Request.Form["part"]), Form.Key);
        Say("This is the stage as a draft. Look it over, then issue and send it.");
        return Redirect($"/sell/edit/{made}");
    }

    public async Task<IActionResult> OnPostDepositAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var percent = form.Figure("depositPercent", Limits.PercentDecimals);
        var amount = form.OptionalAmount("depositAmount", View.Source.Currency);
        form.ThrowIfAny();
        if (percent == 0 && amount is null)
            throw new RefusalException("depositPercent", "Say how much to ask for: a percentage, or an amount.");
        var made = await stages.DepositAsync(Id, percent == 0 ? null : percent, amount, form.Key);
        Say("This is the deposit as a draft. It is taken off, with its tax, from what is billed later.");
        return Redirect($"/sell/edit/{made}");
    }

    private StageWish Read(Func<string, string> text, IEnumerable<string?> parts)
    {
        var percent = text("percent").Trim();
        var amount = text("amount").Trim();
        var chosen = parts.Select(p => int.TryParse(p, out var row) ? row : -1).Where(p => p >= 0).ToList();
        var ways =
            (percent.Length > 0 ? 1 : 0)
            + (amount.Length > 0 ? 1 : 0)
            + (chosen.Count > 0 ? 1 : 0)
            + (text("rest").Length > 0 ? 1 : 0);
        if (ways > 1)
            throw new RefusalException(
                "percent",
                "Say how much in one way only: a percentage, an amount, some of the lines, or all that is left."
            );
        return new StageWish(
            percent.Length > 0 ? Format.Read(percent.TrimEnd('%'), Limits.PercentDecimals, "percent") : null,
            amount.Length > 0 ? Format.ReadAmount(amount, View.Source.Currency, "amount") : null,
            chosen.Count > 0 ? chosen : null,
            text("rest").Length > 0
        );
    }
}
