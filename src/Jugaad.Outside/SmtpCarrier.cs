using System.Net.Sockets;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Post;
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
    public async Task CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop)
    {
        using var message = MailMessages.Build(mail);
        using var server = new SmtpClient { Timeout = TimeoutMilliseconds };
        try
        {
            await server.ConnectAsync(settings.Host, settings.Port, Encryption(settings.Encryption), stop);
            if (settings.User.Length > 0) await server.AuthenticateAsync(settings.User, secrets.Reveal(settings.ProtectedPassword), stop);
            await server.SendAsync(message, stop);
            await server.DisconnectAsync(true, CancellationToken.None);
        }
        catch (SmtpCommandException refused)
        {
            // Codes from 500 are for good: a mailbox that is not there, a mail that is not taken.
            throw new CarrierException($"The mail server refused it: {refused.Message}", (int)refused.StatusCode >= 500, refused);
        }
        catch (AuthenticationException wrong)
        {
            throw new CarrierException("The mail server did not accept the user or the password. Check them under Setup.", false, wrong);
        }
        catch (SslHandshakeException insecure)
        {
            throw new CarrierException($"No secure connection to {settings.Host} could be made. Check the encryption and the port under Setup.", false, insecure);
        }
        catch (Exception away) when (away is SocketException or IOException or ServiceNotConnectedException or SmtpProtocolException or TimeoutException or NotSupportedException)
        {
            throw new CarrierException($"The mail server {settings.Host} could not be reached: {away.Message}", false, away);
        }
    }

    private static SecureSocketOptions Encryption(MailEncryption encryption) => encryption switch
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
    public Task CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop) =>
        settings.UseServer ? server.CarryAsync(mail, settings, stop) : standIn.CarryAsync(mail, settings, stop);
}
