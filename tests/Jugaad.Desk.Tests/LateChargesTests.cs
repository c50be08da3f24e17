using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Interest, compensation and fees that letters charge, on debit notes.</summary>
public sealed class LateChargesTests
{
    private static readonly DateOnly Always = new(2020, 1, 1);

    private static async Task<int> TaxAsync(Loft loft) =>
        await loft.WithAsync<TaxDesk, int>(t =>
            t.AddCodeAsync(new TaxCodeToAdd("OUT", "Outside", Core.Taxes.TaxCategory.OutOfScope, "Not a supply.", []))
        );

    /// <summary>Books whose letters charge: a fee on the first step, interest and compensation on the second.</summary>
    private static async Task<Loft> OpenAsync(
        long compensation = 40_00,
        params (DateOnly From, decimal Percent)[] rates
    )
    {
        var loft = await Loft.OpenAsync();
        var code = await TaxAsync(loft);
        await loft.WithAsync<CollectingRules>(r =>
            r.ChargeLateAsync(
                compensation,
                code,
                loft.Sales,
                [.. (rates.Length == 0 ? [(Always, 10m)] : rates).Select(r => new InterestRate(r.From, r.Percent))]
            )
        );
        var ladder = await loft.WithAsync<Ladders, int>(l =>
            l.SaveAsync(
                null,
                "Charging",
                [
                    new StepDetails(3, StepWay.Mail, MailText.GentleReminder, false) { Fee = 5_00 },
                    new StepDetails(14, StepWay.Mail, MailText.FirmReminder, false) { WithInterest = true },
                    new StepDetails(30, StepWay.Mail, MailText.LastReminder, false) { WithInterest = true },
                ]
            )
        );
        await loft.WithAsync<Ladders>(l => l.SetAsync(ladder, true, 10_00, 7, [1, 2, 3, 4, 5]));
        return loft;
    }

    private static async Task<int> OwedAsync(Loft loft, int daysLate, decimal price = 50) =>
        (
            await loft.ItemOfAsync(
                (await loft.IssuedAsync(loft.Content(2, price, null, Loft.Today.AddDays(-14 - daysLate)))).Id
            )
        ).Id;

    private static Task RunAsync(Loft loft) => loft.WithAsync<LadderRun>(r => r.RunAsync());

    private static async Task ForwardAsync(Loft loft, int days)
    {
        loft.Clock.Advance(TimeSpan.FromDays(days));
        await loft.WithAsync<DailyRun>(r => r.RunAsync());
    }

    private static Task<List<LateCharge>> ChargesAsync(Loft loft) =>
        loft.WithAsync<BooksContext, List<LateCharge>>(db => db.LateCharges.OrderBy(c => c.Id).ToListAsync());

    private static async Task AgreesAsync(Loft loft) => (await loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task What_is_late_in_two_currencies_is_charged_on_a_note_in_each()
    {
        await using var loft = await OpenAsync();
        await loft.ExecuteAsync($"UPDATE Customers SET AlsoIn = 'SEK' WHERE Id = {loft.Yard}");
        await OwedAsync(loft, 20, 500);
        await loft.IssuedAsync(loft.Content(2, 500, null, Loft.Today.AddDays(-14 - 20)) with { Currency = "SEK" });
        await RunAsync(loft);
        var notes = await loft.WithAsync<BooksContext, List<Document>>(db =>
            db.Documents.Where(d => d.Kind == DocumentKind.DebitNote).OrderBy(d => d.Currency).ToListAsync()
        );
        // Interest of 6.79 in each; 40.00 of compensation, which at 0.0901 are 443.95 SEK.
        notes.Select(n => (n.Currency.Code, n.Payable)).ShouldBe([("EUR", 46_79), ("SEK", 450_74)]);
        var mail = await loft.WithAsync<BooksContext, PostItem>(db =>
            db.Post.Include(p => p.Attachments).SingleAsync(p => p.Kind == PostKind.Reminder)
        );
        var body = string.Concat(mail.Body.Where(c => !char.IsWhiteSpace(c) && c != ','));
        body.ShouldContain("46.79EUR+450.74SEK");
        body.ShouldContain("1286.79EUR+1690.74SEK");
        notes.ShouldAllBe(n => mail.Attachments.Any(a => a.DocumentId == n.Id));
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task Interest_and_compensation_stand_untaxed_on_a_debit_note_that_goes_along()
    {
        await using var loft = await OpenAsync();
        var item = await OwedAsync(loft, 20, 500);
        await RunAsync(loft);
        var charges = await ChargesAsync(loft);
        // 1 240.00 at 10 percent for 20 days of 365.
        charges
            .Select(c => (c.ItemId, c.Kind, c.Amount))
            .ShouldBe([(item, LateChargeKind.Interest, 6_79), (item, LateChargeKind.Compensation, 40_00)]);
        var note = await loft.DocumentAsync(charges[0].NoteId);
        (note.Kind, note.State, note.Payable, note.Tax).ShouldBe(
            (DocumentKind.DebitNote, DocumentState.Issued, 46_79, 0)
        );
        await loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        var mail = loft.Carrier.Carried.ShouldHaveSingleItem();
        mail.Body.ShouldContain("on a debit note: 46.79");
        mail.Body.ShouldMatch(@"Please pay 1\s286\.79");
        mail.Attachments.ShouldContain(a => a.Name.Contains(note.Number!));
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task What_was_charged_before_is_taken_off_and_a_compensation_comes_once()
    {
        await using var loft = await OpenAsync();
        var item = await OwedAsync(loft, 20, 500);
        await RunAsync(loft);
        await ForwardAsync(loft, 12);
        var charges = await ChargesAsync(loft);
        charges.Count(c => c.Kind == LateChargeKind.Compensation).ShouldBe(1);
        charges
            .Where(c => c.Kind == LateChargeKind.Interest)
            .Sum(c => c.Amount)
            .ShouldBe(
                LateInterest.To(
                    Loft.Today.AddDays(12),
                    Loft.Today.AddDays(-20),
                    [new OpenFrom(Loft.Today.AddDays(-34), 1_240_00)],
                    [new InterestRate(Always, 10)],
                    []
                )
            );
        charges.ShouldAllBe(c => c.ItemId == item, "nothing is charged on what is itself a charge");
        await AgreesAsync(loft);

        // What the second one was reckoned from stays, whatever rates are entered later for those days.
        var last = charges.Last(c => c.Kind == LateChargeKind.Interest);
        (last.Before, LateInterest.Of(last.Basis)).ShouldBe((6_79, last.Before + last.Amount));
        await loft.ExecuteAsync("UPDATE LateRates SET Percent = Percent * 2");
        await AgreesAsync(loft);
        await loft.ExecuteAsync(
            $"UPDATE LateCharges SET Before = Before - 1, Amount = Amount + 1 WHERE Id = {last.Id}"
        );
        (await loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("reckoned from", StringComparison.Ordinal));
    }

    [Fact]
    public async Task No_discount_for_early_payment_is_offered_on_what_late_payment_costs()
    {
        await using var loft = await OpenAsync();
        await loft.WithAsync<AccountsDesk>(a =>
            a.AddTermsAsync(
                new Core.Trade.PaymentTerms("2 in 10", Core.Trade.DueRule.DaysAfter, 30, earlyPercent: 2, earlyDays: 10)
            )
        );
        await loft.ExecuteAsync(
            $"UPDATE Customers SET TermsId = (SELECT Id FROM Terms WHERE Name = '2 in 10') WHERE Id = {loft.Yard}"
        );
        await loft.IssuedAsync(loft.Content(2, 500, null, Loft.Today.AddDays(-50)));
        await RunAsync(loft);
        var note = await loft.DocumentAsync((await ChargesAsync(loft))[0].NoteId);
        (note.EarlyPercent, note.EarlyUntil).ShouldBe((0m, null));
    }

    [Fact]
    public async Task Whoever_is_inactive_is_written_to_and_charged_nothing()
    {
        await using var loft = await OpenAsync();
        await OwedAsync(loft, 20, 500);
        await loft.ExecuteAsync($"UPDATE Customers SET Inactive = 1 WHERE Id = {loft.Yard}");
        await RunAsync(loft);
        (await loft.NumberAsync("SELECT COUNT(*) FROM ChaseLetters")).ShouldBe(1);
        (await ChargesAsync(loft)).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_note_that_was_cancelled_is_charged_again()
    {
        await using var loft = await OpenAsync(0);
        await OwedAsync(loft, 20, 500);
        await RunAsync(loft);
        var first = (await ChargesAsync(loft)).Single();
        await loft.WithAsync<Credits>(c => c.CancelAsync(first.NoteId, "wrong rate"));
        await ForwardAsync(loft, 12);
        (await ChargesAsync(loft))[^1].Amount.ShouldBe(10_87, "1 240.00 at 10 percent for all of 32 days");
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task A_rate_that_changed_money_that_came_and_a_dispute_each_count_from_their_day()
    {
        await using var loft = await OpenAsync(0, (Always, 10), (Loft.Today.AddDays(-10), 5));
        var item = await OwedAsync(loft, 20, 500);
        await loft.WithAsync<Receiving.Receipts>(r =>
            r.PostAsync(
                new Receiving.ReceiptToPost(loft.Yard, Loft.Today.AddDays(-5), loft.Bank, 240_00, "", [(item, 240_00)])
            )
        );
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(
                loft.Yard,
                new ContactSaid(ContactWay.Call, "", "no", null),
                null,
                new DisputeHeard(item, 100_00, "missing", null)
            )
        );
        await RunAsync(loft);
        // 1 240.00: 9 days at 10 and 6 at 5 percent; then 1 000.00 for 5 days at 5.
        (await ChargesAsync(loft))
            .Single()
            .Amount.ShouldBe(3_06 + 1_02 + 68);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task A_fee_comes_once_a_letter_and_nothing_where_a_step_charges_nothing()
    {
        await using var loft = await OpenAsync();
        await OwedAsync(loft, 5);
        await OwedAsync(loft, 4, 20);
        await RunAsync(loft);
        (await ChargesAsync(loft)).ShouldHaveSingleItem().Amount.ShouldBe(5_00);
        await AgreesAsync(loft);
        await using var free = await Loft.OpenAsync();
        var ladder = await free.WithAsync<Ladders, int>(l => l.SaveAsync(null, "Usual", LetterLadder.UsualSteps));
        await free.WithAsync<Ladders>(l => l.SetAsync(ladder, true, 10_00, 7, [1, 2, 3, 4, 5]));
        await OwedAsync(free, 20);
        await RunAsync(free);
        (await ChargesAsync(free)).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_charged_makes_no_letter_while_its_bill_is_asked_for_and_no_step_is_charged_twice()
    {
        await using var loft = await OpenAsync();
        var item = await OwedAsync(loft, 20, 500);
        await RunAsync(loft);
        await ForwardAsync(loft, 12);
        var charged = (await ChargesAsync(loft)).Count;
        // Every step was had; weeks go by, and nothing more is written or charged.
        for (var week = 0; week < 6; week++)
            await ForwardAsync(loft, 7);
        (await loft.NumberAsync("SELECT COUNT(*) FROM ChaseLetters")).ShouldBe(2);
        (await ChargesAsync(loft)).Count.ShouldBe(charged);
        // Something newer repeats the tone, and not the costs.
        await loft.IssuedAsync(loft.Content(2, 50, null, Loft.Today.AddDays(30)));
        await ForwardAsync(loft, 7);
        (await loft.NumberAsync("SELECT COUNT(*) FROM ChaseLetters")).ShouldBe(3);
        (await loft.NumberAsync("SELECT MAX(Step) FROM ChaseLetters WHERE Id = 3")).ShouldBe(3);
        (await ChargesAsync(loft)).Count.ShouldBe(charged);
        // Once the bill is paid, what it cost is asked for by itself, and costs nothing more.
        var today = DateOnly.FromDateTime(loft.Clock.GetLocalNow().Date);
        await loft.WithAsync<Receiving.Receipts>(r =>
            r.PostAsync(new Receiving.ReceiptToPost(loft.Yard, today, loft.Bank, 1_240_00, "", [(item, 1_240_00)]))
        );
        await ForwardAsync(loft, 7);
        (await loft.NumberAsync("SELECT COUNT(*) FROM ChaseLetters")).ShouldBe(4);
        (await ChargesAsync(loft)).Count(c => c.ItemId == item).ShouldBe(charged);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task What_cannot_be_charged_is_refused_where_it_is_set()
    {
        await using var loft = await Loft.OpenAsync();
        Task SaveAsync(StepDetails step) => loft.WithAsync<Ladders>(l => l.SaveAsync(null, "X", [step]));
        var charging = new StepDetails(3, StepWay.Mail, MailText.GentleReminder, false) { Fee = 5_00 };
        (await Should.ThrowAsync<RefusalException>(() => SaveAsync(charging))).Message.ShouldContain("how interest");
        Task SetAsync(long compensation, int? code, int? account, params InterestRate[] rates) =>
            loft.WithAsync<CollectingRules>(r => r.ChargeLateAsync(compensation, code, account, rates));
        var tax = await TaxAsync(loft);
        foreach (
            var wrong in new Func<Task>[]
            {
                () => SetAsync(-1, tax, loft.Sales),
                () => SetAsync(0, 999, loft.Sales),
                () => SetAsync(0, tax, loft.Bank),
                () => SetAsync(0, tax, null),
                () => SetAsync(0, tax, loft.Sales, new(Always, 1), new(Always, 2)),
                () => SetAsync(0, tax, loft.Sales, new InterestRate(Always, 101)),
                () => SetAsync(0, tax, loft.Sales, new InterestRate(Always, 1.23456m)),
            }
        )
            await Should.ThrowAsync<RefusalException>(wrong);
        await SetAsync(0, tax, loft.Sales);
        await SaveAsync(charging);
        await Should.ThrowAsync<RefusalException>(() => SetAsync(0, null, null));
        await Should.ThrowAsync<RefusalException>(() => SaveAsync(charging with { Days = -3 }));
        await Should.ThrowAsync<RefusalException>(() => SaveAsync(charging with { Way = StepWay.Call }));
        await Should.ThrowAsync<RefusalException>(() => SaveAsync(charging with { Way = StepWay.Message }));
    }

    [Fact]
    public async Task Whatever_is_damaged_of_what_was_charged_is_found()
    {
        await using var loft = await OpenAsync();
        await OwedAsync(loft, 20, 500);
        await RunAsync(loft);
        var other = (await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(1, 1, loft.Swede))).Id)).Id;
        foreach (
            var (damage, undo) in new[]
            {
                ("Amount = Amount + 1", "Amount = Amount - 1"),
                ("UpTo = '2024-01-01'", "UpTo = '2025-09-17'"),
                ($"ItemId = {other}", "ItemId = 1"),
                ("NoteId = 1", "NoteId = 2"),
                ("Kind = 'nothing'", "Kind = 'Interest'"),
                ("Kind = 'Compensation'", "Kind = 'Interest'"),
                ("Before = 1", "Before = 0"),
                ("Before = -1", "Before = 0"),
                ("Basis = replace(Basis, '124000', '125000')", "Basis = replace(Basis, '125000', '124000')"),
                ("Basis = replace(Basis, '-09-17', '-09-18')", "Basis = replace(Basis, '-09-18', '-09-17')"),
                ("Basis = replace(Basis, '-08-29', '-08-27')", "Basis = replace(Basis, '-08-27', '-08-29')"),
                ("Basis = replace(Basis, ':10', ':11')", "Basis = replace(Basis, ':11', ':10')"),
            }
        )
        {
            await loft.ExecuteAsync($"UPDATE LateCharges SET {damage} WHERE Id = 1");
            (await loft.CheckAsync()).Differences.ShouldNotBeEmpty(damage);
            await loft.ExecuteAsync($"UPDATE LateCharges SET {undo} WHERE Id = 1");
        }

        await AgreesAsync(loft);
    }
}
