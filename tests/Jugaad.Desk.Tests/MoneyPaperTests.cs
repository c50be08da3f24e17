using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Papers of money, marks that must be true, stages in the customer's language, slips by their own rules.</summary>
public sealed class MoneyPaperTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync() => _loft = await Loft.OpenAsync();

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private static string TextOf(DisplayList paper) =>
        string.Join(' ', paper.Pages.SelectMany(p => p.Marks).OfType<TextMark>().Select(t => t.Text));

    private async Task<string> PaperAsync(int id, PaperStyle? style = null) =>
        TextOf(await _loft.WithAsync<PaperRoom, DisplayList>(p => p.ComposeAsync(id, style)));

    private async Task<string> ReceiptAsync(int id) =>
        TextOf(await _loft.WithAsync<MoneyPapers, DisplayList>(m => m.ReceiptAsync(id)));

    [Fact]
    public async Task A_receipt_says_how_much_came_what_it_was_set_against_and_what_is_left()
    {
        var (first, second) = (await _loft.IssuedAsync(), await _loft.IssuedAsync());
        var (one, two) = ((await _loft.ItemOfAsync(first.Id)).Id, (await _loft.ItemOfAsync(second.Id)).Id);
        var id = await _loft.ReceiveAsync(200_00, (one, 124_00), (two, 60_00));
        var text = await ReceiptAsync(id);
        foreach (
            var said in new[]
            {
                "Receipt RCT-2025-0001",
                "We received 200.00\u00a0EUR from you on 17 Sep 2025.",
                $"Invoice {first.Number}",
                "124.00",
                $"Invoice {second.Number}",
                "60.00",
                "64.00",
                "16.00",
                "In all",
                "two hundred euros",
                "You have 16.00\u00a0EUR of credit with us.",
            }
        )
            text.ShouldContain(said);
        text.ShouldNotContain("Undone");

        await _loft.ExecuteAsync("UPDATE Customers SET Language = 'de'");
        var german = await ReceiptAsync(id);
        german.ShouldContain("Zahlung RCT-2025-0001");
        german.ShouldContain("Wir haben am 17.09.2025 von Ihnen 200,00\u00a0EUR erhalten.");
        german.ShouldContain("zweihundert Euro");

        await _loft.WithAsync<Undoing>(u => u.UndoAsync(BookingOf(id)));
        (await ReceiptAsync(id)).ShouldContain("Rückgängig gemacht");
        await Should.ThrowAsync<RefusalException>(() => ReceiptAsync(999));
    }

    private int BookingOf(int receipt) =>
        _loft
            .WithAsync<BooksContext, int>(db =>
                db.Receipts.Where(r => r.Id == receipt).Select(r => r.BookingId!.Value).SingleAsync()
            )
            .GetAwaiter()
            .GetResult();

    [Fact]
    public async Task Only_what_was_paid_whole_is_marked_as_paid()
    {
        var paid = new PaperStyle(PaperStyle.Paid);
        var invoice = await _loft.IssuedAsync();
        var item = (await _loft.ItemOfAsync(invoice.Id)).Id;
        await Should.ThrowAsync<RefusalException>(() => PaperAsync(invoice.Id, paid));
        await _loft.ReceiveAsync(100_00, (item, 100_00));
        (await Should.ThrowAsync<RefusalException>(() => PaperAsync(invoice.Id, paid))).Message.ShouldContain(
            "is not paid"
        );
        var last = await _loft.ReceiveAsync(24_00, (item, 24_00));
        (await PaperAsync(invoice.Id, paid)).ShouldContain("Paid");
        (await PaperAsync(invoice.Id)).ShouldNotContain("Paid");
        (await PaperAsync(invoice.Id, paid with { Language = "sv" })).ShouldContain("Betald");
        await _loft.WithAsync<Undoing>(u => u.UndoAsync(BookingOf(last)));
        await Should.ThrowAsync<RefusalException>(() => PaperAsync(invoice.Id, paid));
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(item, null, "gone", Loft.Today));
        await Should.ThrowAsync<RefusalException>(() => PaperAsync(invoice.Id, paid));
        var quote = await _loft.IssuedAsync(kind: DocumentKind.Quote);
        await Should.ThrowAsync<RefusalException>(() => PaperAsync(quote.Id, paid));
    }

    [Fact]
    public async Task A_stage_says_what_was_billed_before_now_and_what_is_left_in_the_language_of_its_paper()
    {
        var quote = await _loft.IssuedAsync(
            _loft.Content(10, 123.45m) with
            {
                Particulars = new Particulars { Language = "de" },
            },
            DocumentKind.Quote
        );
        await _loft.WithAsync<Quotes>(q => q.AnswerAsync(quote.Id, true));
        async Task<int> StageAsync(StageWish wish)
        {
            var id = await _loft.WithAsync<Stages, int>(s => s.BillAsync(quote.Id, wish));
            await _loft.WithAsync<IssuingDesk>(async i =>
                await i.IssueAsync(id, (await _loft.DocumentAsync(id)).Version)
            );
            return id;
        }

        await StageAsync(new StageWish(Percent: 40));
        var last = await StageAsync(new StageWish(Rest: true));
        var text = await PaperAsync(last);
        text.ShouldContain($"Abschlag 2 zu Angebot {quote.Number}, der letzte");
        text.ShouldContain("von 1\u202f234,50: bisher berechnet 493,80, jetzt 740,70, verbleibend 0,00");
        text.ShouldNotContain("billed before");
        var english = await PaperAsync(last, new PaperStyle { Language = "en" });
        english.ShouldContain($"Stage 2 of quote {quote.Number}, the last");
        english.ShouldContain("of 1\u202f234.50: billed before 493.80, now 740.70, left 0.00");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_the_program_wrote_into_lines_is_said_in_the_language_of_the_paper_and_what_was_typed_stays()
    {
        var format = await _loft.WithAsync<BooksHead, DisplayFormat>(async h => (await h.BusinessAsync()).Format);
        var content = _loft.Content();
        var made = new[]
        {
            MadeText.Delivery("DEL 7", Loft.Today, format),
            MadeText.LessDeposit("INV-1"),
            MadeText.Deposit(12.5m, DocumentKind.Quote, "QUO-1"),
            MadeText.Deposit(null, DocumentKind.Order, "ORD-1"),
        };
        var typed = new[] { "Delivery note DEL 7 of yesterday", "Less deposit", "Deposit on the boat" };
        var draft = await _loft.DraftAsync(
            content with
            {
                Lines = [.. content.Lines, .. made.Concat(typed).Select(t => DraftLine.Words(t))],
            }
        );
        var german = await PaperAsync(draft, new PaperStyle { Language = "de" });
        german.ShouldContain("Lieferschein DEL 7 vom 17.09.2025");
        german.ShouldContain("Abzüglich Anzahlung, Rechnung INV-1");
        german.ShouldContain("Anzahlung 12,5 % zu Angebot QUO-1");
        german.ShouldContain("Anzahlung zu Auftragsbestätigung ORD-1");
        foreach (var (code, _) in Customer.Languages)
        {
            var paper = await PaperAsync(draft, new PaperStyle { Language = code });
            foreach (var line in typed)
                paper.ShouldContain(line, Case.Sensitive, code);
            foreach (var line in made)
                paper.Contains(line, StringComparison.Ordinal).ShouldBe(code == "en", $"{code}: {line}");
        }
    }

    [Fact]
    public async Task Slips_and_receipts_have_rules_of_their_own_and_no_rule_for_all_papers_makes_a_slip_a_sheet()
    {
        var invoice = await _loft.IssuedAsync();
        var id = await _loft.ReceiveAsync(100_00);
        Task<double> WidthAsync(PaperStyle style) =>
            _loft.WithAsync<PaperRoom, double>(async p => (await p.ComposeAsync(invoice.Id, style)).Width);
        Task AddAsync(string key, string kind) =>
            _loft.WithAsync<LayoutRules, int>(r => r.AddAsync(key, new PaperAsk(kind, null, "", 0, "")));
        await AddAsync("letter-size", "");
        (await WidthAsync(new PaperStyle(Slip: true))).ShouldBe(80);
        (await WidthAsync(new PaperStyle())).ShouldBe(210, "it was issued before the rule");
        await AddAsync("strip-58", PaperKinds.Slip);
        (await WidthAsync(new PaperStyle(Slip: true))).ShouldBe(58);
        Task<double> ReceiptWidthAsync() =>
            _loft.WithAsync<MoneyPapers, double>(async m => (await m.ReceiptAsync(id)).Width);
        (await ReceiptWidthAsync()).ShouldBe(215.9);
        await AddAsync("plain", PaperKinds.Receipt);
        (await ReceiptWidthAsync()).ShouldBe(210);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }
}
