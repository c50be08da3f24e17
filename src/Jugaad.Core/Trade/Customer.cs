using Jugaad.Core.Amounts;

namespace Jugaad.Core.Trade;

public enum CustomerKind
{
    Business,
    Consumer,
    PublicBody,
}

/// <summary>What a customer is described by, as typed on a page or read from a file.</summary>
public sealed record CustomerDetails
{
    public string Code { get; init; } = "";

    public string Name { get; init; } = "";

    public CustomerKind Kind { get; init; }

    public string RegistrationNumber { get; init; } = "";

    public string TaxNumber { get; init; } = "";

    public string ContactName { get; init; } = "";

    public string Email { get; init; } = "";

    public string Phone { get; init; } = "";

    public Address Address { get; init; } = new();

    public string Currency { get; init; } = "";

    public int? TermsId { get; init; }

    /// <summary>Minor units of the customer's currency; null for none.</summary>
    public long? CreditLimit { get; init; }

    public string PrivateNote { get; init; } = "";
}

/// <summary>Who buys.</summary>
public sealed class Customer
{
    private Customer() { }

    /// <exception cref="RefusalException">When the details cannot be.</exception>
    public Customer(CustomerDetails details) => Describe(details);

    public int Id { get; private set; }

    /// <summary>Short and unique.</summary>
    public string Code { get; private set; } = "";

    public string Name { get; private set; } = "";

    public CustomerKind Kind { get; private set; }

    public string RegistrationNumber { get; private set; } = "";

    public string TaxNumber { get; private set; } = "";

    public string ContactName { get; private set; } = "";

    public string Email { get; private set; } = "";

    public string Phone { get; private set; } = "";

    public Address Address { get; private set; } = new();

    public Currency Currency { get; private set; } = null!;

    public int? TermsId { get; private set; }

    public PaymentTerms? Terms { get; private set; }

    /// <summary>Minor units of <see cref="Currency"/>; null for none.</summary>
    public long? CreditLimit { get; private set; }

    public string PrivateNote { get; private set; } = "";

    public bool Inactive { get; private set; }

    /// <summary>Changes whenever the customer is saved, so that two people do not overwrite each other.</summary>
    public int Version { get; private set; }

    /// <summary>Takes the details, trimmed. The currency cannot change once there is anything on the account.</summary>
    /// <exception cref="RefusalException">With every field that is wrong; nothing is changed then.</exception>
    public void Describe(CustomerDetails details)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", details.Name, 200, "Give the customer a name.");
        Texts.Required(refusals, "code", details.Code, 30, "Give the customer a short code, such as a few letters of the name.");
        Texts.Short(refusals, "registrationNumber", details.RegistrationNumber, 50);
        Texts.Short(refusals, "taxNumber", details.TaxNumber, 50);
        Texts.Short(refusals, "contactName", details.ContactName, 200);
        Texts.Short(refusals, "phone", details.Phone, 50);
        Texts.Short(refusals, "address", details.Address.Street + details.Address.City + details.Address.PostalCode, 500);
        Texts.Email(refusals, "email", details.Email);
        Texts.Short(refusals, "privateNote", details.PrivateNote, Limits.Note);
        if (details.Address.Country.Length > 0 && !Countries.Knows(details.Address.Country))
            refusals.Add("country", $"“{details.Address.Country}” is not a country that we know. Choose one from the list.");
        else if (TaxNumbers.Problem(details.TaxNumber, details.Address.Country) is { } problem) refusals.Add("taxNumber", problem);
        if (!Currency.TryOf(details.Currency, out var currency)) refusals.Add("currency", "Choose the currency in which this customer is billed.");
        if (details.CreditLimit is < 0) refusals.Add("creditLimit", "A credit limit cannot be below zero. Leave it empty for none.");
        refusals.ThrowIfAny();

        (Code, Name, Kind) = (details.Code.Trim(), details.Name.Trim(), details.Kind);
        (RegistrationNumber, TaxNumber) = (details.RegistrationNumber.Trim(), details.TaxNumber.Trim());
        (ContactName, Email, Phone) = (details.ContactName.Trim(), details.Email.Trim(), details.Phone.Trim());
        Address = new Address(details.Address.Street.Trim(), details.Address.PostalCode.Trim(), details.Address.City.Trim(), details.Address.Country);
        (Currency, TermsId, CreditLimit) = (currency!, details.TermsId, details.CreditLimit);
        PrivateNote = details.PrivateNote.Trim();
        Version++;
    }
}
