using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Takes customers. A row is the customer with its code; without a code, the one with its tax number; else the one with
/// its name. Columns that the file has not leave what is there.
/// </summary>
internal sealed class CustomerRows(BooksContext db, Business business) : RowTaker(db)
{
    private Dictionary<string, Customer> _byCode = [];
    private Dictionary<string, Customer> _byTax = [];
    private Dictionary<string, Customer> _byName = [];
    private Dictionary<string, IReadOnlyList<Customer>> _namesakes = [];
    private Dictionary<string, PaymentTerms> _terms = [];
    private Dictionary<string, PriceList> _lists = [];
    private Dictionary<string, Person> _people = [];
    private ILookup<int, Currency> _used = Array.Empty<Currency>().ToLookup(_ => 0);
    private readonly Dictionary<string, int> _nextCode = [];

    internal override async Task PrepareAsync(CancellationToken stop)
    {
        var customers = await Db
            .Customers.Include(c => c.Contacts)
            .Include(c => c.Places)
            .Include(c => c.Certificates)
            .Where(c => c.MergedIntoId == null)
            .OrderBy(c => c.Id)
            .ToListAsync(stop);
        _byCode = ByName(customers, c => c.Code);
        _byTax = ByName(customers.Where(c => c.TaxNumber.Length > 0), c => c.TaxNumber);
        (_byName, _namesakes) = (ByName(customers, c => c.Name), Namesakes(customers));
        // Codes of customers that were merged are taken as well.
        foreach (
            var code in await Db.Customers.Where(c => c.MergedIntoId != null).Select(c => c.Code).ToListAsync(stop)
        )
            _nextCode[code] = 2;
        _terms = ByName(await Db.Terms.ToListAsync(stop), t => t.Name);
        _lists = ByName(await Db.PriceLists.ToListAsync(stop), l => l.Name);
        _people = ByName(await Db.Users.ToListAsync(stop), p => p.FullName);
        _used = await Db.UsedCurrenciesAsync(null, stop);
    }

    internal override RowFate Take(RowCells row)
    {
        var known = Find(row);
        if (known is not null && !Name(known.Code))
            row.Refused.Add(
                "name",
                $"{known.Name} ({known.Code}) is in the file a second time. Keep one of the two rows."
            );
        var before =
            known?.Details()
            ?? new CustomerDetails
            {
                Currency = business.HomeCurrency.Code,
                Address = new Address(Country: business.Address.Country),
                TermsId = business.DefaultTermsId,
                Kind = CustomerKind.Business,
            };
        var details = Read(row, before);
        row.Refused.ThrowIfAny();
        if (known is not null)
        {
            if (Same(before, details))
                return RowFate.Same;
            if (_used[known.Id].Any())
                CustomerCurrencies.MustKeep(known, details, _used[known.Id]);
            known.Describe(details);
            Note(EffectOn.Customer, known, before, () => (known.Id, known.Version));
            return RowFate.Changed;
        }

        if (details.Code.Length == 0 && details.Name.Length > 0)
            details = details with { Code = FreeCode(details.Name) };
        var made = new Customer(details);
        Db.Customers.Add(made);
        Note(EffectOn.Customer, made, null, () => (made.Id, made.Version));
        Name(made.Code);
        _byCode[made.Code] = made;
        _byName.TryAdd(made.Name, made);
        if (made.TaxNumber.Length > 0)
            _byTax.TryAdd(made.TaxNumber, made);
        return RowFate.New;
    }

    /// <exception cref="RefusalException">When the name alone would say who is meant, and does not.</exception>
    private Customer? Find(RowCells row)
    {
        if (row.Text("code").Length > 0)
            return _byCode.GetValueOrDefault(row.Text("code"));
        if (row.Text("tax number").Length > 0 && _byTax.TryGetValue(row.Text("tax number"), out var taxed))
            return taxed;
        if (_namesakes.TryGetValue(row.Text("name"), out var several))
            throw new RefusalException("name", WhichOf(several));
        if (!_byName.TryGetValue(row.Text("name"), out var named))
            return null;
        if (row.Text("tax number").Length > 0 && named.TaxNumber.Length > 0)
            throw new RefusalException(
                "tax number",
                $"{named.Name} ({named.Code}) has the tax number {named.TaxNumber}. Give the code {named.Code} if it is the same customer, or a code of its own if it is another one of that name."
            );
        return named;
    }

    private CustomerDetails Read(RowCells row, CustomerDetails before)
    {
        var country = row.Has("country")
            ? Countries.Find(row.Text("country")) ?? row.Text("country")
            : before.Address.Country;
        var currencyCode = row.Text("currency").Length > 0 ? row.Text("currency").ToUpperInvariant() : before.Currency;
        var currency = Currency.TryOf(currencyCode, out var unit) ? unit! : business.HomeCurrency;
        return before with
        {
            Code = row.Text("code").Length > 0 ? row.Text("code") : before.Code,
            Name = row.Text("name", before.Name),
            OtherName = row.Text("other name", before.OtherName),
            Kind = row.Choice(
                "kind",
                before.Kind,
                (
                    CustomerKind.Business,
                    [
                        "business",
                        "company",
                        "b2b",
                        "firma",
                        "entreprise",
                        "empresa",
                        "azienda",
                        "bedrijf",
                        "yritys",
                        "ettevõte",
                        "företag",
                    ]
                ),
                (
                    CustomerKind.Consumer,
                    [
                        "consumer",
                        "person",
                        "private",
                        "individual",
                        "b2c",
                        "privat",
                        "particulier",
                        "particular",
                        "privato",
                        "eraisik",
                        "osoba",
                        "yksityinen",
                    ]
                ),
                (CustomerKind.PublicBody, ["public body", "public", "government"])
            ),
            RegistrationNumber = row.Text("registration number", before.RegistrationNumber),
            TaxNumber = row.Text("tax number", before.TaxNumber),
            ContactName = row.Text("ask for", before.ContactName),
            Email = row.Text("mail", before.Email),
            Phone = row.Text("phone", before.Phone),
            Mobile = row.Text("mobile", before.Mobile),
            Address = new Address(
                row.Text("street", before.Address.Street),
                row.Text("postal code", before.Address.PostalCode),
                row.Text("town", before.Address.City),
                country,
                row.Text("region", before.Address.Region)
            ),
            Language = row.Text("language").Length > 0 ? LanguageOf(row.Text("language")) : before.Language,
            Currency = currencyCode,
            AlsoIn = row.Text("also billed in", before.AlsoIn).ToUpperInvariant(),
            TermsId = row.Has("terms") ? Pointed(row, "terms", _terms, "are no terms")?.Id : before.TermsId,
            CreditLimit = row.Amount("credit limit", currency, before.CreditLimit),
            TradeDiscount = row.Figure("trade discount", Limits.PercentDecimals, before.TradeDiscount),
            PriceListId = row.Has("price list")
                ? Pointed(row, "price list", _lists, "is no price list")?.Id
                : before.PriceListId,
            SellerId = row.Has("seller") ? Pointed(row, "seller", _people, "is nobody called")?.Id : before.SellerId,
            Electronic = new ElectronicAddress(
                row.Text("electronic scheme", before.Electronic.Scheme),
                row.Text("electronic address", before.Electronic.Value)
            ),
            BuyerReference = row.Text("their reference", before.BuyerReference),
            ContractReference = row.Text("contract", before.ContractReference),
            Takes = row.Text("gets papers").Length > 0 ? FormOf(row) : before.Takes,
            Tags = row.Text("tags", before.Tags),
            PrivateNote = row.Text("note", before.PrivateNote),
            Inactive = row.Flag("inactive", before.Inactive),
            NoMoreOnAccount = row.Has("no more on account")
                ? row.Text("no more on account").Length > 0
                : before.NoMoreOnAccount,
            NoMoreReason = row.Text("no more on account", before.NoMoreReason),
            RiskGrade = row.Text("risk grade", before.RiskGrade).ToUpperInvariant(),
            Contacts = row.Has("contacts") ? CustomerCells.Contacts(row.Text("contacts")) : before.Contacts,
            Places = row.Has("places")
                ? CustomerCells.Places(row.Text("places"), before.Places, country)
                : before.Places,
            Certificates = row.Has("certificates") ? CustomerCells.Certificates(row) : before.Certificates,
        };
    }

    private static PaperForm FormOf(RowCells row)
    {
        if (CustomerCells.Form(row.Text("gets papers")) is { } form)
            return form;
        row.Refused.Add("gets papers", "Papers go as pdf, hybrid pdf, e-invoice or print. Give one of these.");
        return PaperForm.Pdf;
    }

    private static string LanguageOf(string text) =>
        Customer.Languages.FirstOrDefault(l => l.Name.Equals(text, StringComparison.OrdinalIgnoreCase)).Code
        ?? text.ToLowerInvariant();

    /// <summary>Compares what would be kept, so that a file that is taken again changes nothing.</summary>
    private static bool Same(CustomerDetails before, CustomerDetails after)
    {
        CustomerDetails Plain(CustomerDetails d) =>
            d with
            {
                Tags = Customer.TagsOf(d.Tags),
                NoMoreReason = d.NoMoreOnAccount ? d.NoMoreReason : "",
                Address = d.Address.Tidied(),
                Contacts = after.Contacts,
                Places = after.Places,
                Certificates = after.Certificates,
            };
        static IEnumerable<PlaceDetails> Tidied(CustomerDetails d) =>
            d.Places.Select(p => p with { Address = p.Address.Tidied() });
        return Plain(before) == Plain(after)
            && before.Contacts.SequenceEqual(after.Contacts)
            && Tidied(before).SequenceEqual(Tidied(after))
            && before.Certificates.SequenceEqual(after.Certificates);
    }

    private string FreeCode(string name)
    {
        var letters = string.Concat(name.ToUpperInvariant().Where(char.IsAsciiLetterOrDigit).Take(6));
        var start = letters.Length == 0 ? "C" : letters;
        if (!_byCode.ContainsKey(start) && !_nextCode.ContainsKey(start))
            return start;
        var n = _nextCode.GetValueOrDefault(start, 2);
        while (_byCode.ContainsKey(start + n))
            n++;
        _nextCode[start] = n + 1;
        return start + n;
    }
}
