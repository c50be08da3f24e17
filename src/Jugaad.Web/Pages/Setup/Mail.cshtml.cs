using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>How mail leaves the house, and a test message.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class MailModel(BooksContext db, BusinessDesk desk, PostTray tray, Connections connections) : DeskPage
{
    public MailSettings Settings { get; private set; } = new();

    public IEnumerable<(string, string)> CarrierChoices =>
        [
            (
                "kept",
                Business?.PinnedDay is null
                    ? "No server yet: what is sent waits in the post tray"
                    : "It stays here: each mail is kept as a file and shown as its reader would see it"
            ),
            ("server", "By a mail server (SMTP)"),
        ];

    public IEnumerable<(string, string)> EncryptionChoices =>
        [
            (nameof(MailEncryption.StartTls), "STARTTLS (mostly port 587)"),
            (nameof(MailEncryption.Tls), "TLS from the start (mostly port 465)"),
            (nameof(MailEncryption.None), "none"),
        ];

    protected override async Task<bool> ShowAsync()
    {
        Settings = await db.MailSettings.AsNoTracking().FirstOrDefaultAsync() ?? new MailSettings();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        await desk.SetMailAsync(
            new MailSetup(
                form.Text("useServer") == "server",
                form.Text("host"),
                form.Whole("port"),
                form.Choice<MailEncryption>("encryption"),
                form.Text("user"),
                form.Text("password"),
                form.Text("fromName"),
                form.Text("fromAddress"),
                form.Whole("linkDays")
            ),
            form.Key
        );
        Say("Saved. Send a test message to be sure.");
        return Redirect("/setup/mail");
    }

    [Posts(Right.Mail)]
    public async Task<IActionResult> OnPostTestAsync()
    {
        await tray.AddAsync(
            new MailToSend(
                Form.Text("to"),
                $"A test message from {Business!.Name}",
                "This message shows that mail leaves the house."
            )
            {
                Kind = PostKind.Test,
            },
            Form.Key
        );
        Say($"The test message is {await connections.WhereAsync(PostWay.Mail, Form.Text("to"))}");
        return Redirect("/post");
    }
}
