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
    /// <param name="page">Where the customer sees their account; empty where that is not said.</param>
    public static PaperContent Of(
        AgreedPlan plan,
        PlanNow stands,
        IReadOnlyList<string> numbers,
        DateOnly day,
        Business business,
        Customer customer,
        Sender sender,
        string page
    )
    {
        var format = business.Format;
        string Amount(long minor) => format.Amount(minor, plan.Currency);
        var closing = new List<string>();
        if (!stands.IsKept)
            closing.Add(
                $"This plan was broken on {format.Date(stands.BrokenOn!.Value)}: what is open is due by its own days again."
            );
        else if (sender.Iban.Length > 0 && !stands.IsPaid)
            closing.Add(
                $"Please pay each part by its day to {Iban.Grouped(sender.Iban)}, {sender.Name}, and name {numbers[0]}. While it is kept, nothing else of this is asked for."
            );
        if (page.Length > 0)
            closing.Add($"Your account with us, at any time: {page}");
        return new PaperContent
        {
            Heading = "Payment plan",
            Number = "",
            Sender = sender,
            Addressee = Parties.AddresseeOf(customer, business),
            CurrencyCode = plan.Currency.Code,
            Amount = Amount,
            Facts =
            [
                ("Agreed on", format.Date(plan.Made)),
                ("As of", format.Date(day)),
                ("Customer", customer.Code.Length > 0 ? customer.Code : customer.Name),
            ],
            Opening =
                $"As agreed, {string.Join(", ", numbers)} over {Amount(plan.Amount)} {plan.Currency} is paid in these parts:",
            Tables =
            [
                new PaperTable(
                    [
                        new("Part", Left),
                        new("By", 48),
                        new("Amount", 150, Anchor.End),
                        new("Still open", Right, Anchor.End),
                    ],
                    [
                        .. stands.Parts.Select(
                            (p, i) =>
                                new PaperRow([
                                    $"{i + 1}",
                                    format.Date(p.Day),
                                    Amount(p.Amount),
                                    p.Open == 0 ? "paid" : Amount(p.Open),
                                ])
                        ),
                        new(["In all", "", Amount(plan.Amount), Amount(stands.Parts.Sum(p => p.Open))], Strong: true),
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
