using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Standing;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>All standing invoices: what comes next, and what each gave.</summary>
[Needs(Right.Draft)]
[Posts(Right.Issue)]
public sealed class StandingModel(BooksContext db, DailyRun run, StandingProgress progress) : DeskPage
{
    public IReadOnlyList<(StandingInvoice Standing, string Customer, int Gave)> Rows { get; private set; } = [];

    public StandingProgress Progress => progress;

    protected override async Task<bool> ShowAsync()
    {
        var all = await db.StandingInvoices.AsNoTracking().ToListAsync();
        var names = await db
            .Customers.Where(c => db.StandingInvoices.Any(s => s.CustomerId == c.Id))
            .ToDictionaryAsync(c => c.Id, c => c.Name);
        var gave = await db.Set<StandingOccurrence>()
            .Where(o => o.DocumentId != null)
            .GroupBy(o => o.StandingInvoiceId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count);
        Rows = all.OrderBy(s => s.NextDay ?? DateOnly.MaxValue)
            .ThenBy(s => s.Name, StringComparer.OrdinalIgnoreCase)
            .Select(s => (s, names[s.CustomerId], gave.GetValueOrDefault(s.Id)))
            .ToList();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostRunAsync()
    {
        var done = await run.RunAsync();
        return Done(done == 0 ? "Nothing was due." : $"{done} done.");
    }
}
