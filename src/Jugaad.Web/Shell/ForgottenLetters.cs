using System.Threading.Channels;
using Jugaad.Desk.Outside;
using Jugaad.Desk.People;

namespace Jugaad.Web.Shell;

/// <summary>
/// Sends links for new passwords beside the requests that asked for them, so that an answer takes the same time whether
/// the address is known or not. Of too many at once the newest are dropped; whoever still waits asks again.
/// </summary>
internal sealed partial class ForgottenLettersRound(
    IServiceScopeFactory scopes,
    ForgottenLetters letters,
    ILogger<ForgottenLettersRound> log
) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await foreach (var email in letters.Asked.ReadAllAsync(stoppingToken))
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await scope.ServiceProvider.GetRequiredService<ForgottenPasswords>().SendAsync(email, stoppingToken);
            }
            catch (Exception broken)
                when (broken is not OperationCanceledException || !stoppingToken.IsCancellationRequested)
            {
                NotSent(broken is CarrierException ? broken.Message : broken.ToString());
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "A link for a new password could not be sent: {Why}")]
    private partial void NotSent(string why);
}

/// <summary>The addresses for which a link was asked.</summary>
public sealed class ForgottenLetters
{
    private readonly Channel<string> _asked = Channel.CreateBounded<string>(
        new BoundedChannelOptions(20) { FullMode = BoundedChannelFullMode.DropWrite }
    );

    internal ChannelReader<string> Asked => _asked.Reader;

    public void Ask(string email) => _asked.Writer.TryWrite(email.Length > 254 ? email[..254] : email);
}
