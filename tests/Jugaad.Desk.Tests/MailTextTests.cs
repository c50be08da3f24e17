using System.Text.RegularExpressions;
using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Tests;

public sealed partial class MailTextTests
{
    private static readonly MailFields Fields = new()
    {
        Greeting = "Dear Ann",
        Business = "Little Loft",
        Number = "INV-1",
        Total = "12.00 EUR",
        Date = "17 Sep 2025",
        Until = "1 Oct 2025",
        Items = "  INV-1, 3 days late",
        Overdue = "12.00 EUR",
        Account = "EE38 2200",
        Sender = "Olli",
        Kind = "invoice",
        Link = "https://loft.example/p/1",
        Pay = "https://loft.example/q/1",
        Page = "https://loft.example/a/1",
    };

    public static TheoryData<string> Languages() => new(Customer.Languages.Select(l => l.Code));

    private static IEnumerable<string> FieldsOf((string Subject, string Body) words) =>
        FieldIn().Matches($"{words.Subject} {words.Body}").Select(m => m.Value).Distinct().Order();

    [GeneratedRegex(@"\{\{ \w+ \}\}|\{% .*? %\}")]
    private static partial Regex FieldIn();

    [GeneratedRegex(@"\{\d\}")]
    private static partial Regex Gap();

    [Theory]
    [MemberData(nameof(Languages))]
    public void Every_text_that_ships_is_filled_in_whole_and_says_in_each_language_what_it_says_in_english(
        string language
    )
    {
        foreach (var text in Enum.GetValues<MailText>())
        {
            var words = ShippedMails.Of(language)[text];
            FieldsOf(words).ShouldBe(FieldsOf(ShippedMails.English[text]), $"{text}");
            var (subject, body) = MailTexts.Write(words, Fields);
            (subject + body).ShouldNotContain("{");
            (subject + body).ShouldNotContain("[");
            (subject + body).ShouldNotContain("  \n");
            subject.ShouldNotContain("\n");
            subject.Length.ShouldBeLessThan(100);
            (subject + body).ShouldNotContain("!");
            if (language != "en" && text != MailText.Message)
                (words.Body == ShippedMails.English[text].Body).ShouldBeFalse($"{text} is in English");
            if (text is MailText.Message or MailText.ReminderMessage)
                continue;
            if (text != MailText.Receipt)
                subject.ShouldContain("Little Loft");
            body.ShouldStartWith("Dear Ann,");
            body.TrimEnd().ShouldEndWith("Olli\nLittle Loft");
        }
    }

    [Theory]
    [MemberData(nameof(Languages))]
    public void What_is_put_into_mails_is_said_in_each_language(string language)
    {
        foreach (var phrase in Enum.GetValues<MailPhrase>())
        {
            var said = ShippedMails.Of(language).Say(phrase, "{0}", "{1}", "{2}");
            var english = ShippedMails.English.Say(phrase, "{0}", "{1}", "{2}");
            var gaps = Gap().Matches(said).Select(m => m.Value).Order();
            if (phrase != MailPhrase.LateOne)
                gaps.ShouldBe(Gap().Matches(english).Select(m => m.Value).Order(), $"{phrase}");
            if (language != "en")
                said.ShouldNotBe(english, $"{phrase}");
        }
    }

    [Fact]
    public void A_quote_without_a_last_day_and_a_business_without_an_account_leave_no_holes()
    {
        var mails = ShippedMails.English;
        MailTexts.Write(mails[MailText.Quote], Fields with { Until = "" }).Body.ShouldNotContain("holds until");
        MailTexts
            .Write(mails[MailText.Invoice], Fields with { Account = "" })
            .Body.ShouldContain("pay it by 1 Oct 2025 and state INV-1.");
        MailTexts.Write(mails[MailText.GentleReminder], Fields with { Account = "" }).Body.ShouldNotContain("account");
    }

    [Theory]
    [InlineData("{{ Total")]
    [InlineData("{% if Total %}")]
    [InlineData("{{ Password }}")]
    public void A_text_that_cannot_be_filled_in_is_refused(string template) =>
        Should.Throw<RefusalException>(() => MailTexts.Fill(template, Fields)).Refusals[0].Field.ShouldBe("template");
}
