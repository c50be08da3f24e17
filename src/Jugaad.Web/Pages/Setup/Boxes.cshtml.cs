using System.Text;
using Jugaad.Core;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The boxes of returns to an authority, with what they would say of real figures.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class BoxesModel(ReturnFiling filing, TaxReturns returns, TaxDesk desk, ITaxKits kits) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Authority { get; set; }

    /// <summary>What the boxes say of the period that is next.</summary>
    public ReturnThen Preview { get; private set; } = null!;

    /// <summary>The set as it is edited.</summary>
    public string Text => kits.WriteBoxes(Preview.Authority.Boxes);

    public static string Words(ReturnBox box) =>
        box.Sum == BoxSum.Formula
            ? box.Formula
            : string.Join(
                ", ",
                new[]
                {
                    box.Sum == BoxSum.Tax ? "tax" : "what the tax is on",
                    string.Join(" and ", box.Categories.Select(c => c.Word())),
                    string.Join(" and ", box.Components),
                    string.Join(" and ", box.Percents.Select(p => $"{Core.Amounts.PlainDecimal.Text(p)} %")),
                    string.Join(" and ", box.Places.Select(TaxReports.Word)),
                    string.Join(" and ", box.Supplies.Select(TaxReports.Word)),
                }.Where(w => w.Length > 0)
            );

    public static string Words(BoxRounding rounding) =>
        rounding switch
        {
            BoxRounding.Unit => "to whole units",
            BoxRounding.UnitDown => "to whole units, down",
            BoxRounding.UnitUp => "to whole units, up",
            _ => "",
        };

    protected override async Task<bool> ShowAsync()
    {
        if ((await filing.DueAsync()).FirstOrDefault(d => d.Authority.Id == Authority) is not { } due)
            return false;
        Preview = await returns.ComputeAsync(due.Authority, due.From, due.To);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnGetFileAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        return File(Encoding.UTF8.GetBytes(Text), "application/json", "boxes.json");
    }

    public async Task<IActionResult> OnPostAsync()
    {
        var file = await UploadAsync("file");
        var boxes = kits.ReadBoxes(file is null ? Form.Text("boxes") : Encoding.UTF8.GetString(file));
        try
        {
            await desk.SaveBoxesAsync(Authority, boxes, Form.Key);
        }
        catch (RefusalException refused)
        {
            throw new RefusalException("boxes", refused.Message);
        }

        return Done("The boxes are set. What is filed stays as it was told.");
    }
}
