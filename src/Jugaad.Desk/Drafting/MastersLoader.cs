using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Drafting;

/// <summary>Reads the masters that a draft's content points to.</summary>
public sealed class MastersLoader(BooksContext db, BooksHead head, Wholes wholes, Wordings wordings, RateBook rates)
{
    /// <exception cref="RefusalException">When the customer, the terms or an item is not there.</exception>
    /// <param name="documentId">The draft that has the content; null where it is not kept yet.</param>
    public async Task<DraftMasters> ForAsync(
        DraftContent content,
        int? documentId = null,
        CancellationToken stop = default
    )
    {
        var business = await head.BusinessAsync(stop);
        var refusals = new Refusals();
        var customer = await db
            .Customers.Include(c => c.Terms)
            .Include(c => c.Places)
            .Include(c => c.Certificates)
            .SingleOrDefaultAsync(c => c.Id == content.CustomerId, stop);
        if (customer is null)
            refusals.Add("customer", "Choose a customer, or make a new one.");
        var termsId = content.TermsId ?? customer?.TermsId ?? business.DefaultTermsId;
        var terms = termsId is null ? null : await db.Terms.FindAsync([termsId], stop);
        if (terms is null && content.TermsId is not null)
            refusals.Add("terms", "These terms are not there any more. Choose others.");
        if (customer is not null && content.PlaceId is > 0 and var place && !customer.Places.Any(p => p.Id == place))
            refusals.Add("placeId", $"This place is not one of {customer.Name}'s. Choose another.");
        if (content.Particulars.Language is { Length: > 0 } language && !await wordings.KnowsAsync(language, stop))
            refusals.Add("language", "Choose a language from the list.");
        if (content.SeriesId is { } series && !await db.Series.AnyAsync(s => s.Id == series && !s.Retired, stop))
            refusals.Add("seriesId", "This number series is not offered any more. Choose another.");
        var itemIds = content.Lines.Select(l => l.ItemId).OfType<int>().Distinct().ToList();
        var known = (await db.Items.Where(i => itemIds.Contains(i.Id)).Select(i => i.Id).ToListAsync(stop)).ToHashSet();
        var accounts = (await db.LedgerAccounts.Select(a => a.Id).ToListAsync(stop)).ToHashSet();
        for (var i = 0; i < content.Lines.Count; i++)
        {
            if (content.Lines[i].ItemId is { } id && !known.Contains(id))
                refusals.Add(
                    $"lines[{i}].text",
                    "This item is not there. Choose another, or type the line as free text."
                );
            if (!content.Lines[i].Role.HasFigures())
                continue;
            if (content.Lines[i].LedgerAccountId != 0 && !accounts.Contains(content.Lines[i].LedgerAccountId))
                refusals.Add($"lines[{i}].account", "This account is not there. Choose another.");
        }

        refusals.ThrowIfAny();
        var codes = await db.TaxCodes.ToDictionaryAsync(c => c.Id, stop);
        var standing = TaxStanding.With(await db.TaxAuthorities.ToListAsync(stop));
        var parts = await wholes.OfAsync(content, documentId, stop);
        var writtenIn = content.Particulars.Language is { Length: > 0 } asked ? asked : customer!.Language;
        return new DraftMasters(
            customer!,
            terms,
            codes,
            business.TaxRounding,
            standing,
            TaxRulesDesk.PlaceOf(content.PlaceId, customer!, business)
        )
        {
            Today = await head.TodayAsync(stop),
            TaxReasons = await wordings.TaxReasonsAsync(codes.Keys, writtenIn, stop),
            Origins = parts.Lines,
            ChargeOrigins = parts.Charges,
            EarlierParts = parts.Earlier,
            SharedLines = parts.Shared,
            SharedDocuments = parts.Documents,
        };
    }

    /// <summary>The rate of a day for documents; 1 for the home currency itself.</summary>
    /// <exception cref="RefusalException">When there is no rate for the currency on that day.</exception>
    public Task<QuotedRate> RateAsync(Currency currency, DateOnly day, CancellationToken stop = default) =>
        rates.OfAsync(currency, day, RateUse.Documents, stop);

    /// <summary>
    /// The rate of a document: that of what it corrects for a credit or debit note, so that nothing is left over
    /// between the two; else that of its day.
    /// </summary>
    /// <param name="correctsId">The document that it was made from; null for none.</param>
    /// <remarks>A typed rate comes before the list's, and so does one that a quote holds until a day.</remarks>
    /// <inheritdoc cref="RateAsync"/>
    public async Task<QuotedRate> RateForAsync(
        DocumentKind kind,
        int? correctsId,
        Currency currency,
        DraftContent content,
        CancellationToken stop = default
    )
    {
        if (currency.Equals((await head.BusinessAsync(stop)).HomeCurrency))
            return QuotedRate.One;
        var said = content.Particulars;
        if (kind is not (DocumentKind.CreditNote or DocumentKind.DebitNote) && said.TypedRate is { } typed)
            return typed;
        if (correctsId is not { } id)
            return await RateAsync(currency, content.Date, stop);
        var isNote = kind is DocumentKind.CreditNote or DocumentKind.DebitNote;
        var isHeld = said.RateHeldUntil is { } until && content.Date <= until;
        return
            (isNote || isHeld)
            && await db
                .Documents.Where(d => d.Id == id && d.Currency == currency)
                .Select(d => (QuotedRate?)d.ExchangeRate)
                .SingleOrDefaultAsync(stop)
                is { } rate
            ? rate
            : await RateAsync(currency, content.Date, stop);
    }
}
