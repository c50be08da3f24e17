using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The table of rules that decides which tax code applies, and a place to try it.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class RulesModel(BooksContext db, TaxRulesDesk desk) : DeskPage
{
    public IReadOnlyList<TaxRule> Rules { get; private set; } = [];

    public IReadOnlyList<TaxCode> Codes { get; private set; } = [];

    public string TryCustomer => Request.Query["customer"].ToString();

    public string TryItem => Request.Query["item"].ToString();

    public DateOnly TryDay { get; private set; }

    public TaxAnswer? Answer { get; private set; }

    public IEnumerable<(string, string)> CustomerChoices { get; private set; } = [];

    public IEnumerable<(string, string)> ItemChoices { get; private set; } = [];

    public IEnumerable<(string, string)> SupplyChoices =>
        Enum.GetValues<Supply>().Select(s => (s.ToString(), TaxWords.Of(s)));

    public IEnumerable<(string, string)> BuyerChoices =>
        Enum.GetValues<Buyer>().Select(b => (b.ToString(), TaxWords.Of(b)));

    public IEnumerable<(string, string)> PlaceChoices =>
        Enum.GetValues<Place>().Select(p => (p.ToString(), TaxWords.Of(p)));

    public IEnumerable<(string, string)> CountryChoices => Choices.Countries.Prepend(("", "any country"));

    public IEnumerable<(string, string)> PreferredChoices => Offered.Prepend(("", "any code"));

    public IEnumerable<(string, string)> CodeChoices => Offered.Prepend(("", "their own"));

    private IEnumerable<(string, string)> Offered =>
        Codes.Where(c => !c.Retired).Select(c => (c.Id.ToString(), $"{c.Code} {c.Name}"));

    public string CodeOf(int? id) => Codes.FirstOrDefault(c => c.Id == id)?.Code ?? "";

    protected override async Task<bool> ShowAsync()
    {
        Codes = await db.TaxCodes.AsNoTracking().OrderBy(c => c.Id).ToListAsync();
        Rules = await db.TaxRules.AsNoTracking().OrderBy(r => r.Position).ThenBy(r => r.Id).ToListAsync();
        CustomerChoices = (
            await db
                .Customers.Where(c => !c.Inactive)
                .OrderBy(c => c.Name)
                .Take(500)
                .Select(c => new { c.Id, c.Name })
                .ToListAsync()
        ).ConvertAll(c => (c.Id.ToString(), c.Name));
        ItemChoices = (
            await db
                .Items.Where(i => !i.Inactive)
                .OrderBy(i => i.Name)
                .Take(500)
                .Select(i => new { i.Id, i.Name })
                .ToListAsync()
        )
            .ConvertAll(i => (i.Id.ToString(), i.Name))
            .Prepend(("", "a service without an item"));
        TryDay = AskedDay("day") ?? Today;
        if (int.TryParse(TryCustomer, out var customer))
            Answer = (
                await desk.DecideAsync(
                    new TaxQuestion(customer, null, TryDay, [int.TryParse(TryItem, out var item) ? item : null])
                )
            )[0];
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAddAsync()
    {
        var form = Form;
        await desk.AddRuleAsync(
            new TaxRuleCase(form.Choice<Supply>("supply"), form.Choice<Buyer>("buyer"), form.Choice<Place>("place"))
            {
                PreferredCodeId = form.Id("preferredCodeId"),
                Country = form.Text("country"),
                Region = form.Text("region"),
                Postal = form.Text("postal"),
            },
            form.Id("taxCodeId"),
            form.Key
        );
        return Done("The rule is added at the end. New lines follow it.");
    }

    public async Task<IActionResult> OnPostUpAsync()
    {
        await desk.MoveRuleUpAsync(Form.Whole("id"), Form.Key);
        return Redirect("/setup/rules");
    }

    public async Task<IActionResult> OnPostAwayAsync()
    {
        await desk.RemoveRuleAsync(Form.Whole("id"), Form.Key);
        return Done("The rule is taken away.");
    }
}
