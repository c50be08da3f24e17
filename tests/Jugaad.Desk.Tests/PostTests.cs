using Jugaad.Core;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

public sealed class PostTests
{
    private static readonly MailToSend Mail = new("yard@slip.example", "Hello", "A line.");

    private static Task<int> AddAsync(Loft loft, MailToSend? mail = null) => loft.WithAsync<PostTray, int>(t => t.AddAsync(mail ?? Mail));

    private static Task CarryAsync(Loft loft) => loft.WithAsync<PostCarrying>(p => p.CarryAsync());

    private static async Task<PostItem> ItemAsync(Loft loft, int id) => (await loft.WithAsync<PostScreens, PostItem?>(s => s.FindAsync(id)))!;

    [Fact]
    public async Task Without_a_mail_server_mail_waits_and_says_so_until_one_is_connected()
    {
        await using var loft = await Loft.OpenAsync();
        loft.Carrier.OnlyPlays = true;
        var invoice = await loft.IssuedAsync();
        var id = await AddAsync(loft, await loft.WithAsync<MailComposing, MailToSend>(m => m.ForDocumentAsync(invoice.Id)));
        for (var i = 0; i < 9; i++)
        {
            await CarryAsync(loft);
            loft.Clock.Advance(TimeSpan.FromHours(1));
        }

        var held = await ItemAsync(loft, id);
        (held.State, held.Tries, held.LastProblem, held.SentAt).ShouldBe((PostState.Waiting, 0, Connections.NoMailServer, null));
        (await loft.WithAsync<Connections, string>(c => c.WhereAsync(PostWay.Mail, "yard@slip.example"))).ShouldStartWith("waiting in the post tray: No mail server");
        (await loft.WithAsync<StillToSetUp, IReadOnlyList<SetUpStep>>(s => s.ListAsync())).Select(s => s.Address).ShouldBe(["/setup/accounts", "/setup/mail", "/setup"]);
        await loft.WithAsync<Jugaad.Desk.Setup.BusinessDesk>(b => b.SetMailAsync(new Jugaad.Desk.Setup.MailSetup(true, "mail.example", 587, MailEncryption.StartTls, "", "", "Loft", "loft@little.example")));
        await CarryAsync(loft);
        (await ItemAsync(loft, id)).State.ShouldBe(PostState.Sent);
        loft.Carrier.Carried.Count.ShouldBe(1);
        (await loft.WithAsync<StillToSetUp, IReadOnlyList<SetUpStep>>(s => s.ListAsync())).Select(s => s.Address).ShouldBe(["/setup/accounts", "/setup"]);
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
        (carried.To, carried.FromAddress, carried.Attachments.Single().Name).ShouldBe(("yard@slip.example", "loft@little.example", "Invoice-INV-2025-0001.pdf"));
        (await ItemAsync(loft, id)).State.ShouldBe(PostState.Sent);
    }

    [Fact]
    public async Task The_trail_says_once_that_a_mail_was_put_in_the_tray_and_both_threads_have_it()
    {
        await using var loft = await Loft.OpenAsync();
        var (one, two) = (await loft.IssuedAsync(), await loft.IssuedAsync(loft.Content(3)));
        await AddAsync(loft, Mail with { CustomerId = loft.Yard, DocumentIds = [one.Id, two.Id] });
        var said = await loft.WithAsync<Books.BooksContext, List<(int?, int?)>>(async db =>
            [.. (await db.Trail.Where(t => t.Text.EndsWith("put in the post tray")).ToListAsync()).Select(t => (t.CustomerId, t.DocumentId))]);
        said.ShouldBe([(loft.Yard, one.Id), (null, two.Id)]);
    }

    [Fact]
    public async Task A_carrier_that_fails_loses_nothing_and_holds_nothing_up()
    {
        await using var loft = await Loft.OpenAsync();
        loft.Carrier.Before = mail =>
        {
            if (mail.Subject == "Hello") throw new CarrierException("The server is away.", forGood: false);
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
        loft.Carrier.Before = _ => throw new CarrierException("There is no such mailbox.", forGood: true);
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
            if (mail.Subject == "Hello") throw new InvalidOperationException("boom");
        };
        var id = await AddAsync(loft);
        await AddAsync(loft, Mail with { Subject = "Other" });
        await CarryAsync(loft);
        (await ItemAsync(loft, id)).LastProblem.ShouldContain("boom");
        loft.Carrier.Carried.Single().Subject.ShouldBe("Other");
    }

    [Fact]
    public async Task What_may_have_gone_when_the_program_stopped_is_not_sent_again_by_itself()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await AddAsync(loft);
        await loft.ExecuteAsync("UPDATE Post SET State = 'OnItsWay', Tries = 1");
        await CarryAsync(loft);
        loft.Carrier.Carried.ShouldBeEmpty();
        await loft.WithAsync<PostTray>(t => t.TryAgainAsync(id));
        await CarryAsync(loft);
        loft.Carrier.Carried.Count.ShouldBe(1);
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
        (await Should.ThrowAsync<RefusalException>(() => AddAsync(loft, new MailToSend(to, subject, body)))).Refusals[0].Field.ShouldBe(field);
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
        Should.Throw<RefusalException>(() => MailTexts.Fill("Dear {{ Custmer }}", new MailFields())).Message.ShouldContain("Custmer");
}
