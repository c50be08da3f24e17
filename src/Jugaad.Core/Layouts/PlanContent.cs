using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>What a plan says on paper: what it divides, and what is to come by which day.</summary>
public static class PlanContent
{
    private const double Left = 20;
    private const double Right = 190;

    /// <param name="plan">As it was agreed.</param>
    /// <param name="stands">How its parts stand on the day.</param>
    /// <param name="numbers">Of the papers that it divides.</param>
    /// <param name="words">In the language in which the customer is written to.</param>
    /// <param name="page">Where the customer sees their account; empty where that is not said.</param>
    public static PaperContent Of(
        AgreedPlan plan,
        PlanNow stands,
        IReadOnlyList<string> numbers,
        DateOnly day,
        Business business,
        Customer customer,
        Sender sender,
        string page,
        PaperWords words
    )
    {
        var format = words.FormatOf(business);
        string Amount(long minor) => format.Amount(minor, plan.Currency);
        var closing = new List<string>();
        if (!stands.IsKept)
            closing.Add(words.Fill(PaperWord.PlanBroken, format.Date(stands.BrokenOn!.Value)));
        else if (sender.Iban.Length > 0 && !stands.IsPaid)
            closing.Add(words.Fill(PaperWord.PlanPay, Iban.Grouped(sender.Iban), sender.Name, numbers[0]));
        if (page.Length > 0)
            closing.Add(words.Fill(PaperWord.AccountPage, page));
        return new PaperContent
        {
            Kind = PaperKinds.Plan,
            ToBusiness = Parties.IsBusiness(customer),
            Values = new Dictionary<string, string> { ["CustomerCode"] = customer.Code },
            Words = words,
            Heading = words[PaperWord.PaymentPlan],
            Number = "",
            Sender = sender,
            Addressee = Parties.AddresseeOf(customer, business),
            CurrencyCode = plan.Currency.Code,
            Amount = Amount,
            Facts =
            [
                (words[PaperWord.AgreedOn], format.Date(plan.Made)),
                (words[PaperWord.AsOf], format.Date(day)),
                (words[PaperWord.Customer], customer.Code.Length > 0 ? customer.Code : customer.Name),
            ],
            Opening = words.Fill(
                PaperWord.PlanDivides,
                string.Join(", ", numbers),
                $"{Amount(plan.Amount)} {plan.Currency}"
            ),
            Tables =
            [
                new PaperTable(
                    [
                        new(words[PaperWord.PlanPart], Left),
                        new(words[PaperWord.ByDay], 48),
                        new(words[PaperWord.Amount], 150, Anchor.End),
                        new(words[PaperWord.StillOpen], Right, Anchor.End),
                    ],
                    [
                        .. stands.Parts.Select(
                            (p, i) =>
                                new PaperRow([
                                    $"{i + 1}",
                                    format.Date(p.Day),
                                    Amount(p.Amount),
                                    p.Open == 0 ? words[PaperWord.PartPaid] : Amount(p.Open),
                                ])
                        ),
                        new(
                            [words[PaperWord.InAll], "", Amount(plan.Amount), Amount(stands.Parts.Sum(p => p.Open))],
                            Strong: true
                        ),
                    ]
                ),
            ],
            Totals = [],
            Closing = closing,
            ShowsTax = false,
            HasLogo = business.Logo is not null,
            HasSignature = business.Signature is not null,
        };
    }
}
