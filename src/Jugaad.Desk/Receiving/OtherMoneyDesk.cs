using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>Money that belongs to no invoice, as it was typed.</summary>
/// <param name="Amount">Minor units of the account's currency, with tax; below zero for money that went out.</param>
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
    TaxPlaces places,
    MoneySides sides
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
                    || account.Role is AccountRole.Receivables or AccountRole.TaxNotDue or AccountRole.Valuation
                    || account.Role == AccountRole.TaxOwed != toAuthority
                    || account.Id == typed.MoneyAccountId
                    || account.Currency is not null
                )
                    refusals.Add(
                        "ledgerAccountId",
                        "Choose what the money is for: a sales account or another, not what customers owe and not tax."
                    );
                else if (
                    account.Role == AccountRole.Money
                    && !(await sides.CurrencyOfAsync(typed.MoneyAccountId, stop)).Equals(
                        (await head.BusinessAsync(stop)).HomeCurrency
                    )
                )
                    refusals.Add(
                        "ledgerAccountId",
                        "From one currency into another it is a conversion, with both amounts. Enter it under Receive, our money."
                    );
                if (typed.TaxCodeId is not null && typed.Amount < 0)
                    refusals.Add("taxCodeId", "Tax is split off money that came in only. Leave the code empty.");
                refusals.ThrowIfAny();
                var side = await sides.OtherAsync(typed.MoneyAccountId, Math.Abs(typed.Amount), typed.Date, stop);
                var (homeCurrency, format) = (
                    (await head.BusinessAsync(stop)).HomeCurrency,
                    (await head.BusinessAsync(stop)).Format
                );
                var amount = Math.Sign(typed.Amount) * side.HomeWithCharge(homeCurrency);
                if (amount == 0)
                    throw new RefusalException(
                        "amount",
                        typed.Amount == 0
                            ? "Give the amount, above zero for money that came in."
                            : "This is worth nothing at home."
                    );
                var net = amount - await TaxOfAsync(typed with { Amount = amount }, stop);
                var booking = await book.BeginAsync(BookingKind.OtherMoney, typed.Date, null, stop);
                var money = new OtherMoney(
                    booking.Date,
                    typed.MoneyAccountId,
                    typed.LedgerAccountId,
                    side,
                    amount,
                    typed.TaxCodeId,
                    net,
                    typed.Text,
                    booking
                );
                db.OtherMoney.Add(money);
                await writer.SaveAsync(stop);
                var told = await telling.AddAsync(money, stop);
                var accounts = await book.AccountsAsync(stop);
                var entry = PostingRules.ForOtherMoney(money, accounts, homeCurrency);
                await places.PutAsync(entry, accounts.TaxOwed, told, 0, stop);
                book.Post(booking, entry);
                booking.Say(
                    $"{format.WithCode(typed.Amount, side.Currency)} to {account!.Code} {account.Name}: {money.Text}"
                );
                await writer.TrailAsync(booking.Words);
                return booking.Id;
            }
        );

    /// <summary>The tax that is in an amount of home currency, in minor units of it.</summary>
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
