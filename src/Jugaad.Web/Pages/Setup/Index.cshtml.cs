using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>What the business is described by, and its logo.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class IndexModel(BusinessDesk desk) : DeskPage
{
    public IEnumerable<(string, string)> CountryChoices => Choices.Countries;

    public IEnumerable<(string, string)> MarkChoices => Choices.DecimalMarks;

    public IEnumerable<(string, string)> DateChoices => Choices.DatePatterns;

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var (logo, signature) = (await UploadAsync("logo"), await UploadAsync("signature"));
        await desk.DescribeAsync(
            new BusinessDetails
            {
                Name = form.Text("name"),
                RegistrationNumber = form.Text("registrationNumber"),
                TaxNumber = form.Text("taxNumber"),
                Address = form.Address(),
                Email = form.Text("email"),
                Phone = form.Text("phone"),
                Website = form.Text("website"),
                Electronic = new(form.Text("electronicScheme"), form.Text("electronic")),
                TradingName = form.Text("tradingName"),
                OtherAddress = form.Text("otherAddress"),
                YearBegins = form.Whole("yearBegins"),
                TaxRounding = form.Choice<Core.Amounts.TaxRounding>("taxRounding"),
                CashStep = form.Figure("cashStep", 3),
                Footer = form.Text("footer"),
                DecimalMark = form.Text("decimalMark"),
                DatePattern = form.Text("datePattern"),
                HomeCurrency = Business!.HomeCurrency.Code,
            },
            new PictureChange(logo, form.Ticked("removeLogo")),
            new PictureChange(signature, form.Ticked("removeSignature")),
            form.Key
        );
        Say("Saved. Papers that are issued already stay as they are.");
        return Redirect("/setup");
    }
}
