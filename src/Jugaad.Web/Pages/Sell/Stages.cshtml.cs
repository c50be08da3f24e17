using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Making;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Sell;

/// <summary>All that is billed in stages: the next stages of several are made in one go.</summary>
[Needs(Right.Draft)]
[Posts(Right.Draft)]
public sealed class StagesModel(Stages stages, ProgressScreens progress) : DeskPage
{
    public IReadOnlyList<StagedRow> Rows { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Rows = await progress.StagedAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ShowAsync();
        var refusals = new Refusals();
        var wishes = new List<(int, StageWish)>();
        foreach (var row in Rows)
        {
            var field = $"now[{row.Id}]";
            refusals.Try(() =>
            {
                if (Wish(Form.Text(field).Trim(), row.Currency, field) is { } wish)
                    wishes.Add((row.Id, wish));
            });
        }

        refusals.ThrowIfAny();
        if (wishes.Count == 0)
            throw new RefusalException("", "Type what to bill now beside at least one of them.");
        var made = await stages.BillManyAsync(wishes, Form.Key);
        Say(
            wishes.Count == 1
                ? "The stage is a draft. Check and issue it here."
                : $"{wishes.Count} stages are drafts. Check and issue them here."
        );
        return Redirect(made.Count == 1 ? $"/sell/edit/{made[0]}" : "/sell/issue");
    }

    private StageWish? Wish(string text, Currency currency, string field) =>
        text switch
        {
            "" => null,
            _ when text.Equals("rest", StringComparison.OrdinalIgnoreCase) => new StageWish(Rest: true),
            [.., '%'] => new StageWish(Percent: Format.Read(text[..^1], Limits.PercentDecimals, field)),
            _ => new StageWish(Amount: Format.ReadAmount(text, currency, field)),
        };
}
