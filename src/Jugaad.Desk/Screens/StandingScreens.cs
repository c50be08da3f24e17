using Jugaad.Core;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A standing invoice in the list.</summary>
/// <param name="Gave">How many documents came of it so far.</param>
public sealed record StandingRow(StandingInvoice Standing, string Customer, int Gave);

/// <summary>What narrows the list of standing invoices.</summary>
/// <param name="Show">One of running, paused, ended, trouble; empty for all.</param>
/// <param name="Sort">One of next, name, customer, gave; a minus before it turns it round.</param>
public sealed record StandingFilter(string Show, string Search, string Sort);

/// <summary>
/// Reads standing invoices. When one comes next follows from its schedule, so all are read and then put in order.
/// </summary>
public sealed class StandingScreens(BooksContext db, BooksHead head)
{
    public async Task<IReadOnlyList<StandingRow>> ListAsync(StandingFilter filter, CancellationToken stop = default)
    {
        var all = await db.StandingInvoices.AsNoTracking().ToListAsync(stop);
        var names = await db
            .Customers.Where(c => db.StandingInvoices.Any(s => s.CustomerId == c.Id))
            .ToDictionaryAsync(c => c.Id, c => c.Name, stop);
        var gave = await db.Set<StandingOccurrence>()
            .Where(o => o.DocumentId != null)
            .GroupBy(o => o.StandingInvoiceId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, stop);
        var rows = all.Where(s => Fits(s, filter.Show))
            .Select(s => new StandingRow(s, names[s.CustomerId], gave.GetValueOrDefault(s.Id)))
            .Where(r => Has(r.Standing.Name, filter.Search) || Has(r.Customer, filter.Search));
        var down = filter.Sort.StartsWith('-');
        var sorted = filter.Sort.TrimStart('-') switch
        {
            "name" => Order(rows, r => r.Standing.Name, StringComparer.OrdinalIgnoreCase, down),
            "customer" => Order(rows, r => r.Customer, StringComparer.OrdinalIgnoreCase, down),
            "gave" => Order(rows, r => r.Gave, Comparer<int>.Default, down),
            _ => Order(rows, r => r.Standing.NextDay ?? DateOnly.MaxValue, Comparer<DateOnly>.Default, down),
        };
        return [.. sorted.ThenBy(r => r.Standing.Name, StringComparer.OrdinalIgnoreCase).ThenBy(r => r.Standing.Id)];
    }

    /// <summary>All that the filter lets through, for a file.</summary>
    /// <param name="only">The rows that were picked; null for all.</param>
    public async Task<Report> ReportAsync(
        StandingFilter filter,
        IReadOnlyCollection<int>? only = null,
        CancellationToken stop = default
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var rows = (await ListAsync(filter, stop)).Where(r => only?.Contains(r.Standing.Id) != false);
        return new Report(
            "standing",
            "Standing invoices",
            "",
            [
                new("name", "Name"),
                new("customer", "Customer"),
                new("repeats", "Repeats"),
                new("next", "Next on"),
                new("state", "State"),
                new("then", "Then"),
                new("gave", "Gave so far", true),
                new("problem", "Trouble"),
            ],
            [
                .. rows.Select(r => new ReportRow([
                    r.Standing.Name,
                    r.Customer,
                    r.Standing.Schedule.Words(format.Date),
                    r.Standing.NextDay,
                    StateOf(r.Standing),
                    r.Standing.Way.ToString().ToLowerInvariant(),
                    (decimal)r.Gave,
                    r.Standing.Problem,
                ])),
            ]
        );
    }

    /// <summary>Whatever the capitals and accents.</summary>
    private static bool Has(string text, string search) =>
        PlainLetters.Of(text).Contains(PlainLetters.Of(search.Trim()), StringComparison.OrdinalIgnoreCase);

    private static string StateOf(StandingInvoice standing) =>
        standing.HasEnded ? "ended"
        : standing.Paused ? "paused"
        : "running";

    private static bool Fits(StandingInvoice standing, string show) =>
        show switch
        {
            "running" or "paused" or "ended" => StateOf(standing) == show,
            "trouble" => standing.Problem.Length > 0,
            _ => true,
        };

    private static IOrderedEnumerable<StandingRow> Order<TKey>(
        IEnumerable<StandingRow> rows,
        Func<StandingRow, TKey> key,
        IComparer<TKey> by,
        bool down
    ) => down ? rows.OrderByDescending(key, by) : rows.OrderBy(key, by);
}
