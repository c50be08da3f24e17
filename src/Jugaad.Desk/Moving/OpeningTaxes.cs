using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// The tax in what is taken over: only where it is still to be told, which is where its authority is told by payment. To
/// whoever is told by invoice the books before have told it.
/// </summary>
internal sealed class OpeningTaxes
{
    private readonly Business _business;
    private readonly DateOnly _today;
    private readonly Dictionary<string, TaxCode> _codes;
    private readonly Dictionary<int, TaxAuthority> _authorities;

    private OpeningTaxes(Business business, DateOnly today, List<TaxCode> codes, List<TaxAuthority> authorities)
    {
        (_business, _today) = (business, today);
        _codes = codes.ToDictionary(c => c.Code, StringComparer.OrdinalIgnoreCase);
        _authorities = authorities.ToDictionary(a => a.Id);
    }

    /// <summary>The account on which tax is posted before it finds its own.</summary>
    internal int Usual { get; private init; }

    internal static async Task<OpeningTaxes> ReadAsync(
        BooksContext db,
        Business business,
        DateOnly today,
        CancellationToken stop
    ) =>
        new(
            business,
            today,
            await db.TaxCodes.AsNoTracking().ToListAsync(stop),
            await db.TaxAuthorities.AsNoTracking().ToListAsync(stop)
        )
        {
            Usual = await db
                .LedgerAccounts.Where(a => a.Role == AccountRole.TaxOwed)
                .OrderBy(a => a.Id)
                .Select(a => a.Id)
                .FirstOrDefaultAsync(stop),
        };

    /// <summary>The code of a row; null where it names none.</summary>
    internal TaxCode? CodeOf(RowCells row)
    {
        var letters = row.Text("tax code");
        if (letters.Length == 0)
            return null;
        if (!_codes.TryGetValue(letters, out var code))
            row.Refused.Add("tax code", $"There is no tax code “{letters}”. Correct the cell, or leave it empty.");
        return code;
    }

    internal IReadOnlyList<TaxFigure> Of(AccountItem item, TaxCode? code, Address customer)
    {
        if (code is null)
            return [];
        var place = new TaxCase(Supply.Services, Buyer.Anybody, customer, _business.Address).Place;
        var at = place is Place.Union or Place.Abroad ? place : Place.Home;
        var treatment = code.TreatmentOn(item.Date, "tax code", TaxStanding.With(_authorities.Values));
        return TaxFigures.Of(
            item,
            _business.HomeCurrency,
            treatment,
            at,
            part => ToTell(code, part, item.Date, treatment.Category, at)
        );
    }

    /// <summary>The code that gives exactly the figures that an item has; null where none does, or it has none.</summary>
    internal TaxCode? CodeBehind(AccountItem item, IReadOnlyCollection<TaxFigure> figures, Address customer) =>
        figures.Count == 0
            ? null
            : _codes.Values.OrderBy(c => c.Id).FirstOrDefault(c => Gives(c, item, figures, customer));

    private bool Gives(TaxCode code, AccountItem item, IReadOnlyCollection<TaxFigure> figures, Address customer)
    {
        static List<(int, TaxKey, long, long)> Told(IEnumerable<TaxFigure> of) =>
            [.. of.OrderBy(f => f.Position).Select(f => (f.AuthorityId, f.Key, f.Taxable, f.Tax))];
        try
        {
            return Told(Of(item, code, customer)).SequenceEqual(Told(figures));
        }
        catch (RefusalException)
        {
            // It has no rate on that day, so it was not this one.
            return false;
        }
    }

    private int? ToTell(TaxCode code, TreatmentPart? part, DateOnly date, TaxCategory category, Place place)
    {
        var own = code.Parts.Select(p => p.Component).FirstOrDefault(c => c.Id == part?.ComponentId)?.Authority?.Id;
        var whose = own ?? _authorities.Values.Where(a => a.IsRegisteredOn(date)).Min(a => (int?)a.Id);
        if (whose is not { } id)
            return null;
        var rule = CountingRule.Of(_authorities[id]);
        // What counted by its age while the books were kept elsewhere was told there.
        return rule.IsByPayment(date, category, place) && !(rule.EndOf(date) <= _today) ? id : null;
    }

    /// <summary>The entry with its taxes on the accounts of their authorities.</summary>
    internal JournalEntry Placed(JournalEntry entry, AccountItem item, IReadOnlyList<TaxFigure> taxes)
    {
        foreach (var tax in taxes)
            entry.Put(Usual, TaxPlacing.AccountAtFirst(tax, item.Amount, _authorities[tax.AuthorityId]), tax.Tax);
        return entry;
    }
}
