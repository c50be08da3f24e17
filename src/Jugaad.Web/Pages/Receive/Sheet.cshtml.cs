using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>
/// Many receipts at once: customer and amount are typed, what each is for is proposed, and all are posted together.
/// </summary>
[Needs(Right.Money)]
[Posts(Right.Money)]
public sealed class SheetModel(
    ReceiptSheet sheet,
    ReceiveScreens screens,
    CustomerFinder customers,
    AccountScreens accounts
) : DeskPage
{
    private const int FewestRows = 8;
    private const int MostRows = 300;

    public IEnumerable<(string, string)> WayChoices { get; private set; } = [];

    public string FirstWay { get; private set; } = "";

    public int RowCount =>
        Math.Max(
            FewestRows,
            Math.Min(MostRows, Request.HasFormContentType ? Form.Rows("rows").DefaultIfEmpty(0).Max() + 2 : 0)
        );

    protected override async Task<bool> ShowAsync()
    {
        var ways = await screens.WaysAsync();
        WayChoices = ways.Select(w => (w.Id.ToString(CultureInfo.InvariantCulture), w.Name)).ToList();
        FirstWay = ways.Count > 0 ? ways[0].Id.ToString(CultureInfo.InvariantCulture) : "";
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    /// <summary>A row that something was typed into, as far as it is understood.</summary>
    private sealed record Read(int Row, Customer? Customer, long Amount, bool Keep);

    private async Task<(List<Read> Rows, Refusals Refusals)> ReadAsync(TypedForm form)
    {
        var refusals = new Refusals();
        var rows = new List<Read>();
        var filled = form.Rows("rows").Take(MostRows).ToList();
        // Where nobody is named, the invoice that is named says whose money it is.
        var whose = await sheet.WhoseAsync([
            .. filled.Select(i =>
                form.Text($"rows[{i}].customer").Trim().Length == 0 ? form.Text($"rows[{i}].reference") : ""
            ),
        ]);
        foreach (var (i, owner) in filled.Zip(whose))
        {
            string Field(string name) => $"rows[{i}].{name}";
            if (
                form.Text(Field("customer")).Trim().Length
                    + form.Text(Field("amount")).Trim().Length
                    + form.Text(Field("reference")).Trim().Length
                == 0
            )
                continue;
            Customer? customer = null;
            try
            {
                customer = owner is { } known
                    ? await accounts.FindAsync(known)
                    : await customers.MeantAsync(form.Text(Field("customer")), Field("customer"));
            }
            catch (RefusalException refused)
            {
                refusals.AddRange(refused.Refusals);
            }

            var amount = 0L;
            refusals.Try(() =>
                amount =
                    form.Text(Field("amount")).Trim().Length == 0
                        ? 0
                        : Format.ReadAmount(
                            form.Text(Field("amount")),
                            customer?.Currency ?? Business!.HomeCurrency,
                            Field("amount")
                        )
            );
            rows.Add(new Read(i, customer, amount, form.Ticked(Field("keep"))));
        }

        return (rows, refusals);
    }

    private static List<SheetRow> Complete(IEnumerable<Read> rows, TypedForm form) =>
        [
            .. rows.Where(r => r.Customer is not null && r.Amount > 0)
                .Select(r => new SheetRow(
                    r.Row,
                    r.Customer!.Id,
                    r.Amount,
                    form.Text($"rows[{r.Row}].reference"),
                    r.Keep
                )),
        ];

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var date = form.Date("date", "Give the day on which the money came in.");
        var (rows, refusals) = await ReadAsync(form);
        foreach (var row in rows.Where(r => r.Amount <= 0 && !refusals.Any))
            refusals.Add($"rows[{row.Row}].amount", "Give the amount that came in, above zero.");
        var slip = form.OptionalAmount("slip", Business!.HomeCurrency);
        form.ThrowIfAny();
        refusals.ThrowIfAny();
        var sum = rows.Where(r => r.Customer!.Currency.Equals(Business.HomeCurrency)).Sum(r => r.Amount);
        if (slip is { } said && said != sum)
            throw new RefusalException(
                "slip",
                $"The slip says {Format.WithCode(said, Business.HomeCurrency)} and the rows come to {Format.WithCode(sum, Business.HomeCurrency)}: {Format.WithCode(Math.Abs(said - sum), Business.HomeCurrency)} {(said > sum ? "is missing" : "is too much")}. Correct a row, or empty this field."
            );
        var way = (await screens.WaysAsync()).FirstOrDefault(w => w.Id == form.Whole("way"));
        if (way.Name is null)
            throw new RefusalException("way", "Choose how the money came in. Ways of payment are kept under Setup.");
        var posted = await sheet.PostAsync(Complete(rows, form), date, way.MoneyAccountId, way.Name, form.Key);
        Say(posted == 1 ? "One receipt is posted." : $"{posted} receipts are posted.");
        return Redirect("/receive");
    }

    /// <summary>
    /// Whose money each row is, what it would be set against, and what all rows come to: the page asks here instead of
    /// reckoning itself.
    /// </summary>
    public async Task<IActionResult> OnPostProposeAsync()
    {
        var form = Form;
        var (rows, refusals) = await ReadAsync(form);
        var day = Format.FindDay(form.Text("date"), Today) ?? Today;
        var proposals = (await sheet.ProposeAsync(Complete(rows, form), day)).ToDictionary(p => p.Row);
        var home = Business!.HomeCurrency;
        var sums = rows.Where(r => r.Amount > 0)
            .GroupBy(r => r.Customer?.Currency ?? home)
            .Select(g => (Currency: g.Key, Sum: g.Sum(r => r.Amount)))
            .ToList();
        var mine = sums.Find(s => s.Currency.Equals(home)).Sum;
        long? slip = null;
        refusals.Try(() => slip = form.OptionalAmount("slip", home));
        return new JsonResult(
            new
            {
                rows = rows.Select(r => new
                {
                    row = r.Row,
                    who = r.Customer?.Name ?? "",
                    why = proposals.TryGetValue(r.Row, out var p) ? Words(p, r.Customer!.Currency) : "",
                    rest = p is { Left: > 0 } ? Format.WithCode(p.Left, r.Customer!.Currency) : "",
                    keeps = p is not null && (p.Parts.Count > 0 || r.Keep),
                    // A cell that is still being typed into is not complained of.
                    problem = r.Customer is null
                        ? refusals.Of($"rows[{r.Row}].customer")
                        : refusals.Of($"rows[{r.Row}].amount"),
                }),
                sum = sums.Count == 0
                    ? Format.WithCode(0, home)
                    : string.Join(" and ", sums.Select(s => Format.WithCode(s.Sum, s.Currency))),
                differs = slip is { } said && said != mine
                    ? $"{Format.Amount(Math.Abs(said - mine), home)} {(said > mine ? "missing" : "too much")}"
                    : "",
            }
        );
    }

    private string Words(SheetProposal proposal, Currency currency) =>
        // What is exact names its invoices itself.
        proposal.Parts.Count == 0
        || proposal.IsExact
            ? proposal.Why
            : $"{proposal.Why}: {string.Join(", ", proposal.Parts.Select(p => $"{p.Item.Number} {Format.Amount(p.Amount, currency)}"))}";
}
