using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Who is written to by the steps of a ladder, and who is not.</summary>
public sealed class LadderRunTests
{
    /// <summary>Books with the usual ladder; Wednesday.</summary>
    private static async Task<Loft> WithLadderAsync(bool byItself = true)
    {
        var loft = await Loft.OpenAsync();
        var id = await loft.WithAsync<Ladders, int>(l => l.SaveAsync(null, "Usual", LetterLadder.UsualSteps));
        await loft.WithAsync<Ladders>(l => l.SetAsync(id, byItself, 10_00, 7, [1, 2, 3, 4, 5]));
        return loft;
    }

    /// <summary>An invoice of 124.00 that fell due some days ago, after 14 days.</summary>
    private static async Task<int> OwedAsync(Loft loft, int daysLate, decimal price = 50)
    {
        var today = DateOnly.FromDateTime(loft.Clock.GetLocalNow().DateTime);
        var issued = await loft.IssuedAsync(loft.Content(2, price, null, today.AddDays(-14 - daysLate)));
        return (await loft.ItemOfAsync(issued.Id)).Id;
    }

    private static Task<LadderReport> RunAsync(Loft loft) => loft.WithAsync<LadderRun, LadderReport>(r => r.RunAsync());

    private static async Task<string> WhyAsync(Loft loft) =>
        (await loft.WithAsync<LadderRun, LadderCase?>(r => r.LookAtAsync(loft.Yard)))!.Why.ToString();

    private static Task<List<ChaseLetter>> LettersAsync(Loft loft) =>
        loft.WithAsync<BooksContext, List<ChaseLetter>>(db =>
            db.ChaseLetters.AsNoTracking().Include(l => l.Items).OrderBy(l => l.Id).ToListAsync()
        );

    private static async Task ForwardAsync(Loft loft, int days)
    {
        loft.Clock.Advance(TimeSpan.FromDays(days));
        await loft.WithAsync<DailyRun>(r => r.RunAsync());
    }

    [Fact]
    public async Task What_went_through_all_steps_is_proposed_to_be_given_up_with_a_folder_for_whoever_collects()
    {
        await using var loft = await WithLadderAsync();
        var item = await OwedAsync(loft, 90);
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(loft.Yard, new ContactSaid(ContactWay.Call, "Ilze", "=No, \"never\"", null), null, null)
        );
        await RunAsync(loft);
        (await LettersAsync(loft)).Single().Items.Single().Step.ShouldBe(LetterLadder.UsualSteps.Count);
        Task<IReadOnlyList<GivingUpRow>> ReadAsync() =>
            loft.WithAsync<GivingUpScreens, IReadOnlyList<GivingUpRow>>(s => s.ReadAsync());
        (await ReadAsync()).ShouldBeEmpty("they have a week to answer");
        await ForwardAsync(loft, 7);
        var row = (await ReadAsync()).ShouldHaveSingleItem();
        (row.Open.Single().Minor, row.Items.Single().ItemId, row.LastOn).ShouldBe((124_00, item, Loft.Today));
        var (name, content) = (
            await loft.WithAsync<GivingUpScreens, (string, byte[])?>(s => s.FolderAsync(loft.Yard))
        )!.Value;
        name.ShouldEndWith(".zip");
        using var zip = new System.IO.Compression.ZipArchive(new MemoryStream(content));
        zip.Entries.Select(e => e.FullName).Count(e => e.EndsWith(".pdf", StringComparison.Ordinal)).ShouldBe(2);
        async Task<string> TextAsync(string entry)
        {
            using var reader = new StreamReader(zip.GetEntry(entry)!.Open());
            return await reader.ReadToEndAsync();
        }

        (await TextAsync("open.csv")).ShouldContain("124.00");
        var history = await TextAsync("history.csv");
        history.ShouldContain("Ilze");
        history.ShouldContain("call asked for");
        history.ShouldContain("'=No", Case.Sensitive, "no spreadsheet takes it for a formula");
        await loft.WithAsync<Ladders>(l => l.LeaveOutAsync(loft.Yard, null, null, "Handed over to Inkasso"));
        (await ReadAsync()).Single().Handed.ShouldBe("Handed over to Inkasso");
        await loft.ReceiveAsync(124_00, (item, 124_00));
        (await ReadAsync()).ShouldBeEmpty();
        (await loft.WithAsync<GivingUpScreens, (string, byte[])?>(s => s.FolderAsync(9_999))).ShouldBeNull();
    }

    [Fact]
    public async Task One_letter_goes_for_all_at_the_highest_step_and_none_again_the_same_day()
    {
        await using var loft = await WithLadderAsync();
        var (old, newer, notYet) = (await OwedAsync(loft, 20), await OwedAsync(loft, 5), await OwedAsync(loft, -9));
        (await RunAsync(loft)).Taken.ShouldBe(1);
        (await RunAsync(loft)).Taken.ShouldBe(0);
        var letter = (await LettersAsync(loft)).ShouldHaveSingleItem();
        letter.Step.ShouldBe(2);
        letter
            .Items.OrderBy(i => i.ItemId)
            .Select(i => (i.ItemId, i.Step))
            .ShouldBe([(old, 2), (newer, 1), (notYet, 0)]);
        await loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        var mail = loft.Carrier.Carried.ShouldHaveSingleItem();
        mail.Subject.ShouldContain("is overdue with Little Loft");
        mail.Body.ShouldContain("20 days late: 124.00");
        mail.Body.ShouldContain("Not due yet:");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task After_days_off_only_the_highest_step_goes_and_the_tone_does_not_fall()
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 31);
        await RunAsync(loft);
        (await LettersAsync(loft)).Single().Step.ShouldBe(3);
        await OwedAsync(loft, 3);
        await ForwardAsync(loft, 5);
        (await LettersAsync(loft)).Count.ShouldBe(1, "five days after the last letter");
        await ForwardAsync(loft, 2);
        var second = (await LettersAsync(loft))[^1];
        (second.Step, second.Items.Single(i => i.Step > 0).Step).ShouldBe((3, 1));
    }

    [Fact]
    public async Task Nothing_goes_at_weekends_on_holidays_or_for_too_little()
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 2);
        await loft.WithAsync<Ladders>(l => l.SetHolidaysAsync([(Loft.Today.AddDays(1), "Day of the harbour")]));
        await ForwardAsync(loft, 1);
        (await LettersAsync(loft)).ShouldBeEmpty("Thursday is a holiday");
        await ForwardAsync(loft, 1);
        (await LettersAsync(loft)).Count.ShouldBe(1, "Friday");
        await using var small = await WithLadderAsync();
        await OwedAsync(small, 20, 4);
        (await WhyAsync(small)).ShouldBe("it comes to less than 10.00 EUR");
        await small.WithAsync<Ladders>(l => l.SetAsync(1, true, 0, 7, [6, 7]));
        (await WhyAsync(small)).ShouldContain("nobody is written to on Wednesday");
    }

    [Fact]
    public async Task What_is_promised_planned_or_in_dispute_is_not_asked_for()
    {
        await using var loft = await WithLadderAsync();
        var (promised, disputed, planned) = (
            await OwedAsync(loft, 20),
            await OwedAsync(loft, 19),
            await OwedAsync(loft, 18)
        );
        await loft.WithAsync<Plans>(p => p.AgreeAsync(loft.Yard, [planned], [new(Loft.Today.AddDays(30), 124_00)]));
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(
                loft.Yard,
                new ContactSaid(ContactWay.Call, "", "", null),
                new PromiseHeard(null, Loft.Today.AddDays(3), [promised]),
                new DisputeHeard(disputed, 100_00, "Not ordered", null)
            )
        );
        (await RunAsync(loft)).Taken.ShouldBe(1);
        var letter = (await LettersAsync(loft)).Single();
        letter.Items.Select(i => (i.ItemId, i.Asked)).ShouldBe([(disputed, 24_00)]);
    }

    [Fact]
    public async Task Money_that_is_not_placed_keeps_the_letter_back_until_a_person_says_otherwise()
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 20);
        await loft.ReceiveAsync(20_00);
        (await RunAsync(loft)).Taken.ShouldBe(0);
        (await WhyAsync(loft)).ShouldBe("20.00 EUR of theirs is not placed: look there first");
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<LadderRun>(r => r.TakeAsync(loft.Yard, false, null))
        );
        await loft.WithAsync<LadderRun>(r => r.TakeAsync(loft.Yard, true, null));
        (await LettersAsync(loft)).Count.ShouldBe(1);
    }

    [Fact]
    public async Task Who_is_left_out_has_no_ladder_or_pays_is_not_written_to()
    {
        await using var loft = await WithLadderAsync();
        var (one, other) = (await OwedAsync(loft, 20), await OwedAsync(loft, 20));
        var left = await loft.WithAsync<Ladders, int>(l =>
            l.LeaveOutAsync(loft.Yard, null, Loft.Today.AddDays(1), "The owner is ill")
        );
        (await WhyAsync(loft)).ShouldContain("left out until 2025-09-18: The owner is ill");
        (await RunAsync(loft)).Taken.ShouldBe(0);
        await loft.WithAsync<Ladders>(l => l.TakeInAgainAsync(left));
        await loft.WithAsync<Ladders>(l => l.ChooseAsync(loft.Yard, null, true));
        (await WhyAsync(loft)).ShouldBe("they are never written to by steps");
        await loft.WithAsync<Ladders>(l => l.ChooseAsync(loft.Yard, null, false));
        await loft.WithAsync<Ladders>(l => l.LeaveOutAsync(loft.Yard, one, null, "Being looked into"));
        await loft.ReceiveAsync(124_00, (other, 124_00));
        (await WhyAsync(loft)).ShouldBe("nothing can be asked for");
        (await RunAsync(loft)).Taken.ShouldBe(0);
    }

    [Fact]
    public async Task A_letter_that_is_withdrawn_from_the_post_was_not_had()
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 20);
        await RunAsync(loft);
        var post = (await LettersAsync(loft)).Single().PostItemId!.Value;
        await loft.WithAsync<PostTray>(t => t.WithdrawAsync(post));
        (await RunAsync(loft)).Taken.ShouldBe(1);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_letter_may_be_changed_and_a_form_that_arrives_twice_writes_one()
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 20);
        var of = await loft.WithAsync<LadderRun, LadderCase?>(r => r.LookAtAsync(loft.Yard));
        var mail = await loft.WithAsync<LadderRun, MailToSend>(r => r.ComposeAsync(of!));
        var changed = mail with { Subject = "Dear neighbour", To = "else@slip.example" };
        var first = await loft.WithAsync<LadderRun, int>(r => r.TakeAsync(loft.Yard, false, changed, "k1"));
        (await loft.WithAsync<LadderRun, int>(r => r.TakeAsync(loft.Yard, false, changed, "k1"))).ShouldBe(first);
        await loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        loft.Carrier.Carried.ShouldHaveSingleItem().Subject.ShouldBe("Dear neighbour");
    }

    [Fact]
    public async Task A_step_that_is_a_call_puts_them_on_the_list_and_into_no_post()
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 46);
        await RunAsync(loft);
        var letter = (await LettersAsync(loft)).Single();
        (letter.Way, letter.PostItemId, letter.Step).ShouldBe((StepWay.Call, null, 4));
        (await loft.NumberAsync("SELECT COUNT(*) FROM Post")).ShouldBe(0);
    }

    [Fact]
    public async Task It_runs_by_itself_only_where_that_is_set()
    {
        await using var loft = await WithLadderAsync(byItself: false);
        await OwedAsync(loft, 20);
        await loft.WithAsync<DailyRun>(r => r.RunAsync());
        (await LettersAsync(loft)).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_few_cents_are_not_chased_because_a_large_bill_falls_due_one_day()
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 20, 3);
        await OwedAsync(loft, -10, 900);
        (await WhyAsync(loft)).ShouldBe("it comes to less than 10.00 EUR");
        (await RunAsync(loft)).Taken.ShouldBe(0);
    }

    [Fact]
    public async Task By_hand_too_nobody_is_reminded_of_what_was_agreed()
    {
        await using var loft = await WithLadderAsync();
        var (promised, disputed) = (await OwedAsync(loft, 20), await OwedAsync(loft, 10));
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(
                loft.Yard,
                new ContactSaid(ContactWay.Call, "", "", null),
                new PromiseHeard(null, Loft.Today.AddDays(3), [promised]),
                new DisputeHeard(disputed, 24_00, "Not ordered", null)
            )
        );
        var mail = await loft.WithAsync<Reminders, MailToSend>(r => r.ComposeAsync(loft.Yard));
        mail.Body.ShouldContain("100.00");
        mail.Body.ShouldNotContain("124.00");
        await loft.ReceiveAsync(100_00, (disputed, 100_00));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Reminders>(r => r.SendAsync(loft.Yard)))
        ).Message.ShouldContain("promised, planned or in dispute");
    }

    [Fact]
    public async Task The_tolerance_is_told_in_home_currency_whatever_the_customer_is_billed_in()
    {
        await using var loft = await WithLadderAsync();
        await loft.IssuedAsync(loft.Content(1, 20, loft.Swede, Loft.Today.AddDays(-60)));
        var of = await loft.WithAsync<LadderRun, LadderCase?>(r => r.LookAtAsync(loft.Swede));
        of!.Why.ToString().ShouldBe("it comes to less than 10.00 EUR");
    }

    [Fact]
    public async Task Two_customers_who_were_written_to_on_one_day_may_become_one()
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 20);
        var twin = await loft.WithAsync<CustomersDesk, int>(c => c.SaveAsync(null, 0, Named("Twin")));
        await loft.IssuedAsync(loft.Content(2, 50, twin, Loft.Today.AddDays(-40)));
        (await RunAsync(loft)).Taken.ShouldBe(2);
        await loft.WithAsync<CustomersDesk>(c => c.MergeAsync(loft.Yard, twin));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        (await RunAsync(loft)).Taken.ShouldBe(0);
    }

    private static CustomerDetails Named(string name) =>
        new()
        {
            Code = name.ToUpperInvariant().Replace(" ", "", StringComparison.Ordinal),
            Name = name,
            Email = "somebody@slip.example",
            Currency = "EUR",
            Address = new Address("Quay", "1", "Harbour", "EE"),
        };

    [Fact]
    public async Task Two_runs_at_once_and_one_that_is_stopped_write_each_letter_once()
    {
        await using var loft = await WithLadderAsync();
        const int customers = 8;
        for (var i = 0; i < customers; i++)
        {
            var customer = await loft.WithAsync<CustomersDesk, int>(c => c.SaveAsync(null, 0, Named($"Customer {i}")));
            await loft.IssuedAsync(loft.Content(2, 50, customer, Loft.Today.AddDays(-40)));
        }

        using var stop = new CancellationTokenSource();
        var stopped = loft.WithAsync<LadderRun, LadderReport>(r => r.RunAsync(null, stop.Token));
        while (!stopped.IsCompleted && await loft.NumberAsync("SELECT COUNT(*) FROM ChaseLetters") == 0)
            await Task.Yield();
        await stop.CancelAsync();
        try
        {
            await stopped;
        }
        catch (OperationCanceledException)
        {
            // It had written some, and no half one.
        }

        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await Task.WhenAll(RunAsync(loft), RunAsync(loft));
        (await LettersAsync(loft)).Count.ShouldBe(customers);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("UPDATE ChaseLetterItems SET Asked = 99999999", "more than there ever was")]
    [InlineData("UPDATE ChaseLetterItems SET Step = 0", "nothing in it has reached")]
    [InlineData("UPDATE ChaseLetters SET Way = 'Call'", "a call that did")]
    [InlineData("UPDATE ChaseLetters SET CustomerId = (SELECT MAX(Id) FROM Customers)", "another customer")]
    [InlineData(
        "INSERT INTO ChaseLetters (CustomerId, Day, LadderId, Step, Way, PostItemId, By) SELECT CustomerId, Day, LadderId, Step, Way, PostItemId, By FROM ChaseLetters; INSERT INTO ChaseLetterItems (LetterId, ItemId, Step, Asked) SELECT 2, ItemId, Step, Asked FROM ChaseLetterItems",
        "got 2 letters on"
    )]
    [InlineData(
        "INSERT INTO ChaseLetters (CustomerId, Day, LadderId, Step, Way, PostItemId, By) SELECT CustomerId, '2025-09-01', LadderId, Step, Way, PostItemId, By FROM ChaseLetters; INSERT INTO ChaseLetterItems (LetterId, ItemId, Step, Asked) SELECT 2, ItemId, Step, Asked FROM ChaseLetterItems",
        "had step 2 2 times"
    )]
    public async Task What_a_ladder_never_does_is_found(string damage, string found)
    {
        await using var loft = await WithLadderAsync();
        await OwedAsync(loft, 20);
        await RunAsync(loft);
        await loft.ExecuteAsync(damage);
        (await loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found));
    }

    /// <summary>
    /// Months of a business by dice: bills, money, promises, plans, disputes, things undone, days on which nothing ran.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public async Task Nobody_is_chased_who_should_not_be_whatever_happens(int seed)
    {
        await using var loft = await WithLadderAsync();
        var dice = new Random(seed);
        DateOnly Today() => DateOnly.FromDateTime(loft.Clock.GetLocalNow().DateTime);
        var letters = 0;
        for (var turn = 0; turn < 45; turn++)
        {
            try
            {
                await PlayAsync(loft, dice, Today());
            }
            catch (RefusalException)
            {
                // What cannot be done is not done; the dice do not know.
            }

            var before = await loft.WithAsync<OwedBook, IReadOnlyList<CustomerOwes>>(o => o.OnAsync(Today()));
            await loft.WithAsync<DailyRun>(r => r.RunAsync());
            var all = await LettersAsync(loft);
            foreach (var letter in all.Skip(letters))
            {
                var owes = before.Single(o => o.CustomerId == letter.CustomerId);
                letter.Day.ShouldBe(Today());
                letter.Day.DayOfWeek.ShouldNotBeOneOf(DayOfWeek.Saturday, DayOfWeek.Sunday);
                owes.Credits.ShouldBeEmpty("money of theirs waits");
                foreach (var item in letter.Items)
                    item.Asked.ShouldBe(owes.Askable(item.ItemId), $"turn {turn}");
                letter.Items.Sum(i => i.Asked).ShouldBeGreaterThanOrEqualTo(10_00);
            }

            letters = all.Count;
            var aged = await loft.WithAsync<AgedReports, AgedBalances>(r => r.AgedAsync(Today()));
            aged.Rows.Sum(r => r.Aged.Balance).ShouldBe(aged.Receivables, $"turn {turn}: parts, disputes and credit");
            loft.Clock.Advance(TimeSpan.FromDays(dice.Next(0, 5)));
        }

        foreach (var customer in (await LettersAsync(loft)).GroupBy(l => l.CustomerId))
            customer.Zip(customer.Skip(1), (a, b) => b.Day.DayNumber - a.Day.DayNumber).ShouldAllBe(days => days >= 7);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        letters.ShouldBeGreaterThan(3);
    }

    private static async Task PlayAsync(Loft loft, Random dice, DateOnly today)
    {
        var owes = (await loft.WithAsync<OwedBook, IReadOnlyList<CustomerOwes>>(o => o.OnAsync(today, loft.Yard)))[0];
        var item = owes.Items.Count > 0 ? owes.Items[dice.Next(owes.Items.Count)] : null;
        var said = new ContactSaid(ContactWay.Call, "", "They said so", null);
        switch (dice.Next(8))
        {
            case 0 or 1 or 2:
                await OwedAsync(loft, dice.Next(-14, 30), dice.Next(3, 80));
                break;
            case 3 when item is not null:
                var part = dice.Next(2) == 0 ? item.Open : Math.Max(1, item.Open / 3);
                await loft.WithAsync<Receipts>(r =>
                    r.PostAsync(
                        new ReceiptToPost(
                            loft.Yard,
                            today,
                            loft.Bank,
                            part,
                            "",
                            dice.Next(4) == 0 ? [] : [(item.ItemId, part)]
                        )
                    )
                );
                break;
            case 4 when item is not null:
                await loft.WithAsync<Contacts>(c =>
                    c.NoteAsync(
                        loft.Yard,
                        said,
                        new PromiseHeard(null, today.AddDays(dice.Next(0, 9)), dice.Next(2) == 0 ? [] : [item.ItemId]),
                        null
                    )
                );
                break;
            case 5 when item is not null:
                await loft.WithAsync<Contacts>(c =>
                    c.NoteAsync(
                        loft.Yard,
                        said,
                        null,
                        new DisputeHeard(item.ItemId, Math.Max(1, item.Open / 2), "No", null)
                    )
                );
                break;
            case 6 when item is not null:
                await loft.WithAsync<Plans>(p =>
                    p.AgreeAsync(
                        loft.Yard,
                        [item.ItemId],
                        PaymentPlan.Equally(today, item.Open, 2, i => today.AddDays(7 * (i + 1))).Parts
                    )
                );
                break;
            case 7:
                var booking = (int)await loft.NumberAsync("SELECT COALESCE(MAX(Id), 0) FROM Bookings");
                await loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
                break;
        }

        foreach (var credit in owes.Credits.Take(dice.Next(2)))
            await loft.WithAsync<Receipts>(r => r.PlaceOldestFirstAsync(credit.ItemId));
    }
}
