using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Setup;
using Jugaad.Desk.Standing;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Standing invoices over the ends of months, after a pause, and whatever happens in between.</summary>
public sealed class StandingTests
{
    private static DraftContent Storage(Loft loft, string text = "Storage for {{ Month }}") =>
        loft.Content() with
        {
            Lines = [new DraftLine(null, text, 2, "MON", 26, null, null, loft.Std, loft.Sales)],
        };

    private static Task<int> BeginAsync(
        Loft loft,
        Schedule schedule,
        StandingWay way = StandingWay.Issue,
        DraftContent? content = null,
        bool? makesUp = true
    ) =>
        loft.WithAsync<StandingDesk, int>(s =>
            s.SaveAsync(
                null,
                new StandingDetails
                {
                    Name = "Storage",
                    Schedule = schedule,
                    Way = way,
                    MakesUp = makesUp,
                },
                loft.Yard,
                content ?? Storage(loft)
            )
        );

    private static Task<int> RunAsync(Loft loft, DateOnly day) =>
        loft.WithAsync<StandingRun, int>(r => r.RunAsync(day));

    private static Task<List<Document>> MadeAsync(Loft loft) =>
        loft.WithAsync<BooksContext, List<Document>>(db =>
            db.Documents.AsNoTracking()
                .Include(d => d.Lines)
                .Where(d => db.Set<StandingOccurrence>().Any(o => o.DocumentId == d.Id))
                .OrderBy(d => d.Id)
                .ToListAsync()
        );

    [Fact]
    public async Task Missed_ones_are_caught_up_each_with_its_own_date_and_period()
    {
        await using var loft = await Loft.OpenAsync();
        await BeginAsync(loft, new Schedule(new DateOnly(2025, 10, 31), 1, Pace.Months));
        (await RunAsync(loft, new DateOnly(2025, 10, 30))).ShouldBe(0);
        (await RunAsync(loft, new DateOnly(2026, 3, 2))).ShouldBe(5);
        (await RunAsync(loft, new DateOnly(2026, 3, 2))).ShouldBe(0);
        var made = await MadeAsync(loft);
        made.Select(d => d.Date)
            .ShouldBe([new(2025, 10, 31), new(2025, 11, 30), new(2025, 12, 31), new(2026, 1, 31), new(2026, 2, 28)]);
        made.Select(d => d.Lines[0].Text)
            .ShouldBe([
                "Storage for October 2025",
                "Storage for November 2025",
                "Storage for December 2025",
                "Storage for January 2026",
                "Storage for February 2026",
            ]);
        made.ShouldAllBe(d => d.State == DocumentState.Issued);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Runs_at_the_same_time_make_one_document_for_one_occurrence()
    {
        await using var loft = await Loft.OpenAsync();
        for (var i = 0; i < 5; i++)
            await BeginAsync(loft, new Schedule(new DateOnly(2025, 9, 1), 1, Pace.Weeks));
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => RunAsync(loft, Loft.Today)));
        var occurrences = await loft.WithAsync<BooksContext, List<StandingOccurrence>>(db =>
            db.Set<StandingOccurrence>().AsNoTracking().ToListAsync()
        );
        occurrences.Count.ShouldBe(15);
        occurrences.Select(o => o.DocumentId).Distinct().Count().ShouldBe(15);
        (await MadeAsync(loft)).Count.ShouldBe(
            await loft.WithAsync<BooksContext, int>(db => db.Documents.CountAsync())
        );
    }

    [Fact]
    public async Task What_is_skipped_or_paused_uses_up_no_count()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await BeginAsync(
            loft,
            new Schedule(new DateOnly(2025, 10, 1), 1, Pace.Months, Times: 3),
            content: Storage(loft, "Number {{ Count }}")
        );
        await loft.WithAsync<StandingDesk>(s => s.SkipAsync(id));
        await RunAsync(loft, new DateOnly(2025, 11, 2));
        await loft.WithAsync<StandingDesk>(s => s.PauseAsync(id, true));
        await loft.ExecuteAsync("UPDATE Businesses SET PinnedDay = '2026-01-15'");
        await loft.WithAsync<StandingDesk>(s => s.PauseAsync(id, false));
        await RunAsync(loft, new DateOnly(2026, 6, 2));
        (await MadeAsync(loft))
            .Select(d => (d.Date, d.Lines[0].Text))
            .ShouldBe([(new(2025, 11, 1), "Number 1"), (new(2026, 2, 1), "Number 2"), (new(2026, 3, 1), "Number 3")]);
    }

    [Fact]
    public async Task Days_that_have_passed_are_asked_about_and_made_up_for_or_left_out()
    {
        await using var loft = await Loft.OpenAsync();
        var past = new Schedule(Loft.Today.AddMonths(-2), 1, Pace.Months, Times: 3);
        var refused = (
            await Should.ThrowAsync<RefusalException>(() => BeginAsync(loft, past, makesUp: null))
        ).Refusals.Single();
        (refused.Field, refused.Message.StartsWith("2 days of it have passed", StringComparison.Ordinal)).ShouldBe(
            ("makesUp", true)
        );
        await BeginAsync(loft, past, makesUp: false);
        (await RunAsync(loft, Loft.Today)).ShouldBe(1);
        await BeginAsync(loft, past);
        (await RunAsync(loft, Loft.Today)).ShouldBe(3);
        await BeginAsync(loft, new Schedule(Loft.Today, 1, Pace.Months), makesUp: null);
        foreach (var times in new[] { -1, 0 })
            (await Should.ThrowAsync<RefusalException>(() => BeginAsync(loft, past with { Times = times })))
                .Refusals[0]
                .Field.ShouldBe("times");
    }

    [Fact]
    public async Task An_unknown_field_is_told_in_our_words()
    {
        await using var loft = await Loft.OpenAsync();
        var refused = (
            await Should.ThrowAsync<RefusalException>(() =>
                BeginAsync(loft, new Schedule(Loft.Today, 1, Pace.Months), content: Storage(loft, "For {{ Monht }}"))
            )
        ).Refusals.Single();
        refused.Message.ShouldStartWith("There is no field {{ Monht }} here. The fields are Count,");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                BeginAsync(loft, new Schedule(Loft.Today, 1, Pace.Months), content: Storage(loft, "For {{ Month"))
            )
        ).Message.ShouldBe(
            "This text cannot be filled in: a field is opened and not closed, or something stands in braces that is no field. Write fields as {{ Month }}."
        );
    }

    [Fact]
    public async Task Each_way_does_what_it_says()
    {
        await using var loft = await Loft.OpenAsync();
        var schedule = new Schedule(Loft.Today, 1, Pace.Months);
        await BeginAsync(loft, schedule, StandingWay.Draft);
        await BeginAsync(loft, schedule, StandingWay.Issue);
        await BeginAsync(loft, schedule, StandingWay.IssueAndSend);
        await RunAsync(loft, Loft.Today);
        (await MadeAsync(loft))
            .Select(d => d.State)
            .ShouldBe([DocumentState.Draft, DocumentState.Issued, DocumentState.Issued]);
        (await loft.WithAsync<BooksContext, List<PostItem>>(db => db.Post.ToListAsync()))
            .Single()
            .To.ShouldBe("yard@slip.example");
    }

    [Fact]
    public async Task What_cannot_be_issued_waits_among_the_drafts_and_says_why()
    {
        await using var loft = await Loft.OpenAsync();
        await BeginAsync(loft, new Schedule(Loft.Today, 1, Pace.Months));
        await loft.ExecuteAsync($"""UPDATE "Customers" SET "Inactive" = 1 WHERE "Id" = {loft.Yard}""");
        (await RunAsync(loft, Loft.Today)).ShouldBe(1);
        var draft = (await MadeAsync(loft)).Single();
        draft.IsDraft.ShouldBeTrue();
        (
            await loft.WithAsync<BooksContext, bool>(db =>
                db.Trail.AnyAsync(t => t.DocumentId == draft.Id && t.Text.Contains("inactive"))
            )
        ).ShouldBeTrue();
    }

    [Fact]
    public async Task What_cannot_be_made_says_why_and_is_made_once_that_is_mended()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await BeginAsync(loft, new Schedule(Loft.Today, 1, Pace.Months));
        await loft.ExecuteAsync(
            $"""UPDATE "StandingInvoices" SET "Content" = replace("Content", '"TaxCodeId":{loft.Std},', '"TaxCodeId":999,')"""
        );
        (await RunAsync(loft, Loft.Today)).ShouldBe(0);
        (
            await loft.WithAsync<BooksContext, StandingInvoice>(db =>
                db.StandingInvoices.AsNoTracking().SingleAsync(s => s.Id == id)
            )
        ).Problem.ShouldNotBeEmpty();
        await loft.WithAsync<StandingDesk>(s =>
            s.SaveAsync(
                id,
                new StandingDetails { Name = "Storage", Schedule = new Schedule(Loft.Today, 1, Pace.Months) },
                loft.Yard,
                Storage(loft)
            )
        );
        (await RunAsync(loft, Loft.Today)).ShouldBe(1);
    }

    [Fact]
    public async Task Prices_are_fixed_or_those_of_the_day()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "S",
                    Name = "Storage",
                    Unit = "MON",
                    Price = 26,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                }
            )
        );
        var content = Storage(loft) with
        {
            Lines = [new DraftLine(item, "Storage", 1, "MON", 20, null, null, loft.Std, loft.Sales)],
        };
        var details = new StandingDetails { Name = "Storage", Schedule = new Schedule(Loft.Today, 1, Pace.Months) };
        await loft.WithAsync<StandingDesk>(s => s.SaveAsync(null, details, loft.Yard, content));
        await loft.WithAsync<StandingDesk>(s =>
            s.SaveAsync(null, details with { PricesOfTheDay = true }, loft.Yard, content)
        );
        await RunAsync(loft, Loft.Today);
        (await MadeAsync(loft)).Select(d => d.Net).ShouldBe([2_000, 2_600]);
    }

    [Fact]
    public async Task Skipping_leaves_one_out_and_a_change_counts_from_the_next_one_on()
    {
        await using var loft = await Loft.OpenAsync();
        var schedule = new Schedule(Loft.Today, 1, Pace.Months);
        var id = await BeginAsync(loft, schedule);
        await loft.WithAsync<StandingDesk>(s => s.SkipAsync(id));
        (await RunAsync(loft, Loft.Today)).ShouldBe(0);
        await loft.WithAsync<StandingDesk>(s =>
            s.SaveAsync(
                id,
                new StandingDetails
                {
                    Name = "Storage",
                    Schedule = schedule,
                    Way = StandingWay.Issue,
                },
                loft.Yard,
                Storage(loft, "More storage")
            )
        );
        (await RunAsync(loft, Loft.Today.AddMonths(1))).ShouldBe(1);
        (await MadeAsync(loft)).Single().Lines[0].Text.ShouldBe("More storage");
    }

    [Fact]
    public async Task A_field_that_there_is_not_is_refused_by_its_line_when_it_is_typed()
    {
        await using var loft = await Loft.OpenAsync();
        var refused = (
            await Should.ThrowAsync<RefusalException>(() =>
                BeginAsync(loft, new Schedule(Loft.Today, 1, Pace.Months), content: Storage(loft, "For {{ Moon }}"))
            )
        ).Refusals[0];
        (refused.Field, refused.Message.Contains("Month", StringComparison.Ordinal)).ShouldBe(("lines[0].text", true));
    }

    [Fact]
    public async Task One_made_of_a_document_is_paused_until_it_is_looked_over()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        var id = await loft.WithAsync<StandingDesk, int>(s => s.FromDocumentAsync(invoice.Id));
        (await RunAsync(loft, Loft.Today.AddYears(1))).ShouldBe(0);
        await loft.WithAsync<StandingDesk>(s => s.PauseAsync(id, false));
        (await RunAsync(loft, Loft.Today.AddMonths(1))).ShouldBe(1);
    }
}
