namespace Jugaad.Core.Documents;

/// <summary>Who a document is to, as it was when it was issued.</summary>
public sealed record Addressee(
    string Name,
    string AddressLines,
    string Country,
    string TaxNumber,
    string RegistrationNumber,
    string Email
);

/// <summary>Who a document is from, as it was when it was issued.</summary>
public sealed record Sender(
    string Name,
    string AddressLines,
    string RegistrationNumber,
    string TaxNumber,
    string Contact,
    string BankName,
    string Iban,
    string Bic,
    string Footer
)
{
    public IReadOnlyList<SenderBank> MoreBanks { get; init; } = [];

    /// <summary>Our numbers with authorities besides the tax number, each with the authority's name.</summary>
    public IReadOnlyList<string> OtherNumbers { get; init; } = [];
}

/// <summary>A bank account as papers print it.</summary>
public sealed record SenderBank(string Name, string Iban, string Bic);
