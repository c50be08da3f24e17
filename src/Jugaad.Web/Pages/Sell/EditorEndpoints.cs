using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Jugaad.Web.Shell;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>An editor whose customer is about to change.</summary>
/// <param name="Before">The customer that it had.</param>
/// <param name="Currency">The currency that its cells were typed in.</param>
/// <param name="KeepsPrices">Whether it was begun from a starter, whose special prices stay.</param>
internal sealed record CustomerForm(DraftForm Form, int? Before, string? Currency, bool KeepsPrices) : ICheckedForm
{
    string? ICheckedForm.Missing() => Form is null ? "form" : ((ICheckedForm)Form).Missing();
}

/// <summary>An editor whose paper is to be written in another language.</summary>
/// <param name="Before">The language that its texts are in; empty for those of the items themselves.</param>
internal sealed record LanguageForm(DraftForm Form, string? Before, string? Language) : ICheckedForm
{
    string? ICheckedForm.Missing() => Form is null ? "form" : ((ICheckedForm)Form).Missing();
}

/// <summary>Rows that were pasted from a spreadsheet.</summary>
internal sealed record PastedForm(
    string? Text,
    int CustomerId,
    string? Date,
    int? PlaceId,
    bool PricesIncludeTax,
    string? Language,
    string? Currency
);

/// <summary>An editor as it stands, to be kept aside.</summary>
internal sealed record KeptForm(
    JsonElement Form,
    string? Kind,
    int? DocumentId,
    string? Customer,
    string? Total,
    string? FormKey
) : ICheckedForm
{
    string? ICheckedForm.Missing() => Form.ValueKind == JsonValueKind.Object ? null : "form";
}

/// <summary>Something that was kept aside.</summary>
internal sealed record EntryForm(int Id);

/// <summary>
/// What the editor asks for besides figures: another customer, deliveries, pasted rows, and keeping what is typed.
/// </summary>
internal static class EditorEndpoints
{
    private const int MostPasted = 500;

    internal static void MapEditor(this RouteGroupBuilder api)
    {
        api.MapPost("/drafts/customer", ChangeCustomerAsync).Needs(Right.Draft);
        api.MapPost("/drafts/language", ChangeLanguageAsync).Needs(Right.Draft);
        api.MapPost("/drafts/price-mode", SwitchAsync).Needs(Right.Draft);
        api.MapGet("/drafts/deliveries", DeliveriesAsync).Needs(Right.Draft);
        api.MapPost("/drafts/paste", PasteAsync).Needs(Right.Draft);
        api.MapPost(
                "/shelf",
                async (KeptForm kept, Shelf shelf, CancellationToken stop) =>
                    new { id = await shelf.PutAsync(TypedOf(kept), new Once(kept.FormKey, stop)) }
            )
            .Needs(Right.Draft);
        api.MapPost(
                "/shelf/keep",
                async (KeptForm kept, Shelf shelf, CancellationToken stop) =>
                    new { id = await shelf.KeepAsync(TypedOf(kept), stop) }
            )
            .Needs(Right.Draft);
        api.MapPost(
                "/shelf/forget",
                async (EntryForm entry, Shelf shelf, CancellationToken stop) =>
                    new { id = await shelf.ForgetAsync(entry.Id, stop) }
            )
            .Needs(Right.Draft);
        api.MapPost(
                "/shelf/reopen-newest",
                async (Shelf shelf, CancellationToken stop) =>
                    new
                    {
                        id = (await shelf.ListAsync(stop)) is [var newest, ..]
                            ? await shelf.ReopenAsync(newest.Id, stop)
                            : 0,
                    }
            )
            .Needs(Right.Draft);
    }

    private static TypedEditor TypedOf(KeptForm kept) =>
        new(
            KindWords.Of(kept.Kind) ?? throw new RefusalException("", "This kind of document has no editor."),
            kept.DocumentId is > 0 ? kept.DocumentId : null,
            kept.Form.GetRawText(),
            kept.Customer ?? "",
            kept.Total ?? ""
        );

    /// <summary>
    /// The lines at the new customer's prices, and what that changed; a cell that cannot be read yet leaves all as it
    /// is.
    /// </summary>
    private static async Task<object> ChangeCustomerAsync(
        CustomerForm changed,
        CustomerChange change,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var (home, form) = (business.HomeCurrency, changed.Form);
        var currency = await db.BilledInAsync(form.CustomerId, form.Currency, home, stop);
        var typedIn = Currency.TryOf(changed.Currency ?? "", out var known)
            ? known!
            : await db.BilledInAsync(changed.Before, null, home, stop);
        try
        {
            var (content, said) = await change.ApplyAsync(
                changed.Form.Read(business.Format, typedIn, await head.TodayAsync(stop)),
                changed.Before,
                typedIn,
                changed.KeepsPrices,
                stop
            );
            return Cells(content, currency, business, said);
        }
        catch (RefusalException)
        {
            return new
            {
                lines = changed.Form.Lines,
                changed.Form.Charges,
                changed.Form.Discount,
                currency = typedIn.Code,
                said = Array.Empty<string>(),
            };
        }
    }

    /// <summary>The cells with tax in their prices, or without, as the form says that they are to be.</summary>
    private static async Task<object> SwitchAsync(
        DraftForm form,
        Pricing pricing,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var currency = await db.BilledInAsync(form.CustomerId, form.Currency, business.HomeCurrency, stop);
        var content = form.Read(business.Format, currency, await head.TodayAsync(stop)) with
        {
            PricesIncludeTax = !form.PricesIncludeTax,
        };
        return Cells(await pricing.SwitchAsync(content, form.PricesIncludeTax, stop), currency, business, []);
    }

    private static object Cells(
        DraftContent content,
        Currency currency,
        Business business,
        IReadOnlyList<string> said
    ) =>
        new
        {
            lines = DraftForm.CellsOf(content, currency, business.Format),
            charges = content.Charges.Select(c => new ChargeForm(
                c.Text,
                business.Format.Typed(c.Amount, currency),
                c.TaxCodeId,
                c.LedgerAccountId,
                c.FromChargeId,
                c.KeptId
            )),
            currency = currency.Code,
            discount = content.WantedTotal is { } wanted
                ? $"to {business.Format.Typed(wanted, currency)}"
                : DraftForm.DiscountCell(content.DiscountPercent, content.DiscountAmount, currency, business.Format),
            said,
        };

    /// <summary>
    /// What was delivered to a customer and is not billed: how much, and the lines that would bill it.
    /// </summary>
    private static async Task<object> DeliveriesAsync(
        int customer,
        string? currency,
        Deliveries deliveries,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var format = business.Format;
        var billed = await db.BilledInAsync(customer, currency, business.HomeCurrency, stop);
        var open = (await deliveries.ToBillAsync(new DeliveryFilter(customer), stop))
            .Where(d => d.Drafted is null && d.Currency.Equals(billed))
            .ToList();
        if (open.Count == 0)
            return new { count = 0 };
        var ids = open.ConvertAll(d => d.Id);
        var notes = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Where(d => ids.Contains(d.Id))
            .OrderBy(d => d.Date)
            .ThenBy(d => d.Id)
            .ToListAsync(stop);
        var (lines, charges) = await deliveries.LinesAsync(notes, stop);
        return new
        {
            count = open.Count,
            net = format.WithCode(open.Sum(d => d.Net), open[0].Currency),
            withTax = notes[0].PricesIncludeTax,
            lines = DraftForm.CellsOf(new DraftContent { Lines = lines }, open[0].Currency, format),
            charges = charges.Select(c => new ChargeForm(
                c.Text,
                format.Typed(c.Amount, open[0].Currency),
                c.TaxCodeId,
                c.LedgerAccountId,
                c.FromChargeId
            )),
        };
    }

    /// <summary>
    /// Rows of a spreadsheet, tab between cells: what (or an item's code or barcode), quantity, unit, price, discount.
    /// Items that are known bring what is left out.
    /// </summary>
    private static async Task<object> PasteAsync(
        PastedForm pasted,
        Wordings wordings,
        Pricing pricing,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var rows = PastedRows.Of(pasted.Text ?? "");
        if (rows.Count > MostPasted)
            throw new RefusalException(
                "lines",
                $"{rows.Count} rows are more than can be pasted at once. Paste at most {MostPasted}."
            );
        var firsts = rows.ConvertAll(r => r[0]);
        var items = await db.Items.AsNoTracking().Where(i => !i.Inactive && firsts.Contains(i.Code)).ToListAsync(stop);
        foreach (var code in firsts.Where(f => f.Length >= 6 && f.All(char.IsAsciiLetterOrDigit)).Distinct())
        {
            var pattern = SearchText.Entry(code);
            items.AddRange(
                await db
                    .Items.AsNoTracking()
                    .Where(i => !i.Inactive && EF.Functions.Like(i.Barcode, pattern, "\\"))
                    .ToListAsync(stop)
            );
        }

        var today = await head.TodayAsync(stop);
        var day = business.Format.FindDay(pasted.Date, today) ?? today;
        var offers = await pricing.OffersAsync(
            items.DistinctBy(i => i.Id).ToList(),
            new PriceQuestion(
                pasted.CustomerId > 0 ? pasted.CustomerId : null,
                pasted.PlaceId is >= 0 ? pasted.PlaceId : null,
                day,
                pasted.PricesIncludeTax
            )
            {
                Currency = pasted.Currency ?? "",
            },
            stop
        );
        var texts = await wordings.ItemsAsync(items.ConvertAll(i => i.Id), pasted.Language ?? "", stop);
        return new { lines = rows.ConvertAll(r => CellsOf(r, offers, texts, business)) };
    }

    private static async Task<object> ChangeLanguageAsync(
        LanguageForm changed,
        Wordings wordings,
        CancellationToken stop
    )
    {
        var (texts, note) = await wordings.RewordAsync(
            KindWords.Of(changed.Form.Kind) ?? DocumentKind.Invoice,
            [.. changed.Form.Lines.Select(l => (l.ItemId, l.Text ?? ""))],
            changed.Form.Note ?? "",
            changed.Before ?? "",
            changed.Language ?? "",
            stop
        );
        return new { texts, note };
    }

    private static LineForm CellsOf(
        string[] row,
        IReadOnlyList<Offer> offers,
        IReadOnlyDictionary<int, string> texts,
        Business business
    )
    {
        string Cell(int i) => i < row.Length ? row[i] : "";
        var offer =
            offers.FirstOrDefault(o => o.Item.Code == row[0])
            ?? offers.FirstOrDefault(o => Barcodes.Split(o.Item.Barcode).Contains(row[0]));
        var unit = Units
            .All.FirstOrDefault(u =>
                u.Code.Equals(Cell(2), StringComparison.OrdinalIgnoreCase)
                || u.Name.Equals(Cell(2), StringComparison.OrdinalIgnoreCase)
                || (u.Short.Length > 0 && u.Short.Equals(Cell(2), StringComparison.OrdinalIgnoreCase))
            )
            .Code;
        var price =
            Cell(3).Length > 0 ? Cell(3)
            : offer is null ? ""
            : business.Format.TypedPrice(offer.Price, offer.Currency);
        var discount =
            Cell(4).Length > 0 ? Cell(4)
            : offer?.Discount is { } percent ? business.Format.Typed(percent) + "%"
            : "";
        return new LineForm(
            offer?.Item.Id,
            offer is null ? row[0] : texts.GetValueOrDefault(offer.Item.Id) ?? offer.Item.PaperText,
            Cell(1).Length > 0 ? Cell(1) : "1",
            unit ?? offer?.Item.Unit ?? "C62",
            price,
            discount,
            offer?.TaxCodeId ?? business.DefaultTaxCodeId ?? 0,
            offer?.Item.LedgerAccountId ?? business.DefaultLedgerAccountId ?? 0,
            null
        )
        {
            Role = "item",
        };
    }
}
