using Jugaad.Core;
using Jugaad.Core.Trade;
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
    EInvoiceSending network,
    EInvoices einvoices,
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
        : Mail.Way == PostWay.Print || Route.Takes == PaperForm.Print ? "print"
        : FallsBack is null && Route.Takes == PaperForm.EInvoice ? "network"
        : FallsBack is null && Route.Takes == PaperForm.HybridPdf ? "hybrid"
        : "mail";

    /// <summary>Where it would go as an e-invoice.</summary>
    public EInvoiceRoute Route { get; private set; } = null!;

    /// <summary>Why it cannot go in the form that the customer gets; null where it can.</summary>
    public Phrase? FallsBack { get; private set; }

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
        Route = await network.RouteAsync(Id);
        FallsBack =
            !margin.Document.Policy.Posts ? null
            : Route.Takes == PaperForm.EInvoice ? Route.Problem
            : Route.Takes == PaperForm.HybridPdf ? await einvoices.ProblemAsync(Id)
            : null;
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
        if (how == "network")
            return await ByNetworkAsync(margin, form);
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
            Hybrid = how == "hybrid",
            Marks = string.Join(',', Request.Form["mark"].Where(m => m is "Original" or "Copy" or "For the driver")),
            CustomerId = margin.Document.CustomerId,
            DocumentIds = [Id],
            NumberInText = form.Text("names"),
            FileIds = how is "mail" or "hybrid" ? files : [],
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

    /// <summary>
    /// A draft is issued first; should its e-invoice break a rule then, that is said on its page. A form that arrives
    /// twice gets its first answer.
    /// </summary>
    private async Task<IActionResult> ByNetworkAsync(MarginView margin, TypedForm form)
    {
        var (draft, key) = (margin.Document.IsDraft, $"{form.Key}-network");
        var route = await network.RouteAsync(Id);
        if (!draft)
        {
            await network.SendAsync(Id, key);
            Say($"On its way to {route.Receiver} as an e-invoice.");
            return Redirect($"/papers/{Id}");
        }

        if (route.Problem is { } problem)
            throw new RefusalException("how", problem);
        await issuing.IssueAsync(Id, form.Whole("version"), null, form.Key);
        try
        {
            await network.SendAsync(Id, key);
        }
        catch (RefusalException refused)
        {
            Say($"Issued, and not sent: it cannot go as an e-invoice. {refused.In(Format)}");
            return Redirect($"/papers/{Id}");
        }

        Say($"Issued, and on its way to {route.Receiver} as an e-invoice.");
        return Redirect(await screens.AfterIssueAsync(Id));
    }
}
