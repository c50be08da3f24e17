using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Selling;
using Jugaad.Desk.Setup;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Endpoints;

/// <summary>A new customer from within the editor.</summary>
internal sealed record NewCustomer(string? Name, string? Email, string? Street, string? PostalCode, string? City, string? Country, string? TaxNumber, string? Currency, string? FormKey);

/// <summary>A new item from within the editor.</summary>
internal sealed record NewItem(string? Code, string? Name, string? Unit, string? Price, int TaxCodeId, int AccountId, string? FormKey);

/// <summary>Type-ahead, the jump box, and new customers and items on the spot.</summary>
internal static class LookupEndpoints
{
    private const int Most = 8;

    internal static void MapLookups(this RouteGroupBuilder api)
    {
        api.MapGet("/token", (IAntiforgery antiforgery, HttpContext http) => new { token = antiforgery.GetAndStoreTokens(http).RequestToken });
        api.MapGet("/jump", async (string? q, DayScreens day, CancellationToken stop) => (await day.JumpAsync(q ?? "", stop)).Concat(PagesOf(q ?? "")));
        api.MapGet("/customers", CustomersAsync);
        api.MapGet("/items", ItemsAsync);
        api.MapPost("/customers", AddCustomerAsync);
        api.MapPost("/items", AddItemAsync);
    }

    /// <summary>The pages that one may want by name.</summary>
    private static readonly (string Title, string Words, string Address)[] Pages =
    [
        ("Day sheet", "what to do today", "/"), ("Quotes and invoices", "sell documents drafts", "/sell"), ("New quote", "", "/sell/edit?kind=quote"), ("New invoice", "", "/sell/edit?kind=invoice"),
        ("Receipts", "receive payments money", "/receive"), ("New receipt", "payment", "/receive/new"), ("Overdue", "collect late reminders chase", "/collect"), ("Post tray", "mail sent", "/post"),
        ("Customers", "", "/customers"), ("New customer", "", "/customers/new"), ("Items", "goods services prices", "/items"), ("New item", "", "/items/new"),
        ("Aged balances", "reports ageing", "/reports/aged"), ("The business", "setup logo address", "/setup"), ("Mail settings", "setup server smtp", "/setup/mail"), ("Taxes and exchange rates", "setup vat rate", "/setup/rates"),
    ];

    private static IEnumerable<JumpTarget> PagesOf(string text)
    {
        var typed = text.Trim();
        return typed.Length < 2 ? [] : Pages.Where(p => $"{p.Title} {p.Words}".Contains(typed, StringComparison.OrdinalIgnoreCase)).Take(4).Select(p => new JumpTarget("page", p.Title, "", p.Address));
    }

    private static async Task<object> CustomersAsync(string? q, BooksContext db, CancellationToken stop)
    {
        var pattern = Pattern(q);
        return await db.Customers.Where(c => !c.Inactive && (EF.Functions.Like(c.Name, pattern, "\\") || EF.Functions.Like(c.Code, pattern, "\\") || EF.Functions.Like(c.Address.City, pattern, "\\")))
            .OrderBy(c => c.Name).Take(Most)
            .Select(c => new { id = c.Id, title = c.Name, detail = (c.Code + " " + c.Address.City).Trim(), currency = c.Currency.Code, termsId = c.TermsId }).ToListAsync(stop);
    }

    private static async Task<object> ItemsAsync(string? q, int? customer, DateOnly? date, BooksContext db, BooksHead head, MastersLoader masters, TaxDesk taxes, CancellationToken stop)
    {
        var pattern = Pattern(q);
        var typed = (q ?? "").Trim();
        var business = await head.BusinessAsync(stop);
        var currency = customer is { } id ? await db.Customers.Where(c => c.Id == id).Select(c => c.Currency).SingleOrDefaultAsync(stop) ?? business.HomeCurrency : business.HomeCurrency;
        var rate = 1m;
        try
        {
            rate = await masters.RateAsync(currency, date ?? await head.TodayAsync(stop), stop);
        }
        catch (RefusalException)
        {
            // Without a rate there is no price to propose; the editor says so when it computes the totals.
            rate = 0;
        }

        var items = await db.Items.AsNoTracking().Where(i => !i.Inactive && (EF.Functions.Like(i.Name, pattern, "\\") || EF.Functions.Like(i.Code, pattern, "\\") || EF.Functions.Like(i.Text, pattern, "\\") || i.Barcode == typed))
            .OrderBy(i => i.Name).Take(Most).ToListAsync(stop);
        var codes = await taxes.DecideAsync(customer ?? 0, items.ConvertAll(i => (int?)i.Id), stop);
        return items.Select((i, n) =>
        {
            var price = rate == 1 ? i.Price : rate == 0 ? 0 : Math.Round(i.Price / rate, Math.Max(2, currency.Decimals), MidpointRounding.AwayFromZero);
            return new
            {
                id = i.Id,
                title = i.Name,
                detail = $"{i.Code}, {business.Format.Price(price, currency)} {currency.Code}",
                text = i.PaperText,
                unit = i.Unit,
                price = business.Format.TypedPrice(price, currency),
                taxCodeId = i.TaxCodeId,
                accountId = i.LedgerAccountId,
            };
        });
    }

    private static async Task<object> AddCustomerAsync(NewCustomer typed, CustomersDesk desk, BooksContext db, BooksHead head, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var id = await desk.SaveAsync(null, 0, new CustomerDetails
        {
            Name = typed.Name ?? "",
            Email = typed.Email ?? "",
            TaxNumber = typed.TaxNumber ?? "",
            Kind = string.IsNullOrWhiteSpace(typed.TaxNumber) ? CustomerKind.Consumer : CustomerKind.Business,
            Address = new Address(typed.Street ?? "", typed.PostalCode ?? "", typed.City ?? "", string.IsNullOrEmpty(typed.Country) ? business.Address.Country : typed.Country),
            Currency = string.IsNullOrEmpty(typed.Currency) ? business.HomeCurrency.Code : typed.Currency,
            TermsId = business.DefaultTermsId,
        }, typed.FormKey, stop);
        return await db.Customers.Where(c => c.Id == id).Select(c => new { id = c.Id, title = c.Name, detail = c.Code, currency = c.Currency.Code, termsId = c.TermsId }).SingleAsync(stop);
    }

    private static async Task<object> AddItemAsync(NewItem typed, ItemsDesk desk, BooksContext db, BooksHead head, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var price = string.IsNullOrWhiteSpace(typed.Price) ? 0 : business.Format.Read(typed.Price, Limits.FigureDecimals, "price");
        var id = await desk.SaveAsync(null, 0, new ItemDetails
        {
            Code = typed.Code ?? "",
            Name = typed.Name ?? "",
            Unit = string.IsNullOrEmpty(typed.Unit) ? "C62" : typed.Unit,
            Price = price,
            TaxCodeId = typed.TaxCodeId,
            LedgerAccountId = typed.AccountId,
        }, typed.FormKey, stop);
        var item = await db.Items.AsNoTracking().SingleAsync(i => i.Id == id, stop);
        return new { id, title = item.Name, detail = item.Code, text = item.PaperText, unit = item.Unit, price = business.Format.TypedPrice(item.Price, business.HomeCurrency), taxCodeId = item.TaxCodeId, accountId = item.LedgerAccountId };
    }

    private static string Pattern(string? text) =>
        $"%{(text ?? "").Trim().Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%";
}
