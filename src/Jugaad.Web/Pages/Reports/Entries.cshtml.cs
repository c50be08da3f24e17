using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reports;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>The journal of a range of days, or how one document, receipt or booking was posted.</summary>
[Needs(Right.See)]
public sealed class EntriesModel(JournalReports reports, MoneyPapers money) : DeskPage
{
    internal ReportWish Wish { get; private set; } = null!;

    public EntryFilter Filter { get; private set; } = null!;

    public ListPage<EntryView> List { get; private set; } = null!;

    /// <summary>The refund that is looked at, where it is one.</summary>
    public int? RefundId { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        int? Asked(string field) => int.TryParse(Request.Query[field], out var id) ? id : null;
        Wish = ReportWish.Read(ReportCatalog.Find("entries")!, Request.Query, AskedDay, Today, Business!.YearBegins);
        Filter = new EntryFilter(Wish.Ask.From, Wish.Ask.Until, Asked("document"), Asked("receipt"), Asked("booking"));
        List = await reports.EntriesAsync(Filter, Asked("page") ?? 1);
        RefundId = Filter.BookingId is { } booking ? await money.RefundOfAsync(booking) : null;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
