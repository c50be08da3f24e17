using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>
/// The mail that goes with a document, to be looked over before it goes; a draft is issued in the same go.
/// </summary>
[Posts(Right.Draft)]
public sealed class SendModel(
    SellScreens screens,
    PaperRoom papers,
    MailComposing compose,
    IssueCheck check,
    IssuingDesk issuing,
    PostTray tray,
    Connections connections
) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public MarginView Margin { get; private set; } = null!;

    public MailToSend Mail { get; private set; } = null!;

    /// <summary>The short message that it may go by instead.</summary>
    public MailToSend Message { get; private set; } = null!;

    public IReadOnlyList<IssueFinding> Findings { get; private set; } = [];

    /// <summary>How it goes unless something else is chosen; what was chosen stays after a refusal.</summary>
    public string Begins =>
        Request.HasFormContentType && Request.Form["how"].ToString() is { Length: > 0 } chosen ? chosen
        : Mail.Way == PostWay.Print ? "print"
        : "mail";

    public bool Stops => Findings.Any(f => f.Stops);

    public IReadOnlyList<string> Pages { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin)
            return false;
        Margin = margin;
        Mail = await compose.ForDocumentAsync(Id);
        Pages = await papers.SvgAsync(Id);
        Message = await compose.MessageAsync(Id);
        if (margin.Document.IsDraft)
            Findings = await check.OfAsync(Id, true);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin)
            return NotFound();
        var form = Form;
        var how = form.Text("how");
        var files = (await compose.ForDocumentAsync(Id)).FileIds;
        var mail = new MailToSend(
            form.Text(how == "message" ? "number" : "to"),
            form.Text("subject"),
            form.Text(how == "message" ? "message" : "body")
        )
        {
            Kind = PostKind.Document,
            Way = how switch
            {
                "print" => PostWay.Print,
                "message" => PostWay.Message,
                _ => PostWay.Mail,
            },
            LinkOnly = how is "link" or "message",
            Marks = string.Join(',', Request.Form["mark"].Where(m => m is "Original" or "Copy" or "For the driver")),
            CustomerId = margin.Document.CustomerId,
            DocumentIds = [Id],
            NumberInText = form.Text("names"),
            FileIds = how == "mail" ? files : [],
        };
        try
        {
            // A form that arrives twice gets its first answer, whatever the document has become since.
            if (margin.Document.IsDraft)
                await issuing.IssueAsync(Id, form.Whole("version"), mail, form.Key);
            else
                await tray.AddAsync(mail, form.Key);
        }
        catch (RefusalException refused) when (how == "message")
        {
            // On this page a message's number and words have fields of their own.
            throw new RefusalException([
                .. refused.Refusals.Select(r =>
                    r with
                    {
                        Field = r.Field switch
                        {
                            "to" => "number",
                            "body" => "message",
                            _ => r.Field,
                        },
                    }
                ),
            ]);
        }

        var where = await connections.WhereAsync(mail.Way, mail.To);
        Say(margin.Document.IsDraft ? $"Issued, and {where}." : char.ToUpperInvariant(where[0]) + where[1..] + ".");
        return Redirect(margin.Document.IsDraft ? await screens.AfterIssueAsync(Id) : $"/papers/{Id}");
    }
}
