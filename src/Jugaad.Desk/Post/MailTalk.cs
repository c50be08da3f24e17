using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Layouts.Spelling;
using Jugaad.Core.Trade;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Post;

/// <summary>The words of a mail, and how what is put into them is said in their language.</summary>
/// <param name="Text">With fields in double braces.</param>
/// <param name="Language">ISO 639-1.</param>
public sealed record MailTalk((string Subject, string Body) Text, string Language, PaperWords Words, Business Business)
{
    private ShippedMails Shipped => ShippedMails.Of(Language);

    /// <summary>How figures and dates are written: in English as the business does.</summary>
    public DisplayFormat Format => Words.FormatOf(Business);

    public string Greeting(string name) =>
        name.Length > 0 ? Shipped.Say(MailPhrase.Dear, name) : Shipped.Say(MailPhrase.Greeting);

    /// <summary>What a document is, in the middle of a sentence.</summary>
    public string Kind(DocumentKind kind) => Words.TitleWithin(kind);

    public string Receipt => Language == "de" ? Words[PaperWord.Receipt] : Words[PaperWord.Receipt].ToLowerInvariant();

    /// <summary>An amount in words of money.</summary>
    /// <param name="minor">Minor units.</param>
    public string Spelled(long minor, Currency currency) => MoneySpelling.Of(minor, currency, Language);

    public string Say(MailPhrase phrase, params object[] with) => Shipped.Say(phrase, with);

    /// <summary>One line of what is asked for.</summary>
    /// <param name="today">What is due before it is late, and by how much is said.</param>
    public string Line(AskedItem item, DateOnly today)
    {
        var days = today.DayNumber - item.Due.DayNumber;
        var late = days <= 0 ? "" : Say(days == 1 ? MailPhrase.LateOne : MailPhrase.Late, days);
        return $"  {Say(MailPhrase.Line, item.Number, Format.Date(item.Date), Format.Date(item.Due))}{late}: {Format.WithCode(item.Asked, item.Currency)}";
    }
}
