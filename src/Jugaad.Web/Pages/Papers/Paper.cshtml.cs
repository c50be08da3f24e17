using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages.Papers;

/// <summary>
/// What a customer sees through the link in their mail: the paper, and for a quote the choice and the answer.
/// </summary>
[AllowAnonymous]
[EnableRateLimiting("customer")]
[Posts(Right.Customer)]
public sealed class PaperModel(
    CustomerLinks links,
    CustomerAnswers answers,
    PaperRoom papers,
    PayerScreens payers,
    PayLinks pay,
    PayOffer offers,
    CardRequests requests,
    AcceptedDeposits deposits,
    Wordings wordings
) : DeskPage, ISpeaksToCustomer
{
    public SiteWords? Says { get; private set; }

    [BindProperty(SupportsGet = true)]
    public string Token { get; set; } = "";

    public Document Document { get; private set; } = null!;

    public IReadOnlyList<string> Pages { get; private set; } = [];

    /// <summary>What is still open of it; null where nothing is.</summary>
    public AccountItem? Open { get; private set; }

    /// <summary>The business's own address for paying it; empty where it has none.</summary>
    public string OwnLink { get; private set; } = "";

    /// <summary>What paying it by card comes to; null where cards are not taken for it.</summary>
    public PayOfferMade? Offer { get; private set; }

    /// <summary>What the quote asks for as a deposit, tax included, in minor units; null where it asks for
    /// none.</summary>
    public long? DepositAsked =>
        Document.Kind == DocumentKind.Quote ? Core.Documents.DepositAsked.TotalOf(Document) : null;

    /// <summary>The bill of that deposit and the address of its page; null where it is not issued.</summary>
    public (Document Bill, string Address)? Deposit { get; private set; }

    public bool CanAnswer =>
        Document is { Kind: DocumentKind.Quote, State: DocumentState.Sent, IsReplaced: false }
        && !(Document.ValidUntil < Today);

    protected override async Task<bool> ShowAsync()
    {
        if (await links.FindAsync(Token) is not { } found)
            return false;
        Document = found;
        Says = new SiteWords(await wordings.InAsync(found.Language ?? found.Customer!.Language), Business!);
        Pages = await papers.SvgAsync(found.Id, $"/p/{Token}");
        if (
            found is { Kind: DocumentKind.Quote, State: DocumentState.Accepted }
            && await deposits.OfAsync(found.Id) is { IsDraft: false } bill
            && await links.KnownPathAsync(bill.Id) is { Length: > 0 } path
        )
            Deposit = (bill, path);
        if (await payers.OpenOfAsync(found.Id) is not { } item)
            return true;
        Open = item;
        var customer = found.Customer!;
        OwnLink = await pay.OwnAsync(item.Open, item.Currency, found.Number!, customer.Code);
        if (await pay.TakesCardAsync(item.Currency))
            Offer = await offers.OfAsync(found.CustomerId, [item.Id]);
        return true;
    }

    public async Task<IActionResult> OnGetAsync()
    {
        var result = await ShownAsync();
        // Whoever is signed in is not the customer; a picture that a mail program fetches beforehand is no look either.
        if (
            Document is not null
            && Business is { IsResting: false }
            && User.Identity?.IsAuthenticated != true
            && HttpMethods.IsGet(Request.Method)
        )
            await links.SeeAsync(Document.Id);
        return result;
    }

    public async Task<IActionResult> OnPostChooseAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        await answers.ChooseAsync(Document.Id, LineChoices.Read(Request.Form));
        return Redirect($"/p/{Token}");
    }

    public Task<IActionResult> OnPostAcceptAsync() => AnswerAsync(true, PaperWord.SiteThanksAccepted);

    public Task<IActionResult> OnPostDeclineAsync() => AnswerAsync(false, PaperWord.SiteThanksDeclined);

    /// <summary>To the card service's page.</summary>
    public async Task<IActionResult> OnPostPayAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        if (Open is not { } item)
            throw new Core.RefusalException("", PaperWords.English[PaperWord.SitePaidAlready]);
        return Redirect(
            await requests.AskAsync(Document.CustomerId, [item.Id], Form.Amount("total", item.Currency), $"/p/{Token}")
        );
    }

    private async Task<IActionResult> AnswerAsync(bool accepted, PaperWord said)
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        await answers.AnswerAsync(
            Document.Id,
            form.Whole("version"),
            accepted,
            form.Text(accepted ? "name" : "decliner"),
            form.Text(accepted ? "words" : "why"),
            accepted ? LineChoices.Read(Request.Form) : null,
            form.Key
        );
        Say(Says![said]);
        if (accepted)
            await deposits.IssueAsync(Document.Id);
        return Redirect($"/p/{Token}");
    }
}
