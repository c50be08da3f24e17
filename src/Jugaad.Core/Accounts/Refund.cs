using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Accounts;

/// <summary>Where a refund goes.</summary>
/// <param name="Iban">Empty where it is paid in cash.</param>
public sealed record Payee(string Name, string Iban = "", string Bic = "");

/// <summary>
/// Money paid back to a customer, from their credit. Amounts are minor units of <see cref="Currency"/>.
/// </summary>
public sealed class Refund
{
    private Refund() => (Number, Currency, Money) = ("", null!, null!);

    /// <param name="payee">To whose account; null where it is paid in cash.</param>
    /// <exception cref="RefusalException">When the amount is not above zero, or the account cannot be.</exception>
    public Refund(
        int seriesId,
        string number,
        int customerId,
        DateOnly date,
        int moneyAccountId,
        Currency currency,
        long amount,
        MoneySide money,
        Payee? payee,
        string reference,
        Booking booking
    )
    {
        var refusals = new Refusals();
        if (amount <= 0)
            refusals.Add("amount", "Give the amount to pay back, above zero.");
        money.Check(refusals, given: true);
        Texts.Short(refusals, "reference", reference, 140);
        if (payee is not null)
        {
            Texts.Required(refusals, "payee", payee.Name, 70, "Give the name of whoever has the account.");
            if (payee.Iban.Trim().Length == 0)
                refusals.Add("iban", "Give the account that the money goes to.");
            refusals.Try(() => Trade.Iban.Check(payee.Iban, "iban"));
            refusals.Try(() => Trade.Iban.CheckBic(payee.Bic, payee.Iban, "bic"));
        }

        refusals.ThrowIfAny();
        (SeriesId, Number, CustomerId, Date, MoneyAccountId) = (seriesId, number, customerId, date, moneyAccountId);
        (Currency, Amount, Money, Reference) = (currency, amount, money, reference.Trim());
        if (payee is not null)
            (PayeeName, Iban, Bic) = (payee.Name.Trim(), Trade.Iban.Compact(payee.Iban), Trade.Iban.Compact(payee.Bic));
        (Booking, BookingId) = (booking, booking.Id);
    }

    public int Id { get; private set; }

    public int SeriesId { get; private set; }

    public string Number { get; private set; }

    public int CustomerId { get; private set; }

    public DateOnly Date { get; private set; }

    public int MoneyAccountId { get; private set; }

    public Currency Currency { get; private set; }

    public long Amount { get; private set; }

    /// <summary>What left the account, in its currency; what the refund is worth at home follows from it.</summary>
    public MoneySide Money { get; private set; }

    /// <summary>Empty where it was paid in cash.</summary>
    public string PayeeName { get; private set; } = "";

    public string Iban { get; private set; } = "";

    public string Bic { get; private set; } = "";

    public string Reference { get; private set; } = "";

    /// <summary>
    /// The payment file that it went to the bank with; null while it waits for one, or where it was paid in cash.
    /// </summary>
    public int? PaymentFileId { get; set; }

    public int BookingId { get; private set; }

    public Booking? Booking { get; private set; }

    public bool ByBank => Iban.Length > 0;
}
