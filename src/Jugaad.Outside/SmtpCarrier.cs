using System.Net.Sockets;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;

namespace Jugaad.Outside;

/// <summary>Hands mail to a server by SMTP.</summary>
public sealed class SmtpCarrier(ISecretKeeper secrets) : IMailCarrier
{
    private const int TimeoutMilliseconds = 30_000;

    /// <inheritdoc/>
    public bool IsStandIn(MailSettings settings) => false;

    /// <inheritdoc/>
    public async Task<string> CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop)
    {
        using var message = MailMessages.Build(mail);
        using var server = new SmtpClient { Timeout = TimeoutMilliseconds };
        var handing = new Handing();
        string said;
        try
        {
            await server.ConnectAsync(settings.Host, settings.Port, Encryption(settings.Encryption), stop);
            if (settings.User.Length > 0)
                await server.AuthenticateAsync(settings.User, secrets.Reveal(settings.ProtectedPassword), stop);
            said = await server.SendAsync(message, stop, handing);
        }
        catch (SmtpCommandException refused)
        {
            // An answer is an answer, whenever it comes. Codes from 500 are for good: a mailbox that is not there, a
            // mail that is not taken.
            throw new CarrierException(
                $"The mail server refused it: {refused.Message}",
                (int)refused.StatusCode >= 500 ? CarrierFate.Refused : CarrierFate.NotTaken,
                refused
            );
        }
        catch (AuthenticationException wrong)
        {
            throw new CarrierException(
                "The mail server did not accept the user or the password. Check them under Setup.",
                CarrierFate.NotTaken,
                wrong
            );
        }
        catch (SslHandshakeException insecure)
        {
            throw new CarrierException(
                $"No secure connection to {settings.Host} could be made. Check the encryption and the port under Setup.",
                CarrierFate.NotTaken,
                insecure
            );
        }
        catch (Exception away)
            when (away
                    is SocketException
                        or IOException
                        or ServiceNotConnectedException
                        or ProtocolException
                        or TimeoutException
                        or NotSupportedException
                        or OperationCanceledException
            )
        {
            if (handing.HasBegun)
                throw new CarrierException(
                    $"The line to {settings.Host} broke after the mail was handed over and before the server said whether it took it ({away.Message}).",
                    CarrierFate.Unknown,
                    away
                );
            throw new CarrierException(
                $"The mail server {settings.Host} could not be reached: {away.Message}",
                CarrierFate.NotTaken,
                away
            );
        }

        await LeaveAsync(server);
        return said;
    }

    /// <summary>The mail has been taken over; how the parting goes changes nothing of it.</summary>
    private static async Task LeaveAsync(SmtpClient server)
    {
        try
        {
            await server.DisconnectAsync(true, CancellationToken.None);
        }
        catch (Exception parting)
            when (parting is SocketException or IOException or ProtocolException or TimeoutException or CommandException
            )
        {
            // Nothing hangs on it.
        }
    }

    /// <summary>Knows whether the mail itself has begun to go over the line (what follows DATA, RFC 5321).</summary>
    private sealed class Handing : ITransferProgress
    {
        internal bool HasBegun { get; private set; }

        public void Report(long bytesTransferred, long totalSize) => HasBegun = true;

        public void Report(long bytesTransferred) => HasBegun = true;
    }

    private static SecureSocketOptions Encryption(MailEncryption encryption) =>
        encryption switch
        {
            MailEncryption.Tls => SecureSocketOptions.SslOnConnect,
            MailEncryption.StartTls => SecureSocketOptions.StartTls,
            _ => SecureSocketOptions.None,
        };
}

/// <summary>Uses the server where one is set up, and the stand-in elsewhere.</summary>
public sealed class ChosenCarrier(SmtpCarrier server, MailStandIn standIn) : IMailCarrier
{
    /// <inheritdoc/>
    public bool IsStandIn(MailSettings settings) => !settings.UseServer;

    /// <inheritdoc/>
    public Task<string> CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop) =>
        settings.UseServer ? server.CarryAsync(mail, settings, stop) : standIn.CarryAsync(mail, settings, stop);
}
