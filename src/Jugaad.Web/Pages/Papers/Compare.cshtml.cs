using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Papers;

/// <summary>Two revisions of a quote, line by line.</summary>
public sealed class CompareModel(BooksContext db) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    [BindProperty(SupportsGet = true)]
    public int Other { get; set; }

    public Document Before { get; private set; } = null!;

    public Document After { get; private set; } = null!;

    public IReadOnlyList<ComparedLine> Rows { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        var both = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Customer)
            .Where(d => d.Id == Id || d.Id == Other)
            .OrderBy(d => d.Revision)
            .ThenBy(d => d.Id)
            .ToListAsync();
        if (both.Count != 2 || both[0].CustomerId != both[1].CustomerId || both[0].Kind != both[1].Kind)
            return false;
        (Before, After) = (both[0], both[1]);
        Rows = Comparison.Of(Before.Lines, After.Lines);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
