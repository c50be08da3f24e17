using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>Money that belongs to no invoice, as it was typed.</summary>
/// <param name="Amount">Minor units of the home currency, with tax; below zero for money that went out.</param>
/// <param name="TaxCodeId">Null where there is no tax in it.</param>
public sealed record OtherMoneyToPost(
    DateOnly Date,
    int MoneyAccountId,
    int LedgerAccountId,
    long Amount,
    int? TaxCodeId,
    string Text,
    string? FormKey = null
);

/// <summary>Books money that belongs to no customer: interest, charges, takings without an invoice.</summary>
public sealed class OtherMoneyDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    AccountBook book,
    TaxTelling telling,
    TaxPlaces places
)
{
    /// <returns>The booking's id.</returns>
    /// <exception cref="RefusalException">With what is wrong, each by its field.</exception>
    public Task<int> PostAsync(OtherMoneyToPost typed, CancellationToken stop = default) =>
        PostAsync(typed, false, stop);

    /// <inheritdoc cref="PostAsync(OtherMoneyToPost, CancellationToken)"/>
    /// <param name="toAuthority">Whether it is what is paid of a tax return; nothing else goes against tax owed.</param>
    internal Task<int> PostAsync(OtherMoneyToPost typed, bool toAuthority, CancellationToken stop) =>
        writer.WriteAsync(
            Right.Money,
            new Once(typed.FormKey, stop),
            async () =>
            {
                var refusals = new Refusals();
                MoneyPlaces.CheckDay(refusals, typed.Date, await head.TodayAsync(stop));
                await db.CheckAsync(refusals, typed.MoneyAccountId, "moneyAccountId", stop);
                var account = await db.LedgerAccounts.SingleOrDefaultAsync(a => a.Id == typed.LedgerAccountId, stop);
                if (
                    account is null
                    || account.Retired
                    || account.Role is AccountRole.Receivables or AccountRole.TaxNotDue
                    || account.Role == AccountRole.TaxOwed != toAuthority
                    || account.Id == typed.MoneyAccountId
                )
                    refusals.Add(
                        "ledgerAccountId",
                        "Choose what the money is for: a sales account or another, not what customers owe and not tax."
                    );
                if (typed.TaxCodeId is not null && typed.Amount < 0)
                    refusals.Add("taxCodeId", "Tax is split off money that came in only. Leave the code empty.");
                refusals.ThrowIfAny();
                var net = typed.Amount - await TaxOfAsync(typed, stop);
                var booking = await book.BeginAsync(BookingKind.OtherMoney, typed.Date, null, stop);
                var money = new OtherMoney(
                    booking.Date,
                    typed.MoneyAccountId,
                    typed.LedgerAccountId,
                    typed.Amount,
                    typed.TaxCodeId,
                    net,
                    typed.Text,
                    booking
                );
                db.OtherMoney.Add(money);
                await writer.SaveAsync(stop);
                var told = await telling.AddAsync(money, stop);
                var accounts = await book.AccountsAsync(stop);
                var entry = PostingRules.ForOtherMoney(money, accounts);
                await places.PutAsync(entry, accounts.TaxOwed, told, 0, stop);
                book.Post(booking, entry);
                var home = (await head.BusinessAsync(stop)).HomeCurrency;
                booking.Say(
                    $"{(await head.BusinessAsync(stop)).Format.WithCode(typed.Amount, home)} to {account!.Code} {account.Name}: {money.Text}"
                );
                await writer.TrailAsync(booking.Words);
                return booking.Id;
            }
        );

    /// <summary>The tax that is in an amount, in minor units of the home currency.</summary>
    public async Task<long> TaxOfAsync(OtherMoneyToPost typed, CancellationToken stop = default)
    {
        if (typed.TaxCodeId is not { } id)
            return 0;
        var code =
            (await db.TaxCodes.ToListAsync(stop)).Find(c => c.Id == id)
            ?? throw new RefusalException("taxCodeId", "This tax code is not there. Choose another.");
        var standing = TaxStanding.With(await db.TaxAuthorities.ToListAsync(stop));
        return Calculator.TaxIn(code.TreatmentOn(typed.Date, "taxCodeId", standing), typed.Amount);
    }
}
