using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Post;

/// <summary>Which papers can go as e-invoices, which went, and what became of them.</summary>
[Needs(Right.See)]
[Posts(Right.Mail)]
public sealed class EInvoicesModel(
    EInvoiceScreens screens,
    EInvoiceSending sending,
    NetworkAnswers answers,
    Connections connections
) : DeskPage
{
    public DateOnly From { get; private set; }

    public DateOnly Until { get; private set; }

    public EInvoiceFate? Only { get; private set; }

    public IReadOnlyList<EInvoiceToSend> ToSend { get; private set; } = [];

    public IReadOnlyList<EInvoiceRow> Rows { get; private set; } = [];

    /// <summary>Why none leaves the house; null where they do.</summary>
    public string? Held { get; private set; }

    /// <summary>What could not be sent, and why.</summary>
    public IReadOnlyList<string> Remarks { get; private set; } = [];

    /// <summary>The days of this page, for its addresses.</summary>
    public string Days => $"from={From:yyyy-MM-dd}&until={Until:yyyy-MM-dd}";

    protected override async Task<bool> ShowAsync()
    {
        From = AskedDay("from") ?? new DateOnly(Today.Year, Today.Month, 1);
        Until = AskedDay("until") ?? Today;
        Only = Enum.TryParse<EInvoiceFate>(Request.Query["fate"], out var fate) ? fate : null;
        Remarks = (TempData["remarks"] as string)?.Split('\n') ?? [];
        Held = await connections.HeldAsync(PostWay.Network);
        ToSend = await screens.ToSendAsync(From, Until);
        Rows = await screens.RowsAsync(Only);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostSendAsync()
    {
        var form = Form;
        var ids = Request
            .Form["paper"]
            .Select(id => int.TryParse(id, out var known) ? known : 0)
            .Where(id => id > 0)
            .ToList();
        var (sent, refused) = await sending.SendAllAsync(ids, form.Key);
        if (refused.Count > 0)
            TempData["remarks"] = string.Join('\n', refused.Select(r => $"Not sent: {r.In(Format)}"));
        Say(sent == 1 ? "One e-invoice is in the post tray." : $"{sent} e-invoices are in the post tray.");
        return Redirect($"/post/einvoices?from={AskedDay("from"):yyyy-MM-dd}&until={AskedDay("until"):yyyy-MM-dd}");
    }

    public async Task<IActionResult> OnPostAskAsync()
    {
        var taken = await answers.TakeAsync();
        Say(
            taken == 0 ? "Nobody has answered since."
            : taken == 1 ? "One answer is new."
            : $"{taken} answers are new."
        );
        return Redirect("/post/einvoices");
    }
}
