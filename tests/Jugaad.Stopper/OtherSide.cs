using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;

namespace Jugaad.Stopper;

/// <summary>
/// The mail server of somebody else: what it took stays taken, whatever becomes of who handed it over.
/// </summary>
public sealed class OtherSide(string path) : IMailCarrier, IMessageGateway
{
    public bool IsStandIn(MailSettings settings) => false;

    bool IMessageGateway.IsStandIn => false;

    public async Task<string> CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop)
    {
        await using (var taken = new FileStream(path, FileMode.Append, FileAccess.Write, FileShare.Read))
        {
            await taken.WriteAsync(System.Text.Encoding.UTF8.GetBytes($"{mail.To}\n"), CancellationToken.None);
        }

        // Its answer is on its way for a while, which is when a plug is pulled.
        await Task.Delay(8, CancellationToken.None);
        return "250 taken";
    }

    public Task<string> CarryAsync(string key, string number, string text, CancellationToken stop) =>
        throw new CarrierException("There is no telephone here.", CarrierFate.NotTaken);
}
