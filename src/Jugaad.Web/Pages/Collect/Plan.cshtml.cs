using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>Divides what a customer owes into dated parts.</summary>
[Needs(Right.Collect)]
[Posts(Right.Collect)]
public sealed class PlanModel(ChaseScreens screens, Plans plans) : DeskPage
{
    private const int UsualParts = 3;

    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public ChaseRow Row { get; private set; } = null!;

    /// <summary>What can be divided: all of it can be asked for.</summary>
    public IReadOnlyList<OpenOnDay> Possible { get; private set; } = [];

    public IReadOnlySet<int> Chosen { get; private set; } = new HashSet<int>();

    public int Count { get; private set; } = UsualParts;

    public DateOnly First { get; private set; }

    public bool Weekly { get; private set; }

    /// <summary>Equal parts of what is chosen; none where there are too many of them.</summary>
    public IReadOnlyList<PlanPart> Parts { get; private set; } = [];

    /// <summary>Of what is chosen.</summary>
    public Currency Currency { get; private set; } = null!;

    /// <summary>Whether what is chosen is in several currencies, so that it cannot be divided together.</summary>
    public bool IsMixed { get; private set; }

    public long Total => Possible.Where(i => Chosen.Contains(i.ItemId)).Sum(i => i.Open);

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.OneAsync(Id) is not { } row)
            return false;
        Row = row;
        Possible = [.. row.Owes.Items.Where(i => row.Owes.Askable(i.ItemId) == i.Open)];
        var asked = Request.HasFormContentType ? Request.Form["items"] : Request.Query["items"];
        var wanted = asked.Select(i => int.TryParse(i, CultureInfo.InvariantCulture, out var id) ? id : 0).ToHashSet();
        // A plan is in one currency: the usual one as a rule, where something can be divided in it.
        var chosen = Possible.Where(i => wanted.Contains(i.ItemId)).ToList();
        if (chosen.Count == 0)
            chosen =
            [
                .. Possible
                    .GroupBy(i => i.Currency)
                    .OrderBy(g => !g.Key.Equals(row.Currency))
                    .Take(1)
                    .SelectMany(g => g),
            ];
        Chosen = chosen.Select(i => i.ItemId).ToHashSet();
        Currency = chosen.Count > 0 ? chosen[0].Currency : row.Currency;
        IsMixed = chosen.Any(i => !i.Currency.Equals(Currency));
        Count =
            int.TryParse(Request.Query["parts"], out var parts) && parts is > 0 and <= PaymentPlan.MostParts
                ? parts
                : UsualParts;
        First = AskedDay("first") ?? Today.AddMonths(1);
        Weekly = Request.Query["every"] == "week";
        if (!IsMixed && Total >= Count)
            Parts = PaymentPlan
                .Equally(Today, Total, Count, i => Weekly ? First.AddDays(7 * i) : First.AddMonths(i))
                .Parts;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var (form, row) = (Form, Row);
        var parts = new List<PlanPart>();
        foreach (var i in TypedForm.RowsOf(Request.Form, "parts").Order())
        {
            var (day, amount) = (
                form.OptionalDate($"parts[{i}].day"),
                form.OptionalAmount($"parts[{i}].amount", Currency)
            );
            if (day is null && amount is null)
                continue;
            parts.Add(new PlanPart(day ?? form.Date($"parts[{i}].day", "Give the day of this part."), amount ?? 0));
        }

        form.ThrowIfAny();
        var items = Request.Form["items"].Select(i => int.TryParse(i, out var id) ? id : 0).Where(i => i > 0).ToList();
        await plans.AgreeAsync(Id, items, parts, form.Key);
        Say($"The plan with {row.Name} holds from today");
        return Redirect($"/collect/{Id}");
    }
}
