using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Post;

/// <summary>What is to go, what went, and what came back.</summary>
public sealed class PostList(PostScreens screens) : IListed
{
    public Task<Stretch<PostItem>> ReadAsync(Asked asked) => screens.ListAsync(asked.Search, asked.Place);

    public Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) => screens.TotalsAsync(asked.Search, stop);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) => screens.ReportAsync(asked.Search, stop);
}
