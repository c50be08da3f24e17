using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Documents;

/// <summary>Copies of the business and the customer as a document keeps them.</summary>
public static class Parties
{
    /// <param name="banks">The accounts that are printed.</param>
    /// <param name="authorities">Whose numbers are printed besides the business's tax number.</param>
    /// <param name="registered">False where the business charges no tax yet on that day: nothing is said of tax
    /// then.</param>
    public static Sender SenderOf(
        Business business,
        IReadOnlyList<SenderBank> banks,
        IEnumerable<TaxAuthority> authorities,
        bool registered,
        string? footer = null
    ) =>
        new(
            business.PaperName,
            string.Join(
                '\n',
                business
                    .Address.Lines("")
                    .Prepend(business.TradingName.Length > 0 ? business.Name : "")
                    .Concat(business.OtherAddress.Split('\n'))
                    .Where(l => l.Length > 0)
            ),
            business.RegistrationNumber,
            registered ? business.TaxNumber : "",
            string.Join(" · ", new[] { business.Phone, business.Email, business.Website }.Where(t => t.Length > 0)),
            banks.Count == 0 ? "" : banks[0].Name,
            banks.Count == 0 ? "" : banks[0].Iban,
            banks.Count == 0 ? "" : banks[0].Bic,
            string.IsNullOrEmpty(footer) ? business.Footer : footer
        )
        {
            MoreBanks = banks.Skip(1).ToList(),
            Parts = new(business.Name, business.TradingName, business.Address, "", business.Phone, business.Email)
            {
                Electronic = business.Electronic,
            },
            OtherNumbers = registered
                ? authorities
                    .Where(a => a.OurNumber.Length > 0 && a.OurNumber != business.TaxNumber)
                    .Select(a => $"{a.Name}: {a.OurNumber}")
                    .ToList()
                : [],
        };

    /// <summary>Whoever is no consumer is addressed as a business.</summary>
    public static bool IsBusiness(Customer customer) => customer.Kind != CustomerKind.Consumer;

    public static Addressee AddresseeOf(Customer customer, Business business) =>
        new(
            customer.PaperName,
            string.Join('\n', customer.Address.Lines(business.Address.Country)),
            customer.Address.Country,
            customer.TaxNumber,
            customer.RegistrationNumber,
            customer.Email
        )
        {
            Parts = new(
                customer.Name,
                customer.OtherName,
                customer.Address,
                customer.ContactName,
                customer.Phone,
                customer.Email
            )
            {
                Electronic = customer.Electronic,
                BuyerReference = customer.BuyerReference,
                ContractReference = customer.ContractReference,
            },
        };
}
