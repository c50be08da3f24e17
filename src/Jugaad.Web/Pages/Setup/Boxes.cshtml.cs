using System.Text;
using Jugaad.Core;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The boxes of returns to an authority, with what they would say of real figures.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class BoxesModel(ReturnFiling filing, TaxReturns returns, TaxDesk desk, ITaxKits kits, BooksContext db)
    : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Authority { get; set; }

    /// <summary>What the boxes say of the period that is next.</summary>
    public ReturnThen Preview { get; private set; } = null!;

    /// <summary>The set as it is edited.</summary>
    public string Text => kits.WriteBoxes(Preview.Authority.Boxes);

    public static string Words(ReturnBox box) =>
        box.Sum == BoxSum.Formula ? box.Formula
        : box.Sum == BoxSum.Typed ? "typed in when it is filed"
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
                string.Join(" and ", box.Origins.Select(Words)),
            }.Where(w => w.Length > 0)
        );

    public static string Words(RowOrigin origin) =>
        origin switch
        {
            RowOrigin.Credits => "credits",
            RowOrigin.TakenOff => "what was taken off",
            _ => "sales",
        };

    /// <summary>The box that is edited; a new one where the address names none.</summary>
    public ReturnBox Edited { get; private set; } = new() { Sum = BoxSum.Tax };

    public bool IsNew => Edited.Number.Length == 0;

    public IEnumerable<(string, string)> SumChoices { get; } =
    [
        (nameof(BoxSum.Tax), "the tax"),
        (nameof(BoxSum.Taxable), "what the tax is on"),
        (nameof(BoxSum.Formula), "other boxes, by a formula"),
        (nameof(BoxSum.Typed), "nothing: it is typed in"),
    ];

    public IEnumerable<(string, string)> RoundingChoices { get; } =
        Enum.GetValues<BoxRounding>().Select(r => ($"{r}", r == BoxRounding.Cent ? "to the cent" : Words(r)));

    /// <summary>What narrows a box, as ticks: each with its name in the form, its words, and whether it is ticked.</summary>
    public IEnumerable<(string Title, IEnumerable<(string Name, string Words, bool On)> Ticks)> Narrowing =>
        [
            (
                "Kinds",
                Enum.GetValues<TaxCategory>().Select(c => ($"category-{c}", c.Word(), Edited.Categories.Contains(c)))
            ),
            ("Taxes", Components.Select((c, i) => ($"component-{i}", c, Edited.Components.Contains(c)))),
            (
                "Where",
                new[] { Place.Home, Place.Union, Place.Abroad }.Select(p =>
                    ($"place-{p}", TaxReports.Word(p), Edited.Places.Contains(p))
                )
            ),
            (
                "What",
                Enum.GetValues<Supply>().Select(s => ($"supply-{s}", TaxReports.Word(s), Edited.Supplies.Contains(s)))
            ),
            ("From", Enum.GetValues<RowOrigin>().Select(o => ($"origin-{o}", Words(o), Edited.Origins.Contains(o)))),
        ];

    private List<string> Components { get; set; } = [];

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
        Components = await db.TaxComponents.OrderBy(c => c.Name).Select(c => c.Name).ToListAsync();
        var asked = Request.Query["box"].ToString();
        Edited = due.Authority.Boxes.FirstOrDefault(b => b.Number == asked) ?? Edited;
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

    /// <summary>Sets one box, in its place or at the end.</summary>
    public async Task<IActionResult> OnPostBoxAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        List<T> Ticked<T>(string part)
            where T : struct, Enum => [.. Enum.GetValues<T>().Where(v => form.Ticked($"{part}-{v}"))];
        var box = new ReturnBox
        {
            Number = form.Text("number").Trim(),
            Name = form.Text("name").Trim(),
            Sum = form.Choice<BoxSum>("sum"),
            Rounding = form.Choice<BoxRounding>("rounding"),
            Formula = form.Choice<BoxSum>("sum") == BoxSum.Formula ? form.Text("formula").Trim() : "",
            IsOwed = form.Ticked("isOwed"),
            Categories = Ticked<TaxCategory>("category"),
            Components = [.. Components.Where((_, i) => form.Ticked($"component-{i}"))],
            Percents = Percents(form.Text("percents")),
            Places = Ticked<Place>("place"),
            Supplies = Ticked<Supply>("supply"),
            Origins = Ticked<RowOrigin>("origin"),
        };
        var boxes = Preview.Authority.Boxes.ToList();
        var at = boxes.FindIndex(b => b.Number == Edited.Number);
        if (at >= 0)
            boxes[at] = box;
        else
            boxes.Add(box);
        await SaveAsync(boxes, at >= 0 ? at : boxes.Count - 1);
        return Done($"Box {box.Number} is set. What is filed stays as it was told.");
    }

    public async Task<IActionResult> OnPostRemoveAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        await SaveAsync([.. Preview.Authority.Boxes.Where(b => b.Number != Edited.Number)], -1);
        return Done($"Box {Edited.Number} is gone.");
    }

    /// <summary>Refuses beside the fields of the one box that is edited.</summary>
    private async Task SaveAsync(List<ReturnBox> boxes, int edited)
    {
        try
        {
            await desk.SaveBoxesAsync(Authority, boxes, Form.Key);
        }
        catch (RefusalException refused)
        {
            var own = $"boxes[{edited}].";
            var refusals = new Refusals();
            foreach (var one in refused.Refusals)
                refusals.Add(
                    one.Field.StartsWith(own, StringComparison.Ordinal) ? one.Field[own.Length..] : "",
                    one.Message
                );
            refusals.ThrowIfAny();
        }
    }

    private static List<decimal> Percents(string typed)
    {
        var percents = new List<decimal>();
        foreach (
            var part in typed.Split(
                [' ', ';', '%'],
                StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries
            )
        )
            percents.Add(
                decimal.TryParse(
                    part.Replace(',', '.'),
                    System.Globalization.NumberStyles.AllowDecimalPoint,
                    System.Globalization.CultureInfo.InvariantCulture,
                    out var percent
                )
                    ? percent
                    : throw new RefusalException("percents", $"“{part}” is no rate. Give rates such as 24 9.")
            );
        return percents;
    }
}
