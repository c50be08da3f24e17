using System.Net;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Outside;

namespace Jugaad.Formats.Tests;

public sealed class MailTests
{
    private static readonly OutgoingMail Mail = new(
        "abc123",
        new DateTimeOffset(2025, 9, 17, 9, 0, 0, TimeSpan.Zero),
        "Tern & Täckle",
        "office@loft.example",
        "yard@slip.example",
        "Arve nr 1 – õige",
        "Tere,\n\nÕ.",
        [("Invoice-1.pdf", [1, 2, 3])]
    );

    [Fact]
    public async Task The_stand_in_keeps_a_mail_and_shows_it_as_it_was_sent()
    {
        var folder = Directory.CreateTempSubdirectory("jugaad-mail-").FullName;
        var standIn = new MailStandIn(new BooksFile(folder));
        await standIn.CarryAsync(Mail, new MailSettings(), default);
        var kept = standIn.Find("abc123")!;
        (kept.Subject, kept.Text.Trim(), kept.To).ShouldBe((Mail.Subject, "Tere,\n\nÕ.".ReplaceLineEndings(), Mail.To));
        kept.From.ShouldContain("office@loft.example");
        kept.Attachments.Single().Name.ShouldBe("Invoice-1.pdf");
        kept.Attachments.Single().Content.ShouldBe([1, 2, 3]);
        standIn.Find("../books").ShouldBeNull();
        standIn.Find("other").ShouldBeNull();
        (
            await Should.ThrowAsync<CarrierException>(() =>
                standIn.CarryAsync(Mail with { To = "nobody@slip.example" }, new MailSettings(), default)
            )
        ).Fate.ShouldBe(CarrierFate.Refused);
        Directory.Delete(folder, true);
    }

    [Theory]
    [InlineData("250 taken", false, false)]
    [InlineData("550 no such mailbox", true, true)]
    [InlineData("451 later", true, false)]
    public async Task A_real_server_takes_it_or_says_why_not(string answer, bool fails, bool forGood)
    {
        using var server = new SmallMailServer(answer);
        var settings = new MailSettings
        {
            UseServer = true,
            Host = "127.0.0.1",
            Port = server.Port,
            Encryption = MailEncryption.None,
        };
        var carry = () => new SmtpCarrier(new NoSecrets()).CarryAsync(Mail, settings, default);
        if (!fails)
        {
            await carry();
            var wire = await server.Taken;
            wire.ShouldContain("Message-Id: <abc123@loft.example>");
            wire.ShouldContain("Content-Type: application/pdf");
        }
        else
        {
            (await Should.ThrowAsync<CarrierException>(carry)).Fate.ShouldBe(
                forGood ? CarrierFate.Refused : CarrierFate.NotTaken
            );
        }
    }

    /// <summary>
    /// Once the mail was handed over, a line that breaks before the answer leaves nobody knowing; an answer is an
    /// answer.
    /// </summary>
    [Theory]
    [InlineData("drop before the mail", CarrierFate.NotTaken)]
    [InlineData("drop within the mail", CarrierFate.Unknown)]
    [InlineData("drop after the mail", CarrierFate.Unknown)]
    [InlineData("554 not this one", CarrierFate.Refused)]
    [InlineData("452 no room", CarrierFate.NotTaken)]
    [InlineData("drop after the answer", null)]
    public async Task A_line_that_breaks_is_known_for_what_it_is(string atTheEnd, CarrierFate? fate)
    {
        using var server = new SmallMailServer("250 taken", atTheEnd);
        var settings = new MailSettings
        {
            UseServer = true,
            Host = "127.0.0.1",
            Port = server.Port,
            Encryption = MailEncryption.None,
        };
        var carry = () => new SmtpCarrier(new NoSecrets()).CarryAsync(Mail, settings, default);
        if (fate is null)
            (await carry()).ShouldContain("queued as 17");
        else
            (await Should.ThrowAsync<CarrierException>(carry)).Fate.ShouldBe(fate.Value);
    }

    [Fact]
    public async Task A_server_that_is_away_is_worth_another_try()
    {
        using var gone = new SmallMailServer("");
        var port = gone.Port;
        gone.Dispose();
        var settings = new MailSettings
        {
            UseServer = true,
            Host = "127.0.0.1",
            Port = port,
            Encryption = MailEncryption.None,
        };
        var failed = await Should.ThrowAsync<CarrierException>(() =>
            new SmtpCarrier(new NoSecrets()).CarryAsync(Mail, settings, default)
        );
        failed.Fate.ShouldBe(CarrierFate.NotTaken);
        failed.Message.ShouldContain("127.0.0.1");
    }

    /// <summary>
    /// Whoever stands in the mail server's place has no certificate of its name, and is told neither mail nor password.
    /// </summary>
    [Fact]
    public async Task A_server_whose_certificate_nobody_vouches_for_is_told_nothing()
    {
        using var key = RSA.Create(2048);
        using var made = new CertificateRequest(
            "CN=127.0.0.1",
            key,
            HashAlgorithmName.SHA256,
            RSASignaturePadding.Pkcs1
        ).CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
        using var certificate = X509CertificateLoader.LoadPkcs12(made.Export(X509ContentType.Pkcs12), null);
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var heard = HearAsync(listener, certificate);
        var settings = new MailSettings
        {
            UseServer = true,
            Host = "127.0.0.1",
            Port = ((IPEndPoint)listener.LocalEndpoint).Port,
            Encryption = MailEncryption.Tls,
            User = "loft",
            ProtectedPassword = "secret",
        };
        var refused = await Should.ThrowAsync<CarrierException>(() =>
            new SmtpCarrier(new NoSecrets()).CarryAsync(Mail, settings, default)
        );
        (refused.Fate, refused.Message).ShouldBe(
            (
                CarrierFate.NotTaken,
                "No secure connection to 127.0.0.1 could be made. Check the encryption and the port under Setup."
            )
        );
        (await heard).ShouldBeEmpty();
    }

    private static async Task<string> HearAsync(TcpListener listener, X509Certificate2 certificate)
    {
        using var client = await listener.AcceptTcpClientAsync();
        await using var line = new SslStream(client.GetStream());
        try
        {
            await line.AuthenticateAsServerAsync(certificate);
            await line.WriteAsync("220 here\r\n"u8.ToArray());
            return await new StreamReader(line).ReadToEndAsync();
        }
        catch (Exception broken) when (broken is IOException or System.Security.Authentication.AuthenticationException)
        {
            return "";
        }
    }

    private sealed class NoSecrets : ISecretKeeper
    {
        public string Protect(string secret) => secret;

        public string Reveal(string kept) => kept;
    }

    /// <summary>Speaks just enough SMTP (RFC 5321) for one mail.</summary>
    private sealed class SmallMailServer : IDisposable
    {
        private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
        private readonly TaskCompletionSource<string> _taken = new();

        internal SmallMailServer(string answerToRecipient, string atTheEnd = "250 taken")
        {
            _listener.Start();
            Port = ((IPEndPoint)_listener.LocalEndpoint).Port;
            if (answerToRecipient.Length > 0)
                _ = ServeAsync(answerToRecipient, atTheEnd);
        }

        internal int Port { get; }

        internal Task<string> Taken => _taken.Task;

        private async Task ServeAsync(string answerToRecipient, string atTheEnd)
        {
            using var client = await _listener.AcceptTcpClientAsync();
            await using var stream = client.GetStream();
            using var reader = new StreamReader(stream, Encoding.UTF8);
            await using var writer = new StreamWriter(stream, new UTF8Encoding(false))
            {
                NewLine = "\r\n",
                AutoFlush = true,
            };
            await writer.WriteLineAsync("220 small");
            while (await reader.ReadLineAsync() is { } line)
            {
                if (line.StartsWith("RCPT", StringComparison.Ordinal))
                    await writer.WriteLineAsync(answerToRecipient);
                else if (line == "DATA")
                {
                    if (atTheEnd == "drop before the mail")
                        return;
                    await writer.WriteLineAsync("354 go on");
                    if (atTheEnd == "drop within the mail")
                    {
                        await reader.ReadLineAsync();
                        return;
                    }

                    var mail = new StringBuilder();
                    while (await reader.ReadLineAsync() is { } text && text != ".")
                        mail.AppendLine(text);
                    _taken.TrySetResult(mail.ToString());
                    if (atTheEnd == "drop after the mail")
                        return;
                    await writer.WriteLineAsync(atTheEnd == "drop after the answer" ? "250 queued as 17" : atTheEnd);
                    if (atTheEnd == "drop after the answer")
                        return;
                }
                else
                    await writer.WriteLineAsync(
                        line.StartsWith("QUIT", StringComparison.Ordinal) ? "221 bye" : "250 fine"
                    );
            }
        }

        public void Dispose() => _listener.Dispose();
    }
}
