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
        Sender sender,
        PaperWords words
    ) =>
        new()
        {
            Kind = PaperKinds.Letter,
            ToBusiness = Parties.IsBusiness(customer),
            Values = new Dictionary<string, string> { ["CustomerCode"] = customer.Code },
            Words = words,
            Heading = subject,
            Number = "",
            Sender = sender,
            Addressee = Parties.AddresseeOf(customer, business),
            CurrencyCode = customer.Currency.Code,
            Amount = minor => business.Format.Amount(minor, customer.Currency),
            Facts =
            [
                (words[PaperWord.Date], words.FormatOf(business).Date(day)),
                (words[PaperWord.Customer], customer.Code),
            ],
            Opening = body,
            Tables = [],
            ShowsTax = false,
            HasLogo = business.Logo is not null,
            HasSignature = business.Signature is not null,
        };
}
