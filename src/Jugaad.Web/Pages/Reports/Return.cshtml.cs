using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>One tax return: looked over, filed, and each figure with what is in it.</summary>
[Needs(Right.See)]
[Posts(Right.File)]
public sealed class ReturnModel(ReturnLooks looks, ReturnFiling filing, ReturnPaying paying, ReceiveScreens screens)
    : DeskPage
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

    /// <summary>What is left to be paid, or to come back where it is below zero; minor units.</summary>
    public long Left => Look.Then.Tax - Paid.Sum(p => p.Amount);

    public IEnumerable<(string, string)> MoneyChoices { get; private set; } = [];

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
        if (Last < First || await looks.LookAsync(Authority, First, Last) is not { } look)
            return false;
        Look = look;
        if (look.Then.Filed is { } filed)
        {
            Paid = await paying.OfAsync([filed.Id]);
            MoneyChoices = [.. (await screens.MoneyAccountsAsync()).Select(a => ($"{a.Id}", a.Name))];
        }

        var asked = Request.Query["of"].ToString();
        Of = look.Then.Summary.FirstOrDefault(s => KeyOf(s) == asked);
        var box = Request.Query["box"].ToString();
        Box = (look.Then.Filed?.BoxSet ?? look.Then.Authority.Boxes).FirstOrDefault(b =>
            b.Number == box && b.Sum != BoxSum.Formula
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

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostFileAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        await filing.FileAsync(
            new ReturnToFile(Authority, First, Last, Form.Amount("seen", Look.Then.Home), Form.Text("reference")),
            Form.Key
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
            new ReturnToPay(form.Whole("return"), day, form.Whole("moneyAccountId"), amount),
            form.Key
        );
        return Done("Noted. On the bank's statement it will be recognised.");
    }

    public async Task<IActionResult> OnPostOpenAgainAsync()
    {
        await filing.OpenAgainAsync(Form.Whole("return"), Form.Text("reason"), Form.Key);
        return Done("Open again: it tells what the books say now, and waits to be filed.");
    }
}
