using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Standing;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>One standing invoice: its schedule, what it bills, what comes next and what it gave.</summary>
[Needs(Right.Draft)]
[Posts(Right.Issue)]
public sealed class StandingEditModel(BooksContext db, StandingDesk desk, Pricing pricing, CustomerChange change)
    : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    public StandingInvoice? Standing { get; private set; }

    public StandingDetails Details { get; private set; } = new() { Schedule = new Schedule(default, 1, Pace.Months) };

    public DraftContent Bills { get; private set; } = new();

    public int CustomerId { get; private set; }

    public Currency Currency { get; private set; } = null!;

    public IReadOnlyList<(StandingOccurrence Occurrence, Document? Document)> Gave { get; private set; } = [];

    public IReadOnlyList<(string Value, string Text)> CustomerChoices { get; private set; } = [];

    public IReadOnlyList<(string Value, string Text)> ItemChoices { get; private set; } = [];

    public static IEnumerable<(string, string)> PaceChoices =>
        [("Days", "days"), ("Weeks", "weeks"), ("Months", "months"), ("Years", "years")];

    /// <summary>The currencies that the customer is billed in; empty where that is one.</summary>
    public IEnumerable<(string, string)> CurrencyChoices { get; private set; } = [];

    public static IEnumerable<(string, string)> WayChoices =>
        [("Draft", "put it among my drafts"), ("Issue", "issue it"), ("IssueAndSend", "issue and send it")];

    public static IEnumerable<(string, string)> PriceChoices =>
        [("", "as they are written here"), ("list", "from the price list of the day")];

    protected override async Task<bool> ShowAsync()
    {
        if (Id is { } id)
        {
            Standing = await db
                .StandingInvoices.AsNoTracking()
                .Include(s => s.Occurrences)
                .SingleOrDefaultAsync(s => s.Id == id);
            if (Standing is null)
                return false;
            (Details, Bills, CustomerId) = (Standing.Details, Standing.Content, Standing.CustomerId);
            var ids = Standing.Occurrences.Select(o => o.DocumentId).OfType<int>().ToList();
            var documents = await db
                .Documents.AsNoTracking()
                .Where(d => ids.Contains(d.Id))
                .ToDictionaryAsync(d => d.Id);
            Gave = Standing
                .Occurrences.OrderByDescending(o => o.Day)
                .Select(o => (o, o.DocumentId is { } made ? documents.GetValueOrDefault(made) : null))
                .ToList();
        }
        else
        {
            Details = Details with
            {
                Schedule = new Schedule(new DateOnly(Today.Year, Today.Month, 1).AddMonths(1), 1, Pace.Months),
            };
            CustomerId = int.TryParse(Request.Query["customer"], out var customer) ? customer : 0;
            var from = int.TryParse(Request.Query["starter"], out var starter)
                ? await db.Starters.AsNoTracking().SingleOrDefaultAsync(s => s.Id == starter)
                : null;
            if (from is not null)
                (Bills, Details) = (from.Content, Details with { Name = from.Name });
            Currency = await db.BilledInAsync(CustomerId, null, from?.Currency ?? Business!.HomeCurrency);
            if (from is not null)
                (Bills, _) = await change.ConvertAsync(
                    Bills with
                    {
                        Date = Today,
                    },
                    from.Currency ?? Business!.HomeCurrency,
                    Currency
                );
        }

        if (Id is not null)
            Currency = await db.BilledInAsync(CustomerId, Bills.Currency, Business!.HomeCurrency);
        var billed = await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == CustomerId);
        CurrencyChoices = billed?.Currencies is { Count: > 1 } several
            ? [.. several.Select(c => (c.Code, c.Code))]
            : [];
        CustomerChoices =
        [
            ("", "choose"),
            .. (
                await db
                    .Customers.Where(c => !c.Inactive || c.Id == CustomerId)
                    .OrderBy(c => c.Name)
                    .Select(c => new { c.Id, c.Name })
                    .ToListAsync()
            ).Select(c => ($"{c.Id}", c.Name)),
        ];
        ItemChoices =
        [
            ("", "free text"),
            .. (
                await db
                    .Items.Where(i => !i.Inactive)
                    .OrderBy(i => i.Name)
                    .Select(i => new { i.Id, i.Name })
                    .ToListAsync()
            ).Select(i => ($"{i.Id}", i.Name)),
        ];
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var customerId = form.Whole("customer");
        // Another customer is billed in their usual currency.
        var chosen = customerId == CustomerId && CurrencyChoices.Any() ? form.Text("currency") : "";
        var currency = await db.BilledInAsync(customerId, chosen, Business!.HomeCurrency);
        var shownIn = Currency.TryOf(form.Text("shownIn"), out var shown) ? shown! : currency;
        var details = new StandingDetails
        {
            Name = form.Text("name"),
            Schedule = new Schedule(
                form.Date("first", "Give the day of the first one."),
                form.Whole("every"),
                form.Choice<Pace>("pace"),
                form.OptionalDate("until"),
                form.Text("times").Trim().Length == 0 ? null : form.Whole("times")
            ),
            PricesOfTheDay = form.Text("prices") == "list",
            Way = form.Choice<StandingWay>("way"),
            TellBefore = form.Whole("tellBefore"),
            TellAfter = form.Whole("tellAfter"),
            MakesUp = form.Text("makesUp") switch
            {
                "yes" => true,
                "no" => false,
                _ => null,
            },
        };
        form.ThrowIfAny();
        var id = await desk.SaveAsync(
            Id,
            details,
            customerId,
            await ReadLinesAsync(form, customerId, chosen, shownIn, currency),
            form.Key
        );
        Say(
            shownIn.Equals(currency)
                ? "Saved. It counts from the next one on."
                : $"Saved. It counts from the next one on. Its prices were converted from {shownIn} to {currency} at the rate of today; look them over."
        );
        return Redirect($"/sell/standing/{id}");
    }

    public Task<IActionResult> OnPostPauseAsync() =>
        DoAsync(
            form => desk.PauseAsync(Id!.Value, true, form.Key),
            "Paused. What falls into the pause is not caught up."
        );

    public Task<IActionResult> OnPostGoOnAsync() =>
        DoAsync(form => desk.PauseAsync(Id!.Value, false, form.Key), "It goes on.");

    public Task<IActionResult> OnPostSkipAsync() =>
        DoAsync(form => desk.SkipAsync(Id!.Value, form.Key), "The next one is left out.");

    private async Task<IActionResult> DoAsync(Func<TypedForm, Task<int>> work, string said)
    {
        await work(Form);
        Say(said);
        return Redirect($"/sell/standing/{Id}");
    }

    /// <summary>The rows as lines; a new row with an item takes from it what is left empty.</summary>
    /// <param name="shownIn">The currency that the page said that the prices are in.</param>
    /// <param name="chosen">The code of the currency that is billed in; empty for the customer's usual one.</param>
    private async Task<DraftContent> ReadLinesAsync(
        TypedForm form,
        int customerId,
        string chosen,
        Currency shownIn,
        Currency currency
    )
    {
        var refusals = new Refusals();
        var lines = new List<DraftLine>();
        var offered = new HashSet<int>();
        foreach (var row in form.Rows("lines"))
        {
            string Cell(string name) => form.Text($"lines[{row}].{name}").Trim();
            if (form.Ticked($"lines[{row}].drop") || (Cell("text").Length == 0 && Cell("item").Length == 0))
                continue;
            var kept = row < Bills.Lines.Count ? Bills.Lines[row] : null;
            if (kept is { Role: var role } && !role.HasFigures())
            {
                lines.Add(kept with { Text = Cell("text") });
                continue;
            }

            var offer =
                kept is null
                && int.TryParse(Cell("item"), out var itemId)
                && await db.Items.AsNoTracking().SingleOrDefaultAsync(i => i.Id == itemId) is { } item
                    ? (
                        await pricing.OffersAsync(
                            [item],
                            new PriceQuestion(customerId, null, Today, Bills.PricesIncludeTax) { Currency = chosen }
                        )
                    )[0]
                    : null;
            var quantity = 1m;
            var price = offer?.Price ?? 0;
            decimal? discount = offer?.Discount;
            if (Cell("quantity").Length > 0)
                refusals.Try(() =>
                    quantity = Format.Read(Cell("quantity"), Limits.FigureDecimals, $"lines[{row}].quantity")
                );
            if (Cell("price").Length > 0)
                refusals.Try(() => price = Format.Read(Cell("price"), Limits.FigureDecimals, $"lines[{row}].price"));
            if (Cell("discount").Length > 0)
                refusals.Try(() =>
                    discount = Format.Read(
                        Cell("discount").TrimEnd('%'),
                        Limits.PercentDecimals,
                        $"lines[{row}].discount"
                    )
                );
            else if (kept is not null)
                discount = null;
            var begin =
                kept
                ?? new DraftLine(
                    offer?.Item.Id,
                    "",
                    1,
                    offer?.Item.Unit ?? "C62",
                    0,
                    null,
                    null,
                    offer?.TaxCodeId ?? Business!.DefaultTaxCodeId ?? 0,
                    offer?.Item.LedgerAccountId ?? Business!.DefaultLedgerAccountId ?? 0
                );
            if (offer is not null && Cell("price").Length == 0)
                offered.Add(lines.Count);
            lines.Add(
                begin with
                {
                    Text = Cell("text").Length > 0 ? Cell("text") : offer?.Item.PaperText ?? "",
                    Quantity = quantity,
                    UnitPrice = price,
                    DiscountPercent = discount,
                    DiscountAmount = kept?.DiscountAmount is { } money && discount is null ? money : null,
                }
            );
        }

        refusals.ThrowIfAny();
        // What was typed is in the currency that it was typed in; what came from the list is in the customer's already.
        var (converted, _) = await change.ConvertAsync(Bills with { Date = Today, Lines = lines }, shownIn, currency);
        lines = [.. converted.Lines.Select((l, i) => offered.Contains(i) ? lines[i] : l)];
        return converted with
        {
            CustomerId = customerId,
            Currency = chosen,
            Lines = lines,
            Note = form.Text("note"),
            Particulars = Bills.Particulars with { Opening = form.Text("opening") },
        };
    }
}
