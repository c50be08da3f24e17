using Jugaad.Core.Documents;
using Jugaad.Core.Numbering;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Number series, and the notes and footers of each kind of document.</summary>
[Needs(Right.See)]
public sealed class NumbersModel(BooksContext db, SeriesDesk desk, BusinessDesk business) : DeskPage
{
    public IReadOnlyList<Series> Series { get; private set; } = [];

    public IReadOnlyDictionary<DocumentKind, KindText> Texts { get; private set; } = new Dictionary<DocumentKind, KindText>();

    public bool Posted => HttpMethods.IsPost(Request.Method);

    public bool Restarts => Posted && Form.Ticked("restarts");

    public IEnumerable<(string, string)> UseChoices => SeriesDesk.Uses;

    /// <summary>Series that have given no number this year.</summary>
    public IEnumerable<(string, string)> UnusedChoices => Series.Where(s => !s.Retired && s.Counters.All(c => c.Year != (s.RestartsYearly ? Today.Year : 0) || c.Next == c.First)).Select(s => (s.Id.ToString(), $"{s.Name}, next {s.Peek(Today).Number}"));

    public string WordsOf(string usedFor) => SeriesDesk.Uses.FirstOrDefault(u => u.UsedFor == usedFor).Words ?? usedFor;

    protected override async Task<bool> ShowAsync()
    {
        var order = SeriesDesk.Uses.Select(u => u.UsedFor).ToList();
        Series = (await db.Series.AsNoTracking().ToListAsync()).OrderBy(s => order.IndexOf(s.UsedFor)).ThenByDescending(s => s.IsUsual).ThenBy(s => s.Name, StringComparer.Ordinal).ToList();
        Texts = await db.KindTexts.AsNoTracking().ToDictionaryAsync(t => t.Kind);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    /// <summary>What a pattern means, with the first numbers that it gives.</summary>
    public async Task<IActionResult> OnGetPreviewAsync(string? pattern, bool restarts)
    {
        await ReadHeadAsync();
        try
        {
            var series = new Series("preview", "Invoice", pattern ?? "", restarts);
            var used = new HashSet<string>();
            var numbers = Enumerable.Range(0, 3).Select(_ => series.Take(Today, n => !used.Add(n))).ToList();
            var later = new Series("preview", "Invoice", pattern ?? "", restarts).Peek(Today.AddYears(1)).Number;
            return new JsonResult(new { words = $"Gives {string.Join(", ", numbers)} …{(restarts ? $" and begins next year with {later}" : " and goes on counting next year")}." });
        }
        catch (Core.RefusalException refused)
        {
            return new JsonResult(new { words = refused.Message });
        }
    }

    public async Task<IActionResult> OnPostAddAsync()
    {
        await ReadHeadAsync();
        await desk.AddAsync(Form.Text("name"), Form.Text("usedFor"), Form.Text("pattern"), Form.Ticked("restarts"), Form.Key);
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
        await ReadHeadAsync();
        await desk.GoOnFromAsync(Form.Whole("id"), Today, Form.Whole("next"), Form.Key);
        return Done("The series goes on from there.");
    }

    public async Task<IActionResult> OnPostTextsAsync()
    {
        await business.WriteTextsAsync(KindPolicy.All.Select(p => (p.Kind, Form.Text($"note-{p.Kind}"), Form.Text($"footer-{p.Kind}"))).ToList(), Form.Key);
        return Done("The texts are saved. Papers that are issued already stay as they are.");
    }
}
