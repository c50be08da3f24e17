using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lines;

/// <summary>
/// Refuses a change of an order that takes away what was delivered or billed of it already, or makes it cost otherwise.
/// </summary>
public sealed class OrderChanges(BooksContext db, BooksHead head, LineUses uses, LineLinks links)
{
    /// <param name="order">As it was changed; what is kept is how it was.</param>
    /// <exception cref="RefusalException">With each line that cannot be so.</exception>
    internal async Task MustStandAsync(Document order, CancellationToken stop)
    {
        var was = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .SingleAsync(d => d.Id == order.Id, stop);
        var found = await uses.OfAsync([.. was.Lines.Where(l => l.Counts).Select(l => l.Id)], null, stop);
        var charges = await links.ChargesLeftAsync(
            [.. was.Charges.Select(c => c.Id)],
            DocumentKind.Invoice,
            null,
            stop
        );
        var format = (await head.BusinessAsync(stop)).Format;
        var refusals = new Refusals();
        foreach (var old in was.Lines.Where(l => found.ContainsKey(l.Id)).OrderBy(l => l.Position))
            Line(
                refusals,
                old,
                order.Lines.FirstOrDefault(l => l.Id == old.Id),
                found[old.Id].Left,
                order.Currency,
                format
            );
        foreach (var old in was.Charges.Where(c => charges[c.Id] != c.Amount))
            if (
                order.Charges.FirstOrDefault(c => c.Id == old.Id) is not { } now
                || (now.Amount, now.TaxCodeId) != (old.Amount, old.TaxCodeId)
            )
                refusals.Add("lines", $"“{old.Text}” is billed already, so it stays as it is.");
        var billed = found.Values.Any(s => s.Left is { BilledAmount: not 0 } or { Billed: not 0 });
        if (billed && order.PricesIncludeTax != was.PricesIncludeTax)
            refusals.Add(
                "lines",
                $"Some of it is billed with prices {(was.PricesIncludeTax ? "with" : "without")} tax. Keep them so."
            );
        if (billed && (order.DiscountPercent, order.DiscountAmount) != (was.DiscountPercent, was.DiscountAmount))
            refusals.Add(
                "discount",
                "Some of it is billed already, with its share of the discount. Leave that as it is, and give another on the lines that you add."
            );
        refusals.ThrowIfAny();
    }

    private static void Line(
        Refusals refusals,
        DocumentLine old,
        DocumentLine? now,
        LineUse use,
        Currency currency,
        DisplayFormat format
    )
    {
        var least = Math.Abs(use.Delivered) > Math.Abs(use.Billed) ? use.Delivered : use.Billed;
        if (least == 0 && !use.InStages)
            return;
        var name = old.Text.Split('\n')[0];
        if (now is null || !now.Counts)
        {
            refusals.Add(
                "lines",
                $"“{name}” is {(use.BilledAmount != 0 ? "billed" : "delivered")} in part, so it stays on the order.{(least == 0 ? "" : $" Lower it to {format.Figure(least)} if no more is wanted.")}"
            );
            return;
        }

        void At(string cell, string message) => refusals.Add($"lines[{now.Position}].{cell}", message);
        if (
            Math.Abs(now.Quantity) < Math.Abs(least)
            || (now.Quantity != 0 && Math.Sign(now.Quantity) != Math.Sign(old.Quantity))
        )
            At("quantity", $"{format.Figure(least)} of “{name}” went already. Give at least that.");
        if (now.ItemId != old.ItemId)
            At("text", $"“{name}” went already in part. Add a line for what else is wanted.");
        // What is delivered has its price on the note, by which it will be billed.
        var went = use.BilledAmount != 0 ? "billed" : "delivered";
        if (
            now.UnitPrice != old.UnitPrice
            || now.DiscountPercent != old.DiscountPercent
            || (!now.Shares && now.Quantity == old.Quantity && now.DiscountAmount != old.DiscountAmount)
        )
            At(
                "unitPrice",
                $"“{name}” is {went} in part at the price that it had. Add a line for what costs otherwise."
            );
        if (now.TaxCodeId != old.TaxCodeId)
            At(
                "taxCode",
                $"“{name}” is {went} in part with the tax that it had. Add a line for what is taxed otherwise."
            );
        if (use.InStages && (Math.Abs(now.Base) < Math.Abs(use.Staged) || Math.Sign(now.Base) != Math.Sign(use.Staged)))
            At(
                "quantity",
                $"{format.WithCode(use.Staged, currency)} of “{name}” is billed already. It cannot come to less."
            );
    }
}
