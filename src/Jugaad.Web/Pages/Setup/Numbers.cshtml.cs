using Jugaad.Core.Documents;
using Jugaad.Core.Numbering;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Number series, and the notes and footers of each kind of document.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class NumbersModel(BooksContext db, SeriesDesk desk, Numbers numbers, BusinessDesk business) : DeskPage
{
    public IReadOnlyList<Series> Series { get; private set; } = [];

    public IReadOnlyDictionary<DocumentKind, KindText> Texts { get; private set; } =
        new Dictionary<DocumentKind, KindText>();

    public static IReadOnlyList<(string, string)> RestartChoices { get; } =
    [
        (nameof(SeriesRestart.CalendarYear), "each January"),
        (nameof(SeriesRestart.FinancialYear), "with the financial year"),
        (nameof(SeriesRestart.Never), "never"),
    ];

    /// <summary>The next number of each series today.</summary>
    public IReadOnlyDictionary<int, string> NextNumbers { get; private set; } = new Dictionary<int, string>();

    public IEnumerable<(string, string)> UseChoices => SeriesDesk.Uses;

    /// <summary>Series that have given no number this year.</summary>
    public IEnumerable<(string, string)> UnusedChoices =>
        Series
            .Where(s => !s.Retired && s.Counters.All(c => c.Year != s.YearOf(Today, Business!.YearBegins) || c.IsFresh))
            .Select(s => (s.Id.ToString(), $"{s.Name}, next {NextNumbers[s.Id]}"));

    public string WordsOf(string usedFor) => SeriesDesk.Uses.FirstOrDefault(u => u.UsedFor == usedFor).Words ?? usedFor;

    protected override async Task<bool> ShowAsync()
    {
        var order = SeriesDesk.Uses.Select(u => u.UsedFor).ToList();
        Series = (await db.Series.AsNoTracking().ToListAsync())
            .OrderBy(s => order.IndexOf(s.UsedFor))
            .ThenByDescending(s => s.IsUsual)
            .ThenBy(s => s.Name, StringComparer.Ordinal)
            .ToList();
        var next = new Dictionary<int, string>();
        foreach (var series in Series)
            next[series.Id] = (await numbers.NextAsync(series, Today)).Number;
        NextNumbers = next;
        Texts = await db.KindTexts.AsNoTracking().ToDictionaryAsync(t => t.Kind);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    /// <summary>What a pattern means, with the first numbers that it gives.</summary>
    public async Task<IActionResult> OnGetPreviewAsync(string? pattern, string? usedFor, SeriesRestart restarts)
    {
        var begins = Business!.YearBegins;
        try
        {
            var series = new Series(
                "preview",
                SeriesDesk.Uses.Any(u => u.UsedFor == usedFor) ? usedFor! : "Invoice",
                pattern ?? "",
                restarts
            );
            var given = Enumerable.Range(1, 3).Select(count => series.Write(Today, count, begins));
            var later = restarts switch
            {
                SeriesRestart.Never => " and goes on counting next year",
                SeriesRestart.CalendarYear =>
                    $" and begins next year with {series.Write(new DateOnly(Today.Year + 1, 1, 1), 1, begins)}",
                _ =>
                    $" and begins the next financial year, in {new DateOnly(Today.Year, begins, 1):MMMM}, with {series.Write(new DateOnly(series.YearOf(Today, begins) + 1, begins, 1), 1, begins)}",
            };
            return new JsonResult(new { words = $"Gives {string.Join(", ", given)} …{later}." });
        }
        catch (Core.RefusalException refused)
        {
            return new JsonResult(new { words = refused.In(Format) });
        }
    }

    public async Task<IActionResult> OnPostAddAsync()
    {
        await desk.AddAsync(
            Form.Text("name"),
            Form.Text("usedFor"),
            Form.Text("pattern"),
            Enum.TryParse<SeriesRestart>(Form.Text("restarts"), out var restarts)
                ? restarts
                : SeriesRestart.CalendarYear,
            Form.Key
        );
        return Done("The series is added. Choose it in the editor, or make it the usual one.");
    }

    public async Task<IActionResult> OnPostUsualAsync()
    {
        await desk.MakeUsualAsync(Form.Whole("id"), Form.Key);
        return Done("New numbers are taken from it unless another is chosen.");
    }

    public async Task<IActionResult> OnPostRetireAsync()
    {
        await desk.RetireAsync(Form.Whole("id"), Form.Text("retired").Length > 0, Form.Key);
        return Done("Done. Its numbers stay.");
    }

    public async Task<IActionResult> OnPostGoOnAsync()
    {
        await desk.GoOnFromAsync(Form.Whole("id"), Today, Form.Whole("next"), Form.Key);
        return Done("The series goes on from there.");
    }

    public async Task<IActionResult> OnPostTextsAsync()
    {
        await business.WriteTextsAsync(
            KindPolicy.All.Select(p => (p.Kind, Form.Text($"note-{p.Kind}"), Form.Text($"footer-{p.Kind}"))).ToList(),
            Form.Key
        );
        return Done("The texts are saved. Papers that are issued already stay as they are.");
    }
}
