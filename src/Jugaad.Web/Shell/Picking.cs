using System.Globalization;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Shell;

/// <summary>What can be done with the rows of a list that are picked.</summary>
/// <param name="Done">Said of how many it was done for, such as <c>sent</c>.</param>
/// <param name="Each">Does it to one, once for one arrival of the form.</param>
public sealed record PickedAct(string Done, Func<int, Once, Task> Each);

/// <summary>A button below a list, for the rows that are picked.</summary>
/// <param name="Act">What the form says is to be done.</param>
/// <param name="Needs">The right that it takes; null for all who see the list.</param>
public sealed record PickButton(string Act, string Words, Right? Needs = null);

/// <summary>The buttons below a list.</summary>
/// <param name="Address">The list's.</param>
public sealed record PickBar(string Address, IReadOnlyList<PickButton> Buttons)
{
    /// <summary>A tag is asked for beside the buttons.</summary>
    public bool AsksForTag { get; init; }

    /// <summary>Whether labels with the addresses of those picked are offered.</summary>
    public bool OffersLabels { get; init; }

    /// <summary>Whether all that the filters let through can be meant at once.</summary>
    public bool OffersAll { get; init; } = true;
}

/// <summary>Reads which rows of a list are picked, and deals with them.</summary>
public static class Picking
{
    /// <summary>The number of a row; 0 for what is none.</summary>
    public static int Read(string? text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : 0;

    /// <summary>As many as an address has room for.</summary>
    public const int MostInAddress = 500;

    /// <summary>
    /// Those that are ticked or, where all are meant, all that the filters of the address let through.
    /// </summary>
    /// <exception cref="RefusalException">When there are none, or more than are dealt with in one go.</exception>
    public static async Task<IReadOnlyList<int>> ReadAsync(
        HttpRequest request,
        Asked asked,
        IPickable list,
        int most = OneByOne.Most
    )
    {
        IReadOnlyList<int> ids = MeansAll(request)
            ? await list.IdsAsync(asked, most, request.HttpContext.RequestAborted)
            : [.. request.Form["pick"].Select(Read).Where(id => id > 0).Distinct()];
        if (ids.Count == 0)
            throw new RefusalException("", "No row is picked. Tick the rows that you mean, then choose what to do.");
        if (ids.Count > most)
            throw new RefusalException(
                "",
                $"At most {most} are dealt with in one go. Narrow the list by a search or a view."
            );
        return ids;
    }

    /// <summary>Whether all that the filters let through are meant.</summary>
    internal static bool MeansAll(HttpRequest request) => request.Form["everything"].Count > 0;

    /// <summary>
    /// Does what was asked for to each, and tells how many it was done for and which were left, and why.
    /// </summary>
    public static async Task<string> DoAsync(
        HttpContext http,
        IPickable list,
        IReadOnlyList<int> ids,
        PickedAct act,
        string formKey,
        Action<IReadOnlyList<string>> left
    )
    {
        var stop = http.RequestAborted;
        var all = await http
            .RequestServices.GetRequiredService<OneByOne>()
            .DoAsync(ids, new Once(formKey, stop), act.Each);
        var refused = all.Where(one => !one.IsDone).ToList();
        var names = await list.NamesAsync([.. refused.Select(one => one.Id)], stop);
        left([.. refused.Select(one => $"{names.GetValueOrDefault(one.Id, $"{one.Id}")}: {one.Refused}")]);
        var done = all.Count - refused.Count;
        return refused.Count == 0 ? $"{done} {act.Done}." : $"{done} of {all.Count} {act.Done}.";
    }

    /// <summary>The file of what is picked.</summary>
    /// <param name="ids">The rows; null for all that the filters let through.</param>
    internal static RedirectResult File(string address, IQueryCollection query, string form, IReadOnlyList<int>? ids)
    {
        var filters = Asked.FiltersOf(query);
        return new RedirectResult(
            $"{address}/file?{(filters.Length > 0 ? filters + "&" : "")}form={form}{(ids is null ? "" : $"&only={string.Join(',', ids)}")}"
        );
    }
}
