using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;

namespace Jugaad.Cli;

/// <summary>The launcher's verbs send nothing: what they put into the tray waits for the server.</summary>
internal sealed class NoCarrier : IMailCarrier, IMessageGateway
{
    public bool IsStandIn(MailSettings settings) => true;

    bool IMessageGateway.IsStandIn => true;

    public Task<string> CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop) =>
        throw new CarrierException("This command sends nothing.", CarrierFate.NotTaken);

    public Task<string> CarryAsync(string key, string number, string text, CancellationToken stop) =>
        throw new CarrierException("This command sends nothing.", CarrierFate.NotTaken);
}
