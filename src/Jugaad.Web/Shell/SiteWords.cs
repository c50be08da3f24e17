using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;

namespace Jugaad.Web.Shell;

/// <summary>A page that speaks to a customer, in their language.</summary>
internal interface ISpeaksToCustomer
{
    /// <summary>Null while it is not known whose page it is.</summary>
    SiteWords? Says { get; }
}

/// <summary>What pages say to a customer: words, days and amounts as their language writes them.</summary>
public sealed class SiteWords(PaperWords words, Business business)
{
    private readonly DisplayFormat _format = words.FormatOf(business);

    /// <summary>ISO 639-1.</summary>
    public string Language => words.Language;

    public PaperWords Paper => words;

    public string this[PaperWord word] => words[word];

    public string Fill(PaperWord word, params object[] with) => words.Fill(word, with);

    /// <summary>Why something is not done, in the customer's language where it is said in that.</summary>
    internal Refusal Refused(Refusal refusal) =>
        PaperWords.Saying(refusal.Message) is { } word ? refusal with { Phrase = words[word] } : refusal;

    public string Day(DateOnly day) => _format.Date(day);

    public string Amount(long minor, Currency currency) => _format.Amount(minor, currency);

    public string WithCode(long minor, Currency currency) => _format.WithCode(minor, currency);

    public string WithCode(Money money) => WithCode(money.Minor, money.Currency);

    /// <summary>Amounts in several currencies, apart by commas.</summary>
    public string WithCode(IEnumerable<Money> sums) => string.Join(", ", sums.Select(WithCode));

    public string Percent(decimal percent) => _format.Percent(percent);
}
