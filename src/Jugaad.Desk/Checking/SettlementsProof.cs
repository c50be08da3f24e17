using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// What was taken off invoices stands on the account with its amount, and its taxes follow from the invoice's.
/// </summary>
internal sealed class SettlementsProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var all = await db
            .Settlements.Include(s => s.Taxes)
            .Include(s => s.Booking)
            .OrderBy(s => s.Id)
            .ToListAsync(stop);
        var items = (await db.AccountItems.Where(i => i.BookingId != null).ToListAsync(stop)).ToLookup(i =>
            i.BookingId!.Value
        );
        var ids = all.Select(s => s.DocumentId).OfType<int>().Distinct().ToList();
        var documents = await db
            .Documents.Include(d => d.Taxes)
            .Where(d => ids.Contains(d.Id))
            .ToDictionaryAsync(d => d.Id, stop);
        var ties = (
            await db
                .Allocations.IgnoreQueryFilters()
                .Where(a => a.Lowering.BookingId != null)
                .Select(a => new
                {
                    Booking = a.Lowering.BookingId!.Value,
                    a.Lowering.Kind,
                    a.Raising.DocumentId,
                })
                .ToListAsync(stop)
        ).ToLookup(t => (t.Booking, t.Kind), t => t.DocumentId);
        foreach (var settlement in all)
        {
            var what = $"Settlement {settlement.Id}";
            findings.Unless(
                settlement.Date == settlement.Booking!.Date && settlement.CustomerId == settlement.Booking.CustomerId,
                $"{what}: does not agree with its booking"
            );
            if (!settlement.Booking.IsUndone)
                findings.Unless(
                    items[settlement.BookingId]
                        .Any(i =>
                            i.Kind == settlement.Kind.OnAccount()
                            && i.Amount == settlement.Amount
                            && i.Currency.Equals(settlement.Currency)
                        ),
                    $"{what}: is not on the customer's account with its amount"
                );
            if (!settlement.Booking.IsUndone && settlement.RecoversId is null)
                findings.Unless(
                    ties[(settlement.BookingId, settlement.Kind.OnAccount())].Contains(settlement.DocumentId),
                    $"{what}: is taken off another invoice than it says"
                );
            if (settlement.RecoversId is { } recovered)
                findings.Unless(
                    all.Find(s => s.Id == recovered)
                        is { Kind: SettlementKind.BadDebt or SettlementKind.EarlyPayment } of
                        && of.Id < settlement.Id
                        && of.DocumentId == settlement.DocumentId
                        && of.Kind == SettlementKind.BadDebt == (settlement.Kind == SettlementKind.Recovery),
                    $"{what}: takes back what was not given"
                );
            if (settlement.DocumentId is not { } id)
                continue;
            if (
                !documents.TryGetValue(id, out var document)
                || document.CustomerId != settlement.CustomerId
                || !document.Currency.Equals(settlement.Currency)
            )
            {
                findings.Add($"{what}: is taken off another customer's invoice");
                continue;
            }

            findings.Unless(
                settlement.ExchangeRate == document.ExchangeRate,
                $"{what}: has another rate than {document.Number}"
            );
            findings.Unless(
                Follows(settlement, document, all),
                $"{what}: its taxes do not follow from those of {document.Number}"
            );
        }

        await LaterTaxAsync(findings, all, stop);
        findings.Count("settlements", all.Count);
    }

    /// <summary>
    /// Where the tax of a debt given up was taken back later, all that was left of one whose tax stayed owed came back
    /// and was given up again, with its tax.
    /// </summary>
    private async Task LaterTaxAsync(Findings findings, List<Settlement> all, CancellationToken stop)
    {
        var made = all.ToLookup(s => s.BookingId);
        foreach (
            var id in await db
                .Bookings.Where(b => b.Kind == BookingKind.TaxOfBadDebt)
                .Select(b => b.Id)
                .ToListAsync(stop)
        )
            findings.Unless(
                made[id].OrderBy(s => s.Id).ToList()
                    is [{ Kind: SettlementKind.Recovery } back, { Kind: SettlementKind.BadDebt } again]
                    && (back.Amount, back.DocumentId) == (again.Amount, again.DocumentId)
                    && back.Taxes.Count == 0
                    && again.Taxes.Count > 0,
                $"Booking {id}: is of the tax of a debt given up, and does not take it back"
            );
    }

    /// <summary>Whether the taxes are those that the rule gives, after what was taken off before.</summary>
    private static bool Follows(Settlement settlement, Document document, List<Settlement> all)
    {
        static string Told(IEnumerable<SettlementTax> taxes) =>
            string.Join(
                ' ',
                taxes
                    .OrderBy(t => t.Position)
                    .Select(t =>
                        $"{t.Position}:{t.Treatment}:{t.Category}:{t.ComponentId}:{t.Component}:{t.Percent}:{t.Taxable}:{t.Tax}"
                    )
            );
        if (settlement.RecoversId is { } given)
        {
            var of = all.Find(s => s.Id == given);
            if (of is null || settlement.Kind is not (SettlementKind.Recovery or SettlementKind.EarlyTakenBack))
                return false;
            // Earlier parts that were undone since made no difference to what all together bring back, but to the cent
            // of each.
            var earlier = all.Where(s => s.RecoversId == given && s.Id < settlement.Id).ToList();
            if (earlier.Exists(e => e.Booking!.IsUndone))
                return settlement.Taxes.All(t =>
                    of.Taxes.Any(o => o.Position == t.Position && Math.Abs(t.Tax) <= Math.Abs(o.Tax))
                );
            return Told(settlement.Taxes)
                == Told(Settlement.Recover(of, earlier, settlement.Date, settlement.Amount, settlement.Booking!).Taxes);
        }

        if (settlement.Kind is SettlementKind.Recovery or SettlementKind.EarlyTakenBack)
            return false;
        if (settlement.Kind == SettlementKind.SmallDifference)
            return settlement.Taxes.Count == 0;
        // A debt that was given up while its tax stays owed.
        if (settlement is { Kind: SettlementKind.BadDebt, Taxes.Count: 0 })
            return true;
        var before = all.Where(s => s.DocumentId == document.Id && s.Id < settlement.Id).ToList();
        var taxes = document.Taxes.OrderBy(t => t.Position).ToList();
        // What was undone since stood in between then; only what it can be at most is proved.
        if (before.Exists(s => s.Booking!.IsUndone))
            return settlement.Taxes.All(t =>
                Math.Abs(t.Tax) <= Math.Abs(taxes.Find(d => d.Position == t.Position)?.Tax ?? 0) + 1
            );
        var item = new AccountItem(
            AccountItemKind.Invoice,
            document.CustomerId,
            document.Number!,
            document.Date,
            document.DueDate ?? document.Date,
            document.Currency,
            document.Payable,
            document.ExchangeRate,
            document.Currency
        )
        {
            DocumentId = document.Id,
        };
        foreach (var lowersTax in settlement.Kind == SettlementKind.BadDebt ? new[] { true } : [true, false])
        {
            var shares =
                taxes.Count == 0
                    ? []
                    : TaxShares.Of(taxes, settlement.Amount, lowersTax, lowersTax ? TaxShares.TakenOff(before) : null);
            if (
                Told(settlement.Taxes)
                == Told(
                    new Settlement(
                        settlement.Kind,
                        item,
                        settlement.Date,
                        settlement.Amount,
                        settlement.ExchangeRate,
                        "",
                        shares,
                        taxes,
                        settlement.Booking!
                    ).Taxes
                )
            )
                return true;
        }

        return false;
    }
}
