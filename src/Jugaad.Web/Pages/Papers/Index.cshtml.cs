using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Standing;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>A document as its paper, with the margin beside it.</summary>
[Posts(Right.Draft)]
public sealed partial class IndexModel(
    SellScreens screens,
    PaperRoom papers,
    IssuingDesk issuing,
    Quotes quotes,
    Drafts drafts,
    Receipts receipts,
    Settlements settlements,
    MakingDesk making,
    Deliveries deliveries,
    Credits credits,
    Copies copies,
    Files files,
    CustomerLinks links,
    StartersDesk starters,
    StandingDesk standing,
    IssueCheck check,
    Deposits deposits,
    AcceptedDeposits acceptedDeposits,
    TaxReturns taxReturns,
    EInvoiceScreens einvoices,
    SummaryScreens summaries
) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public MarginView Margin { get; private set; } = null!;

    public IReadOnlyList<string> Pages { get; private set; } = [];

    /// <summary>How far it got as an e-invoice, newest first.</summary>
    public IReadOnlyList<EInvoiceRow> Fates { get; private set; } = [];

    /// <summary>The summary of small sales that tells this one too; null for none.</summary>
    public SalesSummary? ToldIn { get; private set; }

    private static string Short(string text) => text.Length > 200 ? text[..200] : text;

    /// <summary>What its credit note says where the receiver refused it.</summary>
    public string RefusedBecause => Short($"Refused by the receiver: {Fates[0].Why}");

    /// <summary>Whether it was paid whole, so that its paper may say so.</summary>
    public bool IsPaid { get; private set; }

    /// <summary>Which layout the paper has, and why that one.</summary>
    public (string Layout, string Why) Look { get; private set; }

    /// <summary>What is to be looked at before a draft is issued.</summary>
    public IReadOnlyList<IssueFinding> Findings { get; private set; } = [];

    /// <summary>The chains that it belongs to, where a deposit was asked for.</summary>
    public IReadOnlyList<Chain> Chains { get; private set; } = [];

    /// <summary>The reasons for notes that the business keeps.</summary>
    public IReadOnlyList<string> Reasons { get; private set; } = [];

    /// <summary>A quote is sent by whoever drafts; all else is issued and mailed by the bookkeeper.</summary>
    public Right RightToSend =>
        Margin.Document.Kind == DocumentKind.Quote ? Right.Draft
        : Margin.Document.IsDraft ? Right.Issue
        : Right.Mail;

    public string StateInWords
    {
        get
        {
            var d = Margin.Document;
            var words = StateWords.Of(d.Kind, d.State, d.DueDate, Margin.Item?.Open, Today);
            var billed = Margin.Progress is { } progress ? $", {ProgressBars.Words(progress)}" : "";
            if (d.IsReplaced)
                (words, billed) = ("replaced by a revision", "");
            if (d.ClosedOn is not null)
                billed += ", the rest closed";
            if (d.Kind is DocumentKind.Order or DocumentKind.DeliveryNote && d.IsDraft && d.Number is not null)
                words = "being corrected";
            var paid = Margin.PaidBy.Count > 0 && Margin.Item?.Open > 0 ? "part paid, " : "";
            var text = paid + words + billed;
            return char.ToUpperInvariant(text[0]) + text[1..];
        }
    }

    /// <summary>Whether what is never paid is never owed to an authority.</summary>
    public bool TellsByPayment { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin)
            return false;
        Reasons = await screens.ReasonsAsync();
        Margin = margin;
        if (SeesMoney && margin.Document.Policy.Posts)
        {
            Fates = await einvoices.RowsAsync(null, Id);
            ToldIn = await summaries.OfSaleAsync(Id);
        }

        Pages = await papers.SvgAsync(Id);
        IsPaid = await papers.IsPaidAsync(Id);
        Look = await papers.WhyAsync(Id);
        TellsByPayment = margin.Item is { Open: > 0 } && await taxReturns.AnyByPaymentAsync();
        Chains = [.. (await deposits.OfAsync(Id)).Where(c => c.Asked != 0)];
        if (margin.Document.IsDraft)
            Findings = await check.OfAsync(Id, false);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostIssueAsync()
    {
        await issuing.IssueAsync(Id, Form.Whole("version"), null, Form.Key);
        Say("Issued. Nothing was mailed; use Send when you want to.");
        return Redirect(await screens.AfterIssueAsync(Id));
    }

    public Task<IActionResult> OnPostBringBackAsync() =>
        DoAsync(async form =>
        {
            await drafts.BringBackAsync(Id, form.Key);
            return "The draft is back.";
        });

    [Posts(Right.Money)]
    public Task<IActionResult> OnPostTakeAwayAsync() =>
        DoAsync(async form =>
        {
            await receipts.TakeAwayAsync(form.Whole("allocation"), form.Key);
            return "Taken away. The receipt stays as credit of the customer.";
        });

    public async Task<IActionResult> OnPostDiscardAsync()
    {
        await drafts.DiscardAsync(Id, Form.Key);
        Say("The draft is put away.");
        return Redirect($"/papers/{Id}");
    }

    private async Task<IActionResult> DoAsync(Func<TypedForm, Task<string>> work)
    {
        Say(await work(Form));
        return Redirect($"/papers/{Id}");
    }
}
