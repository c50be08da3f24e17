using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;

namespace Jugaad.Desk.Outside;

/// <summary>Whose account pays.</summary>
public sealed record PayingAccount(string Name, string Iban, string Bic);

/// <summary>Writes files of credit transfers that a bank takes.</summary>
public interface IPaymentFileWriter
{
    /// <param name="reference">At most 30 letters, digits and dashes.</param>
    /// <returns>ISO 20022 pain.001.001.09.</returns>
    byte[] Write(
        string reference,
        DateOnly madeOn,
        DateOnly payOn,
        PayingAccount payer,
        Currency currency,
        IReadOnlyList<Refund> refunds
    );
}
