using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Makes the business and its owner while the books are empty.</summary>
[AllowAnonymous]
[Microsoft.AspNetCore.RateLimiting.EnableRateLimiting("sign-in")]
[Posts(Right.Begin)]
public sealed class FirstRunModel(BooksSetup setup, ITaxKits kits, FirstRunCode code) : DeskPage
{
    public IEnumerable<(string, string)> CountryChoices => Choices.Countries;

    public IEnumerable<(string, string)> CurrencyChoices => Choices.Currencies;

    public IEnumerable<(string, string)> MarkChoices => Choices.DecimalMarks;

    public IEnumerable<(string, string)> KitChoices =>
        kits
            .All.Select(k =>
                (
                    k.Key,
                    $"Kit: {k.Kit.Name}{(k.Kit.RatesOn(Today).In(Format) is { Length: > 0 } rates ? $" ({rates})" : "")}"
                )
            )
            .Prepend(("", "One tax by name and rate, or none"));

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        if (!code.Is(form.Text("code")))
            throw new Core.RefusalException(
                "code",
                "This is not the code. The program wrote it where it was started, in the line “The books are empty”."
            );
        var percent = form.Figure("taxPercent", Limits.PercentDecimals);
        var registered = form.OptionalDate("registeredFrom");
        form.ThrowIfAny();
        await setup.MakeAsync(
            new FirstRun(
                new BusinessDetails
                {
                    Name = form.Text("name"),
                    RegistrationNumber = form.Text("registrationNumber"),
                    TaxNumber = form.Text("taxNumber"),
                    Email = form.Text("ownerEmail"),
                    Address = form.Address(),
                    HomeCurrency = form.Text("homeCurrency"),
                    DecimalMark = form.Text("decimalMark"),
                    DatePattern = form.Text("datePattern").Length > 0 ? form.Text("datePattern") : "d MMM yyyy",
                },
                form.Text("taxName"),
                percent,
                form.Text("ownerName"),
                form.Text("ownerEmail"),
                form.Text("password")
            )
            {
                Kit = kits.Find(form.Text("kit")),
                RegisteredFrom = registered,
            }
        );
        var kit = kits.Find(form.Text("kit"));
        var typed = new DisplayFormat(
            form.Text("decimalMark") == "," ? ',' : '.',
            form.Text("datePattern").Length > 0 ? form.Text("datePattern") : "d MMM yyyy"
        );
        var taxed = kit is null
            ? form.Text("taxName").Trim().Length > 0
                ? $"{form.Text("taxName").Trim()} {typed.Percent(percent)} is charged."
                : "No tax is charged."
            : registered is null || kit.Authorities.Count == 0
                ? "No tax is charged, as you are not registered for any."
                : $"Charged from {typed.Date(registered.Value)} on: {kit.RatesOn(DateOnly.FromDateTime(DateTime.UtcNow)).In(typed)}. Look over these rates under Setup, taxes.";
        Say($"Your books are begun. {taxed} Sign in, then add your first customer and write a quote.");
        return Redirect("/sign-in");
    }
}
