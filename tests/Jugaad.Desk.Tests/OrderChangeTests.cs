using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Making;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>An order that is changed after it was issued, with what was delivered and billed of it.</summary>
public sealed class OrderChangeTests
{
    private static async Task<Document> OrderAsync(Loft loft) =>
        await loft.IssuedAsync(
            loft.Content() with
            {
                Lines =
                [
                    new DraftLine(null, "Rope", 10, "MTR", 4, null, null, loft.Std, loft.Sales),
                    new DraftLine(null, "Shackle", 4, "H87", 12.5m, 10, null, loft.Std, loft.Sales),
                ],
            },
            DocumentKind.Order
        );

    private static async Task ChangeAsync(Loft loft, int id, Func<DraftContent, DraftContent> change)
    {
        var order = await loft.WithAsync<BooksContext, Document>(db =>
            db.Documents.AsNoTracking().Include(d => d.Lines).Include(d => d.Charges).SingleAsync(d => d.Id == id)
        );
        await loft.WithAsync<Drafts>(d =>
            d.SaveAsync(new DraftToSave(id, DocumentKind.Order, order.Version, change(order.Content())))
        );
    }

    private static Func<DraftContent, DraftContent> Line(int i, Func<DraftLine, DraftLine> change) =>
        c => c with { Lines = [.. c.Lines.Select((l, n) => n == i ? change(l) : l)] };

    private static async Task<Document> MadeAsync(Loft loft, Task<int> made)
    {
        var id = await made;
        await loft.WithAsync<IssuingDesk>(async i => await i.IssueAsync(id, (await loft.DocumentAsync(id)).Version));
        return await loft.DocumentAsync(id);
    }

    /// <summary>Delivers 6 metres of rope.</summary>
    private static async Task<Document> DeliverAsync(Loft loft, int order)
    {
        var id = await loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order));
        var draft = await loft.DocumentAsync(id);
        await loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    DocumentKind.DeliveryNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines[0] with { Quantity = 6 }],
                    }
                )
            )
        );
        return await MadeAsync(loft, Task.FromResult(id));
    }

    [Fact]
    public async Task An_order_is_changed_in_place_and_its_trail_tells_what()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft);
        await ChangeAsync(
            loft,
            order.Id,
            c =>
                c with
                {
                    Lines =
                    [
                        c.Lines[0] with
                        {
                            Quantity = 12,
                        },
                        new DraftLine(null, "Whipping twine", 1, "H87", 3, null, null, loft.Std, loft.Sales),
                    ],
                }
        );
        var now = await loft.DocumentAsync(order.Id);
        (now.Number, now.State, now.Net, now.Lines.Count).ShouldBe((order.Number, DocumentState.Issued, 5_100, 2));
        now.Lines.Single(l => l.Text == "Rope")
            .Id.ShouldBe(order.Lines.Single(l => l.Text == "Rope").Id, "what was made from a line stays made from it");
        var trail = await loft.WithAsync<BooksContext, List<string>>(db =>
            db.Trail.Where(t => t.DocumentId == order.Id).Select(t => t.Text).ToListAsync()
        );
        trail.ShouldContain(t =>
            t.StartsWith("Order changed.")
            && t.Contains("10 × 4")
            && t.Contains("12 × 4")
            && t.Contains("Whipping twine")
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_went_out_cannot_be_taken_off_and_the_rest_follows_the_change()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft);
        var note = await DeliverAsync(loft, order.Id);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                ChangeAsync(loft, order.Id, Line(0, l => l with { Quantity = 5 }))
            )
        ).Refusals.ShouldContain(r => r.Field == "lines[0].quantity" && r.Message.Contains("6 of “Rope”"));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                ChangeAsync(loft, order.Id, c => c with { Lines = [c.Lines[1]] })
            )
        ).Message.ShouldContain("stays on the order");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                ChangeAsync(loft, order.Id, c => c with { CustomerId = loft.Swede, Currency = "" })
            )
        )
            .Refusals[0]
            .Field.ShouldBe("customer");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                ChangeAsync(loft, order.Id, Line(0, l => l with { UnitPrice = 5 }))
            )
        ).Message.ShouldContain("delivered in part at the price");
        // No more than 6 are wanted; what has not gone yet may still cost otherwise.
        await ChangeAsync(
            loft,
            order.Id,
            c => c with { Lines = [c.Lines[0] with { Quantity = 6 }, c.Lines[1] with { UnitPrice = 15 }] }
        );
        var rest = await loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order.Id));
        (await loft.DocumentAsync(rest)).Lines.Single().Text.ShouldBe("Shackle");
        await loft.WithAsync<Drafts>(d => d.DiscardAsync(rest));
        var bill = await MadeAsync(loft, loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order.Id)));
        bill.Net.ShouldBe(2_400 + 5_400);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                ChangeAsync(loft, order.Id, Line(1, l => l with { UnitPrice = 4 }))
            )
        ).Refusals.ShouldContain(r => r.Field == "lines[1].unitPrice" && r.Message.Contains("billed in part"));
        // More is wanted: the order is open again, and what is billed next makes up the whole.
        await ChangeAsync(loft, order.Id, Line(1, l => l with { Quantity = 6 }));
        (await loft.DocumentAsync(order.Id)).State.ShouldBe(DocumentState.Issued);
        var more = await MadeAsync(loft, loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order.Id)));
        (bill.Net + more.Net, bill.Tax + more.Tax).ShouldBe(
            ((await loft.DocumentAsync(order.Id)).Net, (await loft.DocumentAsync(order.Id)).Tax)
        );
        note.Number.ShouldNotBeNull();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_seller_does_not_change_what_was_agreed_and_a_closed_order_stays()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft);
        Loft.ActAs(PersonRole.Seller);
        await Should.ThrowAsync<NotAllowedException>(() =>
            ChangeAsync(loft, order.Id, Line(0, l => l with { Quantity = 9 }))
        );
        Loft.ActAs(null);
        await loft.WithAsync<Deliveries>(d => d.CloseAsync(order.Id, "no more wanted"));
        await Should.ThrowAsync<RefusalException>(() =>
            ChangeAsync(loft, order.Id, Line(0, l => l with { Quantity = 9 }))
        );
        var invoice = await loft.IssuedAsync();
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<Drafts>(d =>
                d.SaveAsync(new DraftToSave(invoice.Id, DocumentKind.Invoice, invoice.Version, invoice.Content()))
            )
        );
    }
}
