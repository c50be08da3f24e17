using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Matching;
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
public sealed record SheetProposal(
    int Row,
    IReadOnlyList<(AccountItem Item, long Amount)> Parts,
    int? Early,
    long Left,
    bool IsExact,
    string Why
);

/// <summary>
/// Many receipts of one account at once: what each is for is proposed, and all are posted together or none.
/// </summary>
public sealed class ReceiptSheet(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Receipts receipts,
    Settlements settlements
)
{
    /// <summary>
    /// Proposes what each row is for. Rows of the same customer go after each other: what one takes, the next has not.
    /// </summary>
    public async Task<IReadOnlyList<SheetProposal>> ProposeAsync(
        IReadOnlyList<SheetRow> rows,
        DateOnly day,
        CancellationToken stop = default
    )
    {
        var customers = rows.Select(r => r.CustomerId).Distinct().ToList();
        var open = (
            await db
                .AccountItems.AsNoTracking()
                .Where(i => customers.Contains(i.CustomerId) && i.Open > 0 && i.Sign > 0)
                .ToListAsync(stop)
        ).ToLookup(i => i.CustomerId);
        var used = new Dictionary<int, long>();
        var usual = await UsualAsync(rows, stop);
        var proposals = new List<SheetProposal>();
        foreach (var row in rows)
        {
            var proposal = await ProposeAsync(
                row,
                usual.GetValueOrDefault(row.CustomerId)!,
                [.. open[row.CustomerId]],
                i => i.Open - used.GetValueOrDefault(i.Id),
                day,
                stop
            );
            foreach (var (item, amount) in proposal.Parts)
                used[item.Id] = item.Id == proposal.Early ? item.Open : used.GetValueOrDefault(item.Id) + amount;
            proposals.Add(proposal);
        }

        return proposals;
    }

    private async Task<Dictionary<int, Currency>> UsualAsync(IReadOnlyList<SheetRow> rows, CancellationToken stop)
    {
        var ids = rows.Select(r => r.CustomerId).ToList();
        return await db.Customers.Where(c => ids.Contains(c.Id)).ToDictionaryAsync(c => c.Id, c => c.Currency, stop);
    }

    private async Task<SheetProposal> ProposeAsync(
        SheetRow row,
        Currency usual,
        IReadOnlyList<AccountItem> open,
        Func<AccountItem, long> room,
        DateOnly day,
        CancellationToken stop
    )
    {
        if (row.Keep)
            return new SheetProposal(row.Row, [], null, row.Amount, false, "stays as credit, as you said");
        // On the sheet an amount is in the customer's usual currency.
        if (open.Any(i => !i.Currency.Equals(usual)))
        {
            if (NamedIn(row.Reference, open).FirstOrDefault(n => !n.Currency.Equals(usual)) is { } other)
                return new SheetProposal(
                    row.Row,
                    [],
                    null,
                    row.Amount,
                    false,
                    $"{other.Number} is in {other.Currency}: enter that money as a receipt of its own; here it stays as credit in {usual}"
                );
            open = [.. open.Where(i => i.Currency.Equals(usual))];
        }

        // What the payer named is meant, whatever else would fit the amount.
        if (NamedIn(row.Reference, open) is { Count: > 0 } named)
            return await NamedAsync(
                row,
                [.. named.Select(n => open.First(i => i.Id == n.Id)).Where(i => room(i) > 0)],
                room,
                day,
                stop
            );
        var proposed = Proposing.Of(row.Amount, open, room);
        if (!proposed.IsExact)
        {
            foreach (var item in open.Where(i => room(i) == i.Open))
                if (
                    await settlements.OfferAsync(item, day, stop) is { IsOffered: true } offer
                    && item.Open - offer.Amount == row.Amount
                )
                    return new SheetProposal(
                        row.Row,
                        [(item, row.Amount)],
                        item.Id,
                        0,
                        true,
                        $"exactly {item.Number} less its early-payment discount"
                    );
        }

        return new SheetProposal(row.Row, proposed.Parts, null, proposed.Left, proposed.IsExact, proposed.Why);
    }

    private static IReadOnlyList<Owed> NamedIn(string reference, IReadOnlyList<AccountItem> open) =>
        reference.Trim().Length == 0
            ? []
            : new NamedItems([
                .. open.Select(i => new Owed(i.Id, i.CustomerId, i.Number, "", i.Currency, i.Open, i.Date, i.Due)),
            ]).In(reference);

    private async Task<SheetProposal> NamedAsync(
        SheetRow row,
        IReadOnlyList<AccountItem> named,
        Func<AccountItem, long> room,
        DateOnly day,
        CancellationToken stop
    )
    {
        var numbers = string.Join(", ", named.Select(i => i.Number));
        if (named.Count == 0)
            return new SheetProposal(
                row.Row,
                [],
                null,
                row.Amount,
                false,
                "what the reference names is paid already; it stays as credit"
            );
        if (
            named is [var only]
            && room(only) == only.Open
            && await settlements.OfferAsync(only, day, stop) is { IsOffered: true } offer
            && only.Open - offer.Amount == row.Amount
        )
            return new SheetProposal(
                row.Row,
                [(only, row.Amount)],
                only.Id,
                0,
                true,
                $"{numbers}, named in the reference, less its early-payment discount"
            );
        var left = row.Amount;
        var parts = new List<(AccountItem, long)>();
        foreach (var item in named)
        {
            var part = Math.Min(left, room(item));
            if (part > 0)
                parts.Add((item, part));
            left -= part;
        }

        var exact = left == 0 && row.Amount == named.Sum(room);
        return new SheetProposal(
            row.Row,
            parts,
            null,
            left,
            exact,
            exact ? $"{numbers}, named in the reference"
                : left > 0 ? "named in the reference; the rest stays as credit"
                : "named in the reference, in part"
        );
    }

    /// <summary>
    /// Whose the invoices are that each reference names; null where it names none, or those of several customers.
    /// </summary>
    public async Task<IReadOnlyList<int?>> WhoseAsync(
        IReadOnlyList<string> references,
        CancellationToken stop = default
    )
    {
        if (references.All(r => r.Trim().Length == 0))
            return [.. references.Select(_ => (int?)null)];
        var open = await db.AccountItems.AsNoTracking().Where(i => i.Open > 0 && i.Sign > 0).ToListAsync(stop);
        var items = new NamedItems([
            .. open.Select(i => new Owed(i.Id, i.CustomerId, i.Number, "", i.Currency, i.Open, i.Date, i.Due)),
        ]);
        return
        [
            .. references.Select(r =>
                r.Trim().Length > 0 && items.In(r).Select(o => o.CustomerId).Distinct().ToList() is [var customer]
                    ? (int?)customer
                    : null
            ),
        ];
    }

    /// <summary>Posts all rows, each as proposed by what is open when its turn comes.</summary>
    /// <returns>How many receipts were posted.</returns>
    /// <exception cref="RefusalException">With what is wrong with any row; nothing is posted then.</exception>
    public Task<int> PostAsync(
        IReadOnlyList<SheetRow> rows,
        DateOnly day,
        int moneyAccountId,
        string way,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                if (rows.Count == 0)
                    throw new RefusalException("", "Type at least one receipt: whose money, and how much.");
                var refusals = new Refusals();
                MoneyPlaces.CheckDay(refusals, day, await head.TodayAsync(stop));
                await db.CheckAsync(refusals, moneyAccountId, "way", stop);
                refusals.ThrowIfAny();
                var usual = await UsualAsync(rows, stop);
                foreach (var row in rows)
                {
                    try
                    {
                        var open = await db
                            .AccountItems.AsNoTracking()
                            .Where(i => i.CustomerId == row.CustomerId && i.Open > 0 && i.Sign > 0)
                            .ToListAsync(stop);
                        if (!usual.TryGetValue(row.CustomerId, out var currency))
                            throw new RefusalException("customerId", "Choose the customer whose money this is.");
                        var proposal = await ProposeAsync(row, currency, open, i => i.Open, day, stop);
                        await receipts.PostAsync(
                            new ReceiptToPost(
                                row.CustomerId,
                                day,
                                moneyAccountId,
                                row.Amount,
                                row.Reference,
                                [.. proposal.Parts.Select(p => (p.Item.Id, p.Amount))]
                            )
                            {
                                Way = way,
                                Currency = currency,
                                Early = proposal.Early is { } early ? [(early, "")] : [],
                            },
                            stop
                        );
                    }
                    catch (RefusalException refused)
                    {
                        foreach (var refusal in refused.Refusals)
                            refusals.Add(
                                refusal.Field is "amount" or "reference"
                                    ? $"rows[{row.Row}].{refusal.Field}"
                                    : $"rows[{row.Row}].customer",
                                refusal.Phrase
                            );
                    }
                }

                refusals.ThrowIfAny();
                return rows.Count;
            }
        );
}
