using Jugaad.Core;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Selling;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>The mail that goes with a document, to be looked over before it goes; a draft is issued in the same go.</summary>
public sealed class SendModel(SellScreens screens, PaperRoom papers, MailComposing compose, DraftWarnings warnings, Issuing issuing, PostTray tray) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public MarginView Margin { get; private set; } = null!;

    public MailToSend Mail { get; private set; } = null!;

    public IReadOnlyList<string> Pages { get; private set; } = [];

    public IReadOnlyList<Refusal> Warnings { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin) return false;
        Margin = margin;
        Mail = await compose.ForDocumentAsync(Id);
        Pages = await papers.SvgAsync(Id);
        if (margin.Document.IsDraft) Warnings = await warnings.OfAsync(margin.Document, Id);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ReadHeadAsync();
        if (await screens.MarginAsync(Id) is not { } margin) return NotFound();
        var form = Form;
        var mail = new MailToSend(form.Text("to"), form.Text("subject"), form.Text("body")) { Kind = PostKind.Document, CustomerId = margin.Document.CustomerId, DocumentIds = [Id] };
        // A form that arrives twice gets its first answer, whatever the document has become since.
        if (margin.Document.IsDraft) await issuing.IssueAsync(Id, form.Whole("version"), mail, form.Key);
        else await tray.AddAsync(mail, form.Key);
        Say(margin.Document.IsDraft ? $"Issued, and on its way to {mail.To}." : $"On its way to {mail.To}.");
        return Redirect($"/papers/{Id}");
    }
}
