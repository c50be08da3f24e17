using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>What becomes of a document: its answer, what is made from it, and how it is put right.</summary>
public sealed partial class IndexModel
{
    public static IEnumerable<(string Value, string Text)> LossChoices =>
        Enum.GetValues<LossReason>().Select(r => (r.ToString(), r.Word()));

    /// <summary>Whether anything of it is left to deliver or to bill.</summary>
    public bool LeftToBill => Margin.Progress is { IsBilled: false } && Margin.Document.ClosedOn is null;

    public bool LeftToDeliver => Margin.Progress is { IsDelivered: false } && Margin.Document.ClosedOn is null;

    public Task<IActionResult> OnPostAcceptAsync() =>
        DoAsync(async form =>
        {
            await quotes.AnswerAsync(
                Id,
                true,
                "",
                null,
                form.Key,
                Request.Form.ContainsKey("choosing") ? LineChoices.Read(Request.Form) : null
            );
            return "Noted as accepted. You can order it, or make the invoice, now.";
        });

    public Task<IActionResult> OnPostDeclineAsync() =>
        DoAsync(async form =>
        {
            await InFieldAsync(
                "reason",
                "lostReason",
                () =>
                    quotes.AnswerAsync(Id, false, form.Text("lostReason"), form.Choice<LossReason>("lostBy"), form.Key)
            );
            return "Noted as declined.";
        });

    public Task<IActionResult> OnPostReopenAsync() =>
        DoAsync(async form =>
        {
            await quotes.ReopenAsync(Id, form.Key);
            return "The answer is taken back; the quote waits again.";
        });

    public Task<IActionResult> OnPostFollowUpAsync() =>
        DoAsync(async form =>
        {
            var day = form.OptionalDate("followUp");
            form.ThrowIfAny();
            await quotes.FollowUpAsync(Id, day, form.Key);
            return day is { } on ? $"The day sheet asks for it on {Day(on)}." : "No follow-up any more.";
        });

    public Task<IActionResult> OnPostCloseAsync() =>
        DoAsync(async form =>
        {
            await InFieldAsync(
                "reason",
                "closeReason",
                () => deliveries.CloseAsync(Id, form.Text("closeReason"), form.Key)
            );
            return "The rest is closed. Nothing more is delivered or billed from it.";
        });

    public Task<IActionResult> OnPostOpenAgainAsync() =>
        DoAsync(async form =>
        {
            await deliveries.OpenAgainAsync(Id, form.Key);
            return "What is left is open again.";
        });

    public Task<IActionResult> OnPostCancelAsync() =>
        DoAsync(async form =>
        {
            await InFieldAsync(
                "reason",
                "cancelReason",
                () => deliveries.CancelAsync(Id, form.Text("cancelReason"), form.Key)
            );
            return "Cancelled. Its goods are counted back.";
        });

    public Task<IActionResult> OnPostCancelInvoiceAsync() =>
        DoAsync(async form =>
        {
            await credits.CancelAsync(Id, form.Text("reason"), form.Key);
            return "Cancelled by a credit note over all of it. What was paid is the customer's credit again.";
        });

    public Task<IActionResult> OnPostBillAsync() =>
        MakeAsync(
            async form => (await deliveries.BillAsync([Id], false, form.Key))[^1],
            "This is the invoice of what was delivered. Look it over, then issue and send it."
        );

    public Task<IActionResult> OnPostMakeInvoiceAsync() =>
        MakeAsync(
            form => making.InvoiceAsync(Id, form.Key),
            "This is the invoice as a draft, on today's date. Look it over, then issue and send it."
        );

    public Task<IActionResult> OnPostMakeDepositAsync() =>
        MakeAsync(
            form => acceptedDeposits.DraftAsync(Id, form.Key),
            "This is the bill of the deposit as a draft, on today's date. Look it over, then issue and send it."
        );

    public Task<IActionResult> OnPostMakeOrderAsync() =>
        MakeAsync(
            form => making.OrderAsync(Id, form.Key),
            "This is the order as a draft. Look it over, then issue it."
        );

    public Task<IActionResult> OnPostMakeDeliveryAsync() =>
        MakeAsync(
            form => making.DeliveryAsync(Id, form.Key),
            "This is a delivery note of all that is still owed. Lower a quantity, or remove a line, for what does not go today."
        );

    public Task<IActionResult> OnPostReviseAsync() =>
        MakeAsync(
            form => quotes.ReviseAsync(Id, form.Key),
            "This is the revision as a draft. The earlier one stands until you send this."
        );

    public Task<IActionResult> OnPostCorrectAsync() =>
        MakeAsync(
            form => deliveries.CorrectAsync(Id, form.Key),
            "Put it right and issue it again; it keeps its number."
        );

    public Task<IActionResult> OnPostCreditAsync() =>
        MakeAsync(
            form => credits.DraftAsync(Id, form.Text("reason"), form.Key),
            "This is a credit note over all that is not credited yet. Lower a quantity, or remove a line, to credit a part."
        );

    public Task<IActionResult> OnPostDebitAsync() =>
        MakeAsync(
            form => credits.DebitAsync(Id, form.Text("reason"), form.Key),
            "This is a debit note on the invoice. Say what more is billed, then issue and send it."
        );

    public Task<IActionResult> OnPostCopyAsync() =>
        MakeAsync(
            form => copies.CopyAsync(Id, null, form.Key),
            "This is a copy, on today's date and at today's prices and tax."
        );

    /// <summary>An e-invoice that its receiver refused is credited whole, and its copy is mended before it goes.</summary>
    [Posts(Right.Issue)]
    public Task<IActionResult> OnPostAnewAsync() =>
        MakeAsync(
            async form =>
            {
                await credits.CancelAsync(Id, form.Text("reason"), form.Key);
                return await copies.CopyAsync(Id, null, $"{form.Key}-anew");
            },
            "The refused one is credited. This is its copy: mend what was missing, then issue and send it."
        );

    public Task<IActionResult> OnPostEndLinkAsync() =>
        DoAsync(async form =>
        {
            await links.TakeBackAsync(Id, form.Key);
            return "The link opens nothing any more.";
        });

    public Task<IActionResult> OnPostNewLinkAsync() =>
        DoAsync(async form =>
        {
            await links.RenewAsync(Id, form.Key);
            return $"The link is another now, and the one before opens nothing: {await links.AddressAsync(Id)}";
        });

    public Task<IActionResult> OnPostLinkAsync() =>
        DoAsync(async _ => $"The customer sees this paper at {await links.AddressAsync(Id)}");

    public Task<IActionResult> OnPostStarterAsync() =>
        DoAsync(async form =>
        {
            await starters.FromDocumentAsync(Id, form.Text("starterName"), form.Text("starterAbout"), form.Key);
            return "Kept as a starter. It is offered in the editor, and under Sell, starters.";
        });

    public async Task<IActionResult> OnPostRepeatAsync()
    {
        var made = await standing.FromDocumentAsync(Id, Form.Key);
        Say("This is the standing invoice, paused. Look over its schedule and texts, then let it go on.");
        return Redirect($"/sell/standing/{made}");
    }

    public Task<IActionResult> OnPostAddFileAsync() =>
        DoAsync(async form =>
        {
            var content = await UploadAsync("file") ?? throw new Core.RefusalException("file", "Choose a file first.");
            await files.AddAsync(Id, Request.Form.Files["file"]!.FileName, content, form.Key);
            return "The file is kept with it.";
        });

    public Task<IActionResult> OnPostFileAsync() =>
        DoAsync(async form =>
        {
            var what = form.Text("do");
            if (what == "remove")
                await files.RemoveAsync(form.Whole("file"), form.Key);
            else
                await files.SendAsync(form.Whole("file"), what == "along", form.Key);
            return what switch
            {
                "remove" => "Taken away.",
                "along" => "It goes along with the mail.",
                _ => "It stays here.",
            };
        });

    /// <summary>Makes a draft and opens it in the editor.</summary>
    private async Task<IActionResult> MakeAsync(Func<TypedForm, Task<int>> work, string said)
    {
        var made = await work(Form);
        Say(said);
        return Redirect($"/sell/edit/{made}");
    }
}
