using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Post;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Demo;

/// <summary>
/// The loft begins with e-invoices: some customers and items are ready and others lack something each; a few went, one
/// was refused, one is in work.
/// </summary>
internal sealed class DemoEInvoices(DemoHistory history)
{
    /// <summary>To whom sales at the counter are told.</summary>
    internal static ElectronicAddress SalesRegister { get; } = new("0191", "70005512");

    internal static ElectronicAddress Ours { get; } = new("0191", "14730926");

    private static readonly Dictionary<
        string,
        (string Scheme, string Number, string Reference, PaperForm Takes)
    > Reached = new()
    {
        ["KORALL"] = ("0191", "10118834", "", PaperForm.EInvoice),
        ["PIIRI"] = ("0191", "10227745", "", PaperForm.EInvoice),
        ["SKERRY"] = ("0191", "10336656", "", PaperForm.HybridPdf),
        ["NORTHP"] = ("0191", "80101123", "", PaperForm.EInvoice),
        ["MUSEUM"] = ("0191", "90006789", "", PaperForm.EInvoice),
        ["BRANNO"] = ("0007", "5567310841", "", PaperForm.EInvoice),
    };

    /// <summary>The loft's own list: what it makes, what it sells, what it does.</summary>
    private static readonly Dictionary<string, string> Classes = new()
    {
        ["H-SAIL"] = "WORK-SAIL",
        ["H-RIG"] = "WORK-RIG",
        ["H-CALL"] = "WORK-OUT",
        ["M-WEB25"] = "CLOTH-BAND",
        ["M-BOLT"] = "CLOTH-ROPE",
        ["M-PIPE"] = "CLOTH-BAND",
        ["M-TAPE"] = "CLOTH-BAND",
        ["Q-CLOTH"] = "CLOTH-SAIL",
        ["Q-COVER"] = "MADE-COVER",
        ["F-RIGCHK"] = "WORK-RIG",
        ["F-WASH"] = "WORK-SAIL",
        ["F-MEAS"] = "WORK-OUT",
    };

    /// <summary>The numbers by which some know what they buy, as pasted from their orders.</summary>
    internal static IReadOnlyList<(string Customer, string Numbers)> TheirNumbers { get; } =
    [
        ("KORALL", "H-SAIL\tKB-1107\nM-BOLT\tKB-2203\nP-BLOCK\tKB-3310\nP-SHACK\tKB-3342"),
        ("MUSEUM", "H-CALL\tTEENUS 14"),
    ];

    internal static CustomerDetails With(CustomerDetails details) =>
        Reached.TryGetValue(details.Code, out var known)
            ? details with
            {
                Electronic = new(known.Scheme, known.Number),
                BuyerReference = known.Reference,
                Takes = known.Takes,
            }
            : details;

    /// <summary>Empty where the item is not classified yet.</summary>
    internal static (string List, string Code) ClassOf(string item) =>
        Classes.TryGetValue(item, out var code) ? ("ZZZ", code) : ("", "");

    internal void Plan()
    {
        foreach (
            var (month, day, customer) in new[]
            {
                (8, 18, "MUSEUM"),
                (8, 29, "KORALL"),
                (9, 2, "PIIRI"),
                (9, 16, "PIIRI"),
            }
        )
            history.At(new DateOnly(2025, month, day), () => SendAsync(customer));
        foreach (var month in new[] { 8, 9 })
            history.At(new DateOnly(2025, month, 1), GatherAsync);
    }

    /// <summary>What was sold at the counter in the month before, in one.</summary>
    private async Task GatherAsync()
    {
        var (counter, today) = await history.WithAsync<BooksContext, (int, DateOnly)>(async db =>
        {
            var business = await db.Businesses.AsNoTracking().SingleAsync();
            return (business.CounterCustomerId!.Value, business.PinnedDay!.Value);
        });
        await history.WithAsync<CustomersDesk, int>(c => c.ReachAsync(counter, SalesRegister, PaperForm.EInvoice));
        await history.WithAsync<SalesSummaries, int>(s =>
            s.GatherAsync(today.AddMonths(-1), today.AddDays(-1), SummaryPeriod.Month)
        );
        var made = await history.WithAsync<BooksContext, int>(db => db.SalesSummaries.MaxAsync(s => s.Id));
        await history.WithAsync<SalesSummaries, int>(s => s.SendAsync(made));
        await history.WithAsync<PostCarrying>(post => post.CarryAsync());
        await history.WithAsync<NetworkAnswers>(answers => answers.TakeAsync());
    }

    private async Task SendAsync(string code)
    {
        var id = await history.WithAsync<BooksContext, int>(db =>
            db.Documents.Where(d =>
                    d.CustomerId == history.CustomerId(code) && d.Kind == DocumentKind.Invoice && d.Number != null
                )
                .OrderByDescending(d => d.Date)
                .ThenByDescending(d => d.Id)
                .Select(d => d.Id)
                .FirstAsync()
        );
        await history.WithAsync<EInvoiceSending, int>(s => s.SendAsync(id));
        await history.WithAsync<PostCarrying>(post => post.CarryAsync());
        await history.WithAsync<NetworkAnswers>(answers => answers.TakeAsync());
    }
}
