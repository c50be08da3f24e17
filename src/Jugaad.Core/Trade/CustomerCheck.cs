using Jugaad.Core.Amounts;

namespace Jugaad.Core.Trade;

/// <summary>What is checked of a customer's details.</summary>
internal static class CustomerCheck
{
    private const int MostParts = 50;

    internal static void Texts(Refusals refusals, CustomerDetails details)
    {
        Core.Texts.Required(refusals, "name", details.Name, 200, "Give the customer a name.");
        Core.Texts.Required(
            refusals,
            "code",
            details.Code,
            30,
            "Give the customer a short code, such as a few letters of the name."
        );
        foreach (
            var (field, text, most) in new[]
            {
                ("otherName", details.OtherName, 200),
                ("registrationNumber", details.RegistrationNumber, 50),
                ("taxNumber", details.TaxNumber, 50),
                ("contactName", details.ContactName, 200),
                ("phone", details.Phone, 50),
                ("mobile", details.Mobile, 50),
                ("tags", details.Tags, Customer.MostOfTags),
                ("noMoreReason", details.NoMoreReason, 300),
                ("privateNote", details.PrivateNote, Limits.Note),
                ("buyerReference", details.BuyerReference, 100),
                ("contractReference", details.ContractReference, 100),
            }
        )
            Core.Texts.Short(refusals, field, text, most);
        Core.Texts.Email(refusals, "email", details.Email);
        details.Address.Check(refusals);
        details.Electronic.Check(refusals);
        if (details.Takes == PaperForm.EInvoice && !details.Electronic.Tidied().IsGiven)
            refusals.Add(
                "electronic",
                "E-invoices need an electronic address to go to. Give it, or choose another form."
            );
        if (
            Countries.Knows(details.Address.Country)
            && TaxNumbers.Problem(details.TaxNumber, details.Address.Country) is { } problem
        )
            refusals.Add("taxNumber", problem);
        if (!Customer.IsLanguage(details.Language))
            refusals.Add("language", "Choose a language from the list.");
        if (details.NoMoreOnAccount && string.IsNullOrWhiteSpace(details.NoMoreReason))
            refusals.Add(
                "noMoreReason",
                "Say why they get nothing more on account; whoever writes the next invoice will want to know."
            );
        if (details.RiskGrade.Length > 0 && (details.RiskGrade.Length != 1 || details.RiskGrade[0] is < 'A' or > 'E'))
            refusals.Add("riskGrade", "A risk grade is A, B, C, D or E.");
    }

    /// <summary>Codes of three letters, as they are typed: apart by spaces or commas.</summary>
    internal static string[] Codes(string typed) =>
        typed.Split([' ', ',', ';'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    /// <summary>The currencies besides the usual one, as they are kept: each once, apart by spaces.</summary>
    internal static string AlsoIn(Refusals refusals, string typed, Currency? usual)
    {
        var codes = Codes(typed.ToUpperInvariant()).Where(c => c != usual?.Code).Distinct().ToList();
        foreach (var code in codes.Where(c => !Currency.TryOf(c, out _)))
            refusals.Add("alsoIn", $"There is no currency {code}. Give the three letters of each, such as SEK USD.");
        if (codes.Count > Customer.MostCurrencies)
            refusals.Add("alsoIn", $"A customer is billed in at most {Customer.MostCurrencies} other currencies.");
        return string.Join(' ', codes);
    }

    internal static void Figures(Refusals refusals, CustomerDetails details)
    {
        if (details.CreditLimit is < 0)
            refusals.Add("creditLimit", "A credit limit cannot be below zero. Leave it empty for none.");
        if (
            details.TradeDiscount is < 0 or > 100
            || PlainDecimal.DecimalsOf(details.TradeDiscount) > Limits.PercentDecimals
        )
            refusals.Add("tradeDiscount", "Give a trade discount from 0 to 100 percent with at most 4 decimals.");
    }

    internal static void Parts(Refusals refusals, CustomerDetails details)
    {
        if (Math.Max(details.Contacts.Count, Math.Max(details.Places.Count, details.Certificates.Count)) > MostParts)
            refusals.Add("", $"A customer has at most {MostParts} contacts, places and certificates each.");
        for (var i = 0; i < details.Contacts.Count; i++)
        {
            var contact = details.Contacts[i];
            Core.Texts.Required(refusals, $"contacts[{i}].name", contact.Name, 200, "Give this contact a name.");
            Core.Texts.Email(refusals, $"contacts[{i}].email", contact.Email);
            Core.Texts.Short(refusals, $"contacts[{i}].phone", contact.Phone, 50);
            if (contact.GetsInvoices && contact.Email.Trim().Length == 0)
                refusals.Add($"contacts[{i}].email", "Who gets invoices needs a mail address.");
            if (contact.GetsReminders && contact.Email.Trim().Length == 0)
                refusals.Add($"contacts[{i}].email", "Who gets reminders needs a mail address.");
        }

        for (var i = 0; i < details.Places.Count; i++)
        {
            Core.Texts.Required(
                refusals,
                $"places[{i}].label",
                details.Places[i].Label,
                100,
                "Give this place a name to choose it by."
            );
            details.Places[i].Address.Check(refusals, $"places[{i}].");
        }

        for (var i = 0; i < details.Certificates.Count; i++)
        {
            var certificate = details.Certificates[i];
            Core.Texts.Required(
                refusals,
                $"certificates[{i}].number",
                certificate.Number,
                60,
                "Give the certificate's number."
            );
            if (certificate.Until < certificate.From)
                refusals.Add($"certificates[{i}].until", "It would end before it begins. Look at both days.");
        }
    }
}
