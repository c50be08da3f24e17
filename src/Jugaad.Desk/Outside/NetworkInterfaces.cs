using Jugaad.Core.EInvoicing;

namespace Jugaad.Desk.Outside;

/// <summary>Writes and reads e-invoices as files.</summary>
public interface IEInvoiceFiles
{
    byte[] Write(EInvoice invoice, EInvoiceSyntax syntax);

    /// <exception cref="Core.RefusalException">With where it is none.</exception>
    EInvoice Read(byte[] file);

    /// <summary>What is wrong with a file: where its elements stand, then by every rule of the standard.</summary>
    /// <inheritdoc cref="Read"/>
    IReadOnlyList<Breach> Check(byte[] file);

    /// <summary>A paper with its e-invoice inside, as PDF/A-3.</summary>
    byte[] Hybrid(byte[] pdf, EInvoice invoice);
}

/// <summary>A receiver as the directory of the network knows it.</summary>
public sealed record NetworkReceiver(string Scheme, string Number, string Name, IReadOnlyList<EInvoiceSyntax> Takes);

/// <summary>An e-invoice as it is handed to the access point.</summary>
/// <param name="Key">The same on every try; the network delivers each key once.</param>
/// <param name="Date">When it is sent, by the business's calendar.</param>
public sealed record NetworkMessage(
    string Key,
    DateTimeOffset Date,
    string Scheme,
    string Number,
    EInvoiceSyntax Syntax,
    string FileName,
    byte[] Content
);

/// <summary>A receiver's answer.</summary>
/// <param name="Key">Of the message that it answers.</param>
/// <param name="Id">The network's own, the same however often it is told.</param>
public sealed record ReceiversAnswer(string Key, string Id, AnswerKind Kind, string Reason, DateOnly Day);

/// <summary>The access point through which e-invoices leave.</summary>
public interface IAccessPoint
{
    /// <summary>Whether it only plays a network: nothing that it takes leaves the house.</summary>
    bool IsStandIn { get; }

    /// <returns>Null where the directory has no such receiver.</returns>
    Task<NetworkReceiver?> FindAsync(string scheme, string number, CancellationToken stop);

    /// <summary>All addresses of whoever has a registration or tax number.</summary>
    Task<IReadOnlyList<NetworkReceiver>> SearchAsync(string registrationOrTaxNumber, CancellationToken stop);

    /// <summary>Transmits a message.</summary>
    /// <returns>The technical receipt.</returns>
    /// <exception cref="CarrierException">When it was not taken, or when nobody knows.</exception>
    Task<string> SendAsync(NetworkMessage message, CancellationToken stop);

    /// <summary>All answers until a day, oldest first; known ones too.</summary>
    Task<IReadOnlyList<ReceiversAnswer>> AnswersAsync(DateOnly until, CancellationToken stop);
}
