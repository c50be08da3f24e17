using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Setup;

namespace Jugaad.Desk.Tests;

public sealed class DraftTests
{
    [Fact]
    public async Task The_later_save_of_two_is_refused_and_told_what_the_other_changed()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.DraftAsync();
        await loft.WithAsync<Drafts>(d =>
            d.SaveAsync(new DraftToSave(id, DocumentKind.Invoice, 1, loft.Content(7) with { PurchaseOrder = "PO-9" }))
        );
        var conflict = await Should.ThrowAsync<DraftConflictException>(() =>
            loft.WithAsync<Drafts>(d => d.SaveAsync(new DraftToSave(id, DocumentKind.Invoice, 1, loft.Content(3))))
        );
        conflict.Version.ShouldBe(2);
        conflict.Changes.Single().ShouldContain("Tester");
        conflict.Changes.Single().ShouldContain("purchase order: nothing → “PO-9”");
        conflict.Changes.Single().ShouldContain("7 × 50");
        (await loft.DocumentAsync(id)).Lines[0].Quantity.ShouldBe(7);
        // With the version that is kept now, the other's answer is a knowing one.
        await loft.WithAsync<Drafts>(d =>
            d.SaveAsync(new DraftToSave(id, DocumentKind.Invoice, conflict.Version, loft.Content(3)))
        );
        (await loft.DocumentAsync(id)).Lines[0].Quantity.ShouldBe(3);
    }

    [Fact]
    public async Task A_new_draft_sent_twice_is_one_draft()
    {
        await using var loft = await Loft.OpenAsync();
        var save = new DraftToSave(null, DocumentKind.Quote, 0, loft.Content(), null, "form-1");
        var first = await loft.WithAsync<Drafts, int>(d => d.SaveAsync(save));
        (await loft.WithAsync<Drafts, int>(d => d.SaveAsync(save))).ShouldBe(first);
    }

    [Fact]
    public async Task What_is_not_there_is_refused_by_its_place()
    {
        await using var loft = await Loft.OpenAsync();
        async Task Refused(string field, DraftContent content) =>
            (await Should.ThrowAsync<RefusalException>(() => loft.DraftAsync(content)))
                .Refusals[0]
                .Field.ShouldBe(field);
        var line = loft.Content().Lines[0];
        await Refused("customer", loft.Content(customer: 999));
        await Refused("lines[0].text", loft.Content() with { Lines = [line with { ItemId = 999 }] });
        await Refused("lines[0].account", loft.Content() with { Lines = [line with { LedgerAccountId = 999 }] });
        await Refused("lines[0].taxCode", loft.Content() with { Lines = [line with { TaxCodeId = 999 }] });
        await Refused("terms", loft.Content() with { TermsId = 999 });
    }

    [Fact]
    public async Task A_draft_of_another_kind_or_that_is_not_there_is_refused()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.DraftAsync();
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Drafts>(d => d.SaveAsync(new DraftToSave(id, DocumentKind.Quote, 1, loft.Content())))
            )
        ).Message.ShouldContain("not a quote");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Drafts>(d => d.SaveAsync(new DraftToSave(999, DocumentKind.Quote, 1, loft.Content())))
            )
        ).Message.ShouldContain("no document 999");
    }

    [Fact]
    public async Task A_draft_put_away_comes_back_as_it_was()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.DraftAsync();
        await loft.WithAsync<Drafts>(d => d.DiscardAsync(id));
        (await loft.DocumentAsync(id)).State.ShouldBe(DocumentState.Cancelled);
        await loft.WithAsync<Drafts>(d => d.BringBackAsync(id));
        (await loft.DocumentAsync(id)).Payable.ShouldBe(12_400);
    }

    [Fact]
    public async Task A_customer_with_documents_keeps_its_currency_and_codes_stay_unique()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.DraftAsync();
        var details = new Core.Trade.CustomerDetails
        {
            Code = "YARD",
            Name = "Yard",
            Currency = "SEK",
        };
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CustomersDesk>(c => c.SaveAsync(loft.Yard, 1, details))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("currency");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CustomersDesk>(c => c.SaveAsync(null, 0, details))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("code");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CustomersDesk>(c => c.SaveAsync(loft.Yard, 9, details with { Currency = "EUR" }))
            )
        ).Message.ShouldContain("Somebody else");
    }
}
