using System.Text.Json;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>The editor of all documents. What is typed goes to the server as JSON; figures come back.</summary>
[Needs(Right.Draft)]
public sealed class EditModel(BooksContext db, Shelf shelf, Numbers numbers, CustomerChange change, Wordings wordings)
    : DeskPage
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public int? Id { get; private set; }

    public DocumentKind Kind { get; private set; }

    public KindPolicy Policy => KindPolicy.Of(Kind);

    public string Heading { get; private set; } = "";

    /// <summary>A paper that has its number already and is being put right.</summary>
    public bool IsCorrection { get; private set; }

    /// <summary>An order that stays issued while it is changed.</summary>
    public bool IsChange { get; private set; }

    /// <summary>Safe within a script element: the serializer escapes angle brackets and ampersands.</summary>
    public string DraftJson { get; private set; } = "";

    public IReadOnlyList<TaxCode> TaxCodes { get; private set; } = [];

    public IReadOnlyList<(int Value, string Text)> TermsChoices { get; private set; } = [];

    public IReadOnlyList<(int Value, string Text)> SeriesChoices { get; private set; } = [];

    public IReadOnlyList<(int Value, string Text)> SellerChoices { get; private set; } = [];

    /// <summary>Whether anything is billed in other currencies here.</summary>
    public bool HasRates { get; private set; }

    public IReadOnlyList<(string Code, string Name)> LanguageChoices { get; private set; } = [];

    public IReadOnlyList<(int Value, string Text)> StarterChoices { get; private set; } = [];

    public IReadOnlyList<(int Id, string Name, bool GoesAlong)> Files { get; private set; } = [];

    public int OnShelf { get; private set; }

    /// <summary>The reasons for notes that the business keeps.</summary>
    public IReadOnlyList<string> Reasons { get; private set; } = [];

    public IEnumerable<(string Value, string Text)> UnitChoices => Choices.Units;

    public IEnumerable<(string Value, string Text)> CountryChoices => Choices.Countries;

    public IEnumerable<(string Value, string Text)> CurrencyChoices => Currency.All.Select(c => (c.Code, c.Code));

    public async Task<IActionResult> OnGetAsync(int? id, string? kind, int? customer, int? starter, int? kept)
    {
        var taken = kept is { } entryId ? await shelf.FindAsync(entryId) : null;
        if (taken?.DocumentId is { } takenId && id is null)
            return Redirect($"/sell/edit/{takenId}?kept={kept}");
        var document = id is null
            ? null
            : await db
                .Documents.AsNoTracking()
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Customer)
                .SingleOrDefaultAsync(d => d.Id == id);
        if (id is not null && document is null)
            return NotFound();
        if (document is { IsDraft: false, CanBeChanged: false })
            return Redirect($"/papers/{id}");
        Id = id;
        Kind = document?.Kind ?? taken?.Kind ?? KindWords.Of(kind) ?? DocumentKind.Invoice;
        IsCorrection = document?.Number is not null;
        IsChange = document is { IsDraft: false };
        Heading = IsCorrection
            ? $"{Policy.Title} {document!.Number}"
            : $"{(id is null ? "New" : "Draft")} {Policy.Word}";
        await ChoicesAsync();
        var chosenId = document?.CustomerId ?? customer;
        var chosen = chosenId is null
            ? null
            : await db.Customers.AsNoTracking().Include(c => c.Places).SingleOrDefaultAsync(c => c.Id == chosenId);
        var from =
            document is null && starter is not null
                ? await db.Starters.AsNoTracking().SingleOrDefaultAsync(s => s.Id == starter)
                : null;
        var currency = document?.Currency ?? chosen?.Currency ?? from?.Currency ?? Business!.HomeCurrency;
        var (form, converted) = document is not null
            ? (DraftForm.Of(document, Format), "")
            : await NewAsync(customer, from, currency);
        // What was typed here before and never saved is offered, unless it is what one came for.
        var unsaved = taken is null ? await shelf.UnsavedAsync(Kind, id) : null;
        DraftJson = JsonSerializer.Serialize(
            new
            {
                form,
                customer = chosen?.Name ?? "",
                chosen = chosen is null ? null : (await LookupEndpoints.ShownAsync([chosen], db, Head, default))[0],
                seen = document
                    ?.Lines.Where(l => l.Role.HasFigures())
                    .Select(l => (l.TaxCodeId, l.Treatment))
                    .DistinctBy(t => t.TaxCodeId)
                    .ToDictionary(t => t.TaxCodeId, t => t.Treatment)
                    ?? [],
                currency = currency.Code,
                currencyNote = converted,
                home = Business!.HomeCurrency.Code,
                country = Business.Address.Country,
                taxCodeId = Business.DefaultTaxCodeId ?? 0,
                accountId = Business.DefaultLedgerAccountId ?? 0,
                fromStarter = from is not null,
                isChange = IsChange,
                taken = taken is null ? null : Typing(taken),
                unsaved = unsaved is null ? null : Typing(unsaved),
            },
            Json
        );
        return Page();
    }

    private object Typing(ShelfEntry entry) =>
        new
        {
            id = entry.Id,
            when = $"{Day(DateOnly.FromDateTime(entry.Since))}, {entry.Since:HH:mm}",
            customer = entry.Customer,
            typed = JsonDocument.Parse(entry.Form).RootElement,
        };

    /// <summary>A new document, begun from a starter or not; and what was converted, in words.</summary>
    private async Task<(DraftForm Form, string Converted)> NewAsync(int? customer, Starter? starter, Currency currency)
    {
        var note = await wordings.NoteAsync(Kind, customer);
        var form = new DraftForm
        {
            Kind = Policy.Word,
            Date = Day(Today),
            ValidUntil = Policy.HasValidity ? Day(Today.AddMonths(1)) : "",
            CustomerId = customer ?? 0,
            Currency = customer is null ? "" : currency.Code,
            PlaceId = -1,
            SellerId = 0,
            Note = note,
        };
        if (starter is null)
            return (form, "");
        var kept = starter.Currency ?? Business!.HomeCurrency;
        var (cells, said) = kept.Equals(currency)
            ? (starter.Content, "")
            : await change.ConvertAsync(starter.Content with { Date = Today }, kept, currency);
        return (
            form with
            {
                PricesIncludeTax = cells.PricesIncludeTax,
                Opening = cells.Particulars.Opening,
                DeliveryTerms = cells.Particulars.DeliveryTerms,
                Note = cells.Note.Length > 0 ? cells.Note : note,
                PrivateNote = cells.PrivateNote,
                Lines = DraftForm.CellsOf(cells, currency, Format),
                Charges = cells
                    .Charges.Select(c => new ChargeForm(
                        c.Text,
                        Format.Typed(c.Amount, currency),
                        c.TaxCodeId,
                        c.LedgerAccountId
                    ))
                    .ToList(),
            },
            said.Length == 0 ? "" : $"With this customer: {said}. Look the prices over."
        );
    }

    private async Task ChoicesAsync()
    {
        TaxCodes = await db
            .TaxCodes.AsNoTracking()
            .Where(c => !c.Retired || db.Set<DocumentLine>().Any(l => l.DocumentId == Id && l.TaxCodeId == c.Id))
            .OrderBy(c => c.Id)
            .ToListAsync();
        TermsChoices = (
            await db.Terms.Where(t => !t.Retired).OrderBy(t => t.Name).Select(t => new { t.Id, t.Name }).ToListAsync()
        ).ConvertAll(t => (t.Id, t.Name));
        var usedFor = Kind.ToString();
        if (Policy.NeedsReason)
            Reasons = await db
                .NoteReasons.Where(r => !r.Retired)
                .OrderBy(r => r.Text)
                .Select(r => r.Text)
                .ToListAsync();
        var choices = new List<(int, string)>();
        foreach (
            var series in await db
                .Series.AsNoTracking()
                .Where(s => s.UsedFor == usedFor && !s.Retired)
                .OrderByDescending(s => s.IsUsual)
                .ThenBy(s => s.Name)
                .ToListAsync()
        )
            choices.Add((series.Id, $"{series.Name}, next {(await numbers.NextAsync(series, Today)).Number}"));
        SeriesChoices = choices;
        LanguageChoices = await wordings.LanguagesAsync();
        var home = Business!.HomeCurrency;
        HasRates = await db.Customers.AnyAsync(c => c.Currency != home || c.AlsoIn != "");
        SellerChoices = (
            await db
                .Users.Where(u => u.Role != PersonRole.Reader)
                .OrderBy(u => u.FullName)
                .Select(u => new { u.Id, u.FullName })
                .ToListAsync()
        ).ConvertAll(u => (u.Id, u.FullName));
        var kind = Kind;
        StarterChoices = (
            await db
                .Starters.Where(s => !s.Retired && s.Kind == kind)
                .OrderBy(s => s.Name)
                .Select(s => new { s.Id, s.Name })
                .ToListAsync()
        ).ConvertAll(s => (s.Id, s.Name));
        Files = Id is null
            ? []
            : (
                await db
                    .DocumentFiles.Where(f => f.DocumentId == Id)
                    .OrderBy(f => f.Id)
                    .Select(f => new
                    {
                        f.Id,
                        f.Name,
                        f.GoesAlong,
                    })
                    .ToListAsync()
            ).ConvertAll(f => (f.Id, f.Name, f.GoesAlong));
        OnShelf = await db.Shelf.CountAsync(s => s.OnShelf);
    }
}
