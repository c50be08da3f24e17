using Jugaad.Core.Collecting;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;

namespace Jugaad.Desk.Tests;

/// <summary>How collecting goes, over the months.</summary>
public sealed class CollectingReportTests
{
    [Fact]
    public async Task Months_steps_and_promises_are_told_from_what_was_posted()
    {
        await using var loft = await Loft.OpenAsync();
        var issued = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-40)));
        var item = (await loft.ItemOfAsync(issued.Id)).Id;
        var ladder = (int)await loft.NumberAsync("SELECT MIN(Id) FROM Ladders");
        await loft.WithAsync<Ladders>(l => l.SetAsync(ladder, false, 0, 7, [1, 2, 3, 4, 5]));
        await loft.WithAsync<LadderRun>(r => r.RunAsync());
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(
                loft.Yard,
                new ContactSaid(ContactWay.Call, "", "Half of it", null),
                new PromiseHeard(62_00, Loft.Today.AddDays(3), []),
                null
            )
        );
        loft.Clock.Advance(TimeSpan.FromDays(2));
        await loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(loft.Yard, Loft.Today.AddDays(2), loft.Bank, 62_00, "", [(item, 62_00)]))
        );
        loft.Clock.Advance(TimeSpan.FromDays(7));
        var goes = await loft.WithAsync<CollectingReports, CollectingGoes>(r => r.GoesAsync());
        goes.Months.Count.ShouldBe(2, "the books began in August");
        var month = goes.Months[^1];
        (month.First, month.Owed, month.Billed, month.Paid, month.DaysLate).ShouldBe(
            (new(2025, 9, 1), 62_00, 124_00, 62_00, 28)
        );
        var step = goes.Steps.ShouldHaveSingleItem();
        (step.Taken, step.Asked, step.Came, step.Percent).ShouldBe((1, 124_00, 62_00, 50));
        goes.Promises.ShouldBe(new PromisesWent(1, 0, 0));
        CollectingReports.File(goes).Rows.Count.ShouldBe(2);
    }
}
