using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>By which steps customers are written to, when, and how promises and plans are judged.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class LaddersModel(
    LetterScreens screens,
    Desk.Collecting.Ladders ladders,
    CollectingRules rules,
    LateCharges charges
) : DeskPage
{
    public IReadOnlyList<LetterLadder> All { get; private set; } = [];

    public CollectingSettings Settings { get; private set; } = null!;

    public IReadOnlyList<Holiday> Holidays { get; private set; } = [];

    /// <summary>The ladder that the form is about; null for a new one.</summary>
    public LetterLadder? Edited { get; private set; }

    /// <summary>Its steps, or those that are usual.</summary>
    public IReadOnlyList<StepDetails> Steps =>
        Edited is { } ladder
            ?
            [
                .. ladder
                    .Steps.OrderBy(s => s.Number)
                    .Select(s => new StepDetails(s.Days, s.Way, s.Text, s.WithInvoices, s.WithStatement)
                    {
                        Fee = s.Fee,
                        WithInterest = s.WithInterest,
                    }),
            ]
            : LetterLadder.UsualSteps;

    public IEnumerable<(string, string)> LadderChoices =>
        All.Select(l => (l.Id.ToString(CultureInfo.InvariantCulture), l.Name))
            .Prepend(("", "none: nobody is written to by steps"));

    public static IEnumerable<(string, string)> Ways =>
        [
            ("", "no step"),
            (nameof(StepWay.Mail), "by mail"),
            (nameof(StepWay.Print), "printed"),
            (nameof(StepWay.Message), "by message"),
            (nameof(StepWay.Call), "a call"),
        ];

    public static IEnumerable<(string, string)> TextChoices =>
        LetterLadder.Texts.Select(t => (t.ToString(), TextsModel.WordOf(t)));

    public string HolidaysText => string.Join('\n', Holidays.Select(h => $"{Day(h.Day)} {h.Name}".TrimEnd()));

    protected override async Task<bool> ShowAsync()
    {
        All = await screens.LaddersAsync();
        Settings = await rules.ReadAsync();
        Holidays = await screens.HolidaysAsync();
        RatesText = string.Join(
            '\n',
            (await charges.RatesAsync()).Select(r => $"{Day(r.From)} {Format.Typed(r.Percent)}")
        );
        TaxChoices = [("", "nothing is charged"), .. await screens.ChargeTaxesAsync()];
        AccountChoices = [("", "nothing is charged"), .. await screens.ChargeAccountsAsync()];
        var wanted = int.TryParse(Request.Query["ladder"], CultureInfo.InvariantCulture, out var id) ? id : 0;
        Edited =
            Request.Query["new"] == "1"
                ? null
                : All.FirstOrDefault(l => l.Id == wanted) ?? (All.Count > 0 ? All[0] : null);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostStepsAsync()
    {
        var form = Form;
        var steps = new List<StepDetails>();
        var refusals = new Refusals();
        foreach (var i in TypedForm.RowsOf(Request.Form, "steps").Order())
        {
            if (!Enum.TryParse<StepWay>(form.Text($"steps[{i}].way"), out var way))
                continue;
            if (
                !int.TryParse(
                    form.Text($"steps[{i}].days").Replace('\u2212', '-'),
                    NumberStyles.AllowLeadingSign,
                    CultureInfo.InvariantCulture,
                    out var days
                )
            )
                refusals.Add($"steps[{i}].days", "Give whole days after the due day, below zero for before it.");
            steps.Add(
                new StepDetails(
                    days,
                    way,
                    Enum.TryParse<MailText>(form.Text($"steps[{i}].text"), out var text)
                        ? text
                        : MailText.GentleReminder,
                    form.Ticked($"steps[{i}].invoices"),
                    form.Ticked($"steps[{i}].statement")
                )
                {
                    Fee = form.Amount($"steps[{i}].fee", Business!.HomeCurrency),
                    WithInterest = form.Ticked($"steps[{i}].interest"),
                }
            );
        }

        refusals.ThrowIfAny();
        form.ThrowIfAny();
        var id = await ladders.SaveAsync(form.Id("id"), form.Text("name"), steps, form.Key);
        Say("The steps are set");
        return Redirect($"/setup/ladders?ladder={id}");
    }

    public async Task<IActionResult> OnPostWhenAsync()
    {
        var form = Form;
        var tolerance = form.Amount("tolerance", Business!.HomeCurrency);
        form.ThrowIfAny();
        await ladders.SetAsync(
            form.Id("usual"),
            form.Ticked("byItself"),
            tolerance,
            form.Whole("daysBetween"),
            Enumerable.Range(1, 7).Where(d => form.Ticked($"day{d}")),
            form.Key
        );
        return Done("It is set when letters go");
    }

    public async Task<IActionResult> OnPostHolidaysAsync()
    {
        var form = Form;
        var refusals = new Refusals();
        var days = new List<(DateOnly, string)>();
        foreach (
            var line in form.Text("holidays")
                .Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
        )
            refusals.Try(() => days.Add(ReadHoliday(line)));
        refusals.ThrowIfAny();
        await ladders.SetHolidaysAsync(days, form.Key);
        return Done($"{days.Count} days are set on which nobody is written to");
    }

    /// <summary>A day, and after it what it is called: the longest beginning of the line that is a day.</summary>
    private (DateOnly, string) ReadHoliday(string line)
    {
        var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        for (var most = Math.Min(words.Length, 3); most > 0; most--)
        {
            try
            {
                var day = Format.ReadDay(string.Join(' ', words[..most]), Today, "holidays");
                return (day, string.Join(' ', words[most..]));
            }
            catch (RefusalException) when (most > 1)
            {
                // A shorter beginning may be a day.
            }
        }

        throw new RefusalException("holidays", $"“{line}” begins with no date. Write a day and its name in each line.");
    }

    /// <summary>The rates as they can be typed again, a line each.</summary>
    public string RatesText { get; private set; } = "";

    /// <summary>What bears no tax first, as such charges mostly do.</summary>
    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public async Task<IActionResult> OnPostLateAsync()
    {
        var form = Form;
        var compensation = form.Amount("compensation", Business!.HomeCurrency);
        form.ThrowIfAny();
        var refusals = new Refusals();
        var rates = new List<InterestRate>();
        foreach (
            var line in form.Text("rates")
                .Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
        )
            refusals.Try(() => rates.Add(ReadRate(line)));
        refusals.ThrowIfAny();
        await rules.ChargeLateAsync(
            compensation,
            form.Id("chargeTaxCode"),
            form.Id("chargeAccount"),
            [.. rates.OrderBy(r => r.From)],
            form.Key
        );
        return Done("It is set what late payment costs");
    }

    /// <summary>A day, and after it a percentage.</summary>
    private InterestRate ReadRate(string line)
    {
        var (day, percent) = line.TrimEnd('%', ' ').LastIndexOf(' ') is > 0 and var blank
            ? (line[..blank], line[(blank + 1)..].TrimEnd('%', ' '))
            : ("", line);
        try
        {
            return new InterestRate(Format.ReadDay(day, Today, "rates"), Format.Read(percent, 4, "rates"));
        }
        catch (RefusalException)
        {
            throw new RefusalException("rates", $"“{line}” is no day with a percentage, such as 1 Jan 2025 11.15.");
        }
    }

    public static IEnumerable<(string, string)> LimitChoices =>
        [
            (nameof(LimitCheck.Warn), "it is said"),
            (nameof(LimitCheck.Stop), "it is not issued, unless the owner lets it"),
            (nameof(LimitCheck.Off), "nothing"),
        ];

    public async Task<IActionResult> OnPostCreditAsync()
    {
        var form = Form;
        await rules.GiveCreditAsync(
            form.Choice<LimitCheck>("limitCheck"),
            form.Whole("noMoreAfterDays"),
            form.Whole("noMoreAfterBroken"),
            form.Key
        );
        return Done("It is set how credit is given");
    }

    public async Task<IActionResult> OnPostJudgeAsync()
    {
        var form = Form;
        await rules.SetAsync(
            form.Whole("grace"),
            form.Whole("planDaysLate"),
            new ContactWeights(
                form.Whole("daysForOne"),
                form.Whole("mostTimes"),
                form.Whole("brokenPercent"),
                form.Whole("intervalDays")
            ),
            form.Key
        );
        return Done("It is set how promises, plans and contacts are judged");
    }
}
