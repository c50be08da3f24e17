using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.People;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>What each role may do is asked at the desk, whoever calls it.</summary>
public sealed class RightsTests
{
    private static readonly (string What, Right Right, Func<Loft, Task> Work)[] Works =
    [
        ("drafts an invoice", Right.Draft, loft => loft.DraftAsync()),
        (
            "adds a customer",
            Right.Draft,
            loft =>
                loft.WithAsync<CustomersDesk>(c =>
                    c.SaveAsync(null, 0, new CustomerDetails { Name = "New", Currency = "EUR" })
                )
        ),
        (
            "changes a customer",
            Right.Masters,
            loft =>
                loft.WithAsync<CustomersDesk>(c =>
                    c.SaveAsync(
                        loft.Yard,
                        1,
                        new CustomerDetails
                        {
                            Name = "Yard",
                            Code = "YARD",
                            Currency = "EUR",
                        }
                    )
                )
        ),
        (
            "adds an item",
            Right.Masters,
            loft =>
                loft.WithAsync<ItemsDesk>(i =>
                    i.SaveAsync(
                        null,
                        0,
                        new ItemDetails
                        {
                            Code = "X",
                            Name = "X",
                            TaxCodeId = loft.Std,
                            LedgerAccountId = loft.Sales,
                        }
                    )
                )
        ),
        ("receives money", Right.Money, loft => loft.ReceiveAsync(100)),
        (
            "mails a reminder",
            Right.Mail,
            loft =>
                loft.WithAsync<PostTray>(t =>
                    t.AddAsync(new MailToSend("a@b.example", "Hello", "Text") { Kind = PostKind.Reminder })
                )
        ),
        (
            "adds a tax rate",
            Right.Setup,
            loft => loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", new DateOnly(2026, 1, 1), 25))
        ),
        (
            "enters an exchange rate",
            Right.Setup,
            loft => loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("NOK", new DateOnly(2026, 1, 1), 0.08m)))
        ),
        (
            "adds a tax rule",
            Right.Setup,
            loft =>
                loft.WithAsync<TaxRulesDesk>(t => t.AddRuleAsync(Supply.Goods, Buyer.Consumer, Place.Abroad, loft.Std))
        ),
        (
            "invites somebody",
            Right.People,
            loft => loft.WithAsync<PeopleDesk>(p => p.InviteAsync("new@b.example", PersonRole.Reader, t => t))
        ),
    ];

    public static TheoryData<PersonRole> Roles => [.. Enum.GetValues<PersonRole>()];

    [Theory]
    [MemberData(nameof(Roles))]
    public async Task Each_role_does_what_it_has_the_right_to_and_nothing_else(PersonRole role)
    {
        await using var loft = await Loft.OpenAsync();
        Loft.ActAs(role);
        foreach (var (what, right, work) in Works)
        {
            if (role.Has(right))
                await work(loft);
            else
                (
                    await Should.ThrowAsync<NotAllowedException>(() => work(loft), $"{role} {what}")
                ).Message.ShouldContain(
                    what.StartsWith("mails", StringComparison.Ordinal) && role == PersonRole.Reader
                        ? Right.Draft.Words()
                        : right.Words()
                );
        }

        Loft.ActAs(null);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData(PersonRole.Owner, true)]
    [InlineData(PersonRole.Bookkeeper, true)]
    [InlineData(PersonRole.Seller, false)]
    [InlineData(PersonRole.Reader, false)]
    public async Task Only_who_may_issue_issues_an_invoice_and_nothing_is_numbered_otherwise(PersonRole role, bool may)
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.DraftAsync();
        Loft.ActAs(role);
        var issue = () => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1));
        if (may)
            await issue();
        else
            await Should.ThrowAsync<NotAllowedException>(issue);
        (await loft.DocumentAsync(id)).State.ShouldBe(may ? DocumentState.Issued : DocumentState.Draft);
    }

    [Fact]
    public async Task A_seller_sends_a_quote_by_mail_but_no_other_paper()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.DraftAsync(kind: DocumentKind.Quote);
        var invoice = await loft.IssuedAsync();
        Loft.ActAs(PersonRole.Seller);
        await loft.WithAsync<IssuingDesk>(i =>
            i.IssueAsync(quote, 1, new MailToSend("yard@slip.example", "Our quote", "Here it is"))
        );
        (await loft.DocumentAsync(quote)).State.ShouldBe(DocumentState.Sent);
        await Should.ThrowAsync<NotAllowedException>(() =>
            loft.WithAsync<PostTray>(t =>
                t.AddAsync(
                    new MailToSend("yard@slip.example", "Invoice", "Here")
                    {
                        Kind = PostKind.Document,
                        DocumentIds = [invoice.Id],
                    }
                )
            )
        );
        await Should.ThrowAsync<NotAllowedException>(() => loft.WithAsync<Receipts>(r => r.TakeAwayAsync(1)));
    }

    [Fact]
    public async Task There_is_always_an_owner_who_can_sign_in()
    {
        await using var loft = await Loft.OpenAsync();
        var owner = (await loft.WithAsync<PeopleDesk, IReadOnlyList<PersonRow>>(p => p.ListAsync())).Single();
        (
            await Should.ThrowAsync<Core.RefusalException>(() =>
                loft.WithAsync<PeopleDesk>(p => p.ChangeRoleAsync(owner.Id, PersonRole.Reader))
            )
        ).Message.ShouldContain("only owner");
        await Should.ThrowAsync<Core.RefusalException>(() => loft.WithAsync<PeopleDesk>(p => p.CloseAsync(owner.Id)));
        var link = await loft.WithAsync<PeopleDesk, string>(p =>
            p.InviteAsync("second@b.example", PersonRole.Owner, t => t)
        );
        await loft.WithAsync<PeopleDesk>(p => p.AcceptAsync(link, "Second Owner", "a long password"));
        await loft.WithAsync<PeopleDesk>(p => p.CloseAsync(owner.Id));
        (await loft.WithAsync<PeopleDesk, IReadOnlyList<PersonRow>>(p => p.ListAsync()))
            .Count(p => p is { Role: PersonRole.Owner, Closed: false })
            .ShouldBe(1);
    }

    [Fact]
    public async Task An_invitation_is_good_once_and_for_a_week_and_its_word_is_not_kept()
    {
        await using var loft = await Loft.OpenAsync();
        var token = await loft.WithAsync<PeopleDesk, string>(p =>
            p.InviteAsync(" new@b.example ", PersonRole.Bookkeeper, t => t)
        );
        var kept = await loft.WithAsync<PeopleDesk, Invitation>(async p => (await p.FindAsync(token))!);
        kept.Email.ShouldBe("new@b.example");
        kept.TokenHash.ShouldNotContain(token);
        (await loft.WithAsync<BooksContext, int>(db => db.Post.CountAsync())).ShouldBe(0);
        var words = await loft.WithAsync<BooksContext, List<string>>(db => db.Trail.Select(t => t.Text).ToListAsync());
        words.ShouldNotContain(w => w.Contains(token, StringComparison.Ordinal));
        (
            await loft.WithAsync<PeopleDesk, string>(p =>
                p.InviteAsync("twice@b.example", PersonRole.Reader, t => t, "key")
            )
        ).Length.ShouldBe(64);
        (
            await loft.WithAsync<PeopleDesk, string>(p =>
                p.InviteAsync("twice@b.example", PersonRole.Reader, t => t, "key")
            )
        ).ShouldBeEmpty();
        await Should.ThrowAsync<Core.RefusalException>(() =>
            loft.WithAsync<PeopleDesk>(p => p.AcceptAsync(token, "New", "short"))
        );
        await loft.WithAsync<PeopleDesk>(p => p.AcceptAsync(token, "New Clerk", "a long password"));
        (
            await Should.ThrowAsync<Core.RefusalException>(() =>
                loft.WithAsync<PeopleDesk>(p => p.AcceptAsync(token, "Again", "a long password"))
            )
        ).Message.ShouldContain("not good any more");
        (
            await Should.ThrowAsync<Core.RefusalException>(() =>
                loft.WithAsync<PeopleDesk>(p => p.InviteAsync("new@b.example", PersonRole.Reader, t => t))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("email");

        var late = await loft.WithAsync<PeopleDesk, string>(p =>
            p.InviteAsync("late@b.example", PersonRole.Reader, t => t)
        );
        loft.Clock.Advance(TimeSpan.FromDays(8));
        (await loft.WithAsync<PeopleDesk, Invitation?>(p => p.FindAsync(late))).ShouldBeNull();
    }
}
