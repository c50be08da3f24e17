using Jugaad.Core.Documents;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>A letter in the business's own paper: what a mail says, for those who have no address for mail.</summary>
public static class LetterContent
{
    public static PaperContent Of(
        string subject,
        string body,
        DateOnly day,
        Business business,
        Customer customer,
        Sender sender
    ) =>
        new()
        {
            Heading = subject,
            Number = "",
            Sender = sender,
            Addressee = Parties.AddresseeOf(customer, business),
            CurrencyCode = customer.Currency.Code,
            Amount = minor => business.Format.Amount(minor, customer.Currency),
            Facts = [("Date", business.Format.Date(day)), ("Customer", customer.Code)],
            Opening = body,
            Tables = [],
            ShowsTax = false,
            HasLogo = business.Logo is not null,
            HasSignature = business.Signature is not null,
            IsLetter = true,
        };
}
