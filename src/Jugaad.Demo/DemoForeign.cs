using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Demo;

/// <summary>
/// The loft's crowns: Swedish customers pay into an account in their currency, from which some go to the bank at home;
/// one who is billed in euros pays in the wrong currency; and at the end of August what is not realised is posted.
/// </summary>
internal sealed class DemoForeign(DemoHistory history, DemoBank statements, int bank, int crowns)
{
    private static readonly string[] Meant = ["TAMBRG", "NORTHP", "MERIV"];

    internal const string Way = "Bank transfer in crowns";

    internal void Plan()
    {
        history.At(new DateOnly(2025, 7, 15), () => ConvertAsync(0.6m, 0.0892m, 350));
        history.At(new DateOnly(2025, 8, 20), WrongCurrencyAsync);
        history.At(new DateOnly(2025, 9, 2), ValuedAsync);
    }

    private Task<long> OnAccountAsync() =>
        history.WithAsync<BooksContext, long>(db =>
            db.Set<JournalLine>().Where(l => l.AccountId == crowns).SumAsync(l => l.OriginalAmount ?? 0)
        );

    /// <summary>A part of the crowns, in whole hundreds, becomes euros at the bank's rate less its charge.</summary>
    private async Task ConvertAsync(decimal share, decimal rate, long charge)
    {
        var given = (long)(await OnAccountAsync() * share) / 10_000 * 10_000;
        if (given <= 0)
            return;
        var got = (long)Math.Round(given * rate) - charge;
        var booking = await history.WithAsync<Conversions, int>(c =>
            c.MakeAsync(
                new ConversionToMake(crowns, bank, given, got, history.Day, "Crowns sold to the bank")
                {
                    Charge = charge,
                    ChargeOnTo = true,
                }
            )
        );
        statements.WentTo(history.Day, "Sadama Pank", "Crowns sold", -got, booking);
    }

    /// <summary>Billed in euros, and paid in crowns: what the bank put on the account decides what they are worth.</summary>
    private async Task WrongCurrencyAsync()
    {
        var meant = Meant.Select(history.CustomerId).ToList();
        var item = await history.WithAsync<BooksContext, AccountItem?>(db =>
            db.AccountItems.AsNoTracking()
                .Where(i =>
                    meant.Contains(i.CustomerId)
                    && i.Kind == AccountItemKind.Invoice
                    && i.Open == i.Amount
                    && i.Open > 100_00
                )
                .OrderBy(i => i.Open)
                .FirstOrDefaultAsync()
        );
        if (item is null)
            return;
        await history.WithAsync<Receipts>(r =>
            r.PostAsync(
                new ReceiptToPost(item.CustomerId, history.Day, crowns, item.Open, item.Number, [(item.Id, item.Open)])
                {
                    Way = Way,
                    Arrived = (long)Math.Round(item.Open * 11.02m),
                }
            )
        );
    }

    private async Task ValuedAsync() =>
        await history.WithAsync<ValuationDesk>(v => v.PostAsync(new DateOnly(2025, 8, 31)));
}
