using Jugaad.Desk.Lists;

namespace Jugaad.Web.Shell;

/// <summary>A list as its address asks for it: what it comes to, and all of it for a file.</summary>
public interface IListed
{
    Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop);

    Task<Report> ReportAsync(Asked asked, CancellationToken stop);
}

/// <summary>A list whose rows can be picked and dealt with together.</summary>
public interface IPickable : IListed
{
    /// <summary>
    /// All rows that the filters let through, in the order of the list; one more than the most says that there are
    /// more.
    /// </summary>
    Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop);

    /// <summary>What rows are called, for whoever is told that one was left as it is.</summary>
    Task<IReadOnlyDictionary<int, string>> NamesAsync(IReadOnlyCollection<int> ids, CancellationToken stop);
}

/// <summary>The wishes of an address: its filters, its order and where in the list one is.</summary>
/// <param name="query">What follows the question mark.</param>
/// <param name="day">The day that a field asks for; null for none.</param>
public sealed class Asked(IQueryCollection query, Func<string, DateOnly?> day)
{
    public string Search => Text("q");

    public string Sort => Text("sort");

    public string Text(string field) => query[field].ToString();

    public DateOnly? Day(string field) => day(field);

    /// <summary>The rows that were picked; null where all are meant.</summary>
    public IReadOnlyList<int>? Only =>
        Text("only") is { Length: > 0 } only
            ? [.. only.Split(',').Select(Picking.Read).Where(id => id > 0).Distinct()]
            : null;

    public ListPlace Place => new(Text("after"), Text("before"), query.ContainsKey("end"));

    /// <summary>The address without where one is: the filters and the order alone.</summary>
    public static string FiltersOf(IQueryCollection query) =>
        string.Join(
            "&",
            query
                .Where(q => q.Key is not ("after" or "before" or "end" or "page" or "form" or "only" or "handler"))
                .SelectMany(q => q.Value.Select(v => $"{Uri.EscapeDataString(q.Key)}={Uri.EscapeDataString(v ?? "")}"))
        );
}

/// <summary>What stands below a list: the ways back and further, what it comes to, and its files.</summary>
public sealed record ListFoot(string Address, string Back, string Further);
