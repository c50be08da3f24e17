using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Accounts;

/// <summary>
/// What moved on a money account, in its own currency: the account's side of a receipt or a refund, whose other side is
/// in the currency of what it is for. Amounts are minor units, not below zero.
/// </summary>
/// <param name="Amount">What the account got, or gave.</param>
/// <param name="Charge">What banks kept on the way: of a receipt before it came, of a refund out of what was
/// given.</param>
/// <param name="ChargeAccountId">What bears the charge; null where there is none.</param>
/// <param name="Rate">What the account's currency is worth at home; 1 for home itself.</param>
public sealed record MoneySide(Currency Currency, long Amount, long Charge, int? ChargeAccountId, QuotedRate Rate)
{
    /// <summary>What came into an account, or went out of it, and nothing was kept.</summary>
    public static MoneySide Plain(Currency currency, long amount, QuotedRate rate) =>
        new(currency, amount, 0, null, rate);

    /// <summary>What the payer's money was worth before anything was kept of it, in minor units of home.</summary>
    public long HomeWithCharge(Currency home) => HomeAmount.Of(Amount + Charge, Currency, Rate, home);

    /// <summary>What the payee gets of it once the charge is taken off, in minor units of home.</summary>
    public long HomeLessCharge(Currency home) => HomeAmount.Of(Amount - Charge, Currency, Rate, home);

    /// <exception cref="RefusalException">With every figure that cannot be.</exception>
    public void Check(Refusals refusals, bool given)
    {
        if (Amount <= 0)
            refusals.Add(
                "arrived",
                given ? "Give what left the account, above zero." : "Give what arrived, above zero."
            );
        if (Charge < 0)
            refusals.Add("charge", "Give the charge above zero, or leave it empty.");
        else if (given && Charge >= Amount && Amount > 0)
            refusals.Add("charge", "The charge is as much as what left the account. Look at the two amounts.");
        if (Charge > 0 && ChargeAccountId is null)
            refusals.Add("charge", "Say under Setup, the business, which account bank charges go to, and try again.");
    }
}
