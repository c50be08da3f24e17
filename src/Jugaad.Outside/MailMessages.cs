using Jugaad.Desk.Outside;
using MimeKit;

namespace Jugaad.Outside;

/// <summary>Builds the mail as it goes over the wire, by RFC 5322 and MIME.</summary>
internal static class MailMessages
{
    internal static MimeMessage Build(OutgoingMail mail)
    {
        var message = new MimeMessage { Subject = mail.Subject, Date = mail.Date, MessageId = $"{mail.Key}@{HostOf(mail.FromAddress)}" };
        message.From.Add(new MailboxAddress(mail.FromName, mail.FromAddress));
        message.To.Add(new MailboxAddress("", mail.To));
        var body = new BodyBuilder { TextBody = mail.Body };
        foreach (var (name, pdf) in mail.Attachments) body.Attachments.Add(name, pdf, new ContentType("application", "pdf"));
        message.Body = body.ToMessageBody();
        return message;
    }

    private static string HostOf(string address) => address.Contains('@', StringComparison.Ordinal) ? address[(address.IndexOf('@', StringComparison.Ordinal) + 1)..] : "localhost";
}
