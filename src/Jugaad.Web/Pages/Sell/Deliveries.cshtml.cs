using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Making;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>What was delivered and is not billed yet.</summary>
[Needs(Right.Draft)]
[Posts(Right.Draft)]
public sealed class DeliveriesModel(Deliveries deliveries, BooksContext db) : DeskPage
{
    public DeliveryFilter Filter { get; private set; } = new();

    public IReadOnlyList<DeliveryToBill> Rows { get; private set; } = [];

    public IReadOnlyList<(string Value, string Text)> CustomerChoices { get; private set; } = [];

    public IEnumerable<(Currency Currency, long Net)> Sums =>
        Rows.GroupBy(r => r.Currency).Select(g => (g.Key, g.Sum(r => r.Net)));

    protected override async Task<bool> ShowAsync()
    {
        Filter = new DeliveryFilter(
            int.TryParse(Request.Query["customer"], out var customer) && customer > 0 ? customer : null,
            AskedDay("from"),
            AskedDay("until")
        );
        Rows = await deliveries.ToBillAsync(Filter);
        var withNotes = await db
            .Documents.Where(d =>
                d.Kind == Core.Documents.DocumentKind.DeliveryNote && d.State == Core.Documents.DocumentState.Issued
            )
            .Select(d => new { d.CustomerId, d.Customer!.Name })
            .Distinct()
            .OrderBy(c => c.Name)
            .ToListAsync();
        CustomerChoices =
        [
            ("0", "all customers"),
            .. withNotes.Select(c =>
                (c.CustomerId.ToString(System.Globalization.CultureInfo.InvariantCulture), c.Name)
            ),
        ];
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var chosen = Request
            .Form["note"]
            .Select(n => int.TryParse(n, out var id) ? id : 0)
            .Where(id => id > 0)
            .ToList();
        if (chosen.Count == 0)
            throw new RefusalException("", "Tick the delivery notes that you want to bill.");
        var made = await deliveries.BillAsync(chosen, Form.Text("how") == "each", Form.Key);
        Say(
            made.Count == 1
                ? "This is the invoice of what was delivered. Look it over, then issue and send it."
                : $"{made.Count} draft invoices of {chosen.Count} deliveries. Check and issue them here."
        );
        return Redirect(made.Count == 1 ? $"/sell/edit/{made[0]}" : "/sell/issue");
    }
}
