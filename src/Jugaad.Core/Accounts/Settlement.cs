using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Accounts;

/// <summary>Why less is asked for than was billed, or something of that is taken back.</summary>
public enum SettlementKind
{
    EarlyPayment,

    /// <summary>A small rest; it does not touch the tax.</summary>
    SmallDifference,

    /// <summary>A debt that is given up, with its tax.</summary>
    BadDebt,

    /// <summary>A debt that was given up and is paid after all.</summary>
    Recovery,

    /// <summary>An early-payment discount whose payment went away again.</summary>
    EarlyTakenBack,
}

/// <summary>Between a settlement and what it puts on the account.</summary>
public static class SettlementKinds
{
    public static AccountItemKind OnAccount(this SettlementKind kind) =>
        kind switch
        {
            SettlementKind.EarlyPayment => AccountItemKind.EarlyPayment,
            SettlementKind.SmallDifference => AccountItemKind.SmallDifference,
            SettlementKind.BadDebt => AccountItemKind.WriteOff,
            _ => AccountItemKind.Recovery,
        };
}

/// <summary>
/// One tax that goes down, or comes back, with a settlement. Minor units of the settlement's currency.
/// </summary>
public sealed class SettlementTax
{
    private SettlementTax() { }

    internal SettlementTax(DocumentTax of, long taxable, long tax)
    {
        (Position, Treatment, Category) = (of.Position, of.Treatment, of.Category);
        (ComponentId, Component, Percent) = (of.ComponentId, of.Component, of.Percent);
        (Taxable, Tax, ToldRate) = (taxable, tax, of.ToldRate);
    }

    internal SettlementTax(SettlementTax of, long taxable, long tax)
    {
        (Position, Treatment, Category) = (of.Position, of.Treatment, of.Category);
        (ComponentId, Component, Percent) = (of.ComponentId, of.Component, of.Percent);
        (Taxable, Tax, ToldRate) = (taxable, tax, of.ToldRate);
    }

    public int Id { get; private set; }

    public int SettlementId { get; private set; }

    public int Position { get; private set; }

    public string Treatment { get; private set; } = "";

    public TaxCategory Category { get; private set; }

    public int? ComponentId { get; private set; }

    public string Component { get; private set; } = "";

    public decimal Percent { get; private set; }

    /// <summary>The net that goes with it; for a compound tax, the taxes before it too.</summary>
    public long Taxable { get; private set; }

    public long Tax { get; private set; }

    /// <inheritdoc cref="DocumentTax.ToldRate"/>
    public QuotedRate? ToldRate { get; private set; }
}

/// <summary>
/// What is taken off an invoice after it was issued, without a credit note: an early-payment discount, a small
/// difference, a debt given up; or what comes back of the last. Amounts are minor units of <see cref="Currency"/>.
/// </summary>
public sealed class Settlement
{
    private readonly List<SettlementTax> _taxes = [];

    private Settlement() => Currency = null!;

    /// <param name="shares">How the amount is split over net and taxes; all net where it is empty.</param>
    /// <param name="taxes">Those of the document that <paramref name="shares"/> points to.</param>
    /// <exception cref="RefusalException">When the amount is not above zero, or the reason too long.</exception>
    public Settlement(
        SettlementKind kind,
        AccountItem of,
        DateOnly date,
        long amount,
        QuotedRate exchangeRate,
        string reason,
        IReadOnlyList<TaxShare> shares,
        IReadOnlyList<DocumentTax> taxes,
        Booking booking
    )
    {
        var refusals = new Refusals();
        if (amount <= 0)
            refusals.Add("amount", "Give an amount above zero.");
        Texts.Short(refusals, "reason", reason, 300);
        refusals.ThrowIfAny();
        (Kind, CustomerId, DocumentId, Date, Currency, Amount, ExchangeRate, Reason) = (
            kind,
            of.CustomerId,
            of.DocumentId,
            date,
            of.Currency,
            amount,
            exchangeRate,
            reason.Trim()
        );
        (Booking, BookingId) = (booking, booking.Id);
        foreach (var same in shares.GroupBy(s => taxes.Single(t => t.Position == s.Position).Treatment))
        {
            var net = same.Where(s => !s.IsTax).Sum(s => s.Amount);
            var ofTreatment = same.Where(s => s.IsTax).OrderBy(s => s.Position).ToList();
            if (ofTreatment.Count == 0)
                _taxes.Add(new SettlementTax(taxes.Single(t => t.Position == same.First().Position), net, 0));
            var before = 0L;
            foreach (var share in ofTreatment)
            {
                var tax = taxes.Single(t => t.Position == share.Position);
                _taxes.Add(new SettlementTax(tax, tax.IsCompound ? net + before : net, share.Amount));
                before += share.Amount;
            }
        }
    }

    /// <summary>
    /// What comes back of a debt that was given up, with its part of the tax. However many parts it comes in, all of
    /// them together bring back exactly the tax that went down.
    /// </summary>
    /// <param name="earlier">What came back of it before.</param>
    /// <param name="amount">Minor units.</param>
    /// <exception cref="RefusalException">When it is more than was given up and did not come back yet.</exception>
    public static Settlement Recover(
        Settlement given,
        IReadOnlyList<Settlement> earlier,
        DateOnly date,
        long amount,
        Booking booking
    )
    {
        var before = earlier.Sum(e => e.Amount);
        var early = given.Kind == SettlementKind.EarlyPayment;
        if (amount <= 0)
            throw new RefusalException("amount", "Give the amount that came after all, above zero.");
        if (before + amount > given.Amount)
            throw new RefusalException(
                "amount",
                $"{new Money(amount, given.Currency)} is more than the {new Money(given.Amount - before, given.Currency)} of it that is given up. Give at most that; the rest is credit."
            );
        var made = new Settlement
        {
            Kind = early ? SettlementKind.EarlyTakenBack : SettlementKind.Recovery,
            CustomerId = given.CustomerId,
            DocumentId = given.DocumentId,
            Date = date,
            Currency = given.Currency,
            Amount = amount,
            ExchangeRate = given.ExchangeRate,
            RecoversId = given.Id,
            Booking = booking,
            BookingId = booking.Id,
        };
        foreach (var tax in given._taxes)
        {
            long Part(long whole, Func<SettlementTax, long> of) =>
                Rounding.Share(whole, before + amount, given.Amount)
                - earlier.Sum(e => e._taxes.Where(t => t.Position == tax.Position).Sum(of));
            made._taxes.Add(new SettlementTax(tax, Part(tax.Taxable, t => t.Taxable), Part(tax.Tax, t => t.Tax)));
        }

        return made;
    }

    public int Id { get; private set; }

    /// <summary>The debt given up of which this came back; null otherwise.</summary>
    public int? RecoversId { get; private set; }

    public SettlementKind Kind { get; private set; }

    public int CustomerId { get; private set; }

    /// <summary>The invoice; null where it was taken over from other books.</summary>
    public int? DocumentId { get; private set; }

    public DateOnly Date { get; private set; }

    public Currency Currency { get; private set; }

    public long Amount { get; private set; }

    /// <summary>As it was quoted.</summary>
    public QuotedRate ExchangeRate { get; private set; }

    public string Reason { get; private set; } = "";

    public int BookingId { get; private set; }

    public Booking? Booking { get; private set; }

    public IReadOnlyList<SettlementTax> Taxes => _taxes;

    public long Tax => _taxes.Sum(t => t.Tax);

    public long Net => Amount - Tax;

    /// <summary>
    /// What each tax is in home currency, in the order of their places: at the rate of its authority where it is told
    /// at that, and as shares of all others at the document's.
    /// </summary>
    public long[] HomeTaxes(Currency home)
    {
        var taxes = _taxes.OrderBy(t => t.Position).ToList();
        var others = taxes.ConvertAll(t => t.ToldRate is null ? t.Tax : 0);
        // All in one goes with the net, so that the two are what the settlement is.
        var together = taxes.TrueForAll(t => t.ToldRate is null)
            ? HomeAmount.Parts(Amount, [Net, Tax], Currency, ExchangeRate, home)[1]
            : HomeAmount.Of(others.Sum(), Currency, ExchangeRate, home);
        var shares = Apportion.Spread(together, others);
        return
        [
            .. taxes.Select((t, i) => t.ToldRate is { } told ? HomeAmount.Of(t.Tax, Currency, told, home) : shares[i]),
        ];
    }
}
