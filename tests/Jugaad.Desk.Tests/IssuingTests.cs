using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Post;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

public sealed class IssuingTests
{
    [Fact]
    public async Task A_discount_for_early_payment_that_changed_since_the_draft_was_saved_is_not_issued_unseen()
    {
        await using var loft = await Loft.OpenAsync();
        var draft = await loft.DraftAsync();
        Task IssueAsync() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(draft, 1));
        await loft.ExecuteAsync("UPDATE Terms SET EarlyPercent = 3000000, EarlyDays = 8");
        (await loft.RefusedAsync(IssueAsync)).Message.ShouldContain("changed since this draft was saved");
        await loft.ExecuteAsync("UPDATE Terms SET EarlyPercent = 0, EarlyDays = 0");
        await IssueAsync();
        (await loft.DocumentAsync(draft)).IsDraft.ShouldBeFalse();
    }

    [Fact]
    public async Task Issuing_numbers_freezes_posts_and_notes_in_one_go()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        (invoice.Number, invoice.State, invoice.Addressee!.Name, invoice.Sender!.Name).ShouldBe(
            ("INV-2025-0001", DocumentState.Issued, "Yard", "Little Loft")
        );
        var item = await loft.ItemOfAsync(invoice.Id);
        (item.Amount, item.Open, item.Due).ShouldBe((12_400, 12_400, Loft.Today.AddDays(14)));
        await loft.WithAsync<BooksContext>(async db =>
        {
            var entry = await db.Journal.Include(e => e.Lines).SingleAsync(e => e.DocumentId == invoice.Id);
            entry.Lines.Sum(l => l.Debit).ShouldBe(12_400);
            (
                await db.Trail.CountAsync(t =>
                    t.DocumentId == invoice.Id && t.Text == "Invoice INV-2025-0001 issued" && t.Who == "Tester"
                )
            ).ShouldBe(1);
        });
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Masters_may_change_afterwards_and_the_issued_document_does_not()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        await loft.WithAsync<BooksContext>(async db =>
        {
            var yard = await db.Customers.SingleAsync(c => c.Id == loft.Yard);
            yard.Describe(new CustomerDetailsBuilder(yard).Named("Sold Yard"));
            await db.SaveChangesAsync();
        });
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", new DateOnly(2025, 9, 1), 30));
        (await loft.DocumentAsync(invoice.Id)).Addressee!.Name.ShouldBe("Yard");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_same_form_sent_twice_is_answered_once()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.DraftAsync();
        var mail = new MailToSend("yard@slip.example", "Invoice", "Here it is.");
        await loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1, mail, "form-1"));
        (await loft.WithAsync<IssuingDesk, int>(i => i.IssueAsync(id, 1, mail, "form-1"))).ShouldBe(id);
        await loft.WithAsync<BooksContext>(async db =>
        {
            (await db.Post.CountAsync()).ShouldBe(1);
            (await db.AccountItems.CountAsync()).ShouldBe(1);
        });
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1, mail, "form-2"))
        );
    }

    [Fact]
    public async Task Twenty_people_issuing_at_once_leave_no_gap_and_no_double()
    {
        await using var loft = await Loft.OpenAsync();
        var drafts = new List<int>();
        for (var i = 0; i < 20; i++)
            drafts.Add(await loft.DraftAsync());
        await Parallel.ForEachAsync(
            drafts,
            new ParallelOptions { MaxDegreeOfParallelism = 8 },
            async (id, _) => await loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1))
        );
        var numbers = await loft.WithAsync<BooksContext, List<string?>>(db =>
            db.Documents.Select(d => d.Number).ToListAsync()
        );
        numbers.ShouldBe(Enumerable.Range(1, 20).Select(n => $"INV-2025-{n:0000}"), ignoreOrder: true);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_refused_issue_takes_no_number()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.DraftAsync();
        var wrong = new MailToSend("not an address", "Invoice", "Here it is.");
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1, wrong))))
            .Refusals[0]
            .Field.ShouldBe("to");
        (await loft.DocumentAsync(id)).IsDraft.ShouldBeTrue();
        (await loft.IssuedAsync()).Number.ShouldBe("INV-2025-0001");
    }

    [Fact]
    public async Task A_number_typed_by_hand_is_taken_once_and_passed_over()
    {
        await using var loft = await Loft.OpenAsync();
        (await loft.IssuedAsync(loft.Content() with { NumberByHand = "INV-2025-0002" })).Number.ShouldBe(
            "INV-2025-0002"
        );
        (await loft.IssuedAsync()).Number.ShouldBe("INV-2025-0001");
        (await loft.IssuedAsync()).Number.ShouldBe("INV-2025-0003");
        var again = await Should.ThrowAsync<RefusalException>(() =>
            loft.IssuedAsync(loft.Content() with { NumberByHand = "INV-2025-0002" })
        );
        again.Refusals[0].Field.ShouldBe("numberByHand");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_is_issued_unseen_after_a_change()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.DraftAsync();
        await loft.WithAsync<Drafts>(d => d.SaveAsync(new DraftToSave(id, DocumentKind.Invoice, 1, loft.Content(5))));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1)))
        ).Message.ShouldContain("changed while you had it open");
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", new DateOnly(2025, 9, 1), 30));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 2)))
        ).Message.ShouldContain("comes out differently");
    }

    [Fact]
    public async Task A_quote_becomes_an_invoice_once_at_todays_rate()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(
            loft.Content() with
            {
                ValidUntil = Loft.Today.AddDays(30),
            },
            DocumentKind.Quote
        );
        (quote.Number, quote.State).ShouldBe(("QUO-2025-0001", DocumentState.Sent));
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", Loft.Today, 30));
        var invoice = await loft.WithAsync<MakingDesk, int>(q => q.InvoiceAsync(quote.Id));
        (await loft.WithAsync<MakingDesk, int>(q => q.InvoiceAsync(quote.Id))).ShouldBe(invoice);
        var made = await loft.DocumentAsync(invoice);
        (made.Kind, made.Tax, made.FromDocumentId).ShouldBe((DocumentKind.Invoice, 3_000, quote.Id));
        made.Lines[0].FromLineId.ShouldBe(quote.Lines[0].Id);
        (await loft.DocumentAsync(quote.Id)).State.ShouldBe(DocumentState.Accepted);
        (
            await loft.WithAsync<BooksContext, bool>(db =>
                db.Trail.AnyAsync(t => t.DocumentId == invoice && t.Text.Contains("STD 24 % → STD 30 %"))
            )
        ).ShouldBeTrue();
        await loft.WithAsync<DraftWarnings>(async w =>
            (await w.OfAsync(made, invoice)).ShouldContain(x => x.Field == "taxDate")
        );
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Quotes>(q => q.ReopenAsync(quote.Id)));
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<MakingDesk>(q => q.InvoiceAsync(invoice)));
    }

    [Fact]
    public async Task The_daily_run_lapses_a_quote_once()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(loft.Content() with { ValidUntil = Loft.Today }, DocumentKind.Quote);
        (await loft.WithAsync<DailyRun, int>(d => d.RunAsync())).ShouldBe(0);
        loft.Clock.Advance(TimeSpan.FromDays(1));
        (await loft.WithAsync<DailyRun, int>(d => d.RunAsync())).ShouldBe(1);
        (await loft.WithAsync<DailyRun, int>(d => d.RunAsync())).ShouldBe(0);
        (await loft.DocumentAsync(quote.Id)).State.ShouldBe(DocumentState.Lapsed);
    }

    [Fact]
    public async Task Before_it_goes_out_there_are_warnings_that_do_not_stop_it()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        var twin = await loft.WithAsync<Drafts, Document>(d => d.TryOutAsync(DocumentKind.Invoice, loft.Content()));
        (await loft.WithAsync<DraftWarnings, IReadOnlyList<Refusal>>(w => w.OfAsync(twin, null)))
            .Single()
            .Message.ShouldContain("duplicate of invoice INV-2025-0001");
        var large = await loft.WithAsync<Drafts, Document>(d =>
            d.TryOutAsync(DocumentKind.Invoice, loft.Content(100) with { NumberByHand = "INV-2025-0001" })
        );
        (await loft.WithAsync<DraftWarnings, IReadOnlyList<Refusal>>(w => w.OfAsync(large, null)))
            .Select(w => w.Field)
            .ShouldBe(["numberByHand", "customer"]);
    }

    [Fact]
    public async Task A_foreign_invoice_takes_the_rate_of_its_day()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync(
            loft.Content(customer: loft.Swede, price: 1000, date: new DateOnly(2025, 9, 1))
        );
        (invoice.Currency.Code, invoice.ExchangeRate, (await loft.ItemOfAsync(invoice.Id)).HomeAmount).ShouldBe(
            ("SEK", 0.0874m, 21_675)
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.DraftAsync(loft.Content(customer: loft.Swede, date: new DateOnly(2024, 12, 31)))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("date");
    }
}

/// <summary>A customer's own details with one thing changed.</summary>
internal sealed class CustomerDetailsBuilder(Core.Trade.Customer customer)
{
    internal Core.Trade.CustomerDetails Named(string name) =>
        new()
        {
            Code = customer.Code,
            Name = name,
            Currency = customer.Currency.Code,
            Email = customer.Email,
            Address = customer.Address,
        };
}
