using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Accounts;

/// <summary>One side of a conversion: an own account with what moved on it, in minor units of its currency.</summary>
public sealed record ConversionSide(int AccountId, Currency Currency, long Amount);

/// <summary>What a conversion comes to at home, in minor units.</summary>
/// <param name="Given">What left the one account.</param>
/// <param name="Charge">What of it the bank kept.</param>
/// <param name="Got">What came to the other: the rest.</param>
public sealed record ConversionAtHome(long Given, long Charge, long Got);

/// <summary>
/// Money moved between two own money accounts, at least one of them in another currency, at the rate that the bank gave:
/// both amounts are as the bank booked them, and the bank's charge stands apart.
/// </summary>
public sealed class Conversion
{
    private Conversion() => (FromCurrency, ToCurrency) = (null!, null!);

    /// <param name="from">With the charge, where the bank took it there.</param>
    /// <param name="to">Without the charge, where the bank took it there.</param>
    /// <param name="charge">Minor units of the side that it was taken on.</param>
    /// <param name="rate">What one of <paramref name="from"/> is worth at home, where neither side is home; 1
    /// otherwise.</param>
    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    public Conversion(
        DateOnly date,
        ConversionSide from,
        ConversionSide to,
        long charge,
        bool chargeOnTo,
        int? chargeAccountId,
        QuotedRate rate,
        string text,
        Booking booking
    )
        : this()
    {
        var refusals = new Refusals();
        if (from.AccountId == to.AccountId)
            refusals.Add("to", "Choose two different accounts.");
        if (from.Amount <= 0)
            refusals.Add("given", "Give what left the account, above zero.");
        if (to.Amount <= 0)
            refusals.Add("got", "Give what arrived, above zero.");
        if (charge < 0)
            refusals.Add("charge", "Give the charge above zero, or leave it empty.");
        else if (!chargeOnTo && charge >= from.Amount && from.Amount > 0)
            refusals.Add("charge", "The charge is as much as what left the account. Look at the two amounts.");
        if (charge > 0 && chargeAccountId is null)
            refusals.Add("charge", "Choose the account that bears the bank's charge.");
        if (
            from.Currency.Equals(to.Currency)
            && from.Amount - (chargeOnTo ? 0 : charge) != to.Amount + (chargeOnTo ? charge : 0)
        )
            refusals.Add(
                "got",
                $"Both accounts are in {from.Currency}, so what arrived is what left less the charge. Look at the amounts."
            );
        Texts.Required(refusals, "text", text, 200, "Say in a few words what it is.");
        refusals.ThrowIfAny();
        (Date, FromAccountId, FromCurrency, Given) = (date, from.AccountId, from.Currency, from.Amount);
        (ToAccountId, ToCurrency, Got) = (to.AccountId, to.Currency, to.Amount);
        (Charge, ChargeOnTo, ChargeAccountId) = (charge, chargeOnTo, charge > 0 ? chargeAccountId : null);
        (Rate, Text, Booking, BookingId) = (rate, text.Trim(), booking, booking.Id);
    }

    public int Id { get; private set; }

    public DateOnly Date { get; private set; }

    public int FromAccountId { get; private set; }

    public Currency FromCurrency { get; private set; }

    /// <summary>What left the account, in minor units of <see cref="FromCurrency"/>.</summary>
    public long Given { get; private set; }

    public int ToAccountId { get; private set; }

    public Currency ToCurrency { get; private set; }

    /// <summary>What arrived, in minor units of <see cref="ToCurrency"/>.</summary>
    public long Got { get; private set; }

    public long Charge { get; private set; }

    /// <summary>Whether the charge was taken of what would have arrived; of what was given otherwise.</summary>
    public bool ChargeOnTo { get; private set; }

    public int? ChargeAccountId { get; private set; }

    /// <summary>What one of <see cref="FromCurrency"/> is worth at home, where neither side is home.</summary>
    public QuotedRate Rate { get; private set; } = QuotedRate.One;

    public string Text { get; private set; } = "";

    public int BookingId { get; private set; }

    public Booking? Booking { get; private set; }

    /// <summary>The rate at which the bank changed the one into the other, with ten significant digits.</summary>
    public QuotedRate BankRate =>
        QuotedRate.Between(
            Given - (ChargeOnTo ? 0 : Charge),
            FromCurrency,
            Got + (ChargeOnTo ? Charge : 0),
            ToCurrency
        );

    /// <summary>
    /// The side that is home says what the other is worth; where neither is, the rate does. The charge has its share,
    /// rounded half away from zero.
    /// </summary>
    public ConversionAtHome AtHome(Currency home)
    {
        if (ToCurrency.Equals(home) && !FromCurrency.Equals(home))
        {
            var charge = ChargeOnTo ? Charge : Rounding.Share(Got, Charge, Given - Charge);
            return new(Got + charge, charge, Got);
        }

        var given = HomeAmount.Of(Given, FromCurrency, Rate, home);
        var kept = ChargeOnTo ? Rounding.Share(given, Charge, Got + Charge) : Rounding.Share(given, Charge, Given);
        return new(given, kept, given - kept);
    }
}
