using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Making;
using Jugaad.Desk.Screens;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>From a quote on: orders, deliveries, and what is billed of them.</summary>
public sealed class SellingChainTests
{
    private static DraftContent Two(Loft loft) =>
        loft.Content() with
        {
            Lines =
            [
                new DraftLine(null, "Sailcloth", 10, "MTK", 30, null, null, loft.Std, loft.Sales),
                new DraftLine(null, "Sewing", 4, "HUR", 50, null, null, loft.Std, loft.Sales),
            ],
            Charges = [new DraftCharge("Freight", 1_000, loft.Std, loft.Sales)],
        };

    private static async Task<Document> OrderAsync(Loft loft, DraftContent? content = null) =>
        await loft.IssuedAsync(content ?? Two(loft), DocumentKind.Order);

    /// <summary>Delivers some of each line of an order and issues the note.</summary>
    private static async Task<Document> DeliverAsync(Loft loft, int order, params decimal[] quantities)
    {
        var id = await loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order));
        var draft = await loft.DocumentAsync(id);
        var lines = draft
            .Content()
            .Lines.Zip(quantities, (l, q) => l with { Quantity = q })
            .Where(l => l.Quantity != 0)
            .ToList();
        await loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(id, DocumentKind.DeliveryNote, draft.Version, draft.Content() with { Lines = lines })
            )
        );
        await IssueAsync(loft, id);
        return await loft.DocumentAsync(id);
    }

    private static async Task IssueAsync(Loft loft, int id) =>
        await loft.WithAsync<IssuingDesk>(async i => await i.IssueAsync(id, (await loft.DocumentAsync(id)).Version));

    private static Task<IReadOnlyList<int>> BillAsync(Loft loft, bool oneEach, params int[] notes) =>
        loft.WithAsync<Deliveries, IReadOnlyList<int>>(d => d.BillAsync(notes, oneEach));

    private static async Task<Progress> ProgressAsync(Loft loft, int id) =>
        (await loft.WithAsync<ProgressScreens, IReadOnlyDictionary<int, Progress>>(p => p.OfAsync([id])))[id];

    [Fact]
    public async Task One_of_the_alternatives_is_chosen_before_a_quote_is_accepted_by_whomever()
    {
        await using var loft = await Loft.OpenAsync();
        DraftLine Either(string text, bool chosen = false) =>
            new(null, text, 1, "C62", 10, null, null, loft.Std, loft.Sales)
            {
                Choice = LineChoice.Alternative,
                Chosen = chosen,
            };
        var content = loft.Content() with
        {
            Lines =
            [
                loft.Content().Lines[0],
                Either("Dacron"),
                Either("Laminate"),
                DraftLine.Words("and"),
                Either("Red", true),
                Either("Blue"),
            ],
        };
        var quote = await loft.IssuedAsync(content, DocumentKind.Quote);
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Quotes>(q => q.AnswerAsync(quote.Id, true)))
        ).Message.ShouldBe("Choose one of these first: “Dacron” or “Laminate”.");
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<MakingDesk>(m => m.InvoiceAsync(quote.Id)));
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<CustomerAnswers>(async l =>
                await l.AnswerAsync(
                    quote.Id,
                    (await loft.DocumentAsync(quote.Id)).Version,
                    true,
                    "Mari",
                    "",
                    new HashSet<int>()
                )
            )
        );
        (await loft.DocumentAsync(quote.Id)).State.ShouldBe(DocumentState.Sent, "nothing is half done");
        var lines = (await loft.DocumentAsync(quote.Id)).Lines.OrderBy(l => l.Position).ToList();
        await loft.WithAsync<Quotes>(q =>
            q.AnswerAsync(quote.Id, true, chosen: new HashSet<int> { lines[2].Id, lines[4].Id })
        );
        (await loft.DocumentAsync(quote.Id)).Net.ShouldBe(12_000);
    }

    [Fact]
    public async Task What_is_taxed_otherwise_than_its_quote_says_from_what_to_what_in_code_and_in_rate()
    {
        await using var loft = await Loft.OpenAsync();
        var free = await loft.WithAsync<Setup.TaxDesk, int>(t =>
            t.AddCodeAsync(
                new Setup.TaxCodeToAdd(
                    "RC",
                    "Reverse charge",
                    Core.Taxes.TaxCategory.ReverseCharge,
                    "Reverse charge.",
                    []
                )
            )
        );
        var quote = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-10)), DocumentKind.Quote);
        await loft.WithAsync<Setup.TaxDesk>(t => t.AddRateAsync("VAT", Loft.Today.AddDays(-2), 25));
        var id = await loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(quote.Id));
        async Task<string> WarnedAsync() =>
            string.Join(
                '\n',
                (await loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(id, false))).Select(f =>
                    f.Words
                )
            );
        (await WarnedAsync()).ShouldContain("STD 24 % → STD 25 %");
        var draft = await loft.DocumentAsync(id);
        await loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    DocumentKind.Invoice,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines[0] with { TaxCodeId = free }],
                    },
                    quote.Id
                )
            )
        );
        (await WarnedAsync()).ShouldContain("STD 24 % → RC no tax");
    }

    [Fact]
    public async Task A_quote_becomes_an_order_that_is_delivered_in_parts_and_billed_onto_one_invoice()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(Two(loft), DocumentKind.Quote);
        var orderId = await loft.WithAsync<MakingDesk, int>(m => m.OrderAsync(quote.Id));
        await IssueAsync(loft, orderId);
        var first = await DeliverAsync(loft, orderId, 4, 4);
        (await ProgressAsync(loft, orderId)).ShouldBe(new Progress(50_000, 32_000, 0));
        var second = await DeliverAsync(loft, orderId, 6);
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<MakingDesk>(m => m.DeliveryAsync(orderId)))
        ).Message.ShouldContain("delivered");

        var invoiceId = (await BillAsync(loft, false, first.Id, second.Id)).Single();
        var invoice = await loft.DocumentAsync(invoiceId);
        invoice.Lines.Count(l => l.Role == LineRole.Section).ShouldBe(2);
        (invoice.Net, invoice.Payable).ShouldBe((51_000, 63_240));
        await IssueAsync(loft, invoiceId);
        (await ProgressAsync(loft, orderId)).IsBilled.ShouldBeTrue();
        (await ProgressAsync(loft, quote.Id)).Billed.ShouldBe(50_000);
        (
            await loft.WithAsync<Deliveries, IReadOnlyList<DeliveryToBill>>(d => d.ToBillAsync(new DeliveryFilter()))
        ).ShouldBeEmpty();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Deliveries_are_listed_by_customer_and_date_and_billed_one_each()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft);
        var first = await DeliverAsync(loft, order.Id, 1, 1);
        var second = await DeliverAsync(loft, order.Id, 2, 0);
        Task<IReadOnlyList<DeliveryToBill>> List(DeliveryFilter filter) =>
            loft.WithAsync<Deliveries, IReadOnlyList<DeliveryToBill>>(d => d.ToBillAsync(filter));
        (await List(new DeliveryFilter()))
            .Select(d => (d.Number, d.Net, d.Order))
            .ShouldBe([("DEL-2025-0001", 8_000, "ORD-2025-0001"), ("DEL-2025-0002", 6_000, "ORD-2025-0001")]);
        (await List(new DeliveryFilter(loft.Swede))).ShouldBeEmpty();
        (await List(new DeliveryFilter(From: Loft.Today.AddDays(1)))).ShouldBeEmpty();
        var made = await BillAsync(loft, true, first.Id, second.Id);
        made.Count.ShouldBe(2);
        (await loft.DocumentAsync(made[0])).Net.ShouldBe(9_000, "the order's freight goes onto the first");
        (await loft.DocumentAsync(made[1])).Net.ShouldBe(6_000);
        (await Should.ThrowAsync<RefusalException>(() => BillAsync(loft, false, first.Id))).Message.ShouldContain(
            "billed already"
        );
        // A draft that is put away frees what it took up.
        await loft.WithAsync<Drafts>(d => d.DiscardAsync(made[1]));
        (await List(new DeliveryFilter())).Single().Number.ShouldBe("DEL-2025-0002");
    }

    [Fact]
    public async Task The_same_form_sent_twice_bills_once()
    {
        await using var loft = await Loft.OpenAsync();
        var note = await loft.IssuedAsync(Two(loft), DocumentKind.DeliveryNote);
        await loft.WithAsync<Deliveries>(d => d.BillAsync([note.Id], false, "once"));
        await loft.WithAsync<Deliveries>(d => d.BillAsync([note.Id], false, "once"));
        (
            await loft.WithAsync<BooksContext, int>(db => db.Documents.CountAsync(d => d.Kind == DocumentKind.Invoice))
        ).ShouldBe(1);
    }

    [Fact]
    public async Task More_than_is_left_is_refused_with_the_figure_that_is_left()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft);
        await DeliverAsync(loft, order.Id, 7, 4);
        var refused = await Should.ThrowAsync<RefusalException>(() => DeliverAsync(loft, order.Id, 4));
        (refused.Refusals[0].Field, refused.Message.Contains("Give at most 3", StringComparison.Ordinal)).ShouldBe(
            ("lines[0].quantity", true)
        );
    }

    [Fact]
    public async Task What_was_billed_without_its_note_is_not_billed_again_with_it()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft);
        var invoice = await loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order.Id));
        (await loft.DocumentAsync(invoice)).Net.ShouldBe(51_000);
        var note = await DeliverAsync(loft, order.Id, 10, 4);
        (
            await loft.WithAsync<Deliveries, IReadOnlyList<DeliveryToBill>>(d => d.ToBillAsync(new DeliveryFilter()))
        ).ShouldBeEmpty();
        await Should.ThrowAsync<RefusalException>(() => BillAsync(loft, false, note.Id));
    }

    [Fact]
    public async Task A_part_of_a_discounted_order_has_its_share_and_the_parts_add_up()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft, Two(loft) with { DiscountAmount = 3_333, Charges = [] });
        var notes = new[]
        {
            (await DeliverAsync(loft, order.Id, 3, 1)).Id,
            (await DeliverAsync(loft, order.Id, 3, 1)).Id,
            (await DeliverAsync(loft, order.Id, 4, 2)).Id,
        };
        var net = 0L;
        foreach (var invoice in await BillAsync(loft, true, notes))
            net += (await loft.DocumentAsync(invoice)).Net;
        net.ShouldBe(order.Net);
    }

    [Fact]
    public async Task A_delivery_note_is_corrected_under_its_number_until_it_is_billed()
    {
        await using var loft = await Loft.OpenAsync();
        var note = await loft.IssuedAsync(Two(loft) with { Charges = [] }, DocumentKind.DeliveryNote);
        await loft.WithAsync<Deliveries>(d => d.CorrectAsync(note.Id));
        var draft = await loft.DocumentAsync(note.Id);
        await loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    note.Id,
                    DocumentKind.DeliveryNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines[0]],
                    }
                )
            )
        );
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Drafts>(d => d.DiscardAsync(note.Id)));
        await IssueAsync(loft, note.Id);
        var corrected = await loft.DocumentAsync(note.Id);
        (corrected.Number, corrected.Lines.Count).ShouldBe((note.Number, 1));
        (await loft.IssuedAsync(Two(loft), DocumentKind.DeliveryNote)).Number.ShouldBe("DEL-2025-0002");
        await BillAsync(loft, false, note.Id);
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Deliveries>(d => d.CorrectAsync(note.Id)))
        ).Message.ShouldContain("part of the draft invoice");
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<Deliveries>(d => d.CancelAsync(note.Id, "never went"))
        );
    }

    [Fact]
    public async Task Closing_the_rest_needs_a_reason_and_stops_what_is_made_from_it()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft);
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Deliveries>(d => d.CloseAsync(order.Id, " "))))
            .Refusals[0]
            .Field.ShouldBe("reason");
        await loft.WithAsync<Deliveries>(d => d.CloseAsync(order.Id, "The boat was sold"));
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<MakingDesk>(m => m.DeliveryAsync(order.Id)));
        await loft.WithAsync<Deliveries>(d => d.OpenAgainAsync(order.Id));
        (await loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order.Id))).ShouldBePositive();
    }

    [Fact]
    public async Task A_line_keeps_to_its_customer_and_its_way_of_pricing()
    {
        await using var loft = await Loft.OpenAsync();
        var order = await OrderAsync(loft);
        var id = await loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order.Id));
        var draft = await loft.DocumentAsync(id);
        Task Save(DraftContent content) =>
            loft.WithAsync<Drafts>(d => d.SaveAsync(new DraftToSave(id, DocumentKind.Invoice, draft.Version, content)));
        (
            await Should.ThrowAsync<RefusalException>(() => Save(draft.Content() with { PricesIncludeTax = true }))
        ).Message.ShouldContain("without tax");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                Save(draft.Content() with { CustomerId = loft.Swede, Currency = "" })
            )
        ).Message.ShouldContain("another customer");
    }

    [Fact]
    public async Task Nothing_is_ever_billed_beyond_what_was_ordered()
    {
        await using var loft = await Loft.OpenAsync();
        var dice = new Random(7);
        for (var round = 0; round < 4; round++)
        {
            var order = await OrderAsync(loft, Two(loft) with { DiscountPercent = round * 3 });
            for (var step = 0; step < 8; step++)
            {
                try
                {
                    if (dice.Next(3) > 0)
                        await DeliverAsync(loft, order.Id, dice.Next(0, 6), dice.Next(0, 4));
                    else if (dice.Next(2) == 0)
                        await BillAsync(
                            loft,
                            dice.Next(2) == 0,
                            [
                                .. (
                                    await loft.WithAsync<Deliveries, IReadOnlyList<DeliveryToBill>>(d =>
                                        d.ToBillAsync(new DeliveryFilter())
                                    )
                                ).Select(d => d.Id),
                            ]
                        );
                    else
                        await loft.WithAsync<MakingDesk>(m => m.InvoiceAsync(order.Id));
                }
                catch (RefusalException)
                {
                    // Beyond what is left: that is the point.
                }
            }

            var billed = await loft.WithAsync<LineUses, IReadOnlyDictionary<int, SourceLine>>(u =>
                u.OfAsync([.. order.Lines.Select(l => l.Id)])
            );
            billed.Values.ShouldAllBe(s => s.Left.Billed <= s.Line.Quantity && s.Left.Delivered <= s.Line.Quantity);
            (await ProgressAsync(loft, order.Id)).Billed.ShouldBeLessThanOrEqualTo(order.Lines.Sum(l => l.Base));
        }
    }
}
