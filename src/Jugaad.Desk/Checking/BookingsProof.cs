using Jugaad.Core.Accounts;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// What was undone has left nothing on the accounts and nothing in the journal; what stands has put there what it says.
/// </summary>
internal sealed class BookingsProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var left = await db
            .AccountItems.Where(i => i.Booking!.UndoneOn != null)
            .Select(i => i.Number)
            .Concat(db.Allocations.Where(a => a.Booking!.UndoneOn != null).Select(a => a.Raising.Number))
            .ToListAsync(stop);
        findings.AddRange(left.Select(n => $"{n}: something that was undone still stands on the account"));
        var posted = await (
            from entry in db.Journal
            where entry.Booking!.UndoneOn != null
            from line in entry.Lines
            group line by new { entry.BookingId, line.AccountId } into same
            where same.Sum(l => l.Debit - l.Credit) != 0
            select same.Key.BookingId
        )
            .Distinct()
            .ToListAsync(stop);
        findings.AddRange(posted.Select(b => $"Booking {b}: was undone, and the journal does not take all of it back"));
        var half = await db
            .Journal.Where(e => e.Booking!.UndoneOn == null && e.IsMirrored && e.BookingId != null)
            .Select(e => e.BookingId)
            .Distinct()
            .ToListAsync(stop);
        findings.AddRange(half.Select(b => $"Booking {b}: the journal takes it back, and it was not undone"));
        await ItemsAsync(findings, stop);
        await RefundsAsync(findings, stop);
        var money = await db
            .OtherMoney.Where(m =>
                m.Booking!.Kind != BookingKind.OtherMoney
                || m.Booking.Date != m.Date
                || m.Amount == 0
                || (m.TaxCodeId == null && m.Net != m.Amount)
            )
            .Select(m => m.Text)
            .ToListAsync(stop);
        var conversions = await db
            .Conversions.Where(c =>
                c.Booking!.Kind != BookingKind.Conversion
                || c.Booking.Date != c.Date
                || c.Given <= 0
                || c.Got <= 0
                || c.Charge < 0
                || (c.Charge > 0) != (c.ChargeAccountId != null)
                || c.FromAccountId == c.ToAccountId
            )
            .Select(c => c.Text)
            .ToListAsync(stop);
        findings.AddRange(conversions.Select(t => $"Conversion “{t}”: cannot be, or does not agree with its booking"));
        var kinds = await db.Bookings.ToDictionaryAsync(b => b.Id, stop);
        var days = new HashSet<DateOnly>();
        foreach (var valuation in await db.Valuations.AsNoTracking().ToListAsync(stop))
        {
            var made = kinds.GetValueOrDefault(valuation.BookingId);
            findings.Unless(
                made is { Kind: BookingKind.Valuation } && made.Date == valuation.Day,
                $"Valuation on {valuation.Day:yyyy-MM-dd}: does not agree with its booking"
            );
            findings.Unless(
                made is null || made.IsUndone || days.Add(valuation.Day),
                $"Valuation on {valuation.Day:yyyy-MM-dd}: is posted twice"
            );
        }

        findings.AddRange(
            (
                await db
                    .Bookings.Where(b =>
                        b.Kind == BookingKind.Valuation && !db.Valuations.Any(v => v.BookingId == b.Id)
                    )
                    .Select(b => b.Id)
                    .ToListAsync(stop)
            ).Select(b => $"Booking {b}: is of a valuation, and there is none")
        );
        findings.AddRange(
            (
                await db
                    .Bookings.Where(b =>
                        b.Kind == BookingKind.Conversion && !db.Conversions.Any(c => c.BookingId == b.Id)
                    )
                    .Select(b => b.Id)
                    .ToListAsync(stop)
            ).Select(b => $"Booking {b}: is of a conversion, and there is none")
        );
        if (await db.Businesses.FirstOrDefaultAsync(stop) is { HomeCurrency: var home })
        {
            foreach (var other in await db.OtherMoney.AsNoTracking().ToListAsync(stop))
                findings.Unless(
                    other.Money is { Charge: 0, ChargeAccountId: null }
                        && Math.Sign(other.Amount) * other.Money.HomeWithCharge(home) == other.Amount,
                    $"Other money “{other.Text}”: is not at home what moved on its account"
                );
            foreach (var conversion in await db.Conversions.AsNoTracking().ToListAsync(stop))
                findings.Unless(
                    conversion.Rate == Core.Exchange.QuotedRate.One
                        || (!conversion.FromCurrency.Equals(home) && !conversion.ToCurrency.Equals(home)),
                    $"Conversion “{conversion.Text}”: has a rate beside its two amounts"
                );
        }

        findings.AddRange(money.Select(t => $"Other money “{t}”: does not agree with its booking"));
        findings.AddRange(
            (
                await db
                    .Bookings.Where(b =>
                        b.Kind == BookingKind.OtherMoney && !db.OtherMoney.Any(m => m.BookingId == b.Id)
                    )
                    .Select(b => b.Id)
                    .ToListAsync(stop)
            ).Select(b => $"Booking {b}: is of other money, and there is none")
        );
        findings.AddRange(
            (
                await db
                    .Bookings.Where(b =>
                        (
                            b.Kind == BookingKind.OtherMoney
                            || b.Kind == BookingKind.Conversion
                            || b.Kind == BookingKind.Valuation
                        ) != (b.CustomerId == null)
                    )
                    .Select(b => b.Id)
                    .ToListAsync(stop)
            ).Select(b => $"Booking {b}: is about a customer and should not be, or the other way round")
        );
        var all = db.Allocations.IgnoreQueryFilters();
        findings.AddRange(
            (
                await db
                    .Bookings.Where(b =>
                        b.UndoneOn == null
                        && (
                            (b.Kind == BookingKind.SetAgainst && !all.Any(a => a.BookingId == b.Id))
                            || (b.Kind == BookingKind.TakenAway && !all.Any(a => a.EndedById == b.Id))
                        )
                    )
                    .Select(b => b.Id)
                    .ToListAsync(stop)
            ).Select(b => $"Booking {b}: set nothing against anything, or took nothing apart")
        );
        findings.AddRange(
            (
                await db
                    .Bookings.Where(b =>
                        b.UndoneOn == null
                        && b.Kind != BookingKind.SetAgainst
                        && b.Kind != BookingKind.TakenAway
                        && b.Kind != BookingKind.OtherMoney
                        && b.Kind != BookingKind.Conversion
                        && b.Kind != BookingKind.Valuation
                        && !db.AccountItems.Any(i => i.BookingId == b.Id)
                    )
                    .Select(b => b.Id)
                    .ToListAsync(stop)
            ).Select(b => $"Booking {b}: has put nothing on any account")
        );
        findings.Count("bookings", await db.Bookings.LongCountAsync(stop));
    }

    /// <summary>What a booking put on an account is of its customer, its day and its kind.</summary>
    private async Task ItemsAsync(Findings findings, CancellationToken stop)
    {
        var items = await db
            .AccountItems.Where(i => i.BookingId != null)
            .Select(i => new
            {
                i.Number,
                i.Kind,
                i.Date,
                i.Due,
                i.CustomerId,
                Of = i.Booking!.Kind,
                On = i.Booking.Date,
                Whose = i.Booking.CustomerId,
            })
            .ToListAsync(stop);
        foreach (var item in items)
        {
            findings.Unless(
                item.Date == item.On && item.Due == item.Date,
                $"{item.Number}: stands on the account on another day than its booking"
            );
            findings.Unless(
                item.CustomerId == item.Whose || item.Kind == AccountItemKind.MovedIn,
                $"{item.Number}: stands on another account than its booking"
            );
            findings.Unless(
                Makes(item.Of).Contains(item.Kind),
                $"{item.Number}: is {item.Kind.Word()}, and its booking makes no such thing"
            );
        }
    }

    private static AccountItemKind[] Makes(BookingKind kind) =>
        kind switch
        {
            BookingKind.Receipt =>
            [
                AccountItemKind.Receipt,
                AccountItemKind.EarlyPayment,
                AccountItemKind.SmallDifference,
                AccountItemKind.SmallGain,
            ],
            BookingKind.EarlyPayment => [AccountItemKind.EarlyPayment],
            BookingKind.SmallDifference => [AccountItemKind.SmallDifference, AccountItemKind.SmallGain],
            BookingKind.WriteOff => [AccountItemKind.WriteOff],
            BookingKind.Recovery => [AccountItemKind.Recovery],
            BookingKind.TaxOfBadDebt => [AccountItemKind.Recovery, AccountItemKind.WriteOff],
            BookingKind.Returned => [AccountItemKind.Returned, AccountItemKind.Recovery],
            BookingKind.Transfer => [AccountItemKind.MovedOut, AccountItemKind.MovedIn, AccountItemKind.Recovery],
            BookingKind.TakenAway => [AccountItemKind.Recovery],
            BookingKind.Refund => [AccountItemKind.Refund],
            _ => [],
        };

    private async Task RefundsAsync(Findings findings, CancellationToken stop)
    {
        var home = await db.Businesses.Select(b => b.HomeCurrency).FirstOrDefaultAsync(stop);
        var items = (
            await db.AccountItems.Where(i => i.Kind == AccountItemKind.Refund && i.BookingId != null).ToListAsync(stop)
        ).ToLookup(i => i.BookingId!.Value);
        var refunds = await db.Refunds.Include(r => r.Booking).ToListAsync(stop);
        foreach (var refund in refunds)
        {
            findings.Unless(
                refund.Booking is { Kind: BookingKind.Refund } made
                    && made.Date == refund.Date
                    && made.CustomerId == refund.CustomerId,
                $"{refund.Number}: does not agree with its booking"
            );
            try
            {
                Core.Trade.Iban.Check(refund.Iban, "iban");
            }
            catch (Core.RefusalException)
            {
                findings.Add($"{refund.Number}: went to an account that cannot be");
            }

            if (refund.Booking!.IsUndone)
                continue;
            if (
                items[refund.BookingId].ToList() is not [var item]
                || item.Amount != refund.Amount
                || item.Number != refund.Number
                || !item.Currency.Equals(refund.Currency)
            )
                findings.Add($"{refund.Number}: is not on the customer's account with its amount");
            else if (home is not null)
                findings.Unless(
                    item.HomeAmount == refund.Money.HomeLessCharge(home),
                    $"{refund.Number}: its home amount does not follow from what left the account"
                );
        }

        var wrong = await (
            from refund in db.Refunds
            join file in db.PaymentFiles on refund.PaymentFileId equals file.Id
            where file.MoneyAccountId != refund.MoneyAccountId || refund.Iban == ""
            select refund.Number
        ).ToListAsync(stop);
        findings.AddRange(wrong.Select(n => $"{n}: went into a payment file of another account"));
    }
}
