using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Making;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>The shelf, unsaved typing, starters, and what a change of customer changes.</summary>
public sealed class ShelfTests
{
    private static TypedEditor Typed(string form = "{\"half\":1}", int? document = null) =>
        new(DocumentKind.Invoice, document, form, "Yard", "12.00 EUR");

    [Fact]
    public async Task What_is_put_on_the_shelf_comes_back_as_it_was_and_only_once()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<Shelf>(s => s.PutAsync(Typed("{\"older\":1}")));
        var id = await loft.WithAsync<Shelf, int>(s => s.PutAsync(Typed()));
        (await loft.WithAsync<Shelf, IReadOnlyList<ShelfEntry>>(s => s.ListAsync()))
            .Select(e => e.Id)
            .First()
            .ShouldBe(id);
        var taken = await loft.WithAsync<Shelf, int>(s => s.ReopenAsync(id));
        (await loft.WithAsync<Shelf, ShelfEntry?>(s => s.FindAsync(taken)))!.Form.ShouldBe("{\"half\":1}");
        (await loft.WithAsync<Shelf, IReadOnlyList<ShelfEntry>>(s => s.ListAsync())).Count.ShouldBe(1);
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Shelf>(s => s.ReopenAsync(id)))
        ).Message.ShouldContain("a moment ago");
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
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Shelf>(s => s.KeepAsync(Typed(new string('x', 3_000_000))))
            )
        ).Message.ShouldContain("more than");
    }

    [Fact]
    public async Task A_starter_keeps_quantities_and_prices_and_no_customer()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(loft.Content(7, 33) with { PurchaseOrder = "PO-1" }, DocumentKind.Quote);
        var id = await loft.WithAsync<StartersDesk, int>(s => s.FromDocumentAsync(quote.Id, "Spring", "for spring"));
        var starter = await loft.WithAsync<BooksContext, Starter>(db => db.Starters.SingleAsync(s => s.Id == id));
        (
            starter.Kind,
            starter.Content.CustomerId,
            starter.Content.PurchaseOrder,
            starter.Content.Lines[0].Quantity,
            starter.Content.Lines[0].UnitPrice
        ).ShouldBe((DocumentKind.Quote, 0, "", 7, 33));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<StartersDesk>(s => s.FromDocumentAsync(quote.Id, "Spring", ""))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("name");
        await loft.WithAsync<StartersDesk>(s => s.RetireAsync(id, true));
        (await loft.WithAsync<StartersDesk, int>(s => s.FromDocumentAsync(quote.Id, "Spring", ""))).ShouldBePositive();
    }

    [Fact]
    public async Task Another_customer_brings_other_terms_prices_and_tax_and_that_is_said()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "R",
                    Name = "Rope",
                    Unit = "MTR",
                    Price = 9.01m,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                }
            )
        );
        var content = loft.Content() with
        {
            Lines = [new DraftLine(item, "Rope", 2, "MTR", 9.01m, null, null, loft.Std, loft.Sales)],
        };
        var changed = await loft.WithAsync<CustomerChange, ChangedCustomer>(c =>
            c.ApplyAsync(content with { CustomerId = loft.Swede }, loft.Yard)
        );
        changed.Content.Lines[0].UnitPrice.ShouldBe(100);
        changed.Said.ShouldContain(s => s.Contains("EUR → SEK"));
        changed.Said.ShouldContain(s => s.Contains("9.01 → 100"));
        (
            await loft.WithAsync<CustomerChange, ChangedCustomer>(c => c.ApplyAsync(content, loft.Yard))
        ).Said.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_starter_knows_its_currency_and_special_prices_are_converted_for_another()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(
            loft.Content(3, 1_000, loft.Swede) with
            {
                DiscountAmount = 10_000,
                Charges = [new DraftCharge("Freight", 5_000, loft.Std, loft.Sales)],
            },
            DocumentKind.Quote
        );
        var id = await loft.WithAsync<StartersDesk, int>(s => s.FromDocumentAsync(quote.Id, "Spring", ""));
        var starter = await loft.WithAsync<BooksContext, Starter>(db => db.Starters.SingleAsync(s => s.Id == id));
        starter.Currency!.Code.ShouldBe("SEK");
        var changed = await loft.WithAsync<CustomerChange, ChangedCustomer>(c =>
            c.ApplyAsync(
                starter.Content with
                {
                    CustomerId = loft.Yard,
                    Date = Loft.Today,
                },
                null,
                starter.Currency,
                keepsPrices: true
            )
        );
        (
            changed.Content.Lines[0].UnitPrice,
            changed.Content.DiscountAmount,
            changed.Content.Charges[0].Amount
        ).ShouldBe((90.1m, 901, 451));
        changed.Said.Single().ShouldContain("1 SEK = 0.0901 EUR");
        var without = await loft.WithAsync<CustomerChange, ChangedCustomer>(c =>
            c.ApplyAsync(
                starter.Content with
                {
                    CustomerId = loft.Yard,
                    Date = new DateOnly(2024, 1, 1),
                },
                null,
                starter.Currency,
                keepsPrices: true
            )
        );
        (without.Content.Lines[0].UnitPrice, without.Said.Single().Contains("stay as typed")).ShouldBe((1_000, true));
    }

    [Fact]
    public async Task Prices_go_with_tax_and_back_again_by_the_list_or_by_their_own_tax()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "R",
                    Name = "Rope",
                    Unit = "MTR",
                    Price = 9.99m,
                    PriceIncludesTax = true,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                }
            )
        );
        var typed = loft.Content() with
        {
            PricesIncludeTax = true,
            Lines =
            [
                new DraftLine(item, "Rope", 3, "MTR", 9.99m, null, null, loft.Std, loft.Sales),
                new DraftLine(null, "Splice", 1, "C62", 7.77m, null, 124, loft.Std, loft.Sales),
                DraftLine.Words("as agreed"),
            ],
            Charges = [new DraftCharge("Freight", 1_240, loft.Std, loft.Sales)],
        };
        var without = await loft.WithAsync<Pricing, DraftContent>(p => p.SwitchAsync(typed, false));
        (
            without.PricesIncludeTax,
            without.Lines[0].UnitPrice,
            without.Lines[1].UnitPrice,
            without.Lines[1].DiscountAmount,
            without.Charges[0].Amount
        ).ShouldBe((false, 8.056452m, 6.266129m, 100, 1_000));
        var back = await loft.WithAsync<Pricing, DraftContent>(p => p.SwitchAsync(without, true));
        (
            back.Lines[0].UnitPrice,
            back.Lines[1].UnitPrice,
            back.Lines[1].DiscountAmount,
            back.Charges[0].Amount
        ).ShouldBe((9.99m, 7.77m, 124, 1_240));
        var order = await loft.IssuedAsync(loft.Content(), DocumentKind.Order);
        var bill = await loft.DocumentAsync(await loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order.Id)));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Pricing>(p => p.SwitchAsync(bill.Content(), true))
            )
        ).Message.ShouldContain("Keep them so");
    }

    [Fact]
    public async Task A_price_below_cost_is_pointed_out_by_its_line()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "R",
                    Name = "Rope",
                    Unit = "MTR",
                    Price = 10,
                    Cost = 8,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                }
            )
        );
        async Task<bool> WarnedAsync(decimal discount)
        {
            var draft = await loft.DocumentAsync(
                await loft.DraftAsync(
                    loft.Content() with
                    {
                        Lines = [new DraftLine(item, "Rope", 3, "MTR", 10, discount, null, loft.Std, loft.Sales)],
                    }
                )
            );
            return (await loft.WithAsync<DraftWarnings, IReadOnlyList<Refusal>>(w => w.OfAsync(draft, draft.Id))).Any(
                w => w.Field == "lines[0].unitPrice"
            );
        }

        ((await WarnedAsync(20)), (await WarnedAsync(20.5m))).ShouldBe((false, true));
    }
}
