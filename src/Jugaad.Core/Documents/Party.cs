using Jugaad.Core.Trade;

namespace Jugaad.Core.Documents;

/// <summary>A party in parts, as it was when a document was issued; machines read these, and papers their lines.</summary>
/// <param name="Name">As it is registered.</param>
/// <param name="TradingName">What it is known by; empty where that is the same.</param>
/// <param name="Contact">Who to ask for.</param>
public sealed record PartyParts(
    string Name,
    string TradingName,
    Address Address,
    string Contact,
    string Phone,
    string Email
)
{
    /// <summary>Null for what was issued before these were kept.</summary>
    public ElectronicAddress? Electronic { get; init; }

    /// <summary>What the buyer wants to read on each invoice; empty for none.</summary>
    public string BuyerReference { get; init; } = "";

    /// <summary>The contract that they are billed under; empty for none.</summary>
    public string ContractReference { get; init; } = "";
}

/// <summary>Who a document is to, as it was when it was issued.</summary>
public sealed record Addressee(
    string Name,
    string AddressLines,
    string Country,
    string TaxNumber,
    string RegistrationNumber,
    string Email
)
{
    /// <summary>Null for what was issued before these were kept.</summary>
    public PartyParts? Parts { get; init; }
}

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

    /// <inheritdoc cref="Addressee.Parts"/>
    public PartyParts? Parts { get; init; }

    /// <summary>Our numbers with authorities besides the tax number, each with the authority's name.</summary>
    public IReadOnlyList<string> OtherNumbers { get; init; } = [];
}

/// <summary>A bank account as papers print it.</summary>
public sealed record SenderBank(string Name, string Iban, string Bic);
