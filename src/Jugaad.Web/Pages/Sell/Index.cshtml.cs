using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Sell;

/// <summary>All quotes and invoices.</summary>
public sealed class IndexModel(SellScreens screens) : DeskPage
{
    public DocumentFilter Filter { get; private set; } = new(null, "", "", "", 1);

    public string KindText { get; private set; } = "";

    public ListPage<DocumentRow> List { get; private set; } = null!;

    public IReadOnlyList<(Currency Currency, long Payable, long Open)> Sums { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        KindText = Request.Query["kind"].ToString();
        var kind = KindWords.Of(KindText);
        Filter = new DocumentFilter(kind, Request.Query["show"].ToString(), Request.Query["q"].ToString(), Request.Query["sort"].ToString(), int.TryParse(Request.Query["page"], out var page) ? page : 1);
        (List, Sums) = await screens.ListAsync(Filter);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
