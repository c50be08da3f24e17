using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>How collecting goes: how long money takes to come, and what asking for it brings.</summary>
[Needs(Right.See)]
public sealed class GoesModel(CollectingReports reports, ITableFiles files) : DeskPage
{
    public CollectingGoes Goes { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        Goes = await reports.GoesAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnGetFileAsync(TableForm form)
    {
        var report = CollectingReports.File(await reports.GoesAsync());
        return File(
            files.Write(report.ToTable(), form),
            TableDownload.TypeOf(form),
            $"{report.Name}.{form.ToString().ToLowerInvariant()}"
        );
    }
}
