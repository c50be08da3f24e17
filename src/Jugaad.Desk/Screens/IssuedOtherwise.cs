using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>An invoice that was issued with other taxes than are set up for its day now.</summary>
/// <param name="Was">How it was taxed, such as <c>STD no tax</c>.</param>
/// <param name="Now">How it would be.</param>
public sealed record TaxedOtherwise(
    int Id,
    string Title,
    string Customer,
    DateOnly TaxDate,
    Currency Currency,
    long Payable,
    Phrase Was,
    Phrase Now
);

/// <summary>
/// The issued invoices that became wrong as a rate was entered for a day gone by, or a registration was put back to
/// one. They stay as they are; a person credits them and bills anew, or leaves them. What follows another document's
/// tax, such as a correction or a deposit that is taken off, is not looked at.
/// </summary>
public sealed class IssuedOtherwise(BooksContext db)
{
    private const int Most = 300;

    /// <summary>Those with a code that has a tax of this kind, from a day on.</summary>
    /// <returns>The invoices by date, and whether there are more than are listed.</returns>
    public async Task<(IReadOnlyList<TaxedOtherwise> Found, bool More)> OfAsync(
        Func<TaxComponent, bool> tax,
        DateOnly from,
        CancellationToken stop = default
    )
    {
        var codes = (await db.TaxCodes.AsNoTracking().ToListAsync(stop))
            .Where(c => c.Parts.Any(p => tax(p.Component)))
            .ToDictionary(c => c.Id);
        var standing = TaxStanding.With(await db.TaxAuthorities.AsNoTracking().ToListAsync(stop));
        var found = new List<TaxedOtherwise>();
        var documents = db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Include(d => d.Customer)
            .Where(d =>
                d.Kind == DocumentKind.Invoice
                && d.Number != null
                && d.State != DocumentState.Cancelled
                && (d.TaxDate ?? d.Date) >= from
            )
            .OrderBy(d => d.TaxDate ?? d.Date)
            .ThenBy(d => d.Id)
            .AsSplitQuery()
            .AsAsyncEnumerable();
        await foreach (var document in documents.WithCancellation(stop))
        {
            if (Otherwise(document, codes, standing) is not { } row)
                continue;
            if (found.Count == Most)
                return (found, true);
            found.Add(row);
        }

        return (found, false);
    }

    private static TaxedOtherwise? Otherwise(Document document, Dictionary<int, TaxCode> codes, TaxStanding standing)
    {
        var day = document.TaxDate ?? document.Date;
        var taxed = document
            .Lines.Where(l => l.Counts && l.Role is LineRole.Item or LineRole.Stage)
            .OrderBy(l => l.Position)
            .Select(l => (l.TaxCodeId, l.Treatment))
            .Concat(document.Charges.OrderBy(c => c.Position).Select(c => (c.TaxCodeId, c.Treatment)));
        foreach (var (codeId, text) in taxed)
        {
            if (!codes.TryGetValue(codeId, out var code))
                continue;
            var (was, now) = (Treatment.Parse(text).Rates, RatesOn(code, day, standing));
            if (!was.Equals(now))
                return new TaxedOtherwise(
                    document.Id,
                    document.Title,
                    document.Customer!.Name,
                    day,
                    document.Currency,
                    document.Payable,
                    $"{code.Code} {was}",
                    $"{code.Code} {now}"
                );
        }

        return null;
    }

    private static Phrase RatesOn(TaxCode code, DateOnly day, TaxStanding standing)
    {
        try
        {
            return code.TreatmentOn(day, "", standing).Rates;
        }
        catch (RefusalException)
        {
            return "no rate";
        }
    }
}
