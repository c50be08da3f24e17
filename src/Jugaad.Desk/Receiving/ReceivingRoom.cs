namespace Jugaad.Desk.Receiving;

internal static class ReceivingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(Receipts),
        typeof(AccountBook),
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
