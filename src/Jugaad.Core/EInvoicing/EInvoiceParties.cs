using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.EInvoicing;

/// <summary>Tells seller and buyer (BG-4, BG-7) as a paper has kept them.</summary>
internal static class EInvoiceParties
{
    /// <param name="outOfScope">Whether all of it is outside the scope of tax.</param>
    internal static Party Seller(Sender sender, bool outOfScope)
    {
        var country = sender.Parts?.Address.Country ?? "";
        // Outside the scope of tax no tax number may be told (BR-O-2).
        var number = outOfScope ? "" : Prefixed(sender.TaxNumber, country);
        return new Party
        {
            Name = sender.Parts?.Name ?? sender.Name,
            TradingName = sender.Parts?.TradingName ?? "",
            Registration = sender.RegistrationNumber.Length > 0 ? new Identifier(sender.RegistrationNumber) : null,
            TaxId = number,
            TaxRegistration = number.Length == 0 && !outOfScope ? sender.TaxNumber : "",
            Electronic = Reached(sender.Parts?.Electronic, sender.Parts?.Email ?? ""),
            Address = AddressOf(sender.Parts?.Address, sender.AddressLines, ""),
            Contact = sender.Parts is { } parts && parts.Phone.Length + parts.Email.Length > 0 ? parts.Name : "",
            Phone = sender.Parts?.Phone ?? "",
            Email = sender.Parts?.Email ?? "",
        };
    }

    /// <inheritdoc cref="Seller"/>
    internal static Party Buyer(Addressee to, bool outOfScope)
    {
        return new Party
        {
            Name = to.Parts?.Name ?? to.Name,
            Registration = to.RegistrationNumber.Length > 0 ? new Identifier(to.RegistrationNumber) : null,
            TaxId = outOfScope ? "" : Prefixed(to.TaxNumber, to.Country),
            Electronic = Reached(to.Parts?.Electronic, to.Email),
            Address = AddressOf(to.Parts?.Address, to.AddressLines, to.Country),
            Contact = to.Parts?.Contact ?? "",
            Phone = to.Parts?.Phone ?? "",
            Email = to.Email,
        };
    }

    /// <summary>A mail address is one of the schemes of the list of electronic addresses, and stands in for another.</summary>
    private static Identifier? Reached(ElectronicAddress? address, string email) =>
        address is { IsGiven: true } ? new Identifier(address.Value, address.Scheme)
        : email.Length > 0 ? new Identifier(email, "EM")
        : null;

    /// <summary>With the country before it (BR-CO-9); empty where it cannot be told so.</summary>
    private static string Prefixed(string number, string country)
    {
        var whole = TaxNumbers.Compact(TaxNumbers.Complete(number, country));
        return whole.Length > 2 && (whole[..2] == "EL" || CodeLists.Countries.Contains(whole[..2])) ? whole : "";
    }

    internal static PostalAddress AddressOf(Address? parts, string printed, string country)
    {
        var street = (parts?.Street ?? printed).Split(
            '\n',
            StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries
        );
        return new PostalAddress(
            street.ElementAtOrDefault(0) ?? "",
            street.ElementAtOrDefault(1) ?? "",
            string.Join(", ", street.Skip(2)),
            parts?.City ?? "",
            parts?.PostalCode ?? "",
            parts?.Region ?? "",
            parts?.Country ?? country
        );
    }
}
