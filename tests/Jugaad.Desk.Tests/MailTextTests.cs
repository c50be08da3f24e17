using Jugaad.Core;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Tests;

public sealed class MailTextTests
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
    };

    [Theory]
    [InlineData(MailText.Quote)]
    [InlineData(MailText.Invoice)]
    [InlineData(MailText.GentleReminder)]
    [InlineData(MailText.FirmReminder)]
    [InlineData(MailText.LastReminder)]
    public void Every_text_that_ships_is_filled_in_whole(MailText text)
    {
        var (subject, body) = MailTexts.Write(text, Fields);
        (subject + body).ShouldNotContain("{{");
        (subject + body).ShouldNotContain("{%");
        subject.ShouldContain("Little Loft");
        subject.ShouldNotContain("\n");
        body.ShouldStartWith("Dear Ann,");
        body.TrimEnd().ShouldEndWith("Olli\nLittle Loft");
        body.ShouldNotContain("!");
    }

    [Fact]
    public void A_quote_without_a_last_day_and_a_business_without_an_account_leave_no_holes()
    {
        MailTexts.Write(MailText.Quote, Fields with { Until = "" }).Body.ShouldNotContain("holds until");
        MailTexts
            .Write(MailText.Invoice, Fields with { Account = "" })
            .Body.ShouldContain("pay it by 1 Oct 2025 and state INV-1.");
        MailTexts.Write(MailText.GentleReminder, Fields with { Account = "" }).Body.ShouldNotContain("account");
    }

    [Theory]
    [InlineData("{{ Total")]
    [InlineData("{% if Total %}")]
    [InlineData("{{ Password }}")]
    public void A_text_that_cannot_be_filled_in_is_refused(string template) =>
        Should.Throw<RefusalException>(() => MailTexts.Fill(template, Fields)).Refusals[0].Field.ShouldBe("template");
}
