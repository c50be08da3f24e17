using Jugaad.Core.Trade;

namespace Jugaad.Core.Documents;

/// <summary>Copies of the business and the customer as a document keeps them.</summary>
public static class Parties
{
    public static Sender SenderOf(Business business) => new(
        business.Name,
        string.Join('\n', business.Address.Lines("").ToList()),
        business.RegistrationNumber, business.TaxNumber,
        string.Join(" · ", new[] { business.Phone, business.Email, business.Website }.Where(t => t.Length > 0)),
        business.BankName, business.Iban, business.Bic, business.Footer);

    public static Addressee AddresseeOf(Customer customer, Business business) => new(
        customer.Name,
        string.Join('\n', customer.Address.Lines(business.Address.Country)),
        customer.Address.Country, customer.TaxNumber, customer.RegistrationNumber, customer.Email);
}
