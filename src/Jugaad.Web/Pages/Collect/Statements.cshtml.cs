using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>Statements of account for many at once.</summary>
[Needs(Right.See)]
[Posts(Right.Mail)]
public sealed class StatementsModel(StatementRun run, CollectingRules rules) : DeskPage
{
    public IReadOnlyList<StatementFor> Who { get; private set; } = [];

    public CollectingSettings Settings { get; private set; } = null!;

    public DateOnly On { get; private set; }

    /// <summary>The first day of the movement; null for open items only.</summary>
    public DateOnly? From { get; private set; }

    public bool OnlyLate => Request.Query["who"] == "late";

    public long Least { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        Settings = await rules.ReadAsync();
        On = AskedDay("on") ?? Today;
        From = AskedDay("from") is { } from && from <= On ? from : null;
        try
        {
            Least = Request.Query["least"].ToString() is { Length: > 0 } typed
                ? Format.ReadAmount(typed, Business!.HomeCurrency, "least")
                : 0;
        }
        catch (RefusalException)
        {
            Least = 0;
        }

        Who = [.. (await run.WhoAsync(On)).Where(w => (!OnlyLate || w.Late.Count > 0) && w.HomeBalance >= Least)];
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ShowAsync();
        var form = Form;
        List<int> only =
        [
            .. Request.Form["only"].Select(i => int.TryParse(i, CultureInfo.InvariantCulture, out var id) ? id : 0),
        ];
        if (only.Count == 0)
            throw new RefusalException("", "Nobody is picked. Pick those who are to get one.");
        var (sent, left, why) = (0, 0, "");
        foreach (var who in Who.Where(w => only.Contains(w.CustomerId)))
        {
            try
            {
                await run.SendAsync(
                    who.CustomerId,
                    new StatementWish(From, On),
                    new Once(form.Key, HttpContext.RequestAborted).Of(who.CustomerId)
                );
                sent++;
            }
            catch (RefusalException refused) when (refused is not NotAllowedException)
            {
                (left, why) = (left + 1, $"{who.Name}: {refused.In(Format)}");
            }
        }

        Say(
            $"{sent} {(sent == 1 ? "statement is" : "statements are")} in the post"
                + (left > 0 ? $"; {left} left, such as {why}" : "")
        );
        return Redirect($"/collect/statements?{Asked.FiltersOf(Request.Query)}".TrimEnd('?'));
    }

    [Posts(Right.Setup)]
    public async Task<IActionResult> OnPostMonthlyAsync()
    {
        await run.SetMonthlyAsync(Form.Ticked("monthly"), Form.Key);
        return Done("It is set whether statements go by themselves");
    }
}
