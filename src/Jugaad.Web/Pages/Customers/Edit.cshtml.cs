using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Customers;

/// <summary>Adds or changes a customer.</summary>
[Needs(Right.Draft)]
[Posts(Right.Draft)]
public sealed class EditModel(BooksContext db, CustomersDesk desk, Wordings wordings) : DeskPage
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

    public IEnumerable<(string, string)> LanguageChoices { get; private set; } = [];

    public IEnumerable<(string, string)> TermsChoices { get; private set; } = [];

    public IEnumerable<(string, string)> PriceListChoices { get; private set; } = [];

    public IEnumerable<(string, string)> SellerChoices { get; private set; } = [];

    public IEnumerable<(string, string)> RiskChoices =>
        [("", "not known"), ("A", "A, best"), ("B", "B"), ("C", "C"), ("D", "D"), ("E", "E, worst")];

    protected override async Task<bool> ShowAsync()
    {
        Customer = Id is null
            ? null
            : await db
                .Customers.AsNoTracking()
                .Include(c => c.Contacts)
                .Include(c => c.Places)
                .Include(c => c.Certificates)
                .SingleOrDefaultAsync(c => c.Id == Id);
        LanguageChoices = await wordings.LanguagesAsync();
        PriceListChoices = (
            await db.PriceLists.AsNoTracking().Where(l => !l.Retired).OrderBy(l => l.Name).ToListAsync()
        )
            .ConvertAll(l => (l.Id.ToString(), $"{l.Name}, {l.Currency}"))
            .Prepend(("", "items' own prices"));
        SellerChoices = (
            await db
                .Users.Where(u => !u.Closed)
                .OrderBy(u => u.FullName)
                .Select(u => new { u.Id, u.FullName })
                .ToListAsync()
        )
            .ConvertAll(u => (u.Id.ToString(), u.FullName))
            .Prepend(("", "nobody in particular"));
        TermsChoices = (
            await db
                .Terms.Where(t => !t.Retired || (Customer != null && t.Id == Customer.TermsId))
                .OrderBy(t => t.Name)
                .Select(t => new { t.Id, t.Name })
                .ToListAsync()
        ).ConvertAll(t => (t.Id.ToString(), t.Name));
        return Id is null || Customer is not null;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var limit = Currency.TryOf(form.Text("currency"), out var currency)
            ? form.OptionalAmount("creditLimit", currency)
            : null;
        var discount = form.Figure("tradeDiscount", Limits.PercentDecimals);
        var certificates = CertificatesOf(form);
        form.ThrowIfAny();
        var id = await desk.SaveAsync(
            Id,
            form.Whole("version"),
            new CustomerDetails
            {
                Code = form.Text("code"),
                Name = form.Text("name"),
                Kind = form.Choice<CustomerKind>("kind"),
                RegistrationNumber = form.Text("registrationNumber"),
                TaxNumber = form.Text("taxNumber"),
                ContactName = form.Text("contactName"),
                Email = form.Text("email"),
                Phone = form.Text("phone"),
                Address = form.Address(),
                Currency = form.Text("currency"),
                AlsoIn = form.Text("alsoIn"),
                TermsId = form.Id("termsId"),
                CreditLimit = limit,
                OtherName = form.Text("otherName"),
                Mobile = form.Text("mobile"),
                Language = form.Text("language").Length > 0 ? form.Text("language") : "en",
                TradeDiscount = discount,
                PriceListId = form.Id("priceListId"),
                SellerId = form.Id("sellerId"),
                Tags = form.Text("tags"),
                RiskGrade = form.Text("riskGrade"),
                Electronic = new(form.Text("electronicScheme"), form.Text("electronic")),
                BuyerReference = form.Text("buyerReference"),
                ContractReference = form.Text("contractReference"),
                Takes = form.Text("takes").Length > 0 ? form.Choice<PaperForm>("takes") : PaperForm.Pdf,
                NoMoreOnAccount = form.Ticked("noMoreOnAccount"),
                NoMoreReason = form.Text("noMoreReason"),
                Inactive = form.Ticked("inactive"),
                Contacts = ContactsOf(form),
                Places = PlacesOf(form),
                Certificates = certificates,
                PrivateNote = form.Text("privateNote"),
            },
            form.Key
        );
        Say("Saved.");
        return Redirect($"/customers/{id}");
    }

    /// <summary>Rows that nothing was typed into do not count.</summary>
    private static List<ContactDetails> ContactsOf(TypedForm form) =>
        form.Rows("contacts")
            .Select(i => $"contacts[{i}]")
            .Where(at =>
                (form.Text($"{at}.name") + form.Text($"{at}.email") + form.Text($"{at}.phone")).Trim().Length > 0
            )
            .Select(at => new ContactDetails(
                form.Text($"{at}.name").Trim(),
                form.Text($"{at}.email").Trim(),
                form.Text($"{at}.phone").Trim(),
                form.Ticked($"{at}.invoices"),
                form.Ticked($"{at}.reminders"),
                form.Ticked($"{at}.decides")
            ))
            .ToList();

    private static List<PlaceDetails> PlacesOf(TypedForm form) =>
        form.Rows("places")
            .Select(i => $"places[{i}]")
            .Where(at =>
                (form.Text($"{at}.label") + form.Text($"{at}.street") + form.Text($"{at}.city")).Trim().Length > 0
            )
            .Select(at => new PlaceDetails(
                form.Id($"{at}.id"),
                form.Text($"{at}.label"),
                new Address(
                    form.Text($"{at}.street"),
                    form.Text($"{at}.postalCode"),
                    form.Text($"{at}.city"),
                    form.Text($"{at}.country").Length > 0 ? form.Text($"{at}.country") : form.Text("country"),
                    form.Text($"{at}.region")
                )
            ))
            .ToList();

    private static List<CertificateDetails> CertificatesOf(TypedForm form) =>
        form.Rows("certificates")
            .Select(i => $"certificates[{i}]")
            .Where(at =>
                (form.Text($"{at}.number") + form.Text($"{at}.from") + form.Text($"{at}.until")).Trim().Length > 0
            )
            .Select(at => new CertificateDetails(
                form.Text($"{at}.number").Trim(),
                form.OptionalDate($"{at}.from"),
                form.OptionalDate($"{at}.until")
            ))
            .ToList();
}
