namespace Jugaad.Desk.Lists;

/// <summary>Where things are seen.</summary>
public static class Addresses
{
    /// <summary>
    /// Something on a customer's account: its paper, its receipt, how it was booked, or the account itself for what was
    /// taken over.
    /// </summary>
    public static string Of(int? documentId, int? receiptId, int customerId, int? bookingId = null) =>
        receiptId is { } receipt ? $"/receive/{receipt}"
        : documentId is { } document ? $"/papers/{document}"
        : bookingId is { } booking ? $"/reports/entries?booking={booking}"
        : $"/customers/{customerId}";
}
