using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Counter;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Standing;
using Jugaad.Web.Shell;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>A way of paying as it stands on the counter's page; an empty amount takes the rest.</summary>
internal sealed record CounterPartForm(int AccountId, string? Amount);

/// <summary>The counter's page as typed.</summary>
internal sealed record CounterForm(
    DraftForm Form,
    IReadOnlyList<CounterPartForm> Parts,
    string? Given,
    bool OnAccount,
    string? FormKey
) : ICheckedForm
{
    string? ICheckedForm.Missing() =>
        Form is null ? "form"
        : Parts is null || Parts.Any(p => p is null) ? "parts"
        : ((ICheckedForm)Form).Missing();

    /// <summary>What stands in the customer's field.</summary>
    public string? CustomerText { get; init; }
}

/// <summary>What comes back, as typed: how many, by the line of the sale.</summary>
internal sealed record ReturnForm(
    int InvoiceId,
    IReadOnlyDictionary<int, string?> Back,
    string? Reason,
    bool GoodsBack,
    int Way,
    string? FormKey
) : ICheckedForm
{
    string? ICheckedForm.Missing() => Back is null ? "back" : null;
}

/// <summary>What the editor holds, to be kept as a starter.</summary>
internal sealed record StarterForm(DraftForm Form, string? Name, string? About, string? FormKey) : ICheckedForm
{
    string? ICheckedForm.Missing() => Form is null ? "form" : ((ICheckedForm)Form).Missing();
}

/// <summary>The counter, starters and the progress of the standing invoices.</summary>
internal static class CounterEndpoints
{
    internal static void MapCounter(this RouteGroupBuilder api)
    {
        api.MapPost("/counter/reckon", ReckonAsync).Needs(Right.Issue);
        api.MapPost("/counter", SellAsync).Needs(Right.Issue);
        api.MapGet("/counter/sale", SaleAsync).Needs(Right.Issue);
        api.MapPost("/counter/back/reckon", ReckonBackAsync).Needs(Right.Issue);
        api.MapPost("/counter/back", TakeBackAsync).Needs(Right.Issue);
        api.MapPost("/starters", KeepStarterAsync).Needs(Right.Draft);
        api.MapGet(
                "/standing/progress",
                (StandingProgress progress) =>
                    new
                    {
                        running = progress.Running,
                        done = progress.Done,
                        total = progress.Total,
                    }
            )
            .Needs(Right.Self);
    }

    private static async Task<object> ReckonAsync(
        CounterForm typed,
        CounterSales counter,
        BooksHead head,
        BooksContext db,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var bill = await counter.ReckonAsync(await ReadAsync(typed, db, head, stop), stop);
        var document = bill.Document;
        string Amount(long minor) => business.Format.Amount(minor, document.Currency);
        return new
        {
            currency = document.Currency.Code,
            lines = document.Lines.OrderBy(l => l.Position).Select(l => Amount(l.Amount)),
            tax = Amount(document.Tax),
            rounding = document.Payable == document.Total ? "" : Amount(document.Payable - document.Total),
            payable = Amount(document.Payable),
            cash = Amount(bill.Cash),
            change = bill.Change is { } change ? Amount(change) : "",
            warnings = bill.Warnings.Select(w => w.Phrase.In(business.Format)),
        };
    }

    /// <summary>A sale of which something comes back.</summary>
    private static async Task<object> SaleAsync(
        string? number,
        CounterReturns returns,
        BooksHead head,
        CancellationToken stop
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var sale = await returns.FindAsync(number ?? "", stop);
        var invoice = sale.Invoice;
        return new
        {
            id = invoice.Id,
            title = $"{invoice.Number} of {format.Date(invoice.Date)}, {sale.Customer}",
            total = format.WithCode(invoice.Payable, invoice.Currency),
            open = sale.Open == 0 ? "" : format.WithCode(sale.Open, invoice.Currency),
            lines = invoice
                .Lines.Where(l => l.Counts)
                .OrderBy(l => l.Position)
                .Select(l => new
                {
                    id = l.Id,
                    text = l.Text.Split('\n')[0],
                    sold = format.Figure(l.Quantity),
                    left = format.Typed(sale.Left[l.Id]),
                    amount = format.Amount(l.Amount, invoice.Currency),
                }),
        };
    }

    private static async Task<object> ReckonBackAsync(
        ReturnForm typed,
        CounterReturns returns,
        BooksHead head,
        CancellationToken stop
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var (credit, against, paidBack) = await returns.ReckonAsync(ReadBack(typed, format), stop);
        string Amount(long minor) => format.Amount(minor, credit.Currency);
        return new
        {
            currency = credit.Currency.Code,
            total = Amount(credit.Payable),
            against = against == 0 ? "" : Amount(against),
            paidBack = Amount(paidBack),
        };
    }

    private static async Task<object> TakeBackAsync(
        ReturnForm typed,
        CounterReturns returns,
        BooksHead head,
        BooksContext db,
        CancellationToken stop
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var id = await returns.TakeBackAsync(ReadBack(typed, format), stop);
        var credit = await db.Documents.AsNoTracking().SingleAsync(d => d.Id == id, stop);
        return new
        {
            id,
            number = credit.Number,
            total = format.WithCode(credit.Payable, credit.Currency),
        };
    }

    private static CounterReturn ReadBack(ReturnForm typed, DisplayFormat format)
    {
        var refusals = new Refusals();
        var back = new Dictionary<int, decimal>();
        foreach (var (line, text) in typed.Back.Where(b => !string.IsNullOrWhiteSpace(b.Value)))
            refusals.Try(() => back[line] = format.Read(text!, Limits.FigureDecimals, $"back[{line}]"));
        refusals.ThrowIfAny();
        return new CounterReturn(
            typed.InvoiceId,
            back.Where(b => b.Value != 0).ToDictionary(),
            typed.Reason ?? "",
            !typed.GoodsBack,
            typed.Way,
            typed.FormKey
        );
    }

    private static async Task<object> SellAsync(
        CounterForm typed,
        CounterSales counter,
        BooksHead head,
        BooksContext db,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var id = await counter.SellAsync(await ReadAsync(typed, db, head, stop), stop);
        var sold = await db.Documents.AsNoTracking().SingleAsync(d => d.Id == id, stop);
        return new
        {
            id,
            number = sold.Number,
            total = business.Format.WithCode(sold.Payable, sold.Currency),
            paid = sold.PaidWords,
        };
    }

    private static async Task<object> KeepStarterAsync(
        StarterForm typed,
        StartersDesk desk,
        BooksHead head,
        BooksContext db,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var form = typed.Form;
        var currency = await db.BilledInAsync(form.CustomerId, form.Currency, business.HomeCurrency, stop);
        return new
        {
            id = await desk.KeepAsync(
                typed.Form.ReadKind(),
                typed.Name ?? "",
                typed.About ?? "",
                typed.Form.Read(business.Format, currency, await head.TodayAsync(stop)),
                currency,
                new Once(typed.FormKey, stop)
            ),
        };
    }

    private static async Task<CounterSale> ReadAsync(
        CounterForm typed,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var currency = await db.BilledInAsync(typed.Form.CustomerId, null, business.HomeCurrency, stop);
        var refusals = new Refusals();
        long? Read(string? text, string field)
        {
            long? amount = null;
            if (!string.IsNullOrWhiteSpace(text))
                refusals.Try(() => amount = business.Format.ReadAmount(text, currency, field));
            return amount;
        }

        var parts = typed.Parts.Select(p => new CounterPart(p.AccountId, Read(p.Amount, "amount1"))).ToList();
        var given = Read(typed.Given, "given");
        refusals.ThrowIfAny();
        return new CounterSale(
            typed.Form.CustomerId > 0 ? typed.Form.CustomerId : null,
            typed.Form.Read(business.Format, currency, await head.TodayAsync(stop)),
            parts,
            given,
            typed.OnAccount,
            typed.FormKey
        )
        {
            Typed = typed.CustomerText ?? "",
        };
    }
}
