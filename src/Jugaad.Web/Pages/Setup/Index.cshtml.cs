using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>What the business is described by, and its logo.</summary>
[Needs(Right.See)]
public sealed class IndexModel(BusinessDesk desk) : DeskPage
{
    public IEnumerable<(string, string)> CountryChoices => Choices.Countries;

    public IEnumerable<(string, string)> MarkChoices => Choices.DecimalMarks;

    public IEnumerable<(string, string)> DateChoices => Choices.DatePatterns;

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ReadHeadAsync();
        var form = Form;
        byte[]? logo = null;
        if (Request.Form.Files["logo"] is { Length: > 0 } upload)
        {
            using var copy = new MemoryStream();
            await upload.CopyToAsync(copy);
            logo = copy.ToArray();
        }

        await desk.DescribeAsync(new BusinessDetails
        {
            Name = form.Text("name"),
            RegistrationNumber = form.Text("registrationNumber"),
            TaxNumber = form.Text("taxNumber"),
            Address = new Address(form.Text("street"), form.Text("postalCode"), form.Text("city"), form.Text("country")),
            Email = form.Text("email"),
            Phone = form.Text("phone"),
            Website = form.Text("website"),
            BankName = form.Text("bankName"),
            Iban = form.Text("iban"),
            Bic = form.Text("bic"),
            Footer = form.Text("footer"),
            DecimalMark = form.Text("decimalMark"),
            DatePattern = form.Text("datePattern"),
            HomeCurrency = Business!.HomeCurrency.Code,
        }, logo, form.Ticked("removeLogo"), form.Key);
        Say("Saved. Papers that are issued already stay as they are.");
        return Redirect("/setup");
    }
}
