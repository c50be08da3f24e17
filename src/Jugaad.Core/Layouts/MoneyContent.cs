using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts.Spelling;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>What a payment was set against.</summary>
/// <param name="Amount">Minor units.</param>
/// <param name="Open">What is open of it on the day of the paper; minor units.</param>
public sealed record MoneyPart(string What, string Number, DateOnly Date, long Amount, long Open);

/// <summary>Money that came from a customer or went back to them.</summary>
/// <param name="Kind"><see cref="PaperKinds.Receipt"/> or <see cref="PaperKinds.Refund"/>.</param>
/// <param name="On">The day on which it came or went.</param>
/// <param name="Amount">Minor units.</param>
/// <param name="Way">How it was paid, or to which account; empty where that is not known.</param>
/// <param name="Left">What of it is set against nothing; minor units.</param>
/// <param name="Undone">Whether it was undone since; then the paper is no proof of anything.</param>
public sealed record MoneyFacts(
    string Kind,
    string Number,
    DateOnly On,
    Currency Currency,
    long Amount,
    string Way,
    string Reference,
    IReadOnlyList<MoneyPart> Parts,
    long Left,
    bool Undone
);

/// <summary>What a receipt or a refund says on paper: how much, when, and what it was set against.</summary>
public static class MoneyContent
{
    private const double Left = 20;
    private const double Right = 190;

    /// <param name="words">In the language in which the customer is written to.</param>
    public static PaperContent Of(
        MoneyFacts facts,
        Business business,
        Customer customer,
        Sender sender,
        PaperWords words
    )
    {
        var (format, currency) = (words.FormatOf(business), facts.Currency);
        var isReceipt = facts.Kind == PaperKinds.Receipt;
        string Amount(long minor) => format.Amount(minor, currency);
        var closing = new List<string> { MoneySpelling.Of(facts.Amount, currency, words.Language) };
        if (facts.Left > 0 && isReceipt)
            closing.Add(words.Fill(PaperWord.CreditWithUs, format.WithCode(facts.Left, currency)));
        var told = new List<(string, string)>
        {
            (words[PaperWord.Date], format.Date(facts.On)),
            (words[PaperWord.Customer], customer.Code.Length > 0 ? customer.Code : customer.Name),
        };
        if (facts.Way.Length > 0)
            told.Add((isReceipt ? words[PaperWord.PaidBy] : "IBAN", facts.Way));
        if (facts.Reference.Length > 0)
            told.Add((words[PaperWord.Reference], facts.Reference));
        return new PaperContent
        {
            Kind = facts.Kind,
            ToBusiness = Parties.IsBusiness(customer),
            Values = new Dictionary<string, string>
            {
                ["CustomerCode"] = customer.Code,
                ["Date"] = format.Date(facts.On),
                ["Reference"] = facts.Reference,
                ["Total"] = format.WithCode(facts.Amount, currency),
                ["TotalNumber"] = Amount(facts.Amount),
                ["TotalInWords"] = closing[0],
            },
            Words = words,
            Heading = words[isReceipt ? PaperWord.Receipt : PaperWord.Refund],
            Number = facts.Number,
            Mark = facts.Undone ? words[PaperWord.UndoneMark] : "",
            Sender = sender,
            Addressee = Parties.AddresseeOf(customer, business),
            CurrencyCode = currency.Code,
            Amount = Amount,
            Facts = told,
            Opening = words.Fill(
                isReceipt ? PaperWord.WeReceived : PaperWord.WePaidBack,
                format.WithCode(facts.Amount, currency),
                format.Date(facts.On)
            ),
            Tables = [Table(facts, words, format)],
            Totals = [],
            Closing = closing,
            ShowsTax = false,
            HasLogo = business.Logo is not null,
            HasSignature = business.Signature is not null && !facts.Undone,
        };
    }

    private static PaperTable Table(MoneyFacts facts, PaperWords words, DisplayFormat format)
    {
        string Amount(long minor) => format.Amount(minor, facts.Currency);
        // What was paid back from leaves nothing that anybody could still pay.
        var tellsOpen = facts.Kind == PaperKinds.Receipt;
        string Open(MoneyPart part) =>
            !tellsOpen ? ""
            : part.Open == 0 ? words[PaperWord.PartPaid]
            : Amount(part.Open);
        var rows = facts
            .Parts.Select(p => new PaperRow([
                $"{p.What} {p.Number}".Trim(),
                format.Date(p.Date),
                Amount(p.Amount),
                Open(p),
            ]))
            .ToList();
        if (facts.Left > 0)
            rows.Add(new PaperRow([words[PaperWord.CreditBalance], "", Amount(facts.Left), ""]));
        rows.Add(new PaperRow([words[PaperWord.InAll], "", Amount(facts.Amount), ""], Strong: true));
        return new PaperTable(
            [
                new(words[tellsOpen ? PaperWord.SetAgainst : PaperWord.What], Left),
                new(words[PaperWord.Date], 95),
                new($"{words[PaperWord.Amount]} {facts.Currency}", tellsOpen ? 155 : Right, Anchor.End),
                new(tellsOpen ? words[PaperWord.StillOpen] : "", Right, Anchor.End),
            ],
            rows
        );
    }
}
