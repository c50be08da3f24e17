using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// Keeps, with everything that is posted, what it tells which authority; frozen with it, whatever becomes of taxes,
/// items and customers.
/// </summary>
public sealed class TaxTelling(BooksContext db)
{
    private sealed record Knows(
        Business Business,
        IReadOnlyDictionary<int, TaxAuthority> Authorities,
        IReadOnlyDictionary<int, int?> OfComponent,
        int? Usual
    )
    {
        /// <summary>Whom a tax is told to: its own authority, or the first with which the business is registered where it names none.</summary>
        internal int? AuthorityOf(int? componentId, DateOnly day) =>
            (componentId is { } id ? OfComponent.GetValueOrDefault(id) : null) is { } own
                ? own
                : Authorities.Values.Where(a => a.IsRegisteredOn(day)).Min(a => (int?)a.Id);
    }

    private Knows? _knows;

    /// <summary>Of an invoice, a credit note or a debit note with its lines, charges and taxes.</summary>
    /// <param name="item">What is on the account for it.</param>
    /// <returns>What it tells.</returns>
    internal async Task<IReadOnlyList<TaxFigure>> AddAsync(Document document, AccountItem item, CancellationToken stop)
    {
        var knows = await KnowsAsync(stop);
        var customer = await db
            .Customers.AsNoTracking()
            .Where(c => c.Id == document.CustomerId)
            .Select(c => c.Address)
            .SingleAsync(stop);
        var wanted = document.Lines.Select(l => l.ItemId).OfType<int>().ToList();
        var goods = await db
            .Items.AsNoTracking()
            .Where(i => wanted.Contains(i.Id) && i.IsGoods)
            .Select(i => i.Id)
            .ToListAsync(stop);
        return Add(Of(document, item, knows, customer, [.. goods]));
    }

    private static IReadOnlyList<TaxFigure> Of(
        Document document,
        AccountItem item,
        Knows knows,
        Address customer,
        HashSet<int> goods
    )
    {
        return TaxFigures.Of(
            document,
            item,
            knows.Business.HomeCurrency,
            document.Facts?.SuppliedIn ?? TaxCase.ToldPlace(document.Place ?? customer, knows.Business.Address),
            line => line.ItemId is { } id && (document.Facts?.Of(id)?.IsGoods ?? goods.Contains(id)),
            tax => knows.AuthorityOf(tax.ComponentId, document.TaxDate ?? document.Date)
        );
    }

    /// <summary>Of what is taken off an invoice, or comes back of that.</summary>
    /// <inheritdoc cref="AddAsync(Document, AccountItem, CancellationToken)"/>
    internal async Task<IReadOnlyList<TaxFigure>> AddAsync(
        Settlement settlement,
        AccountItem item,
        CancellationToken stop
    )
    {
        if (settlement.DocumentId is not { } document || settlement.Taxes.Count == 0)
            return [];
        var billed = await db.TaxFigures.AsNoTracking().Where(f => f.DocumentId == document).ToListAsync(stop);
        return Add(TaxFigures.Of(settlement, item, (await KnowsAsync(stop)).Business.HomeCurrency, billed));
    }

    /// <summary>Of money that belongs to no customer.</summary>
    /// <inheritdoc cref="AddAsync(Document, AccountItem, CancellationToken)"/>
    internal async Task<IReadOnlyList<TaxFigure>> AddAsync(OtherMoney money, CancellationToken stop)
    {
        if (money.TaxCodeId is not { } id)
            return [];
        var code = (await db.TaxCodes.ToListAsync(stop)).Single(c => c.Id == id);
        var standing = TaxStanding.With(await db.TaxAuthorities.ToListAsync(stop));
        var knows = await KnowsAsync(stop);
        return Add(
            TaxFigures.Of(
                money,
                knows.Business.HomeCurrency,
                code.TreatmentOn(money.Date, "taxCodeId", standing),
                component => knows.AuthorityOf(component, money.Date)
            )
        );
    }

    private IReadOnlyList<TaxFigure> Add(IReadOnlyList<TaxFigure> figures)
    {
        db.TaxFigures.AddRange(figures);
        return figures;
    }

    /// <summary>Makes the figures of all that was posted before they were kept; those that are there stay.</summary>
    public async Task FillAsync(CancellationToken stop = default)
    {
        if (!await db.Businesses.AnyAsync(stop))
            return;
        var knows = await KnowsAsync(stop);
        if (knows.Usual is null)
            return;
        var goods = (await db.Items.Where(i => i.IsGoods).Select(i => i.Id).ToListAsync(stop)).ToHashSet();
        var last = 0;
        while (true)
        {
            var items = await db
                .AccountItems.Where(i => i.DocumentId != null && i.Id > last)
                .OrderBy(i => i.Id)
                .Take(1_000)
                .ToListAsync(stop);
            if (items.Count == 0)
                break;
            last = items[^1].Id;
            var ids = items.ConvertAll(i => i.DocumentId!.Value);
            var documents = await db
                .Documents.AsNoTracking()
                .AsSplitQuery()
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Taxes)
                .Include(d => d.Customer)
                .Where(d => ids.Contains(d.Id) && !db.TaxFigures.Any(f => f.DocumentId == d.Id))
                .ToDictionaryAsync(d => d.Id, stop);
            foreach (var item in items)
                if (documents.GetValueOrDefault(item.DocumentId!.Value) is { } document)
                    db.TaxFigures.AddRange(Of(document, item, knows, document.Customer!.Address, goods));
            await db.SaveChangesAsync(stop);
            db.ChangeTracker.Clear();
        }

        await FillBookingsAsync(stop);
    }

    private async Task FillBookingsAsync(CancellationToken stop)
    {
        var settlements = await db
            .Settlements.AsNoTracking()
            .Include(s => s.Taxes)
            .Where(s => s.Booking!.UndoneOn == null && s.Taxes.Any() && !db.TaxFigures.Any(f => f.SettlementId == s.Id))
            .OrderBy(s => s.Id)
            .ToListAsync(stop);
        foreach (var booking in settlements.GroupBy(s => s.BookingId))
        {
            // A settlement's item has its kind and amount; of several that are alike, any one does.
            var items = await db.AccountItems.Where(i => i.BookingId == booking.Key).ToListAsync(stop);
            foreach (var settlement in booking)
            {
                var item = items.Find(i => i.Kind == settlement.Kind.OnAccount() && i.Amount == settlement.Amount);
                if (item is null)
                    continue;
                items.Remove(item);
                await AddAsync(settlement, item, stop);
            }

            await db.SaveChangesAsync(stop);
            db.ChangeTracker.Clear();
        }

        foreach (
            var money in await db
                .OtherMoney.AsNoTracking()
                .Where(m =>
                    m.Booking!.UndoneOn == null
                    && m.TaxCodeId != null
                    && !db.TaxFigures.Any(f => f.OtherMoneyId == m.Id)
                )
                .ToListAsync(stop)
        )
            await AddAsync(money, stop);
        await db.SaveChangesAsync(stop);
    }

    private async Task<Knows> KnowsAsync(CancellationToken stop)
    {
        if (_knows is not null)
            return _knows;
        var authorities = await db.TaxAuthorities.AsNoTracking().ToDictionaryAsync(a => a.Id, stop);
        var components = await db.TaxComponents.AsNoTracking().ToListAsync(stop);
        return _knows = new Knows(
            await db.Businesses.AsNoTracking().SingleAsync(stop),
            authorities,
            components.ToDictionary(c => c.Id, c => c.Authority?.Id),
            authorities.Count == 0 ? null : authorities.Keys.Min()
        );
    }
}
