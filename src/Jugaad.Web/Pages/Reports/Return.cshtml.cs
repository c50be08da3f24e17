using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Reports;

/// <summary>One tax return: looked over, filed, and each figure with what is in it.</summary>
[Needs(Right.See)]
[Posts(Right.File)]
public sealed class ReturnModel(
    ReturnLooks looks,
    ReturnFiling filing,
    ReturnPaying paying,
    ReturnBalances balances,
    ReturnCharges charging,
    ReturnCarrying carrying,
    ReceiveScreens screens,
    BooksContext db
) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Authority { get; set; }

    [BindProperty(SupportsGet = true)]
    public DateOnly First { get; set; }

    [BindProperty(SupportsGet = true)]
    public DateOnly Last { get; set; }

    public ReturnLook Look { get; private set; } = null!;

    /// <summary>The sum whose rows are asked for; null for all of them.</summary>
    public ReturnSum? Of { get; private set; }

    /// <summary>The box whose rows are asked for; null for none.</summary>
    public ReturnBox? Box { get; private set; }

    /// <summary>The rows behind the sum, with the tax up to each; minor units.</summary>
    public IReadOnlyList<(ReturnRow Row, long Taxable, long Tax)> Rows { get; private set; } = [];

    /// <summary>What was paid of it, where it is filed.</summary>
    public IReadOnlyList<ReturnPaid> Paid { get; private set; } = [];

    /// <summary>What the authority charged besides, where it is filed.</summary>
    public IReadOnlyList<TaxCharge> Charges { get; private set; } = [];

    /// <summary>What was left over of it, or set against it, where it is filed.</summary>
    public IReadOnlyList<ReturnCarried> Carried { get; private set; } = [];

    /// <summary>What became of it; null where it is not filed.</summary>
    public ReturnBalance? Balance { get; private set; }

    /// <summary>What is left to be paid, or to come back where it is below zero; minor units.</summary>
    public long Left => Balance?.Left ?? Look.Then.Tax;

    public static IEnumerable<(string, string)> ChargeKinds { get; } =
        Enum.GetValues<TaxChargeKind>().Select(k => (k.ToString(), TaxCharge.Words(k)));

    public IEnumerable<(string, string)> MoneyChoices { get; private set; } = [];

    /// <summary>Against what a typed box is posted.</summary>
    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    /// <summary>The boxes that are typed in, each with what was typed the last time.</summary>
    public IReadOnlyList<(ReturnBox Box, TypedBox? Before)> TypedBoxes { get; private set; } = [];

    /// <summary>Which of the returns for the period is shown; 0 for the return itself.</summary>
    public int Amendment => int.TryParse(Request.Query["amendment"], out var asked) ? asked : 0;

    public string FileAddress(string form) => $"{Address}/file?form={form}&amendment={Amendment}";

    // More would make a page that nobody reads; the files have all.
    private const int MostRows = 500;

    public bool ShowsAll => Look.Then.Rows.Count(Fits) <= MostRows;

    public string Address => ReturnsModel.Address(Authority, First, Last);

    public static string KeyOf(ReturnSum sum) =>
        $"{sum.Category.Letters()}~{sum.Component}~{PlainDecimal.Text(sum.Percent)}";

    public static string Words(TaxCategory category, string component, decimal percent) =>
        component.Length > 0
            ? $"{component} {PlainDecimal.Text(percent)} %{(category == TaxCategory.Standard ? "" : $", {category.Word()}")}"
            : $"No tax, {category.Word()}";

    private bool Fits(ReturnRow row) =>
        Box is not null
            ? BoxFigure.Fits(Box, row)
            : Of is null
                || (row.Key.Category, row.Key.Component, row.Key.Percent) == (Of.Category, Of.Component, Of.Percent);

    protected override async Task<bool> ShowAsync()
    {
        if (Last < First || await looks.LookAsync(Authority, First, Last, Amendment) is not { } look)
            return false;
        Look = look;
        if (look.Then.Filed is { } filed)
        {
            Paid = await balances.OfAsync([filed.Id]);
            Charges = await balances.ChargesAsync([filed.Id]);
            Carried = await balances.CarriedAsync(filed.Id);
            Balance = (await balances.BalancesAsync([filed.Id]))[filed.Id];
            AccountChoices = await OtherAccountsAsync();
            MoneyChoices = [.. (await screens.MoneyAccountsAsync()).Select(a => ($"{a.Id}", a.Name))];
        }
        else if (look.Then.Authority.Boxes.Any(b => b.Sum == BoxSum.Typed))
            await OfferTypedAsync(look.Then.Authority);

        var asked = Request.Query["of"].ToString();
        Of = look.Then.Summary.FirstOrDefault(s => KeyOf(s) == asked);
        var box = Request.Query["box"].ToString();
        Box = (look.Then.Filed?.BoxSet ?? look.Then.Authority.Boxes).FirstOrDefault(b =>
            b.Number == box && b.Sum is BoxSum.Tax or BoxSum.Taxable
        );
        var rows = new List<(ReturnRow, long, long)>();
        var (taxable, tax) = (0L, 0L);
        foreach (var row in look.Then.Rows.Where(Fits).Take(MostRows))
        {
            (taxable, tax) = (taxable + row.Taxable, tax + row.Tax);
            rows.Add((row, taxable, tax));
        }

        Rows = rows;
        return true;
    }

    private async Task OfferTypedAsync(TaxAuthority authority)
    {
        var before = await db
            .TaxReturns.AsNoTracking()
            .Where(r => r.AuthorityId == authority.Id && r.Amendment == 0)
            .OrderByDescending(r => r.From)
            .Select(r => r.Typed)
            .FirstOrDefaultAsync();
        TypedBoxes =
        [
            .. authority
                .Boxes.Where(b => b.Sum == BoxSum.Typed)
                .Select(b => (b, before?.FirstOrDefault(t => t.Number == b.Number))),
        ];
        AccountChoices = await OtherAccountsAsync();
    }

    private async Task<IEnumerable<(string, string)>> OtherAccountsAsync() =>
        [
            ("0", "choose an account"),
            .. (
                await db
                    .LedgerAccounts.Where(a => a.Role == AccountRole.Other && !a.Retired)
                    .OrderBy(a => a.Code)
                    .ToListAsync()
            ).Select(a => ($"{a.Id}", $"{a.Code} {a.Name}")),
        ];

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostFileAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var typed = TypedBoxes
            .Select(t => new TypedBox(
                t.Box.Number,
                form.Amount($"box-{t.Box.Number}", Look.Then.Home),
                form.Text($"reason-{t.Box.Number}"),
                form.Whole($"account-{t.Box.Number}")
            ))
            .Where(t => t.Amount != 0)
            .ToList();
        var seen = form.Amount("seen", Look.Then.Home);
        form.ThrowIfAny();
        await filing.FileAsync(
            new ReturnToFile(Authority, First, Last, seen, form.Text("reference")) { Typed = typed },
            form.Key
        );
        return Done("Filed. Nothing changes this return any more; what comes later goes into the next one.");
    }

    [Posts(Right.Money)]
    public async Task<IActionResult> OnPostPayAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var (day, amount) = (
            form.Date("date", "Give the day on which it was paid."),
            form.Amount("amount", Look.Then.Home)
        );
        form.ThrowIfAny();
        await paying.PayAsync(
            new ReturnToPay(form.Whole("return"), day, form.Whole("moneyAccountId"), amount, form.Ticked("over")),
            form.Key
        );
        return Done("Noted. On the bank's statement it will be recognised.");
    }

    /// <summary>Notes what the authority charges besides.</summary>
    [Posts(Right.Money)]
    public async Task<IActionResult> OnPostChargeAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var (day, amount) = (
            form.Date("chargeDate", "Give the day from which it is owed."),
            form.Amount("charge", Look.Then.Home)
        );
        form.ThrowIfAny();
        await charging.ChargeAsync(
            form.Whole("return"),
            form.Choice<TaxChargeKind>("chargeKind"),
            day,
            amount,
            form.Whole("chargeAccount"),
            form.Text("chargeText"),
            form.Key
        );
        return Done("Noted. It is owed with this return.");
    }

    [Posts(Right.Money)]
    public async Task<IActionResult> OnPostUnchargeAsync()
    {
        await charging.UnchargeAsync(Form.Whole("charged"), Form.Key);
        return Done("The charge is taken back.");
    }

    /// <summary>Sets what is left over against other returns.</summary>
    [Posts(Right.Money)]
    public async Task<IActionResult> OnPostCarryAsync()
    {
        await carrying.CarryAsync(Form.Whole("return"), Form.Key);
        return Done("Carried on.");
    }

    [Posts(Right.Money)]
    public async Task<IActionResult> OnPostUncarryAsync()
    {
        await carrying.UncarryAsync(Form.Whole("carry"), Form.Key);
        return Done("Taken apart.");
    }

    /// <summary>Hands it in at the authority's desk.</summary>
    public async Task<IActionResult> OnPostHandInAsync()
    {
        var reasons = await filing.HandInAsync(Form.Whole("return"), Form.Key);
        if (reasons.Count > 0)
            throw new Core.RefusalException("", $"Their desk did not take it. {string.Join(" ", reasons)}");
        return Done("Their desk has it.");
    }

    public async Task<IActionResult> OnPostTakenAsync()
    {
        await filing.TakenAsync(Form.Whole("return"), Form.Text("answer"), Form.Key);
        return Done("Noted. It stays as it is from now on.");
    }

    /// <summary>Tells the period anew, as an amendment.</summary>
    public async Task<IActionResult> OnPostAmendAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var seen = form.Amount("late", Look.Then.Home);
        form.ThrowIfAny();
        await filing.AmendAsync(Authority, First, Last, form.Text("why"), seen, form.Key);
        return Done("Amended. The amendment stands beside the return.");
    }

    public async Task<IActionResult> OnPostOpenAgainAsync()
    {
        await filing.OpenAgainAsync(Form.Whole("return"), Form.Text("reason"), Form.Key);
        return Done("Open again: it tells what the books say now, and waits to be filed.");
    }
}
