using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Screens;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>What a customer sees and does through the link to a paper, and quotes with things to choose.</summary>
public sealed class LinkTests
{
    private static DraftContent Choices(Loft loft)
    {
        DraftLine Line(string text, decimal price, LineChoice choice = LineChoice.Firm, bool chosen = false) =>
            new(null, text, 1, "C62", price, null, null, loft.Std, loft.Sales) { Choice = choice, Chosen = chosen };
        return loft.Content() with
        {
            ValidUntil = Loft.Today.AddDays(30),
            Lines =
            [
                Line("Sail", 100),
                Line("Wash", 10, LineChoice.Optional),
                Line("Cotton", 20, LineChoice.Alternative, true),
                Line("Silk", 50, LineChoice.Alternative),
            ],
        };
    }

    private static async Task<string> TokenAsync(Loft loft, int id) =>
        (await loft.WithAsync<CustomerLinks, string>(l => l.AddressAsync(id))).Split('/')[^1];

    private static Task<int> AnswerAsync(
        Loft loft,
        Document quote,
        bool accepted,
        IReadOnlySet<int>? chosen = null,
        string name = "Rowan",
        int? version = null
    ) =>
        loft.WithAsync<CustomerAnswers, int>(l =>
            l.AnswerAsync(quote.Id, version ?? quote.Version, accepted, name, "", chosen)
        );

    [Fact]
    public async Task What_is_not_chosen_counts_in_no_total()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        (quote.Net, quote.Lines.Single(l => l.Text == "Silk").Amount).ShouldBe((12_000, 5_000));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        var both = Choices(loft);
        var refused = await Should.ThrowAsync<RefusalException>(() =>
            loft.DraftAsync(
                both with
                {
                    Lines = [.. both.Lines.Select(l => l with { Chosen = true })],
                },
                DocumentKind.Quote
            )
        );
        refused.Refusals[0].Field.ShouldBe("lines[3].choice");
        (await Should.ThrowAsync<RefusalException>(() => loft.DraftAsync(both, DocumentKind.Invoice)))
            .Refusals[0]
            .Field.ShouldBe("lines[1].choice");
    }

    [Fact]
    public async Task A_link_cannot_be_guessed_stays_the_same_and_shows_no_draft()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        var token = await TokenAsync(loft, quote.Id);
        token.Length.ShouldBeGreaterThanOrEqualTo(32);
        (await TokenAsync(loft, quote.Id)).ShouldBe(token);
        (await loft.WithAsync<CustomerLinks, Document?>(l => l.FindAsync(token)))!.Id.ShouldBe(quote.Id);
        (
            await loft.WithAsync<CustomerLinks, Document?>(l =>
                l.FindAsync(token[..^1] + (token[^1] == 'A' ? 'B' : 'A'))
            )
        ).ShouldBeNull();
        var draft = await loft.DraftAsync();
        var ofDraft = await TokenAsync(loft, draft);
        (await loft.WithAsync<CustomerLinks, Document?>(l => l.FindAsync(ofDraft))).ShouldBeNull();
    }

    [Fact]
    public async Task The_first_look_is_noted_once_and_looks_are_counted()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        await TokenAsync(loft, quote.Id);
        for (var i = 0; i < 3; i++)
            await loft.WithAsync<CustomerLinks>(l => l.SeeAsync(quote.Id));
        await loft.WithAsync<BooksContext>(async db =>
        {
            (await db.DocumentLinks.SingleAsync()).TimesSeen.ShouldBe(3);
            (await db.Trail.CountAsync(t => t.DocumentId == quote.Id && t.Text.StartsWith("Seen"))).ShouldBe(1);
        });
    }

    [Fact]
    public async Task Accepting_takes_the_choice_the_name_and_the_time()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        var ids = quote.Lines.ToDictionary(l => l.Text, l => l.Id);
        (await Should.ThrowAsync<RefusalException>(() => AnswerAsync(loft, quote, true, name: " ")))
            .Refusals[0]
            .Field.ShouldBe("name");
        (
            await Should.ThrowAsync<RefusalException>(() => AnswerAsync(loft, quote, true, version: 99))
        ).Message.ShouldContain("changed while");
        await AnswerAsync(loft, quote, true, new HashSet<int> { ids["Wash"], ids["Silk"] });
        var accepted = await loft.DocumentAsync(quote.Id);
        (accepted.State, accepted.Net).ShouldBe((DocumentState.Accepted, 16_000));
        accepted.AnswerNote.ShouldContain("Rowan");
        (await Should.ThrowAsync<RefusalException>(() => AnswerAsync(loft, accepted, false))).Message.ShouldContain(
            "answered already"
        );
        var invoice = await loft.DocumentAsync(await loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(quote.Id)));
        (
            invoice.Net,
            invoice.Lines.Any(l => l.Text == "Cotton"),
            invoice.Lines.Any(l => l.Choice != LineChoice.Firm)
        ).ShouldBe((16_000, false, false));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_offer_that_ended_or_was_replaced_is_not_accepted()
    {
        await using var loft = await Loft.OpenAsync();
        var ended = await loft.IssuedAsync(
            Choices(loft) with
            {
                Date = Loft.Today.AddDays(-40),
                ValidUntil = Loft.Today.AddDays(-1),
            },
            DocumentKind.Quote
        );
        (await Should.ThrowAsync<RefusalException>(() => AnswerAsync(loft, ended, true))).Message.ShouldContain(
            "ended"
        );
        var first = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        var second = await loft.WithAsync<Quotes, int>(q => q.ReviseAsync(first.Id));
        await loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(second, (await loft.DocumentAsync(second)).Version)
        );
        (
            await Should.ThrowAsync<RefusalException>(async () =>
                await AnswerAsync(loft, await loft.DocumentAsync(first.Id), true)
            )
        ).Message.ShouldContain("replaced");
    }

    [Fact]
    public async Task Nothing_more_is_chosen_of_an_offer_that_was_answered_replaced_or_has_ended()
    {
        await using var loft = await Loft.OpenAsync();
        Task ChooseAsync(Document quote, string text) =>
            loft.WithAsync<CustomerAnswers, int>(l =>
                l.ChooseAsync(quote.Id, new HashSet<int> { quote.Lines.Single(line => line.Text == text).Id })
            );
        var open = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        await ChooseAsync(open, "Silk");
        (await loft.DocumentAsync(open.Id)).Net.ShouldBe(15_000);
        await AnswerAsync(loft, await loft.DocumentAsync(open.Id), true);
        await Should.ThrowAsync<RefusalException>(() => ChooseAsync(open, "Cotton"));
        var ended = await loft.IssuedAsync(
            Choices(loft) with
            {
                Date = Loft.Today.AddDays(-40),
                ValidUntil = Loft.Today.AddDays(-1),
            },
            DocumentKind.Quote
        );
        await Should.ThrowAsync<RefusalException>(() => ChooseAsync(ended, "Silk"));
        var replaced = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        var revision = await loft.WithAsync<Quotes, int>(q => q.ReviseAsync(replaced.Id));
        await loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(revision, (await loft.DocumentAsync(revision)).Version)
        );
        await Should.ThrowAsync<RefusalException>(() => ChooseAsync(replaced, "Silk"));
        (await loft.DocumentAsync(open.Id)).Net.ShouldBe(15_000);
    }

    [Fact]
    public async Task Declining_takes_a_reason_that_can_be_counted()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        await loft.WithAsync<Quotes>(q => q.AnswerAsync(quote.Id, false, "a cousin sews", LossReason.WentElsewhere));
        var declined = await loft.DocumentAsync(quote.Id);
        (declined.State, declined.LostBy).ShouldBe((DocumentState.Declined, LossReason.WentElsewhere));
        var won = await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        await loft.WithAsync<Quotes>(q => q.AnswerAsync(won.Id, true));
        await loft.IssuedAsync(Choices(loft), DocumentKind.Quote);
        (await loft.WithAsync<SellScreens, QuoteOutcome>(s => s.OutcomeAsync())).Words.ShouldBe(
            "1 of 2 quotes won (50 %). 1 was declined: 1 somebody else does it."
        );
    }

    [Fact]
    public async Task A_link_is_taken_back_made_anew_and_ends_after_its_days()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        async Task<bool> OpensAsync(string word) =>
            await loft.WithAsync<CustomerLinks, Document?>(l => l.FindAsync(word)) is not null;
        var first = await TokenAsync(loft, invoice.Id);
        (await OpensAsync(first)).ShouldBeTrue();
        await loft.WithAsync<CustomerLinks>(l => l.TakeBackAsync(invoice.Id));
        (await OpensAsync(first)).ShouldBeFalse();
        var second = await TokenAsync(loft, invoice.Id);
        (second == first, await OpensAsync(second), await OpensAsync(first)).ShouldBe((false, true, false));
        await loft.WithAsync<CustomerLinks>(l => l.RenewAsync(invoice.Id));
        var third = await TokenAsync(loft, invoice.Id);
        (third == second, await OpensAsync(third), await OpensAsync(second)).ShouldBe((false, true, false));

        await loft.ExecuteAsync("UPDATE MailSettings SET LinkDays = 30");
        var other = await loft.IssuedAsync();
        var ending = await TokenAsync(loft, other.Id);
        loft.Clock.Advance(TimeSpan.FromDays(30));
        (await OpensAsync(ending)).ShouldBeTrue("on its last day");
        loft.Clock.Advance(TimeSpan.FromDays(1));
        (await OpensAsync(ending)).ShouldBeFalse();
        (await OpensAsync(third)).ShouldBeTrue("it was made when links had no end");
        (await TokenAsync(loft, other.Id)).ShouldBe(ending, "sent once more, it goes on");
        (await OpensAsync(ending)).ShouldBeTrue();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }
}
