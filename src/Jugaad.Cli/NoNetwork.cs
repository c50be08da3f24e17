using Jugaad.Desk.Outside;

namespace Jugaad.Cli;

/// <summary>The launcher's verbs send no e-invoices: what they put into the tray waits for the server.</summary>
internal sealed class NoNetwork : IAccessPoint
{
    public bool IsStandIn => true;

    public Task<NetworkReceiver?> FindAsync(string scheme, string number, CancellationToken stop) =>
        Task.FromResult<NetworkReceiver?>(null);

    public Task<IReadOnlyList<NetworkReceiver>> SearchAsync(string registrationOrTaxNumber, CancellationToken stop) =>
        Task.FromResult<IReadOnlyList<NetworkReceiver>>([]);

    public Task<string> SendAsync(NetworkMessage message, CancellationToken stop) =>
        throw new CarrierException("This command sends nothing.", CarrierFate.NotTaken);

    public Task<IReadOnlyList<ReceiversAnswer>> AnswersAsync(DateOnly until, CancellationToken stop) =>
        Task.FromResult<IReadOnlyList<ReceiversAnswer>>([]);
}
