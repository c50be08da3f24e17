using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.EInvoicing;

/// <summary>Something that e-invoices would lack.</summary>
/// <param name="Term">Of EN 16931-1.</param>
/// <param name="Field">Where it is typed.</param>
/// <param name="Words">What is missing, in a few words.</param>
public sealed record Lack(string Term, string Field, string Words);

/// <summary>What business, customers, items and tax codes still lack before an e-invoice can be made of them.</summary>
public static class Readiness
{
    private static readonly HashSet<string> Union =
        "AT BE BG CY CZ DE DK EE ES FI FR GR HR HU IE IT LT LU LV MT NL PL PT RO SE SI SK XI".Split(' ').ToHashSet();

    /// <param name="hasAccount">Whether there is a bank account whose number papers print.</param>
    public static IReadOnlyList<Lack> Of(Business business, bool hasAccount) =>
        Those(
            (business.Address.Street.Length == 0, new Lack("BT-35", "street", "street")),
            (business.Address.City.Length == 0, new Lack("BT-37", "city", "town")),
            (business.Address.PostalCode.Length == 0, new Lack("BT-38", "postalCode", "postal code")),
            (
                business.TaxNumber.Length + business.RegistrationNumber.Length == 0,
                new Lack("BT-31", "taxNumber", "tax or registration number")
            ),
            (!business.Electronic.IsGiven, new Lack("BT-34", "electronic", "electronic address")),
            (business.Phone.Length == 0, new Lack("BT-42", "phone", "phone")),
            (business.Email.Length == 0, new Lack("BT-43", "email", "mail address")),
            (!hasAccount, new Lack("BT-84", "iban", "bank account"))
        );

    /// <param name="home">The country of the business.</param>
    public static IReadOnlyList<Lack> Of(Customer customer, string home)
    {
        var consumer = customer.Kind == CustomerKind.Consumer;
        return Those(
            (customer.Address.Country.Length == 0, new Lack("BT-55", "country", "country")),
            (customer.Address.City.Length == 0, new Lack("BT-52", "city", "town")),
            (customer.Address.PostalCode.Length == 0, new Lack("BT-53", "postalCode", "postal code")),
            (
                !customer.Electronic.IsGiven && (!consumer || customer.Takes == PaperForm.EInvoice),
                new Lack("BT-49", "electronic", "electronic address")
            ),
            (
                customer.Kind == CustomerKind.PublicBody && customer.BuyerReference.Length == 0,
                new Lack("BT-10", "buyerReference", "their reference")
            ),
            (
                !consumer
                    && customer.TaxNumber.Length == 0
                    && customer.Address.Country != home
                    && Union.Contains(customer.Address.Country),
                new Lack("BT-48", "taxNumber", "tax number")
            )
        );
    }

    /// <summary>A classification is asked for by public bodies, and one without its list says nothing.</summary>
    public static IReadOnlyList<Lack> Of(Item item) =>
        Those(
            (item.Classification.Length == 0, new Lack("BT-158", "classification", "classification")),
            (
                item.Classification.Length > 0 && item.ClassificationList.Length == 0,
                new Lack("BT-158-1", "classificationList", "list of its classification")
            )
        );

    public static IReadOnlyList<Lack> Of(TaxCode code) =>
        Those(
            (
                code.Category == TaxCategory.Exempt && code.ExemptionCode.Length == 0,
                new Lack("BT-121", "exemptionCode", "code of the exemption")
            )
        );

    private static List<Lack> Those(params (bool Missing, Lack Lack)[] all) =>
        [.. all.Where(a => a.Missing).Select(a => a.Lack)];
}
