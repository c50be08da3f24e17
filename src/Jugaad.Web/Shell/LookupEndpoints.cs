using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Shell;

/// <summary>A new customer from within the editor.</summary>
internal sealed record NewCustomer(string? Name, string? Email, string? TaxNumber, string? Currency, string? FormKey)
{
    public string? Street { get; init; }

    public string? PostalCode { get; init; }

    public string? City { get; init; }

    public string? Region { get; init; }

    public string? Country { get; init; }

    /// <summary>At home where no country was chosen.</summary>
    internal Address Address(string home) =>
        new(Street ?? "", PostalCode ?? "", City ?? "", string.IsNullOrEmpty(Country) ? home : Country, Region ?? "");
}

/// <summary>A new item from within the editor.</summary>
internal sealed record NewItem(
    string? Code,
    string? Name,
    string? Unit,
    string? Price,
    int TaxCodeId,
    int AccountId,
    string? FormKey
);

/// <summary>Type-ahead, the jump box, and new customers and items on the spot.</summary>
internal static class LookupEndpoints
{
    private const int Most = 8;

    internal static void MapLookups(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/token",
                (IAntiforgery antiforgery, HttpContext http) =>
                    new { token = antiforgery.GetAndStoreTokens(http).RequestToken }
            )
            .Needs(Right.Self);
        api.MapGet("/day", DayAsync).Needs(Right.Self);
        api.MapGet(
                "/jump",
                async (string? q, DayScreens day, IActor actor, CancellationToken stop) =>
                    JumpTarget.ExactFirst(
                        (await day.JumpAsync(q ?? "", stop))
                            .Concat(PagesOf(q ?? ""))
                            .Where(t =>
                                actor.May(Right.See)
                                || !OfMoney.Any(o => t.Address.StartsWith(o, StringComparison.Ordinal))
                            ),
                        q ?? ""
                    )
            )
            .Needs(Right.Self);
        api.MapGet("/customers", CustomersAsync).Needs(Right.Self);
        api.MapGet("/customers/alike", AlikeAsync).Needs(Right.Draft);
        api.MapGet("/items", ItemsAsync).Needs(Right.Self);
        api.MapPost("/customers", AddCustomerAsync).Needs(Right.Draft);
        api.MapPost("/items", AddItemAsync).Needs(Right.Masters);
    }

    /// <summary>The pages that one may want by name.</summary>
    private static readonly (string Title, string Words, string Address)[] Pages =
    [
        ("Day sheet", "what to do today", "/"),
        ("Quotes and invoices", "sell documents drafts", "/sell"),
        ("New quote", "", "/sell/edit?kind=quote"),
        ("New invoice", "", "/sell/edit?kind=invoice"),
        ("Receipts", "receive payments money", "/receive"),
        ("New receipt", "payment", "/receive/new"),
        ("Money at the bank", "bank matching statements lines to place", "/bank"),
        ("Bank lines", "bank all lines of statements find payment", "/bank/lines"),
        ("Our money", "accounts balances bank cash transfer between", "/money"),
        ("Count the till", "cash box closing", "/sell/till"),
        ("Money from elsewhere", "interest charge", "/receive/other"),
        ("Overdue", "collect late reminders", "/collect/overdue"),
        ("Whom to ask for money", "collect chase call promise", "/collect"),
        ("How collecting goes", "days sales outstanding dso late", "/collect/goes"),
        ("Letters by steps", "collect ladder reminders dunning", "/collect/letters"),
        ("Statements", "collect account statement", "/collect/statements"),
        ("Expected money", "collect forecast weeks", "/collect/expected"),
        ("Promises, plans and disputes", "collect promised instalments", "/collect/promises"),
        ("Post tray", "mail sent", "/post"),
        ("E-invoices", "network sent fate refused taken", "/post/einvoices"),
        ("Sales told together", "summary counter e-invoice day month many", "/post/summaries"),
        ("Customers", "", "/customers"),
        ("New customer", "", "/customers/new"),
        ("Items", "goods services prices", "/items"),
        ("New item", "", "/items/new"),
        ("Aged balances", "reports ageing", "/reports/aged"),
        ("Your sign-in", "password second step", "/me"),
        ("Tax returns", "reports vat file authority due", "/reports/returns"),
        ("Price lists", "prices", "/items/lists"),
        ("Receipt sheet", "money slip many grid", "/receive/sheet"),
        ("Refunds to pay", "payment file bank transfer pain", "/receive/payments"),
        ("Reports", "views income sales quotes margin", "/reports"),
        ("Before closing", "month year end close", "/reports/closing"),
        ("For the accountant", "hand over zip period", "/reports/handover"),
        ("Open items", "report", "/reports/open-items"),
        ("Sales journal", "report", "/reports/sales"),
        ("Receipts journal", "report money", "/reports/receipts"),
        ("Book of an account", "report bank cash ledger", "/reports/account"),
        ("Journal", "report entries double", "/reports/entries"),
        ("Deliveries to bill", "sell notes", "/sell/deliveries"),
        ("Stages to bill", "sell progress percent", "/sell/stages"),
        ("Read an e-invoice", "ubl cii xml check en 16931", "/papers/einvoice"),
        ("Check and issue drafts", "sell many", "/sell/issue"),
        ("Standing invoices", "sell repeat schedule", "/sell/standing"),
        ("Starters", "sell template beginning", "/sell/starters"),
        ("Shelf", "sell half-written", "/sell/shelf"),
        ("Counter", "sell cash card shop", "/sell/counter"),
        ("New order", "", "/sell/edit?kind=order"),
        ("New delivery note", "", "/sell/edit?kind=delivery-note"),
        ("Business register", "look up company number", "/customers/register"),
        .. SetupPages.All.Select(p => (p.Title, $"setup {p.Words}", p.Address)),
    ];

    /// <summary>What a seller is not led to.</summary>
    private static readonly string[] OfMoney =
    [
        "/receive",
        "/setup",
        "/reports",
        "/collect",
        "/post",
        "/bank",
        "/moving",
        "/sell/till",
    ];

    private static IEnumerable<JumpTarget> PagesOf(string text)
    {
        var typed = text.Trim();
        return typed.Length < 2
            ? []
            : Pages
                .Where(p => $"{p.Title} {p.Words}".Contains(typed, StringComparison.OrdinalIgnoreCase))
                .Take(4)
                .Select(p => new JumpTarget("page", p.Title, "", p.Address));
    }

    private static async Task<object> CustomersAsync(
        string? q,
        CustomerFinder customers,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    ) => await ShownAsync(await customers.FindAsync(q ?? "", Most, true, stop), db, head, stop, q ?? "");

    /// <summary>What the editor knows of a customer once it is chosen.</summary>
    internal static async Task<IReadOnlyList<object>> ShownAsync(
        IReadOnlyList<Customer> customers,
        BooksContext db,
        BooksHead head,
        CancellationToken stop,
        string typed = ""
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var withTax = (await db.PriceLists.Where(l => l.IncludesTax).Select(l => l.Id).ToListAsync(stop)).ToHashSet();
        return customers
            .Select(c =>
                (object)
                    new
                    {
                        id = c.Id,
                        title = c.Name,
                        exact = CustomerFinder.IsExact(c, typed),
                        detail = $"{c.Code} {c.Address.City}".Trim(),
                        currency = c.Currency.Code,
                        currencies = c.Currencies.Select(i => i.Code),
                        language = c.Language,
                        termsId = c.TermsId,
                        places = c.Places.Select(p => new { id = p.Id, label = p.Label }),
                        discount = c.TradeDiscount > 0 ? format.Typed(c.TradeDiscount) + "%" : "",
                        withTax = c.PriceListId is { } list && withTax.Contains(list),
                    }
            )
            .ToList();
    }

    private static async Task<IReadOnlyList<AlikeCustomer>> AlikeAsync(
        string? name,
        string? taxNumber,
        string? registrationNumber,
        string? email,
        int? except,
        CustomersDesk desk,
        CancellationToken stop
    ) =>
        (name ?? "").Trim().Length < 3
        && string.IsNullOrWhiteSpace(taxNumber)
        && string.IsNullOrWhiteSpace(registrationNumber)
        && string.IsNullOrWhiteSpace(email)
            ? []
            : await desk.AlikeAsync(
                new CustomerDetails
                {
                    Name = name ?? "",
                    TaxNumber = taxNumber ?? "",
                    RegistrationNumber = registrationNumber ?? "",
                    Email = email ?? "",
                },
                except,
                stop
            );

    /// <summary>
    /// What was typed into a field for a day, as the business writes it, so many days on: for the arrows of the
    /// keyboard.
    /// </summary>
    private static async Task<object> DayAsync(
        string? typed,
        string? from,
        int? step,
        BooksHead head,
        CancellationToken stop
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var today = await head.TodayAsync(stop);
        var counted = format.FindDay(from, today) ?? today;
        DateOnly day;
        try
        {
            day = string.IsNullOrWhiteSpace(typed) ? counted : format.ReadDay(typed, counted, "");
            if (step is { } days and not 0)
                day = format.ReadDay($"{(days < 0 ? "-" : "+")}{Math.Abs((long)days)}", day, "");
        }
        catch (RefusalException refused)
        {
            // While one types, what cannot be read is an answer like any other.
            return new { why = refused.In(format) };
        }

        return new { shown = format.Date(day), iso = day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) };
    }

    private static async Task<object> ItemsAsync(
        string? q,
        int? customer,
        int? place,
        string? date,
        bool? withTax,
        string? language,
        string? currency,
        Wordings wordings,
        BooksContext db,
        BooksHead head,
        Pricing pricing,
        CancellationToken stop
    )
    {
        var typed = (q ?? "").Trim();
        var found = (await WordSearch.ItemsAsync(db, typed, stop)).Ids;
        // Whoever orders by phone says their own number.
        var theirs = await TheirNumbers.AmongAsync(db, customer, typed, stop);
        var (barcode, exact) = (SearchText.Entry(typed), SearchText.Exactly(typed));
        var format = (await head.BusinessAsync(stop)).Format;
        var items = await db
            .Items.AsNoTracking()
            .Where(i => !i.Inactive && (found.Contains(i.Id) || theirs.Found.Contains(i.Id)))
            .OrderBy(i =>
                theirs.Exactly.Contains(i.Id) ? 0
                : EF.Functions.Like(i.Code, exact, "\\") || EF.Functions.Like(i.Barcode, barcode, "\\") ? 0
                : EF.Functions.Like(i.Name, exact, "\\") ? 1
                : 2
            )
            .ThenBy(i => i.Name)
            .ThenBy(i => i.Id)
            .Take(Most)
            .ToListAsync(stop);
        var today = await head.TodayAsync(stop);
        var offers = await pricing.OffersAsync(
            items,
            new PriceQuestion(customer, place, format.FindDay(date, today) ?? today, withTax ?? false)
            {
                Currency = currency ?? "",
            },
            stop
        );
        var numbers = await theirs.OfAsync(items.ConvertAll(i => i.Id), stop);
        var texts = await wordings.ItemsAsync(items.ConvertAll(i => i.Id), language ?? "", stop);
        return offers.Select(o => new
        {
            id = o.Item.Id,
            title = o.Item.Name,
            detail = $"{o.Item.Code}{(numbers.TryGetValue(o.Item.Id, out var number) ? $", their {number}" : "")}, {format.Price(o.Price, o.Currency)} {o.Currency.Code}{(o.Item.KeepsCount ? $", {format.Figure(o.Item.OnHand)} on hand" : "")}",
            text = texts.GetValueOrDefault(o.Item.Id) ?? o.Item.PaperText,
            unit = o.Item.Unit,
            price = format.TypedPrice(o.Price, o.Currency),
            discount = o.Discount is { } discount ? format.Typed(discount) + "%" : "",
            taxCodeId = o.TaxCodeId,
            why = o.Why,
            priceFrom = o.From,
            accountId = o.Item.LedgerAccountId,
            barcode = Barcodes.Split(o.Item.Barcode).Contains(typed),
            // A scanner types the whole code: then there is one item and no doubt.
            scanned = IsCode(o.Item, typed),
            exact = IsCode(o.Item, typed)
                || theirs.Exactly.Contains(o.Item.Id)
                || o.Item.Name.Equals(typed, StringComparison.OrdinalIgnoreCase),
        });
    }

    private static bool IsCode(Item item, string typed) =>
        item.Code.Equals(typed, StringComparison.OrdinalIgnoreCase) || Barcodes.Split(item.Barcode).Contains(typed);

    private static async Task<object> AddCustomerAsync(
        NewCustomer typed,
        CustomersDesk desk,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var id = await desk.SaveAsync(
            null,
            0,
            new CustomerDetails
            {
                Name = typed.Name ?? "",
                Email = typed.Email ?? "",
                TaxNumber = typed.TaxNumber ?? "",
                Kind = string.IsNullOrWhiteSpace(typed.TaxNumber) ? CustomerKind.Consumer : CustomerKind.Business,
                Address = typed.Address(business.Address.Country),
                Currency = string.IsNullOrEmpty(typed.Currency) ? business.HomeCurrency.Code : typed.Currency,
                TermsId = business.DefaultTermsId,
            },
            new Once(typed.FormKey, stop)
        );
        return (
            await ShownAsync([await db.Customers.AsNoTracking().SingleAsync(c => c.Id == id, stop)], db, head, stop)
        )[0];
    }

    private static async Task<object> AddItemAsync(
        NewItem typed,
        ItemsDesk desk,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var price = string.IsNullOrWhiteSpace(typed.Price)
            ? 0
            : business.Format.Read(typed.Price, Limits.FigureDecimals, "price");
        var id = await desk.SaveAsync(
            null,
            0,
            new ItemDetails
            {
                Code = typed.Code ?? "",
                Name = typed.Name ?? "",
                Unit = string.IsNullOrEmpty(typed.Unit) ? "C62" : typed.Unit,
                Price = price,
                TaxCodeId = typed.TaxCodeId,
                LedgerAccountId = typed.AccountId,
            },
            new Once(typed.FormKey, stop)
        );
        var item = await db.Items.AsNoTracking().SingleAsync(i => i.Id == id, stop);
        return new
        {
            id,
            title = item.Name,
            detail = item.Code,
            text = item.PaperText,
            unit = item.Unit,
            price = business.Format.TypedPrice(item.Price, business.HomeCurrency),
            taxCodeId = item.TaxCodeId,
            accountId = item.LedgerAccountId,
        };
    }
}
