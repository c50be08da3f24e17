using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Selling;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>The shelf, unsaved typing, starters, and what a change of customer changes.</summary>
public sealed class ShelfTests
{
    private static TypedEditor Typed(string form = "{\"half\":1}", int? document = null) => new(DocumentKind.Invoice, document, form, "Yard", "12.00 EUR");

    [Fact]
    public async Task What_is_put_on_the_shelf_comes_back_as_it_was_and_only_once()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<Shelf>(s => s.PutAsync(Typed("{\"older\":1}")));
        var id = await loft.WithAsync<Shelf, int>(s => s.PutAsync(Typed()));
        (await loft.WithAsync<Shelf, IReadOnlyList<ShelfEntry>>(s => s.ListAsync())).Select(e => e.Id).First().ShouldBe(id);
        var taken = await loft.WithAsync<Shelf, int>(s => s.TakeAsync(id));
        (await loft.WithAsync<Shelf, ShelfEntry?>(s => s.FindAsync(taken)))!.Form.ShouldBe("{\"half\":1}");
        (await loft.WithAsync<Shelf, IReadOnlyList<ShelfEntry>>(s => s.ListAsync())).Count.ShouldBe(1);
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Shelf>(s => s.TakeAsync(id)))).Message.ShouldContain("a moment ago");
    }

    [Fact]
    public async Task Typing_is_kept_once_for_each_draft_until_it_is_saved()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<Shelf>(s => s.KeepAsync(Typed("{\"a\":1}")));
        await loft.WithAsync<Shelf>(s => s.KeepAsync(Typed("{\"a\":12}")));
        var kept = await loft.WithAsync<Shelf, ShelfEntry?>(s => s.UnsavedAsync(DocumentKind.Invoice, null));
        kept!.Form.ShouldBe("{\"a\":12}");
        (await loft.WithAsync<Shelf, ShelfEntry?>(s => s.UnsavedAsync(DocumentKind.Quote, null))).ShouldBeNull();
        (await loft.WithAsync<Shelf, IReadOnlyList<ShelfEntry>>(s => s.ListAsync())).ShouldBeEmpty();
        await loft.WithAsync<Shelf>(s => s.ForgetAsync(kept.Id));
        (await loft.WithAsync<Shelf, ShelfEntry?>(s => s.UnsavedAsync(DocumentKind.Invoice, null))).ShouldBeNull();
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Shelf>(s => s.KeepAsync(Typed(new string('x', 3_000_000)))))).Message.ShouldContain("more than");
    }

    [Fact]
    public async Task A_starter_keeps_quantities_and_prices_and_no_customer()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(loft.Content(7, 33) with { PurchaseOrder = "PO-1" }, DocumentKind.Quote);
        var id = await loft.WithAsync<StartersDesk, int>(s => s.FromDocumentAsync(quote.Id, "Spring", "for spring"));
        var starter = await loft.WithAsync<BooksContext, Starter>(db => db.Starters.SingleAsync(s => s.Id == id));
        (starter.Kind, starter.Content.CustomerId, starter.Content.PurchaseOrder, starter.Content.Lines[0].Quantity, starter.Content.Lines[0].UnitPrice).ShouldBe((DocumentKind.Quote, 0, "", 7, 33));
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<StartersDesk>(s => s.FromDocumentAsync(quote.Id, "Spring", "")))).Refusals[0].Field.ShouldBe("name");
        await loft.WithAsync<StartersDesk>(s => s.RetireAsync(id, true));
        (await loft.WithAsync<StartersDesk, int>(s => s.FromDocumentAsync(quote.Id, "Spring", ""))).ShouldBePositive();
    }

    [Fact]
    public async Task Another_customer_brings_other_terms_prices_and_tax_and_that_is_said()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.WithAsync<ItemsDesk, int>(d => d.SaveAsync(null, 0, new ItemDetails { Code = "R", Name = "Rope", Unit = "MTR", Price = 9.01m, TaxCodeId = loft.Std, LedgerAccountId = loft.Sales }));
        var content = loft.Content() with { Lines = [new DraftLine(item, "Rope", 2, "MTR", 9.01m, null, null, loft.Std, loft.Sales)] };
        var changed = await loft.WithAsync<CustomerChange, ChangedCustomer>(c => c.ApplyAsync(content with { CustomerId = loft.Swede }, loft.Yard));
        changed.Content.Lines[0].UnitPrice.ShouldBe(100);
        changed.Said.ShouldContain(s => s.Contains("EUR → SEK"));
        changed.Said.ShouldContain(s => s.Contains("9.01 → 100"));
        (await loft.WithAsync<CustomerChange, ChangedCustomer>(c => c.ApplyAsync(content, loft.Yard))).Said.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_price_below_cost_is_pointed_out_by_its_line()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.WithAsync<ItemsDesk, int>(d => d.SaveAsync(null, 0, new ItemDetails { Code = "R", Name = "Rope", Unit = "MTR", Price = 10, Cost = 8, TaxCodeId = loft.Std, LedgerAccountId = loft.Sales }));
        async Task<bool> WarnedAsync(decimal discount)
        {
            var draft = await loft.DocumentAsync(await loft.DraftAsync(loft.Content() with { Lines = [new DraftLine(item, "Rope", 3, "MTR", 10, discount, null, loft.Std, loft.Sales)] }));
            return (await loft.WithAsync<DraftWarnings, IReadOnlyList<Refusal>>(w => w.OfAsync(draft, draft.Id))).Any(w => w.Field == "lines[0].unitPrice");
        }

        ((await WarnedAsync(20)), (await WarnedAsync(20.5m))).ShouldBe((false, true));
    }
}
