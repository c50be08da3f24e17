namespace Jugaad.Desk.Receiving;

/// <summary>Money that came, went back, failed or moved, what it was set against, and taking that back.</summary>
internal static class ReceivingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(Receipts),
        typeof(AccountBook),
        typeof(MoneySides),
        typeof(Settlements),
        typeof(Refunds),
        typeof(PaymentFiles),
        typeof(ReceiptSheet),
        typeof(Returns),
        typeof(Transfers),
        typeof(OtherMoneyDesk),
        typeof(Undoing),
    ];
}
