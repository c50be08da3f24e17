using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Parts of a whole add up to it, whatever the parts are: bills of an order, deliveries billed, credits of an invoice.
/// </summary>
public sealed class PartsTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private int _reduced;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.WithAsync<TaxDesk>(t => t.SaveComponentAsync(null, "Low VAT", null));
        await _loft.WithAsync<TaxDesk>(t => t.AddRateAsync("Low VAT", new DateOnly(2020, 1, 1), 9));
        _reduced = await _loft.WithAsync<TaxDesk, int>(t =>
            t.AddCodeAsync(new TaxCodeToAdd("LOW", "Reduced", TaxCategory.Standard, null, [("Low VAT", false)]))
        );
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private DraftLine Line(
        decimal quantity,
        decimal price,
        decimal? percent = null,
        long? off = null,
        int? code = null
    ) => new(null, "Sailcloth", quantity, "MTK", price, percent, off, code ?? _loft.Std, _loft.Sales);

    private async Task<Document> IssueAsync(int id)
    {
        await _loft.WithAsync<IssuingDesk>(async i => await i.IssueAsync(id, (await _loft.DocumentAsync(id)).Version));
        return await FullAsync(id);
    }

    private Task<Document> FullAsync(int id) =>
        _loft.WithAsync<BooksContext, Document>(db =>
            db.Documents.AsNoTracking()
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Taxes)
                .SingleAsync(d => d.Id == id)
        );

    /// <summary>Cuts a draft down to some of each line, as one does in the editor, and issues it.</summary>
    private async Task<Document> PartAsync(int id, Func<DraftLine, decimal> quantity, bool charges = true)
    {
        var draft = await FullAsync(id);
        var lines = draft
            .Content()
            .Lines.Select(l => l.Role == LineRole.Item ? l with { Quantity = quantity(l) } : l)
            .Where(l => !l.Role.HasFigures() || l.Quantity != 0)
            .ToList();
        await _loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    draft.Kind,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = lines,
                        Charges = charges ? draft.Content().Charges : [],
                    },
                    draft.FromDocumentId
                )
            )
        );
        return await IssueAsync(id);
    }

    private Task<int> BillAsync(int order) => _loft.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(order));

    private Task<int> CreditAsync(int invoice) => _loft.WithAsync<Credits, int>(c => c.DraftAsync(invoice, "less"));

    [Fact]
    public async Task A_discount_in_money_is_shared_over_the_parts_that_are_billed()
    {
        var order = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [Line(10, 100, off: 10_000)],
            },
            DocumentKind.Order
        );
        (await PartAsync(await BillAsync(order.Id), _ => 3)).Net.ShouldBe(27_000);
        (await PartAsync(await BillAsync(order.Id), _ => 7)).Net.ShouldBe(63_000);
        var whole = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [Line(10, 100)],
                DiscountAmount = 10_000,
            },
            DocumentKind.Order
        );
        (await PartAsync(await BillAsync(whole.Id), _ => 3)).Net.ShouldBe(27_000);
        (await IssueAsync(await BillAsync(whole.Id))).Net.ShouldBe(63_000);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_invoice_credited_in_parts_is_credited_as_a_whole()
    {
        var invoice = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [Line(3, 41.67m), Line(1, 0.01m)],
                DiscountPercent = 20,
            }
        );
        invoice.Payable.ShouldBe(12_402);
        var first = await PartAsync(await CreditAsync(invoice.Id), l => l.UnitPrice == 41.67m ? 1 : 0);
        var second = await IssueAsync(await CreditAsync(invoice.Id));
        (first.Payable + second.Payable, first.Tax + second.Tax).ShouldBe((invoice.Payable, invoice.Tax));
        (await Should.ThrowAsync<RefusalException>(() => CreditAsync(invoice.Id))).Message.ShouldContain(
            "is credited already"
        );
    }

    [Fact]
    public async Task What_was_never_billed_is_no_part_of_a_correction_and_nothing_is_credited_beyond_what_was()
    {
        var invoice = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [Line(2, 50), Line(1, 30, code: _reduced)],
            }
        );
        var id = await CreditAsync(invoice.Id);
        var draft = await FullAsync(id);
        Task SaveAsync(params DraftLine[] lines) =>
            _loft.WithAsync<Drafts>(async d =>
                await d.SaveAsync(
                    new DraftToSave(
                        id,
                        DocumentKind.CreditNote,
                        (await FullAsync(id)).Version,
                        draft.Content() with
                        {
                            Lines = lines,
                        },
                        invoice.Id
                    )
                )
            );
        var (two, one) = (draft.Content().Lines[0], draft.Content().Lines[1]);
        (await Should.ThrowAsync<RefusalException>(() => SaveAsync(two, Line(1, 5)))).Message.ShouldContain(
            "never billed"
        );
        (
            await Should.ThrowAsync<RefusalException>(() => SaveAsync(two with { Quantity = 2.5m }))
        ).Message.ShouldContain("left to credit");
        (
            await Should.ThrowAsync<RefusalException>(() => SaveAsync(two with { UnitPrice = 60, Shares = false }))
        ).Message.ShouldContain("left to credit");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                SaveAsync(one with { Quantity = 1, UnitPrice = 31, Shares = false })
            )
        ).Message.ShouldContain("left to credit");
        // Made cheaper by 20 of the 100: the rest is all that is left, and the goods stay sold.
        await SaveAsync(two with { UnitPrice = 10, Shares = false });
        (await IssueAsync(id)).Net.ShouldBe(2_000);
        var rest = await IssueAsync(await CreditAsync(invoice.Id));
        (rest.Net, rest.Tax).ShouldBe((11_000, 2_400 - 480 + 270));
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_credited_by_quantity_can_be_billed_again_and_what_was_made_cheaper_cannot()
    {
        var order = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [Line(10, 9.99m)],
                DiscountPercent = 3,
            },
            DocumentKind.Order
        );
        var invoice = await IssueAsync(await BillAsync(order.Id));
        for (var again = 0; again < 3; again++)
        {
            (await Should.ThrowAsync<RefusalException>(() => BillAsync(order.Id))).Message.ShouldContain(
                "left to bill"
            );
            var credit = await PartAsync(await CreditAsync(invoice.Id), _ => 4);
            invoice = await IssueAsync(await BillAsync(order.Id));
            (invoice.Net, invoice.Tax).ShouldBe((credit.Net, credit.Tax));
        }

        var id = await CreditAsync(invoice.Id);
        var draft = await FullAsync(id);
        await _loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    id,
                    DocumentKind.CreditNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines[0] with { UnitPrice = 1, Shares = false }],
                    },
                    invoice.Id
                )
            )
        );
        await IssueAsync(id);
        (await Should.ThrowAsync<RefusalException>(() => BillAsync(order.Id))).Message.ShouldContain("left to bill");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_credited_stage_counts_as_not_billed()
    {
        var quote = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [Line(3, 33.33m), Line(1, 10.01m, code: _reduced)],
            },
            DocumentKind.Quote
        );
        var first = await IssueAsync(
            await _loft.WithAsync<Stages, int>(s => s.BillAsync(quote.Id, new StageWish(Percent: 40)))
        );
        await IssueAsync(await CreditAsync(first.Id));
        var view = (await _loft.WithAsync<Stages, StageView?>(s => s.ViewAsync(quote.Id)))!;
        view.Rows.ShouldAllBe(r => r.Before == 0);
        var rest = await IssueAsync(
            await _loft.WithAsync<Stages, int>(s => s.BillAsync(quote.Id, new StageWish(Rest: true)))
        );
        (rest.Net, rest.Tax).ShouldBe((quote.Net, quote.Tax));
    }

    [Fact]
    public async Task A_percentage_is_printed_as_one_also_where_it_was_the_documents()
    {
        var order = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [Line(10, 9.99m, percent: 10)],
                DiscountPercent = 3,
            },
            DocumentKind.Order
        );
        var part = await PartAsync(await BillAsync(order.Id), _ => 3);
        var texts = (await _loft.WithAsync<PaperRoom, Core.Layouts.DisplayList>(p => p.ComposeAsync(part.Id)))
            .Pages.SelectMany(p => p.Marks)
            .OfType<Core.Layouts.TextMark>()
            .Select(t => t.Text)
            .ToList();
        texts.ShouldContain("10\u00a0% + 3\u00a0%");
        var money = await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [Line(10, 10)],
                DiscountAmount = 1_000,
            },
            DocumentKind.Order
        );
        var some = await PartAsync(await BillAsync(money.Id), _ => 3);
        (await _loft.WithAsync<PaperRoom, Core.Layouts.DisplayList>(p => p.ComposeAsync(some.Id)))
            .Pages.SelectMany(p => p.Marks)
            .OfType<Core.Layouts.TextMark>()
            .ShouldContain(t => t.Text == "3.00");
    }

    /// <summary>
    /// Random orders billed in random parts, directly and through delivery notes, with bills cancelled in between; and
    /// each bill credited in random parts.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    [InlineData(6)]
    [InlineData(7)]
    [InlineData(8)]
    public async Task Parts_add_up_to_the_whole_whatever_they_are(int seed)
    {
        var dice = new Random(seed);
        await _loft.ExecuteAsync($"UPDATE Businesses SET TaxRounding = '{(seed % 3 == 0 ? "Line" : "Document")}'");
        var order = await _loft.IssuedAsync(RandomContent(dice), DocumentKind.Order);
        order = await FullAsync(order.Id);
        var bills = new List<Document>();
        for (var round = 0; round < 3; round++)
        {
            var bill = await RandomBillAsync(order, dice, dice.Next(2) == 0);
            if (bill is null)
                break;
            if (dice.Next(4) == 0)
                await _loft.WithAsync<Credits>(c => c.CancelAsync(bill.Id, "not this one"));
            else
                bills.Add(bill);
        }

        if (await LeftAsync(order))
            bills.Add(await IssueAsync(await BillAsync(order.Id)));
        bills.Sum(b => b.Net).ShouldBe(order.Net);
        bills.Sum(b => b.Tax).ShouldBe(order.Tax);
        foreach (var tax in order.Taxes)
            bills
                .SelectMany(b => b.Taxes)
                .Where(t => t.Treatment == tax.Treatment)
                .Sum(t => t.Tax)
                .ShouldBe(tax.Tax, tax.Treatment);

        var billed = bills[dice.Next(bills.Count)];
        var credits = new List<Document>
        {
            await PartAsync(await CreditAsync(billed.Id), l => Some(l.Quantity, dice), charges: false),
        };
        credits.Add(await IssueAsync(await CreditAsync(billed.Id)));
        (credits.Sum(c => c.Net), credits.Sum(c => c.Tax), credits.Sum(c => c.Payable)).ShouldBe(
            (billed.Net, billed.Tax, billed.Payable)
        );
        foreach (var tax in billed.Taxes)
            credits
                .SelectMany(c => c.Taxes)
                .Where(t => t.Treatment == tax.Treatment)
                .Sum(t => t.Tax)
                .ShouldBe(tax.Tax, tax.Treatment);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    private DraftContent RandomContent(Random dice) =>
        _loft.Content() with
        {
            PricesIncludeTax = dice.Next(2) == 0,
            DiscountPercent = dice.Next(3) == 0 ? dice.Next(1, 4_000) / 100m : null,
            DiscountAmount = null,
            Lines =
            [
                .. Enumerable
                    .Range(0, dice.Next(1, 4))
                    .Select(_ =>
                        Line(
                            dice.Next(2, 40) / 2m,
                            dice.Next(100, 90_000) / 1000m,
                            dice.Next(3) == 0 ? dice.Next(1, 5_000) / 100m : null,
                            null,
                            dice.Next(3) == 0 ? _reduced : null
                        )
                    )
                    .Select(l =>
                        l.DiscountPercent is null && dice.Next(3) == 0
                            ? l with
                            {
                                DiscountAmount = dice.Next(1, 90),
                            }
                            : l
                    ),
            ],
            Charges =
                dice.Next(2) == 0 ? [new DraftCharge("Freight", dice.Next(100, 2_000), _loft.Std, _loft.Sales)] : [],
        };

    private static decimal Some(decimal quantity, Random dice) =>
        Math.Max(0.5m, Math.Floor(quantity * dice.Next(1, 9) / 10 * 2) / 2);

    private async Task<bool> LeftAsync(Document order) =>
        (
            await _loft.WithAsync<LineUses, IReadOnlyDictionary<int, SourceLine>>(u =>
                u.OfAsync([.. order.Lines.Select(l => l.Id)])
            )
        ).Values.Any(l => l.Left.LeftToBill != 0);

    private async Task<Document?> RandomBillAsync(Document order, Random dice, bool delivered)
    {
        if (!await LeftAsync(order))
            return null;
        if (!delivered)
            return await PartAsync(await BillAsync(order.Id), l => Some(l.Quantity, dice));
        var note = await PartAsync(
            await _loft.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order.Id)),
            l => Some(l.Quantity, dice)
        );
        var bill = (await _loft.WithAsync<Deliveries, IReadOnlyList<int>>(d => d.BillAsync([note.Id], false)))[0];
        return await IssueAsync(bill);
    }
}
