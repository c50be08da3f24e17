using Jugaad.Core.Accounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>What an item was set against. Minor units.</summary>
public sealed record SetAgainstRow(
    int ItemId,
    string Number,
    AccountItemKind Kind,
    DateOnly Date,
    DateOnly? Until,
    long Amount,
    int? DocumentId,
    int? ReceiptId,
    int? BookingId
);

/// <summary>The map of a customer's account with where its blocks lead.</summary>
/// <param name="LeftOut">How many older items are not drawn.</param>
public sealed record MapView(
    SettlementMap Map,
    IReadOnlyDictionary<int, (AccountItemKind Kind, string Address)> Items,
    int LeftOut
);

/// <summary>Reads what paid what on a customer's account, and how the customer pays.</summary>
public sealed class SettlementScreens(BooksContext db, BooksHead head)
{
    /// <summary>Debits and credits of one account that the map has room for.</summary>
    private const int MostDrawn = 36;

    /// <summary>
    /// The newest items of an account, whatever is open among the older ones, and what lies between them.
    /// </summary>
    /// <param name="side">Of which amounts are drawn.</param>
    public async Task<MapView> MapAsync(int customerId, AccountSide side, CancellationToken stop = default)
    {
        var (whole, currency) = (side.IsWhole, side.Currency);
        var items = db
            .AccountItems.AsNoTracking()
            .Where(i => i.CustomerId == customerId && (whole || i.Currency == currency));
        var drawn = await items
            .OrderByDescending(i => i.Open > 0)
            .ThenByDescending(i => i.Date)
            .ThenByDescending(i => i.Id)
            .Take(MostDrawn)
            .Select(i => new
            {
                i.Id,
                i.Number,
                i.Date,
                Amount = whole ? i.HomeAmount : i.Amount,
                i.Sign,
                i.Kind,
                i.DocumentId,
                i.ReceiptId,
                i.BookingId,
            })
            .ToListAsync(stop);
        var ids = drawn.ConvertAll(i => i.Id);
        var ties = await db
            .Allocations.AsNoTracking()
            .Where(a => ids.Contains(a.RaisingId) && ids.Contains(a.LoweringId))
            .OrderBy(a => a.Id)
            .Select(a => new MapTie(
                a.RaisingId,
                a.LoweringId,
                whole ? a.HomeRaising : a.Amount,
                whole ? a.HomeLowering : a.Amount
            ))
            .ToListAsync(stop);
        // What a drawn item has with one that is left out is not open: its block is drawn as high as what it has with
        // the drawn ones and open.
        var tied = await db
            .Allocations.AsNoTracking()
            .Where(a =>
                (ids.Contains(a.RaisingId) && !ids.Contains(a.LoweringId))
                || (!ids.Contains(a.RaisingId) && ids.Contains(a.LoweringId))
            )
            .Select(a => new MapTie(
                a.RaisingId,
                a.LoweringId,
                whole ? a.HomeRaising : a.Amount,
                whole ? a.HomeLowering : a.Amount
            ))
            .ToListAsync(stop);
        long Hidden(int id) => tied.Sum(t => t.Of(id));
        var map = SettlementMap.Of(
            [
                .. drawn
                    .Select(i => new MapItem(i.Id, i.Number, i.Date, i.Amount - Hidden(i.Id), i.Sign > 0))
                    .Where(i => i.Amount > 0),
            ],
            ties
        );
        return new MapView(
            map,
            drawn.ToDictionary(
                i => i.Id,
                i => (i.Kind, Addresses.Of(i.DocumentId, i.ReceiptId, customerId, i.BookingId))
            ),
            await items.CountAsync(stop) - drawn.Count
        );
    }

    /// <summary>What each of some items was set against, ended ones included, in the order of time.</summary>
    public async Task<ILookup<int, SetAgainstRow>> SetAgainstAsync(
        IReadOnlyCollection<int> itemIds,
        CancellationToken stop = default
    )
    {
        var all = db.Allocations.IgnoreQueryFilters().AsNoTracking().Where(a => a.Until == null || a.Until > a.Date);
        var rows = await all.Where(a => itemIds.Contains(a.RaisingId))
            .Select(a => new
            {
                a.Id,
                Of = a.RaisingId,
                Other = a.Lowering,
                a.Date,
                a.Until,
                a.Amount,
            })
            .Concat(
                all.Where(a => itemIds.Contains(a.LoweringId))
                    .Select(a => new
                    {
                        a.Id,
                        Of = a.LoweringId,
                        Other = a.Raising,
                        a.Date,
                        a.Until,
                        a.Amount,
                    })
            )
            .ToListAsync(stop);
        return rows.OrderBy(r => r.Date)
            .ThenBy(r => r.Id)
            .ToLookup(
                r => r.Of,
                r => new SetAgainstRow(
                    r.Other.Id,
                    r.Other.Number,
                    r.Other.Kind,
                    r.Date,
                    r.Until,
                    r.Amount,
                    r.Other.DocumentId,
                    r.Other.ReceiptId,
                    r.Other.BookingId
                )
            );
    }

    /// <summary>How a customer pays; null where nothing was paid within the last 12 months.</summary>
    /// <param name="side">Of which amounts it is told.</param>
    public async Task<PaymentHabits?> HabitsAsync(int customerId, AccountSide side, CancellationToken stop = default)
    {
        var (whole, currency) = (side.IsWhole, side.Currency);
        var today = await head.TodayAsync(stop);
        var since = today.AddMonths(-13);
        var paid = await db
            .Allocations.AsNoTracking()
            .Where(a =>
                a.Raising.CustomerId == customerId
                && (whole || a.Raising.Currency == currency)
                && (a.Lowering.Kind == AccountItemKind.Receipt || a.Lowering.Kind == AccountItemKind.MovedIn)
                && (a.Raising.Kind == AccountItemKind.Invoice || a.Raising.Kind == AccountItemKind.DebitNote)
                && a.Date >= since
            )
            .Select(a => new
            {
                a.Raising.Due,
                Came = a.Lowering.Date,
                Billed = a.Raising.Date,
                Amount = whole ? a.HomeRaising : a.Amount,
            })
            .ToListAsync(stop);
        // Money that was there before the invoice paid it on the day it was billed.
        return PaymentHabits.On(
            today,
            paid.Select(p => new PaidPart(p.Due, p.Came > p.Billed ? p.Came : p.Billed, p.Amount))
        );
    }
}
