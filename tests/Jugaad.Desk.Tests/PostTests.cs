using Jugaad.Core;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

public sealed class PostTests
{
    private static readonly MailToSend Mail = new("yard@slip.example", "Hello", "A line.");

    private static Task<int> AddAsync(Loft loft, MailToSend? mail = null) =>
        loft.WithAsync<PostTray, int>(t => t.AddAsync(mail ?? Mail));

    private static Task CarryAsync(Loft loft) => loft.WithAsync<PostCarrying>(p => p.CarryAsync());

    private static async Task<PostItem> ItemAsync(Loft loft, int id) =>
        (await loft.WithAsync<PostScreens, PostItem?>(s => s.FindAsync(id)))!;

    [Fact]
    public async Task Without_a_mail_server_mail_waits_and_says_so_until_one_is_connected()
    {
        await using var loft = await Loft.OpenAsync();
        loft.Carrier.OnlyPlays = true;
        var invoice = await loft.IssuedAsync();
        var id = await AddAsync(
            loft,
            await loft.WithAsync<MailComposing, MailToSend>(m => m.ForDocumentAsync(invoice.Id))
        );
        for (var i = 0; i < 9; i++)
        {
            await CarryAsync(loft);
            loft.Clock.Advance(TimeSpan.FromHours(1));
        }

        var held = await ItemAsync(loft, id);
        (held.State, held.Tries, held.LastProblem, held.SentAt).ShouldBe(
            (PostState.Waiting, 0, Connections.NoMailServer, null)
        );
        (
            await loft.WithAsync<Connections, string>(c => c.WhereAsync(PostWay.Mail, "yard@slip.example"))
        ).ShouldStartWith("waiting in the post tray: No mail server");
        (await loft.WithAsync<StillToSetUp, IReadOnlyList<SetUpStep>>(s => s.ListAsync()))
            .Select(s => s.Address)
            .ShouldBe(["/setup/accounts", "/setup/mail", "/setup"]);
        await loft.WithAsync<Jugaad.Desk.Setup.BusinessDesk>(b =>
            b.SetMailAsync(
                new Jugaad.Desk.Setup.MailSetup(
                    true,
                    "mail.example",
                    587,
                    MailEncryption.StartTls,
                    "",
                    "",
                    "Loft",
                    "loft@little.example"
                )
            )
        );
        await CarryAsync(loft);
        (await ItemAsync(loft, id)).State.ShouldBe(PostState.Sent);
        loft.Carrier.Carried.Count.ShouldBe(1);
        (await loft.WithAsync<StillToSetUp, IReadOnlyList<SetUpStep>>(s => s.ListAsync()))
            .Select(s => s.Address)
            .ShouldBe(["/setup/accounts", "/setup"]);
    }

    [Fact]
    public async Task What_is_in_the_tray_is_carried_once_with_its_papers()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        var mail = await loft.WithAsync<MailComposing, MailToSend>(m => m.ForDocumentAsync(invoice.Id));
        mail.Body.ShouldContain("INV-2025-0001 over 124.00\u00a0EUR");
        var id = await AddAsync(loft, mail);
        await CarryAsync(loft);
        await CarryAsync(loft);
        var carried = loft.Carrier.Carried.Single();
        (carried.To, carried.FromAddress, carried.Attachments.Single().Name).ShouldBe(
            ("yard@slip.example", "loft@little.example", "Invoice-INV-2025-0001.pdf")
        );
        (await ItemAsync(loft, id)).State.ShouldBe(PostState.Sent);
    }

    [Fact]
    public async Task The_trail_says_once_that_a_mail_was_put_in_the_tray_and_both_threads_have_it()
    {
        await using var loft = await Loft.OpenAsync();
        var (one, two) = (await loft.IssuedAsync(), await loft.IssuedAsync(loft.Content(3)));
        await AddAsync(loft, Mail with { CustomerId = loft.Yard, DocumentIds = [one.Id, two.Id] });
        var said = await loft.WithAsync<Books.BooksContext, List<(int?, int?)>>(async db =>
            [
                .. (await db.Trail.Where(t => t.Text.EndsWith("put in the post tray")).ToListAsync()).Select(t =>
                    (t.CustomerId, t.DocumentId)
                ),
            ]
        );
        said.ShouldBe([(loft.Yard, one.Id), (null, two.Id)]);
    }

    [Fact]
    public async Task A_carrier_that_fails_loses_nothing_and_holds_nothing_up()
    {
        await using var loft = await Loft.OpenAsync();
        loft.Carrier.Before = mail =>
        {
            if (mail.Subject == "Hello")
                throw new CarrierException("The server is away.", CarrierFate.NotTaken);
        };
        var stuck = await AddAsync(loft);
        var other = await AddAsync(loft, Mail with { Subject = "Other" });
        await CarryAsync(loft);
        (await ItemAsync(loft, other)).State.ShouldBe(PostState.Sent);
        var waiting = await ItemAsync(loft, stuck);
        (waiting.State, waiting.Tries, waiting.LastProblem).ShouldBe((PostState.Waiting, 1, "The server is away."));

        // Not before its time, then again, and after several tries it waits for a person.
        await CarryAsync(loft);
        (await ItemAsync(loft, stuck)).Tries.ShouldBe(1);
        for (var i = 0; i < PostItem.MostTries; i++)
        {
            loft.Clock.Advance(TimeSpan.FromHours(5));
            await CarryAsync(loft);
        }

        (await ItemAsync(loft, stuck)).State.ShouldBe(PostState.Failed);
        loft.Carrier.Before = _ => { };
        await loft.WithAsync<PostTray>(t => t.TryAgainAsync(stuck));
        await CarryAsync(loft);
        (await ItemAsync(loft, stuck)).State.ShouldBe(PostState.Sent);
    }

    [Fact]
    public async Task A_mailbox_that_is_not_there_is_not_tried_again_by_itself()
    {
        await using var loft = await Loft.OpenAsync();
        loft.Carrier.Before = _ => throw new CarrierException("There is no such mailbox.", CarrierFate.Refused);
        var id = await AddAsync(loft);
        await CarryAsync(loft);
        (await ItemAsync(loft, id)).State.ShouldBe(PostState.Failed);
    }

    [Fact]
    public async Task A_bug_in_a_carrier_is_noted_and_the_others_go()
    {
        await using var loft = await Loft.OpenAsync();
        loft.Carrier.Before = mail =>
        {
            if (mail.Subject == "Hello")
                throw new InvalidOperationException("boom");
        };
        var id = await AddAsync(loft);
        await AddAsync(loft, Mail with { Subject = "Other" });
        await CarryAsync(loft);
        (await ItemAsync(loft, id)).LastProblem.ShouldContain("boom");
        loft.Carrier.Carried.Single().Subject.ShouldBe("Other");
    }

    [Fact]
    public async Task What_may_have_gone_when_the_program_stopped_is_unknown_and_a_person_decides()
    {
        await using var loft = await Loft.OpenAsync();
        var ids = new List<int>();
        for (var i = 0; i < 3; i++)
            ids.Add(await AddAsync(loft, Mail with { Subject = $"Mail {i}" }));
        await loft.ExecuteAsync("UPDATE Post SET State = 'OnItsWay', Tries = 1");
        await loft.WithAsync<PostCarrying>(p => p.FindStoppedAsync());
        await CarryAsync(loft);
        loft.Carrier.Carried.ShouldBeEmpty("nothing goes twice by itself");
        (await ItemAsync(loft, ids[0])).State.ShouldBe(PostState.Unknown);
        (await loft.WithAsync<Screens.DayScreens, Screens.Tally>(d => d.TallyAsync())).PostTrouble.ShouldBe([
            "3 in doubt",
        ]);
        (await loft.WithAsync<Screens.DayScreens, Screens.DayView>(d => d.DayAsync())).Post.Count.ShouldBe(3);

        await loft.WithAsync<PostTray>(t => t.SettleAsync(ids[0]));
        await loft.WithAsync<PostTray>(t => t.TryAgainAsync(ids[1]));
        await loft.WithAsync<PostTray>(t => t.WithdrawAsync(ids[2]));
        await CarryAsync(loft);
        loft.Carrier.Carried.Single().Subject.ShouldBe("Mail 1");
        var settled = await ItemAsync(loft, ids[0]);
        (settled.State, settled.SettledBy).ShouldBe((PostState.Sent, "Tester"));
        (await ItemAsync(loft, ids[2])).State.ShouldBe(PostState.Withdrawn);
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<PostTray>(t => t.SettleAsync(ids[1])));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_line_that_broke_after_the_mail_was_handed_over_is_not_tried_again(bool said)
    {
        await using var loft = await Loft.OpenAsync();
        loft.Carrier.Before = _ =>
            throw (
                said
                    ? new CarrierException("The line broke.", CarrierFate.Unknown)
                    : new TimeoutException("The line broke.")
            );
        var id = await AddAsync(loft);
        for (var i = 0; i < 3; i++)
        {
            await CarryAsync(loft);
            loft.Clock.Advance(TimeSpan.FromHours(9));
        }

        var item = await ItemAsync(loft, id);
        (item.State, item.Tries).ShouldBe((PostState.Unknown, 1));
        item.LastProblem.ShouldContain("The line broke.");
    }

    [Fact]
    public async Task What_is_taken_back_while_the_post_is_carried_does_not_go_and_what_is_handed_over_is_not_taken_back()
    {
        await using var loft = await Loft.OpenAsync();
        var first = await AddAsync(loft);
        var second = await AddAsync(loft, Mail with { Subject = "Second" });
        Exception? refused = null;
        loft.Carrier.Before = mail =>
        {
            if (mail.Subject != "Hello")
                return;
            // While the first is being handed over, somebody wants both back.
            refused = Record.Exception(() =>
                loft.WithAsync<PostTray>(t => t.WithdrawAsync(first)).GetAwaiter().GetResult()
            );
            loft.WithAsync<PostTray>(t => t.WithdrawAsync(second)).GetAwaiter().GetResult();
        };
        await CarryAsync(loft);
        refused.ShouldBeOfType<RefusalException>().Message.ShouldContain("being handed over right now");
        loft.Carrier.Carried.Single().Subject.ShouldBe("Hello");
        (await ItemAsync(loft, second)).State.ShouldBe(PostState.Withdrawn);
    }

    [Fact]
    public async Task Each_item_keeps_what_was_tried_when_and_what_the_other_side_said_and_is_late_after_an_hour()
    {
        await using var loft = await Loft.OpenAsync();
        loft.Carrier.Before = _ => throw new CarrierException("451 later", CarrierFate.NotTaken);
        var id = await AddAsync(loft);
        await CarryAsync(loft);
        loft.Clock.Advance(TimeSpan.FromMinutes(70));
        (await loft.WithAsync<Screens.DayScreens, Screens.Tally>(d => d.TallyAsync())).PostTrouble.ShouldBe(["1 late"]);
        loft.Carrier.Before = _ => { };
        await CarryAsync(loft);
        var item = (await loft.WithAsync<Screens.PostScreens, PostItem?>(s => s.FindAsync(id)))!;
        item.History.OrderBy(t => t.Id)
            .Select(t => (t.Outcome, t.Said))
            .ShouldBe([(PostState.Failed, "451 later"), (PostState.Sent, "250 taken")]);
        (item.History.Max(t => t.At) - item.History.Min(t => t.At)).ShouldBe(TimeSpan.FromMinutes(70));
        (await loft.WithAsync<Screens.DayScreens, Screens.Tally>(d => d.TallyAsync())).PostTrouble.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("UPDATE PostTry SET Outcome = 'Failed'", "no try of it was taken over")]
    [InlineData(
        "INSERT INTO PostTry (PostItemId, At, Outcome, Said) SELECT PostItemId, At, Outcome, Said FROM PostTry",
        "was taken over more than once"
    )]
    public async Task The_check_finds_a_history_that_does_not_agree(string tampering, string says)
    {
        await using var loft = await Loft.OpenAsync();
        await AddAsync(loft);
        await CarryAsync(loft);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.ExecuteAsync(tampering);
        (await loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(says, StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_mail_is_taken_back_before_it_goes_and_not_after()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await AddAsync(loft);
        await loft.WithAsync<PostTray>(t => t.WithdrawAsync(id));
        await CarryAsync(loft);
        loft.Carrier.Carried.ShouldBeEmpty();
        var gone = await AddAsync(loft);
        await CarryAsync(loft);
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<PostTray>(t => t.WithdrawAsync(gone)));
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<PostTray>(t => t.TryAgainAsync(gone)));
    }

    [Theory]
    [InlineData("", "Hello", "text", "to")]
    [InlineData("a@b.example, nowhere", "Hello", "text", "to")]
    [InlineData("a@b.example", "", "text", "subject")]
    [InlineData("a@b.example", "Hello\r\nBcc: all@b.example", "text", "subject")]
    [InlineData("a@b.example", "Hello", " ", "body")]
    public async Task A_mail_that_cannot_be_is_refused(string to, string subject, string body, string field)
    {
        await using var loft = await Loft.OpenAsync();
        (await Should.ThrowAsync<RefusalException>(() => AddAsync(loft, new MailToSend(to, subject, body))))
            .Refusals[0]
            .Field.ShouldBe(field);
    }

    [Fact]
    public async Task A_reminder_names_what_is_late_and_grows_firmer_only_after_the_ones_before()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-100)));
        await loft.IssuedAsync(loft.Content(1, 10, date: Loft.Today.AddDays(-20)));
        await loft.IssuedAsync(loft.Content(date: Loft.Today));
        Task<MailToSend> Compose() => loft.WithAsync<MailComposing, MailToSend>(m => m.ReminderAsync(loft.Yard));
        var first = await Compose();
        first.Subject.ShouldContain("136.40\u00a0EUR");
        first.Body.ShouldContain("INV-2025-0001 of 9 Jun 2025, due 23 Jun 2025, 86 days late: 124.00\u00a0EUR");
        first.Body.ShouldNotContain("INV-2025-0003");
        first.DocumentIds.Count.ShouldBe(2);
        await AddAsync(loft, first);
        (await Compose()).Subject.ShouldContain("is overdue");
        await AddAsync(loft, first);
        (await Compose()).Subject.ShouldContain("Last reminder");
        await loft.ReceiveAsync(13_640, (1, 12_400), (2, 1_240));
        await Should.ThrowAsync<RefusalException>(Compose);
    }

    [Fact]
    public void A_text_with_an_unknown_field_is_refused() =>
        Should
            .Throw<RefusalException>(() => MailTexts.Fill("Dear {{ Custmer }}", new MailFields()))
            .Message.ShouldContain("Custmer");
}
