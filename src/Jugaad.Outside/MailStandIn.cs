using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using MimeKit;

namespace Jugaad.Outside;

/// <summary>
/// Stands in for a mail server: keeps each mail as an .eml file and shows it as its reader would see it.
/// </summary>
public sealed class MailStandIn(BooksFile file) : IMailCarrier, IKeptMails
{
    /// <inheritdoc/>
    public bool IsStandIn(MailSettings settings) => true;

    /// <inheritdoc/>
    public async Task<string> CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop)
    {
        // An address with this local part is what a real server would bounce.
        if (mail.To.StartsWith("nobody@", StringComparison.OrdinalIgnoreCase))
            throw new CarrierException($"There is no mailbox {mail.To}.", CarrierFate.Refused);
        Directory.CreateDirectory(file.MailFolder);
        using var message = MailMessages.Build(mail);
        var place = PlaceOf(mail.Key);
        await using (var written = File.Create(place + ".part"))
            await message.WriteToAsync(written, stop);
        File.Move(place + ".part", place, overwrite: true);
        return "Kept by the stand-in.";
    }

    /// <inheritdoc/>
    public KeptMail? Find(string key)
    {
        if (!key.All(char.IsAsciiLetterOrDigit) || !File.Exists(PlaceOf(key)))
            return null;
        using var message = MimeMessage.Load(PlaceOf(key));
        var attachments = message
            .Attachments.OfType<MimePart>()
            .Select(part =>
            {
                using var content = new MemoryStream();
                part.Content?.DecodeTo(content);
                return (part.FileName ?? "attachment", content.ToArray());
            })
            .ToList();
        return new KeptMail(
            message.From.ToString(),
            message.To.ToString(),
            message.Subject ?? "",
            message.Date,
            message.TextBody ?? "",
            attachments
        );
    }

    private string PlaceOf(string key) => Path.Combine(file.MailFolder, key + ".eml");
}
