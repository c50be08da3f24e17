using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Moving;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Moving;

/// <summary>One file that is moved in: its columns, what would become of its rows, and what became of them.</summary>
[Needs(Right.Masters)]
[Posts(Right.Masters)]
public sealed class RunModel(Importing importing, ImportUndo undo, ImportJobs jobs, IActor actor) : DeskPage
{
    private const int MostShown = 5;

    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public ImportRun Run { get; private set; } = null!;

    public Table Table { get; private set; } = null!;

    public ImportSettings Settings { get; private set; } = null!;

    /// <summary>What became of the rows, or would become; null before they were tried.</summary>
    public ImportReport? Report { get; private set; }

    /// <summary>What became of it when it was taken back, or would become; null where nobody asked.</summary>
    public TakenBackReport? Outlook { get; private set; }

    public ImportProgress? Progress { get; private set; }

    public IReadOnlyList<(DateOrder Order, string Words)> DateChoices =>
        [(DateOrder.DayFirst, "day first"), (DateOrder.MonthFirst, "month first"), (DateOrder.YearFirst, "year first")];

    public IEnumerable<(string, string)> ColumnChoices =>
        Table.Columns.Select((c, i) => (i.ToString(), c)).Prepend(("", "not in the file"));

    /// <summary>The first few columns that have a meaning, to know a refused row by.</summary>
    public IEnumerable<KeyValuePair<string, int>> ShownColumns =>
        MovingFields
            .Of(Run.Kind)
            .Where(f => Settings.Columns.ContainsKey(f.Key))
            .Take(3)
            .Select(f => KeyValuePair.Create(f.Key, Settings.Columns[f.Key]));

    public IReadOnlyList<string> Unused => Table.Columns.Where((_, i) => !Settings.Columns.ContainsValue(i)).ToList();

    /// <summary>Where what was moved in is seen.</summary>
    public string SeenAt =>
        Run.Kind switch
        {
            MovingKind.Customers => "/customers",
            MovingKind.Items => "/items",
            MovingKind.Prices => "/items/lists",
            MovingKind.ItemNumbers => "/customers",
            MovingKind.OpenItems => "/reports/aged",
            _ => "/setup/accounts",
        };

    /// <summary>Where it stands, in words.</summary>
    public string StandsIn =>
        Run.State switch
        {
            ImportState.Begun => "Nothing is taken yet.",
            ImportState.Taking => $"Only {Report!.Rows} of {Run.Rows} rows were taken: it stopped before the end.",
            ImportState.Done => "Taken.",
            ImportState.TakingBack =>
                $"It was being taken back, and stopped after {Run.TakenBack!.Through} of {Report!.New + Report.Changed} things.",
            _ => Report!.Rows < Run.Rows
                ? $"{Report.Rows} of {Run.Rows} rows were taken, and taken back."
                : "Was taken, and taken back.",
        };

    public string ColumnOf(string field) =>
        Settings.Columns.TryGetValue(field, out var column) ? column.ToString() : "";

    public string SampleOf(string field) =>
        Settings.Columns.TryGetValue(field, out var column)
            ? string.Join(
                " · ",
                Table
                    .Rows.Select(r => r[column])
                    .Where(c => c.Length > 0)
                    .Distinct()
                    .Take(MostShown)
                    .Select(c => c.Length > 40 ? c[..40] + "…" : c)
            )
            : "";

    protected override async Task<bool> ShowAsync()
    {
        if (await importing.FindAsync(Id) is not { } run)
            return false;
        Run = run;
        Table = importing.TableOf(run);
        Settings = run.Settings;
        Progress = jobs.Of(Id);
        Report = run.Report;
        if (
            Report is null
            && Progress is null or { Finished: true }
            && Request.Query.ContainsKey("tried")
            && !Settings.InDoubt
        )
            Report ??= await importing.TryOutAsync(Id);
        if (run.State is ImportState.TakingBack or ImportState.TakenBack)
            Outlook = run.TakenBack;
        else if (run.State is ImportState.Done or ImportState.Taking && Request.Query.ContainsKey("back"))
            Outlook = await undo.OutlookAsync(Id, HttpContext.RequestAborted);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        if (await importing.FindAsync(Id) is not { } run)
            return NotFound();
        var columns = new Dictionary<string, int>();
        var heads = importing.TableOf(run).Columns.Count;
        foreach (var field in MovingFields.Of(run.Kind))
            if (int.TryParse(Form.Text($"column-{field.Key}"), out var column) && column >= 0 && column < heads)
                columns[field.Key] = column;
        var (mark, dates, known) = (Form.Text("decimalMark"), Form.Text("dates"), run.Settings);
        var refusals = new Refusals();
        if (known.FiguresInDoubt && mark.Length == 0)
            refusals.Add("decimalMark", "Say whether decimals stand after a point or a comma. The file does not tell.");
        if (known.DatesInDoubt && dates.Length == 0)
            refusals.Add("dates", "Say whether dates begin with the day or the month. The file does not tell.");
        refusals.ThrowIfAny();
        await importing.SetAsync(
            Id,
            new ImportSettings(
                columns,
                mark switch
                {
                    "," => ',',
                    "" => known.DecimalMark,
                    _ => '.',
                },
                dates.Length == 0 ? known.Dates : Form.Choice<DateOrder>("dates")
            ),
            Form.Key
        );
        return Redirect($"/moving/{Id}?tried=yes");
    }

    public async Task<IActionResult> OnPostEndAsync()
    {
        if (await importing.FindAsync(Id) is not { } run)
            return NotFound();
        importing.Allow(run.Kind);
        jobs.End(Id);
        return await SoonAsync();
    }

    public Task<IActionResult> OnPostReadInAsync() =>
        BeginAsync(Form.Text("mode") == "all" ? ImportWork.TakeAllOrNone : ImportWork.TakeGoodRows, run => run.Rows);

    public Task<IActionResult> OnPostBackAsync() =>
        BeginAsync(ImportWork.TakeBack, run => run.Report is { } report ? report.New + report.Changed : 0);

    private async Task<IActionResult> BeginAsync(ImportWork work, Func<ImportRun, int> count)
    {
        if (await importing.FindAsync(Id) is not { } run)
            return NotFound();
        importing.Allow(run.Kind);
        jobs.Begin(Id, work, count(run), actor.Name);
        return await SoonAsync();
    }

    /// <summary>What is short is done before the page is drawn.</summary>
    private async Task<IActionResult> SoonAsync()
    {
        for (var i = 0; i < 15 && jobs.Of(Id) is { Finished: false }; i++)
            await Task.Delay(100);
        return Redirect($"/moving/{Id}");
    }
}
