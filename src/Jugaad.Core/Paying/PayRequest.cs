using Jugaad.Core.Amounts;

namespace Jugaad.Core.Paying;

/// <summary>How far a request for a card payment has come. A payment that was made stays made, whatever is told
/// later.</summary>
public enum PayState
{
    /// <summary>The payer was sent to the service's page.</summary>
    Asked,
    Paid,
    Declined,

    /// <summary>The payer turned back.</summary>
    Left,
}

/// <summary>
/// What a payer was asked to pay by card, and what became of it. Amounts are minor units of its currency.
/// </summary>
public sealed class PayRequest
{
    private readonly List<PayRequestPart> _parts = [];

    private PayRequest() => Currency = null!;

    /// <param name="key">That nobody can guess; the payer's way back, and the same on every try to ask the
    /// service.</param>
    /// <param name="parts">What is paid of which account items, with the surcharge on each.</param>
    public PayRequest(
        int customerId,
        string key,
        Currency currency,
        long amount,
        DateOnly madeOn,
        IReadOnlyList<(int ItemId, long Amount, long Surcharge)> parts
    )
    {
        (CustomerId, Key, Currency, Amount, MadeOn) = (customerId, key, currency, amount, madeOn);
        _parts.AddRange(parts.Select(p => new PayRequestPart(p.ItemId, p.Amount, p.Surcharge)));
        Surcharge = _parts.Sum(p => p.Surcharge);
    }

    public int Id { get; private set; }

    public int CustomerId { get; private set; }

    public string Key { get; private set; } = "";

    /// <summary>The service's own name for it; empty while it was not asked.</summary>
    public string ServiceId { get; private set; } = "";

    public Currency Currency { get; private set; }

    /// <summary>Without the surcharge.</summary>
    public long Amount { get; private set; }

    public long Surcharge { get; private set; }

    /// <summary>What the payer pays.</summary>
    public long Total => Amount + Surcharge;

    public DateOnly MadeOn { get; private set; }

    public PayState State { get; private set; }

    /// <summary>The receipt that it became; null while it is not paid.</summary>
    public int? ReceiptId { get; private set; }

    /// <summary>The link of the account or paper that the payer came from, for the way back.</summary>
    public string CameFrom { get; private set; } = "";

    public IReadOnlyList<PayRequestPart> Parts => _parts;

    /// <summary>The money that was paid back to the card.</summary>
    public IReadOnlyList<CardRefund> Refunds => _refunds;

    private readonly List<CardRefund> _refunds = [];

    public void ComeFrom(string address) => CameFrom = address;

    public void AskedAs(string serviceId) => ServiceId = serviceId;

    public void Pay(int receiptId) => (State, ReceiptId) = (PayState.Paid, receiptId);

    /// <summary>It was not paid; what was paid stays so.</summary>
    public void Fail(PayState state)
    {
        if (State != PayState.Paid)
            State = state;
    }

    public void PayBack(CardRefund refund) => _refunds.Add(refund);
}

/// <summary>A part of a request: what is paid of an account item, and the surcharge on it. Minor units.</summary>
public sealed class PayRequestPart
{
    private PayRequestPart() { }

    internal PayRequestPart(int itemId, long amount, long surcharge) =>
        (ItemId, Amount, Surcharge) = (itemId, amount, surcharge);

    public int RequestId { get; private set; }

    public int ItemId { get; private set; }

    public long Amount { get; private set; }

    public long Surcharge { get; private set; }

    /// <summary>The debit note that the surcharge was charged on; null while there is none.</summary>
    public int? ChargedOnId { get; private set; }

    public void ChargeOn(int documentId) => ChargedOnId = documentId;
}

/// <summary>Money that went back to the card that paid. Minor units of the request's currency.</summary>
/// <param name="BookingId">The refund's booking.</param>
/// <param name="ServiceId">The service's own name for it.</param>
public sealed record CardRefund(int BookingId, long Amount, string ServiceId)
{
    public int RequestId { get; init; }
}
