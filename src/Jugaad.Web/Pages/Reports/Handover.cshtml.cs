using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>A period of the books as one file for an accountant.</summary>
[Needs(Right.See)]
public sealed class HandoverModel : DeskPage
{
    public DateOnly From { get; private set; }

    public DateOnly Until { get; private set; }

    private static readonly string[] Offered =
    [
        "last-month",
        "last-quarter",
        "last-financial-year",
        "this-financial-year",
    ];

    public IEnumerable<(string Words, DateOnly From, DateOnly Until)> Offers =>
        Offered.Select(name =>
        {
            var days = NamedDays.Of(name, Today, Business!.YearBegins)!.Value;
            return (NamedDays.All.First(d => d.Name == name).Words, days.From, days.Until);
        });

    protected override Task<bool> ShowAsync()
    {
        var usual = NamedDays.Of("last-month", Today, Business!.YearBegins)!.Value;
        (From, Until) = (AskedDay("from") ?? usual.From, AskedDay("until") ?? usual.Until);
        return Task.FromResult(true);
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
