using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>All drafts with what is missing on each; those that are ticked are issued in one go.</summary>
[Needs(Right.Issue)]
[Posts(Right.Issue)]
public sealed class IssueModel(BooksContext db, IssueCheck check, IssuingMany many) : DeskPage
{
    /// <summary>Drafts that are checked and shown at once.</summary>
    internal const int Most = 200;

    public IReadOnlyList<(Document Draft, IReadOnlyList<IssueFinding> Findings)> Rows { get; private set; } = [];

    public int More { get; private set; }

    /// <summary>Those that were picked from a list; null where all drafts are shown.</summary>
    public IReadOnlyList<int>? Only => Listing.Only;

    public IReadOnlyList<IssuedOne> Results { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        var drafts = db.Documents.AsNoTracking().Include(d => d.Customer).Where(d => d.State == DocumentState.Draft);
        if (Only is { } only)
            drafts = drafts.Where(d => only.Contains(d.Id));
        var shown = await drafts
            .OrderBy(d => d.Customer!.Name)
            .ThenBy(d => d.Date)
            .ThenBy(d => d.Id)
            .Take(Most)
            .ToListAsync();
        More = Math.Max(0, await drafts.CountAsync() - Most);
        var rows = new List<(Document, IReadOnlyList<IssueFinding>)>();
        foreach (var draft in shown)
            rows.Add((draft, await check.OfAsync(draft.Id, true)));
        Rows = rows;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var chosen = Request
            .Form["draft"]
            .Select(d => (d ?? "").Split(':'))
            .Where(p => p.Length == 2 && int.TryParse(p[0], out _) && int.TryParse(p[1], out _))
            .Select(p =>
                (
                    int.Parse(p[0], System.Globalization.CultureInfo.InvariantCulture),
                    int.Parse(p[1], System.Globalization.CultureInfo.InvariantCulture)
                )
            )
            .ToList();
        if (chosen.Count == 0)
            throw new RefusalException("", "Tick the drafts that you want to issue.");
        Results = await many.IssueAsync(chosen, Form.Text("how") == "send", Form.Key);
        return await ShownAsync();
    }
}
