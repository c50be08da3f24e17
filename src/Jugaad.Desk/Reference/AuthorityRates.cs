using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>
/// The rates at which authorities want tax in other currencies: those of the tax date, and for what corrects a document
/// those of that document.
/// </summary>
public sealed class AuthorityRates(BooksContext db, BooksHead head)
{
    /// <summary>Has the taxes of a draft told at the rates of their authorities, as far as there are some.</summary>
    /// <param name="correctsId">The document that it is made from.</param>
    /// <returns>What is missing, in words.</returns>
    internal async Task<IReadOnlyList<Phrase>> PutAsync(Document document, int? correctsId, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (!document.IsDraft || !document.Policy.Posts || document.Currency.Equals(home))
            return [];
        var authorities = await db.TaxAuthorities.AsNoTracking().ToListAsync(stop);
        if (!authorities.Exists(a => a.HasOwnRates))
            return [];
        var ofComponent = await db
            .TaxComponents.Where(c => c.Authority != null)
            .ToDictionaryAsync(c => c.Id, c => c.Authority!.Id, stop);
        var corrected =
            document.Kind is DocumentKind.CreditNote or DocumentKind.DebitNote && correctsId is { } id
                ? await db.Documents.AsNoTracking().Include(d => d.Taxes).SingleOrDefaultAsync(d => d.Id == id, stop)
                : null;
        var day = corrected?.TaxDate ?? corrected?.Date ?? document.TaxDate ?? document.Date;
        var missing = new List<Phrase>();
        var rates = new Dictionary<int, QuotedRate?>();
        foreach (
            var authority in document
                .Taxes.Select(t => AuthorityOf(t.ComponentId))
                .OfType<TaxAuthority>()
                .Where(a => a.HasOwnRates)
                .DistinctBy(a => a.Id)
        )
        {
            var last = await LastAsync(authority.Id, document.Currency, day, stop);
            var holds =
                last is not null && !(authority.OwnRateDays is { } most && day.DayNumber - last.From.DayNumber > most);
            rates[authority.Id] = holds ? last!.Rate : null;
        }

        document.TellAt(tax =>
        {
            if (corrected?.Taxes.FirstOrDefault(t => t.ComponentId == tax.ComponentId) is { } billed)
                return billed.ToldRate;
            if (AuthorityOf(tax.ComponentId) is not { HasOwnRates: true } authority)
                return null;
            if (rates[authority.Id] is null)
                missing.Add(
                    $"{authority.Name} wants tax at its own rate, and there is none for {document.Currency} on {day:yyyy-MM-dd}{(authority.OwnRateDays is { } most ? (Phrase)$" that is no older than {most} days" : "")}. Enter it under Setup, Taxes, with the authority."
                );
            return rates[authority.Id];
        });
        return [.. missing.DistinctBy(m => m.ToString())];

        TaxAuthority? AuthorityOf(int? component) =>
            component is { } c && ofComponent.TryGetValue(c, out var own)
                ? authorities.Find(a => a.Id == own)
                : authorities.Where(a => a.IsRegisteredOn(document.TaxDate ?? document.Date)).MinBy(a => a.Id);
    }

    /// <summary>The last rate of an authority up to a day, however old.</summary>
    public Task<AuthorityRate?> LastAsync(
        int authority,
        Currency currency,
        DateOnly day,
        CancellationToken stop = default
    ) =>
        db
            .AuthorityRates.AsNoTracking()
            .Where(r => r.AuthorityId == authority && r.Currency == currency && r.From <= day)
            .OrderByDescending(r => r.From)
            .FirstOrDefaultAsync(stop);
}
