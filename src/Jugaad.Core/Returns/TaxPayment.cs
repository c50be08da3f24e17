namespace Jugaad.Core.Returns;

/// <summary>
/// A payment of what a filed return tells: what was paid to the authority, or what came back from it. It counts as long
/// as its booking stands.
/// </summary>
public sealed class TaxPayment
{
    private TaxPayment() { }

    /// <param name="otherMoneyId">The money that moved.</param>
    /// <param name="over">What of it goes beyond what was left of the return; minor units of the home currency.</param>
    public TaxPayment(int returnId, int otherMoneyId, long over = 0) =>
        (ReturnId, OtherMoneyId, Over) = (returnId, otherMoneyId, over);

    public int Id { get; private set; }

    public int ReturnId { get; private set; }

    public int OtherMoneyId { get; private set; }

    public long Over { get; private set; }
}
