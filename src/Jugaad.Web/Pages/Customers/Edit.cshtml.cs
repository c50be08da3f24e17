using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Customers;

/// <summary>Adds or changes a customer.</summary>
[Needs(Right.Draft)]
public sealed class EditModel(BooksContext db, CustomersDesk desk) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    /// <summary>Null for a new one.</summary>
    public Customer? Customer { get; private set; }

    public string Heading => Customer is null ? "New customer" : $"Edit {Customer.Name}";

    public string LimitText => Customer?.CreditLimit is { } limit ? Format.Typed(limit, Customer.Currency) : "";

    public IEnumerable<(string, string)> KindChoices => Choices.CustomerKinds;

    public IEnumerable<(string, string)> CountryChoices => Choices.Countries;

    public IEnumerable<(string, string)> CurrencyChoices => Choices.Currencies;

    public IEnumerable<(string, string)> TermsChoices { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Customer = Id is null ? null : await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == Id);
        TermsChoices = (await db.Terms.OrderBy(t => t.Name).Select(t => new { t.Id, t.Name }).ToListAsync()).ConvertAll(t => (t.Id.ToString(), t.Name));
        return Id is null || Customer is not null;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ReadHeadAsync();
        var form = Form;
        var limit = Currency.TryOf(form.Text("currency"), out var currency) ? form.OptionalAmount("creditLimit", currency) : null;
        form.ThrowIfAny();
        var id = await desk.SaveAsync(Id, form.Whole("version"), new CustomerDetails
        {
            Code = form.Text("code"),
            Name = form.Text("name"),
            Kind = form.Choice<CustomerKind>("kind"),
            RegistrationNumber = form.Text("registrationNumber"),
            TaxNumber = form.Text("taxNumber"),
            ContactName = form.Text("contactName"),
            Email = form.Text("email"),
            Phone = form.Text("phone"),
            Address = new Address(form.Text("street"), form.Text("postalCode"), form.Text("city"), form.Text("country")),
            Currency = form.Text("currency"),
            TermsId = form.Id("termsId"),
            CreditLimit = limit,
            PrivateNote = form.Text("privateNote"),
        }, form.Key);
        Say("Saved.");
        return Redirect($"/customers/{id}");
    }
}
