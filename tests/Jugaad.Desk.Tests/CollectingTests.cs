using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>What customers say about what they owe, and what becomes of it.</summary>
public sealed class CollectingTests
{
    private static readonly ContactSaid Said = new(ContactWay.Call, "Ilze", "Will pay.", null);

    /// <summary>An invoice of 124.00 that fell due some days ago, after 14 days.</summary>
    private static async Task<int> OwedAsync(Loft loft, int daysLate)
    {
        var issued = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-14 - daysLate)));
        return (await loft.ItemOfAsync(issued.Id)).Id;
    }

    private static Task<int> NoteAsync(Loft loft, PromiseHeard? promise = null, DisputeHeard? dispute = null) =>
        loft.WithAsync<Contacts, int>(c => c.NoteAsync(loft.Yard, Said, promise, dispute));

    private static async Task<CustomerOwes> OwesAsync(Loft loft, DateOnly? day = null) =>
        (await loft.WithAsync<OwedBook, IReadOnlyList<CustomerOwes>>(o => o.OnAsync(day ?? Loft.Today, loft.Yard)))[0];

    private static PromiseState State(CustomerOwes owes) => owes.Promises[0].Judged.State;

    [Fact]
    public async Task A_promise_for_all_that_is_late_is_left_alone_and_breaks_by_itself()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        var notYet = await OwedAsync(loft, -10);
        await NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(2), []));
        var owes = await OwesAsync(loft);
        owes.Promises[0].Promise.Amount.ShouldBe(124_00, "what is late, not what is not due yet");
        (owes.Askable(late), owes.Askable(notYet)).ShouldBe((0, 124_00));
        State(await OwesAsync(loft, Loft.Today.AddDays(4))).ShouldBe(PromiseState.Open, "two days of grace");
        var broken = await OwesAsync(loft, Loft.Today.AddDays(5));
        State(broken).ShouldBe(PromiseState.Broken);
        broken.Askable(late).ShouldBe(124_00);
        State(await OwesAsync(loft)).ShouldBe(PromiseState.Open, "of a past day it tells what held then");
    }

    [Fact]
    public async Task Money_keeps_a_promise_in_part_or_whole_and_what_came_before_it_does_not()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        await loft.ReceiveAsync(20_00, (late, 20_00));
        await NoteAsync(loft, new PromiseHeard(80_00, Loft.Today.AddDays(2), []));
        (await OwesAsync(loft)).Promises[0].Judged.Missing.ShouldBe(80_00, "the same day, but before");
        await loft.ReceiveAsync(30_00, (late, 30_00));
        State(await OwesAsync(loft, Loft.Today.AddDays(9))).ShouldBe(PromiseState.InPart);
        await loft.ReceiveAsync(50_00, (late, 50_00));
        State(await OwesAsync(loft, Loft.Today.AddDays(9))).ShouldBe(PromiseState.Kept);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Money_that_is_not_placed_yet_holds_the_judgement_back()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        await NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(2), []));
        await loft.ReceiveAsync(124_00);
        var waits = await OwesAsync(loft, Loft.Today.AddDays(9));
        State(waits).ShouldBe(PromiseState.Waits);
        waits.Askable(late).ShouldBe(0);
    }

    [Fact]
    public async Task A_receipt_that_is_undone_unmakes_what_it_kept()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        await NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(2), []));
        await loft.ReceiveAsync(124_00, (late, 124_00));
        State(await OwesAsync(loft)).ShouldBe(PromiseState.Kept);
        var booking = (int)await loft.NumberAsync("SELECT MAX(Id) FROM Bookings");
        await loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        State(await OwesAsync(loft)).ShouldBe(PromiseState.Open);
    }

    [Fact]
    public async Task Nobody_breaks_a_promise_to_pay_what_was_paid_by_money_of_before()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        await loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(loft.Yard, Loft.Today.AddDays(-1), loft.Bank, 124_00, "by bank", []))
        );
        await NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(2), []));
        var money = (int)await loft.NumberAsync("SELECT Id FROM AccountItems WHERE Kind = 'Receipt'");
        await loft.WithAsync<Receipts>(r => r.SetAgainstAsync(money, late, 124_00));
        State(await OwesAsync(loft, Loft.Today.AddDays(9))).ShouldBe(PromiseState.Kept);
    }

    [Fact]
    public async Task A_second_promise_for_the_same_money_takes_the_place_of_the_first_or_is_refused()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 10);
        await NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(2), []));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(7), []))
            )
        ).Message.ShouldContain("promised, planned or in dispute already");
        (await loft.NumberAsync("SELECT COUNT(*) FROM ContactNotes")).ShouldBe(1, "all or nothing");
        await NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(7), [], InPlace: true));
        var owes = await OwesAsync(loft);
        owes.Promises.ShouldHaveSingleItem().Promise.Until.ShouldBe(Loft.Today.AddDays(7));
    }

    [Fact]
    public async Task More_than_is_open_is_not_promised_nor_anything_in_the_past()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 10);
        var refused = await Should.ThrowAsync<RefusalException>(() =>
            NoteAsync(loft, new PromiseHeard(124_01, Loft.Today.AddDays(-1), []))
        );
        refused.Refusals.Select(r => r.Field).ShouldBe(["amount", "until"]);
    }

    [Fact]
    public async Task A_dispute_about_a_part_leaves_the_rest_to_be_asked_for_until_it_ends()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        await NoteAsync(loft, null, new DisputeHeard(late, 22_00, "Two hours too many", null));
        (await OwesAsync(loft)).Askable(late).ShouldBe(102_00);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                NoteAsync(loft, null, new DisputeHeard(late, 102_01, "All of it", null))
            )
        ).Message.ShouldContain("Only 102.00 is open");
        var id = (int)await loft.NumberAsync("SELECT Id FROM Disputes");
        loft.Clock.Advance(TimeSpan.FromDays(3));
        await loft.WithAsync<Disputes>(d => d.EndAsync(id, DisputeOutcome.Owed, "They counted wrong"));
        (await OwesAsync(loft, Loft.Today.AddDays(3))).Askable(late).ShouldBe(124_00);
        (await OwesAsync(loft, Loft.Today.AddDays(2))).Askable(late).ShouldBe(102_00, "it held then");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_plan_holds_what_it_divides_until_a_part_is_too_late()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        await loft.ReceiveAsync(24_00, (late, 24_00));
        var parts = PaymentPlan.Equally(Loft.Today, 100_00, 2, i => Loft.Today.AddDays(10 * (i + 1))).Parts;
        await loft.WithAsync<Plans>(p => p.AgreeAsync(loft.Yard, [late], parts));
        var owes = await OwesAsync(loft);
        owes.Portions.Select(p => (p.Kind, p.Amount))
            .ShouldBe([(PortionKind.Planned, 50_00), (PortionKind.Planned, 50_00)]);
        owes.Plans[0].Stands.Parts[0].Open.ShouldBe(50_00, "what came the same morning was before it");
        (await OwesAsync(loft, Loft.Today.AddDays(15))).Plans[0].Stands.IsKept.ShouldBeTrue();
        var broken = await OwesAsync(loft, Loft.Today.AddDays(16));
        (broken.Plans[0].Stands.IsKept, broken.Askable(late)).ShouldBe((false, 100_00));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Plans>(p => p.AgreeAsync(loft.Yard, [late], parts))
            )
        ).Message.ShouldContain("in a plan already");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_note_that_was_a_mistake_is_taken_back_with_all_that_came_of_it()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        var note = await NoteAsync(
            loft,
            new PromiseHeard(50_00, Loft.Today.AddDays(2), [late]),
            new DisputeHeard(late, 22_00, "Too dear", null)
        );
        (await loft.NumberAsync("SELECT COUNT(*) FROM Customers WHERE AskAgainOn IS NOT NULL")).ShouldBe(1);
        await loft.WithAsync<Contacts>(c => c.TakeBackAsync(note));
        var owes = await OwesAsync(loft);
        (owes.Promises.Count, owes.Disputes.Count, owes.Askable(late)).ShouldBe((0, 0, 124_00));
        (await loft.NumberAsync("SELECT COUNT(*) FROM Customers WHERE AskAgainOn IS NOT NULL")).ShouldBe(0);
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Contacts>(c => c.TakeBackAsync(note)));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_note_that_says_nothing_is_refused_unless_nobody_answered()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 10);
        var nothing = new ContactSaid(ContactWay.Call, "Ilze", " ", null);
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<Contacts>(c => c.NoteAsync(loft.Yard, nothing, null, null))
        );
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(loft.Yard, nothing with { Way = ContactWay.NoAnswer }, null, null)
        );
        (
            await loft.WithAsync<BooksContext, DateOnly?>(db =>
                db.Customers.Where(c => c.Id == loft.Yard).Select(c => c.AskAgainOn).SingleAsync()
            )
        ).ShouldBe(Loft.Today.AddDays(1));
    }

    [Fact]
    public async Task They_come_again_when_the_promise_would_be_broken_and_the_morning_tells_of_it_until_somebody_speaks()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 40);
        async Task<IReadOnlyList<ChaseRow>> TodayAsync() =>
            await loft.WithAsync<ChaseScreens, IReadOnlyList<ChaseRow>>(c =>
                c.ListAsync(new ChaseFilter("", 14, 0, 0, ""))
            );
        var before = (await TodayAsync()).ShouldHaveSingleItem();
        before.Why.ToString().ShouldBe("124.00 EUR late by 40 days; nobody has spoken to them yet");
        await NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(2), []));
        (await TodayAsync()).ShouldBeEmpty();
        loft.Clock.Advance(TimeSpan.FromDays(4));
        (await TodayAsync()).ShouldBeEmpty();
        (await loft.WithAsync<SaidScreens, IReadOnlyList<PromiseRow>>(s => s.NewsAsync())).ShouldBeEmpty();
        loft.Clock.Advance(TimeSpan.FromDays(1));
        (await TodayAsync()).ShouldHaveSingleItem().Why.ToString().ShouldContain("and did not pay");
        var news = await loft.WithAsync<SaidScreens, IReadOnlyList<PromiseRow>>(s => s.NewsAsync());
        news.ShouldHaveSingleItem().Promise.Judged.State.ShouldBe(PromiseState.Broken);
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(loft.Yard, Said with { Way = ContactWay.NoAnswer }, null, null)
        );
        (await TodayAsync()).ShouldBeEmpty();
        (await loft.WithAsync<SaidScreens, IReadOnlyList<PromiseRow>>(s => s.NewsAsync())).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_promise_that_was_kept_is_told_once()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 40);
        await NoteAsync(loft, new PromiseHeard(null, Loft.Today.AddDays(9), []));
        await loft.ReceiveAsync(124_00, (late, 124_00));
        var news = await loft.WithAsync<SaidScreens, IReadOnlyList<PromiseRow>>(s => s.NewsAsync());
        news.ShouldHaveSingleItem().Promise.Judged.State.ShouldBe(PromiseState.Kept);
        loft.Clock.Advance(TimeSpan.FromDays(1));
        (await loft.WithAsync<SaidScreens, IReadOnlyList<PromiseRow>>(s => s.NewsAsync())).ShouldBeEmpty();
        var said = await loft.WithAsync<SaidScreens, SaidByAll>(s => s.ReadAsync());
        said.Promises.ShouldHaveSingleItem();
    }

    [Fact]
    public async Task Money_of_theirs_that_waits_is_told_before_anybody_is_asked()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 40);
        await loft.ReceiveAsync(20_00);
        var row = await loft.WithAsync<ChaseScreens, ChaseRow?>(c => c.OneAsync(loft.Yard));
        (row!.MoneyWaits, row.Credit.Single().Minor, row.Late.Single().Minor).ShouldBe((true, 20_00, 124_00));
    }

    [Fact]
    public async Task What_put_something_on_the_account_that_was_spoken_of_since_is_not_undone()
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        await loft.WithAsync<Settlements>(s => s.WriteOffAsync(late, null, "Gone"));
        var settlement = (int)await loft.NumberAsync("SELECT MAX(Id) FROM Settlements");
        await loft.WithAsync<Settlements>(s => s.RecoverAsync(settlement, 50_00));
        var again = (int)await loft.NumberAsync("SELECT Id FROM AccountItems WHERE Kind = 'Recovery'");
        var booking = (int)await loft.NumberAsync("SELECT MAX(Id) FROM Bookings");
        await loft.WithAsync<Ladders>(l => l.LeaveOutAsync(loft.Yard, again, null, "Paid long ago"));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(booking)))
        ).Message.ShouldContain("disputed, written about");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("UPDATE Promises SET Amount = 0", "promises nothing")]
    [InlineData("UPDATE Promises SET Amount = 99999999", "more than what it is for")]
    [InlineData("UPDATE Promises SET Until = '2020-01-01'", "before it was made")]
    [InlineData("UPDATE Promises SET Currency = 'SEK'", "another currency")]
    [InlineData("UPDATE Promises SET After = -1", "does not say what came before")]
    [InlineData("UPDATE Promises SET Made = '2025-09-18', Until = '2025-12-01'", "on another day")]
    [InlineData("UPDATE ContactNotes SET TakenBack = 1", "note was taken back")]
    [InlineData("UPDATE ContactNotes SET AskAgainOn = Day", "before it was written")]
    [InlineData("UPDATE Disputes SET Amount = 99999999", "more than the invoice")]
    [InlineData("UPDATE Disputes SET Until = '2025-12-01'", "not said how")]
    [InlineData("UPDATE Disputes SET ItemId = (SELECT Id FROM AccountItems WHERE Sign < 0)", "what is not owed")]
    [InlineData("UPDATE Plans SET Amount = Amount + 1", "its parts come to")]
    [InlineData("UPDATE PlanParts SET Amount = Amount + 1 WHERE Position = 1", "its parts come to")]
    [InlineData("UPDATE PlanParts SET Day = '2030-01-01' WHERE Position = 1", "out of order")]
    [InlineData("DELETE FROM PlanParts WHERE Position = 1", "a part is missing")]
    [InlineData("DELETE FROM PlanItems", "divides more than")]
    [InlineData("UPDATE Plans SET Made = '2024-01-01'", "came later")]
    [InlineData("UPDATE Customers SET CollectorId = 4711", "who is not there")]
    public async Task What_cannot_have_been_said_is_found(string damage, string found)
    {
        await using var loft = await Loft.OpenAsync();
        var late = await OwedAsync(loft, 10);
        var other = await OwedAsync(loft, 12);
        await loft.ReceiveAsync(2_00, (late, 2_00));
        await NoteAsync(
            loft,
            new PromiseHeard(50_00, Loft.Today.AddDays(2), [late]),
            new DisputeHeard(late, 22_00, "Too dear", null)
        );
        await loft.WithAsync<Plans>(p =>
            p.AgreeAsync(
                loft.Yard,
                [other],
                PaymentPlan.Equally(Loft.Today, 124_00, 3, i => Loft.Today.AddDays(i + 5)).Parts
            )
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.ExecuteAsync(damage);
        (await loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found));
    }

    [Fact]
    public async Task A_dispute_ends_by_itself_once_what_it_is_about_was_credited()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        var item = await loft.ItemOfAsync(invoice.Id);
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(
                loft.Yard,
                new ContactSaid(ContactWay.Call, "", "no", null),
                null,
                new DisputeHeard(item.Id, 100_00, "missing", null)
            )
        );
        Task<Dispute> ReadAsync() =>
            loft.WithAsync<BooksContext, Dispute>(db => db.Disputes.AsNoTracking().SingleAsync());
        await loft.ReceiveAsync(24_00, (item.Id, 24_00));
        await loft.WithAsync<Daily.DailyRun>(r => r.RunAsync());
        (await ReadAsync()).Outcome.ShouldBe(DisputeOutcome.Open, "money is no credit");
        await loft.WithAsync<Issuing.Credits>(c => c.CancelAsync(invoice.Id, "they were right"));
        await loft.WithAsync<Daily.DailyRun>(r => r.RunAsync());
        (await ReadAsync()).Outcome.ShouldBe(DisputeOutcome.Granted);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_remembered_of_how_a_customer_pays_follows_each_payment_and_its_undoing()
    {
        await using var loft = await Loft.OpenAsync();
        Task<HabitsOn> HabitsAsync() => loft.WithAsync<PayingHabits, HabitsOn>(h => h.OnAsync(Loft.Today));
        for (var i = 0; i < 3; i++)
        {
            (await HabitsAsync()).Own.ShouldBeEmpty();
            var bill = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-60)));
            await loft.ReceiveAsync(bill.Payable, ((await loft.ItemOfAsync(bill.Id)).Id, bill.Payable));
        }

        var habit = (await HabitsAsync()).Of(loft.Yard);
        habit.Mean.ShouldBeGreaterThan(0);
        (await HabitsAsync()).Of(loft.Yard).ShouldBe(habit);
        var booking = (int)await loft.NumberAsync("SELECT MAX(BookingId) FROM Receipts");
        await loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        (await HabitsAsync()).Own.ShouldBeEmpty();
    }
}
