using Jugaad.Desk.Outside;
using Jugaad.Desk.Post;
using MimeKit;

namespace Jugaad.Outside;

/// <summary>Builds the mail as it goes over the wire, by RFC 5322 and MIME.</summary>
internal static class MailMessages
{
    internal static MimeMessage Build(OutgoingMail mail)
    {
        var message = new MimeMessage
        {
            Subject = mail.Subject,
            Date = mail.Date,
            MessageId = $"{mail.Key}@{HostOf(mail.FromAddress)}",
        };
        message.From.Add(new MailboxAddress(mail.FromName, mail.FromAddress));
        foreach (var to in PostTray.Addresses(mail.To))
            message.To.Add(new MailboxAddress("", to));
        var body = new BodyBuilder { TextBody = mail.Body };
        foreach (var (name, content) in mail.Attachments)
        {
            // A file that a person added may be anything; only our own papers are known to be PDFs.
            if (name.EndsWith(".pdf", StringComparison.OrdinalIgnoreCase))
                body.Attachments.Add(name, content, new ContentType("application", "pdf"));
            else
                body.Attachments.Add(name, content, new ContentType("application", "octet-stream"));
        }

        message.Body = body.ToMessageBody();
        return message;
    }

    private static string HostOf(string address) =>
        address.Contains('@', StringComparison.Ordinal)
            ? address[(address.IndexOf('@', StringComparison.Ordinal) + 1)..]
            : "localhost";
}
