using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>A row of the sheet as it is understood.</summary>
/// <param name="Row">Its number in the form; fields of refusals are <c>rows[n].amount</c> and the like.</param>
/// <param name="Amount">Minor units of the customer's currency.</param>
/// <param name="Keep">Whether all of it is to stay as credit, whatever is open.</param>
public sealed record SheetRow(int Row, int CustomerId, long Amount, string Reference, bool Keep = false);

/// <summary>What a row is proposed for.</summary>
/// <param name="Early">The invoice whose early-payment discount is given with it.</param>
/// <param name="IsExact">As in <see cref="Proposed.IsExact"/>.</param>
public sealed record SheetProposal(int Row, IReadOnlyList<(AccountItem Item, long Amount)> Parts, int? Early, long Left, bool IsExact, string Why);

/// <summary>Many receipts of one account at once: what each is for is proposed, and all are posted together or none.</summary>
public sealed class ReceiptSheet(BooksContext db, BookWriter writer, BooksHead head, Receipts receipts, Settlements settlements)
{
    /// <summary>Proposes what each row is for. Rows of the same customer go after each other: what one takes, the next has not.</summary>
    public async Task<IReadOnlyList<SheetProposal>> ProposeAsync(IReadOnlyList<SheetRow> rows, DateOnly day, CancellationToken stop = default)
    {
        var customers = rows.Select(r => r.CustomerId).Distinct().ToList();
        var open = (await db.AccountItems.AsNoTracking().Where(i => customers.Contains(i.CustomerId) && i.Open > 0 && i.Sign > 0).ToListAsync(stop)).ToLookup(i => i.CustomerId);
        var used = new Dictionary<int, long>();
        var proposals = new List<SheetProposal>();
        foreach (var row in rows)
        {
            var proposal = await ProposeAsync(row, [.. open[row.CustomerId]], i => i.Open - used.GetValueOrDefault(i.Id), day, stop);
            foreach (var (item, amount) in proposal.Parts) used[item.Id] = item.Id == proposal.Early ? item.Open : used.GetValueOrDefault(item.Id) + amount;
            proposals.Add(proposal);
        }

        return proposals;
    }

    private async Task<SheetProposal> ProposeAsync(SheetRow row, IReadOnlyList<AccountItem> open, Func<AccountItem, long> room, DateOnly day, CancellationToken stop)
    {
        if (row.Keep) return new SheetProposal(row.Row, [], null, row.Amount, false, "stays as credit, as you said");
        var proposed = Proposing.Of(row.Amount, open, room);
        if (!proposed.IsExact)
        {
            foreach (var item in open.Where(i => room(i) == i.Open))
                if (await settlements.OfferAsync(item, day, stop) is { IsOffered: true } offer && item.Open - offer.Amount == row.Amount)
                    return new SheetProposal(row.Row, [(item, row.Amount)], item.Id, 0, true, $"exactly {item.Number} less its early-payment discount");
        }

        return new SheetProposal(row.Row, proposed.Parts, null, proposed.Left, proposed.IsExact, proposed.Why);
    }

    /// <summary>Posts all rows, each as proposed by what is open when its turn comes.</summary>
    /// <returns>How many receipts were posted.</returns>
    /// <exception cref="RefusalException">With what is wrong with any row; nothing is posted then.</exception>
    public Task<int> PostAsync(IReadOnlyList<SheetRow> rows, DateOnly day, int moneyAccountId, string way, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Money, formKey, async () =>
    {
        if (rows.Count == 0) throw new RefusalException("", "Type at least one receipt: whose money, and how much.");
        var refusals = new Refusals();
        MoneyPlaces.CheckDay(refusals, day, await head.TodayAsync(stop));
        await db.CheckAsync(refusals, moneyAccountId, "way", stop);
        refusals.ThrowIfAny();
        foreach (var row in rows)
        {
            try
            {
                var open = await db.AccountItems.AsNoTracking().Where(i => i.CustomerId == row.CustomerId && i.Open > 0 && i.Sign > 0).ToListAsync(stop);
                var proposal = await ProposeAsync(row, open, i => i.Open, day, stop);
                await receipts.PostAsync(new ReceiptToPost(row.CustomerId, day, moneyAccountId, row.Amount, row.Reference, [.. proposal.Parts.Select(p => (p.Item.Id, p.Amount))])
                {
                    Way = way,
                    Early = proposal.Early is { } early ? [(early, "")] : [],
                }, stop);
            }
            catch (RefusalException refused)
            {
                foreach (var refusal in refused.Refusals) refusals.Add(refusal.Field is "amount" or "reference" ? $"rows[{row.Row}].{refusal.Field}" : $"rows[{row.Row}].customer", refusal.Message);
            }
        }

        refusals.ThrowIfAny();
        return rows.Count;
    }, stop);
}
