using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>How mail is to leave the house, as typed; an empty password keeps the one that is there.</summary>
public sealed record MailSetup(
    bool UseServer,
    string Host,
    int Port,
    MailEncryption Encryption,
    string User,
    string Password,
    string FromName,
    string FromAddress,
    int LinkDays = 0
);

/// <summary>What becomes of a picture: another is taken, or it is taken away.</summary>
public sealed record PictureChange(byte[]? Upload, bool Remove);

/// <summary>Changes what the business is described by and how it sends.</summary>
public sealed class BusinessDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    IPictureCleaner pictures,
    ISecretKeeper secrets
)
{
    /// <exception cref="RefusalException">With every field that is wrong, pictures too; nothing is changed
    /// then.</exception>
    public Task<int> DescribeAsync(
        BusinessDetails details,
        PictureChange? logo = null,
        PictureChange? signature = null,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var business = await head.BusinessAsync(stop);
                var refusals = new Refusals();
                refusals.Try(() => business.Describe(details));
                byte[]? newLogo = null,
                    newSignature = null;
                if (logo?.Upload is { } logoFile)
                    refusals.Try(() => newLogo = pictures.Clean(logoFile, "logo"));
                if (signature?.Upload is { } signatureFile)
                    refusals.Try(() => newSignature = pictures.Clean(signatureFile, "signature"));
                refusals.ThrowIfAny();
                if (newLogo is not null || logo is { Remove: true })
                    business.SetLogo(newLogo);
                if (newSignature is not null || signature is { Remove: true })
                    business.SetSignature(newSignature);
                await writer.TrailAsync("The business's details changed");
                return business.Id;
            }
        );

    /// <summary>What new documents of each kind begin with, and what stands at their foot.</summary>
    public Task<int> WriteTextsAsync(
        IReadOnlyList<(DocumentKind Kind, string Note, string Footer)> typed,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                var kept = await db.KindTexts.ToDictionaryAsync(t => t.Kind, stop);
                foreach (var (kind, note, footer) in typed)
                {
                    if (!kept.TryGetValue(kind, out var text))
                        db.KindTexts.Add(text = new KindText(kind));
                    refusals.Try(() => text.Write(note, footer));
                }

                refusals.ThrowIfAny();
                await writer.TrailAsync("Notes and footers of the kinds of document changed");
                return (await head.BusinessAsync(stop)).Id;
            }
        );

    public Task<int> SetMailAsync(MailSetup typed, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                if (typed.UseServer)
                    Texts.Required(refusals, "host", typed.Host, 200, "Give the name of the mail server.");
                if (typed.Host.Any(char.IsWhiteSpace))
                    refusals.Add("host", "A server's name has no blanks.");
                if (typed.Port is < 1 or > 65535)
                    refusals.Add("port", "A port is 1 to 65535; mail servers mostly listen on 587 or 465.");
                Texts.Short(refusals, "fromName", typed.FromName, 100);
                Texts.Email(refusals, "fromAddress", typed.FromAddress);
                if (typed.UseServer && typed.FromAddress.Trim().Length == 0)
                    refusals.Add("fromAddress", "Give the address that mails are sent from.");
                if (typed.LinkDays is < 0 or > 3650)
                    refusals.Add(
                        "linkDays",
                        "Links open for 1 to 3650 days, or for as long as the paper is there: leave it empty then."
                    );
                var settings = await db.MailSettings.FirstOrDefaultAsync(stop);
                if (settings is null)
                    db.MailSettings.Add(settings = new MailSettings());
                // What is kept was given for one server, one user and one kind of line; nobody else is shown it.
                var same =
                    settings.Host == typed.Host.Trim()
                    && settings.Port == typed.Port
                    && settings.User == typed.User.Trim()
                    && settings.Encryption == typed.Encryption;
                if (
                    !same
                    && settings.ProtectedPassword.Length > 0
                    && typed.User.Trim().Length > 0
                    && typed.Password.Length == 0
                )
                    refusals.Add(
                        "password",
                        "The server, port, encryption or user is another: give the password again. The kept one goes nowhere else."
                    );
                refusals.ThrowIfAny();
                (settings.UseServer, settings.Host, settings.Port, settings.Encryption) = (
                    typed.UseServer,
                    typed.Host.Trim(),
                    typed.Port,
                    typed.Encryption
                );
                settings.LinkDays = typed.LinkDays;
                (settings.User, settings.FromName, settings.FromAddress) = (
                    typed.User.Trim(),
                    typed.FromName.Trim(),
                    typed.FromAddress.Trim()
                );
                if (typed.Password.Length > 0)
                    settings.ProtectedPassword = secrets.Protect(typed.Password);
                if (settings.User.Length == 0)
                    settings.ProtectedPassword = "";
                foreach (
                    var held in await db
                        .Post.Where(p => p.State == PostState.Waiting && p.Tries == 0 && p.NextTryAt != null)
                        .ToListAsync(stop)
                )
                    held.Release();
                await writer.TrailAsync("Mail settings changed");
                await writer.SaveAsync(stop);
                return settings.Id;
            }
        );
}
