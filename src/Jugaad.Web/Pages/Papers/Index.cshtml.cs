using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Selling;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>A document as its paper, with the margin beside it.</summary>
public sealed class IndexModel(SellScreens screens, PaperRoom papers, Issuing issuing, Quotes quotes, Drafts drafts, Receipts receipts) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public MarginView Margin { get; private set; } = null!;

    public IReadOnlyList<string> Pages { get; private set; } = [];

    /// <summary>A quote is sent by whoever drafts; all else is issued and mailed by the bookkeeper.</summary>
    public Right RightToSend => Margin.Document.Kind == DocumentKind.Quote ? Right.Draft : Margin.Document.IsDraft ? Right.Issue : Right.Mail;

    public string StateInWords
    {
        get
        {
            var d = Margin.Document;
            var words = StateWords.Of(d.Kind, d.State, d.DueDate, Margin.Item?.Open, Today);
            var billed = d.Kind == DocumentKind.Quote && d.State == DocumentState.Accepted && Margin.Into.Any(i => i.State != DocumentState.Draft) ? ", billed" : "";
            var paid = Margin.PaidBy.Count > 0 && Margin.Item?.Open > 0 ? "part paid, " : "";
            var text = paid + words + billed;
            return char.ToUpperInvariant(text[0]) + text[1..];
        }
    }

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin) return false;
        Margin = margin;
        Pages = await papers.SvgAsync(Id);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public Task<IActionResult> OnPostIssueAsync() => DoAsync(async form =>
    {
        await issuing.IssueAsync(Id, form.Whole("version"), null, form.Key);
        return "Issued. Nothing was mailed; use Send when you want to.";
    });

    public Task<IActionResult> OnPostAcceptAsync() => DoAsync(async form =>
    {
        await quotes.AnswerAsync(Id, true, "", form.Key);
        return "Noted as accepted. You can make the invoice now.";
    });

    public Task<IActionResult> OnPostDeclineAsync() => DoAsync(async form =>
    {
        await quotes.AnswerAsync(Id, false, form.Text("reason"), form.Key);
        return "Noted as declined.";
    });

    public Task<IActionResult> OnPostReopenAsync() => DoAsync(async form =>
    {
        await quotes.ReopenAsync(Id, form.Key);
        return "The answer is taken back; the quote waits again.";
    });

    public Task<IActionResult> OnPostBringBackAsync() => DoAsync(async form =>
    {
        await drafts.BringBackAsync(Id, form.Key);
        return "The draft is back.";
    });

    public Task<IActionResult> OnPostTakeAwayAsync() => DoAsync(async form =>
    {
        await receipts.TakeAwayAsync(form.Whole("allocation"), form.Key);
        return "Taken away. The receipt stays as credit of the customer.";
    });

    public async Task<IActionResult> OnPostDiscardAsync()
    {
        await ReadHeadAsync();
        await drafts.DiscardAsync(Id, Form.Key);
        Say("The draft is put away.");
        return Redirect($"/papers/{Id}");
    }

    public async Task<IActionResult> OnPostMakeInvoiceAsync()
    {
        await ReadHeadAsync();
        var invoice = await quotes.MakeInvoiceAsync(Id, Form.Key);
        Say("This is the invoice as a draft, on today's date. Look it over, then issue and send it.");
        return Redirect($"/sell/edit/{invoice}");
    }

    private async Task<IActionResult> DoAsync(Func<TypedForm, Task<string>> work)
    {
        await ReadHeadAsync();
        Say(await work(Form));
        return Redirect($"/papers/{Id}");
    }
}
