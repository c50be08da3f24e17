using Jugaad.Core.Amounts;

namespace Jugaad.Core.Accounts;

/// <summary>Refunds that went to the bank together as a file of credit transfers.</summary>
public sealed class PaymentFile
{
    private PaymentFile() => Currency = null!;

    /// <param name="reference">What tells it from every other file that this business gives to its bank.</param>
    /// <param name="payOn">The day on which the bank is to pay.</param>
    public PaymentFile(
        string reference,
        DateOnly madeOn,
        DateOnly payOn,
        int moneyAccountId,
        Currency currency,
        IReadOnlyCollection<Refund> refunds,
        byte[] content,
        string by
    )
    {
        (Reference, MadeOn, PayOn, MoneyAccountId, Currency, By) = (
            reference,
            madeOn,
            payOn,
            moneyAccountId,
            currency,
            by
        );
        (Count, Total, Content) = (refunds.Count, refunds.Sum(r => r.Amount), content);
    }

    public int Id { get; private set; }

    public string Reference { get; private set; } = "";

    public DateOnly MadeOn { get; private set; }

    public DateOnly PayOn { get; private set; }

    public int MoneyAccountId { get; private set; }

    public Currency Currency { get; private set; }

    public int Count { get; private set; }

    /// <summary>Minor units.</summary>
    public long Total { get; private set; }

    /// <summary>ISO 20022 pain.001, as it was given out.</summary>
    public byte[] Content { get; private set; } = [];

    public string By { get; private set; } = "";

    /// <summary>
    /// The day on which it was taken back, as it did not go to the bank; its refunds wait for another file then.
    /// </summary>
    public DateOnly? TakenBackOn { get; private set; }

    /// <exception cref="RefusalException">When it was taken back before.</exception>
    public void TakeBack(DateOnly day) =>
        TakenBackOn = TakenBackOn is null
            ? day
            : throw new RefusalException("", $"{Reference} was taken back already.");
}
