using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>Plans as papers, as they stand today.</summary>
public sealed class PlanPapers(BooksContext db, BooksHead head, OwedBook owed, PaperRoom papers, CustomerLinks links)
{
    /// <returns>Null where the customer has no such plan.</returns>
    public async Task<(string Name, byte[] Content)?> PdfAsync(
        int customerId,
        int planId,
        CancellationToken stop = default
    )
    {
        var today = await head.TodayAsync(stop);
        if (await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == customerId, stop) is not { } customer)
            return null;
        var plan = (await owed.OnAsync(today, customerId, stop))[0].Plans.FirstOrDefault(p => p.Plan.Id == planId);
        if (plan is null)
            return null;
        var ids = plan.Plan.Items.Select(i => i.ItemId).ToList();
        var numbers = await db
            .AccountItems.Where(i => ids.Contains(i.Id))
            .OrderBy(i => i.Due)
            .ThenBy(i => i.Id)
            .Select(i => i.Number)
            .ToListAsync(stop);
        var business = await head.BusinessAsync(stop);
        var sender = await papers.SenderAsync(today, null, customer.Language, plan.Plan.Currency, stop);
        var page = await links.KnownAccountAddressAsync(customerId, stop);
        var paper = await papers.SetAsync(
            PaperKinds.Plan,
            customer,
            plan.Plan.Currency,
            words => PlanContent.Of(plan.Plan, plan.Stands, numbers, today, business, customer, sender, page, words),
            stop
        );
        return (
            $"{PaperRoom.FileName($"plan-{customer.Code}-{plan.Plan.Made:yyyy-MM-dd}")}.pdf",
            await papers.PrintAsync([paper], today, stop)
        );
    }
}
