using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Post;

/// <summary>What is to go, what went, and what came back.</summary>
public sealed class PostList(PostScreens screens) : IPickable
{
    public Task<Stretch<PostItem>> ReadAsync(Asked asked) => screens.ListAsync(asked.Search, asked.Place);

    public Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) => screens.TotalsAsync(asked.Search, stop);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) =>
        screens.ReportAsync(asked.Search, asked.Only, stop);

    public Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop) =>
        screens.IdsAsync(asked.Search, most, stop);

    public Task<IReadOnlyDictionary<int, string>> NamesAsync(IReadOnlyCollection<int> ids, CancellationToken stop) =>
        screens.SubjectsAsync(ids, stop);
}
