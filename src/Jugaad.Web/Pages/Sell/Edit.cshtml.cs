using System.Text.Json;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Web.Endpoints;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>The editor of quotes and invoices. What is typed goes to the server as JSON; figures come back.</summary>
[Needs(Right.Draft)]
public sealed class EditModel(BooksContext db) : DeskPage
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public int? Id { get; private set; }

    public DocumentKind Kind { get; private set; }

    public string Heading { get; private set; } = "";

    /// <summary>Safe within a script element: the serializer escapes angle brackets and ampersands.</summary>
    public string DraftJson { get; private set; } = "";

    public IReadOnlyList<TaxCode> TaxCodes { get; private set; } = [];

    public IReadOnlyList<(int Value, string Text)> TermsChoices { get; private set; } = [];

    public IReadOnlyList<(int Value, string Text)> SeriesChoices { get; private set; } = [];

    public IEnumerable<(string Value, string Text)> UnitChoices => Choices.Units;

    public IEnumerable<(string Value, string Text)> CountryChoices => Choices.Countries;

    public IEnumerable<(string Value, string Text)> CurrencyChoices => Core.Amounts.Currency.All.Select(c => (c.Code, c.Code));

    public async Task<IActionResult> OnGetAsync(int? id, string? kind, int? customer)
    {
        await ReadHeadAsync();
        var document = id is null ? null : await db.Documents.AsNoTracking().Include(d => d.Lines).Include(d => d.Charges).Include(d => d.Customer).SingleOrDefaultAsync(d => d.Id == id);
        if (id is not null && document is null) return NotFound();
        if (document is { IsDraft: false }) return Redirect($"/papers/{id}");
        Id = id;
        Kind = document?.Kind ?? KindWords.Of(kind) ?? DocumentKind.Invoice;
        Heading = $"{(id is null ? "New" : "Draft")} {KindPolicy.Of(Kind).Word}";
        TaxCodes = await db.TaxCodes.AsNoTracking().Where(c => !c.Retired || db.Set<DocumentLine>().Any(l => l.DocumentId == id && l.TaxCodeId == c.Id)).OrderBy(c => c.Id).ToListAsync();
        TermsChoices = (await db.Terms.Where(t => !t.Retired).OrderBy(t => t.Name).Select(t => new { t.Id, t.Name }).ToListAsync()).ConvertAll(t => (t.Id, t.Name));

        var usedFor = Kind.ToString();
        SeriesChoices = (await db.Series.AsNoTracking().Where(s => s.UsedFor == usedFor && !s.Retired).OrderByDescending(s => s.IsUsual).ThenBy(s => s.Name).ToListAsync()).ConvertAll(s => (s.Id, $"{s.Name}, next {s.Peek(Today).Number}"));
        var note = await db.KindTexts.Where(t => t.Kind == Kind).Select(t => t.Note).SingleOrDefaultAsync() ?? "";
        var form = document is not null ? DraftForm.Of(document, Format)
            : new DraftForm { Kind = KindPolicy.Of(Kind).Word, Date = Iso(Today), ValidUntil = Kind == DocumentKind.Quote ? Iso(Today.AddMonths(1)) : "", CustomerId = customer ?? 0, PlaceId = -1, Note = note };
        var chosenId = document?.CustomerId ?? customer;
        var chosen = chosenId is null ? null : await db.Customers.AsNoTracking().Include(c => c.Places).SingleOrDefaultAsync(c => c.Id == chosenId);
        DraftJson = JsonSerializer.Serialize(new
        {
            form,
            customer = chosen?.Name ?? "",
            chosen = chosen is null ? null : (await LookupEndpoints.ShownAsync([chosen], db, Head, default))[0],
            seen = document?.Lines.Select(l => (l.TaxCodeId, l.Treatment)).Distinct().ToDictionary(t => t.TaxCodeId, t => t.Treatment) ?? [],
            currency = (chosen?.Currency ?? Business!.HomeCurrency).Code,
            home = Business!.HomeCurrency.Code,
            country = Business.Address.Country,
            taxCodeId = Business.DefaultTaxCodeId ?? 0,
            accountId = Business.DefaultLedgerAccountId ?? 0,
            isQuote = Kind == DocumentKind.Quote,
        }, Json);
        return Page();
    }

    private static string Iso(DateOnly day) => day.ToString("yyyy-MM-dd");
}
