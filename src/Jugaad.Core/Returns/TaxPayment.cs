namespace Jugaad.Core.Returns;

/// <summary>
/// A payment of what a filed return tells: what was paid to the authority, or what came back from it. It counts as long
/// as its booking stands.
/// </summary>
public sealed class TaxPayment
{
    private TaxPayment() { }

    /// <param name="otherMoneyId">The money that moved.</param>
    public TaxPayment(int returnId, int otherMoneyId) => (ReturnId, OtherMoneyId) = (returnId, otherMoneyId);

    public int Id { get; private set; }

    public int ReturnId { get; private set; }

    public int OtherMoneyId { get; private set; }
}
