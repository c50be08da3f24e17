using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Jugaad.Web.Shell;

/// <summary>
/// What all pages share: what a page shows is read in <see cref="ShowAsync"/>, after a visit and after a refusal alike.
/// </summary>
public abstract class DeskPage : PageModel
{
    private BooksHead? _head;

    protected BooksHead Head => _head ??= HttpContext.RequestServices.GetRequiredService<BooksHead>();

    /// <summary>The business; null while the books are empty.</summary>
    public Business? Business { get; private set; }

    public DisplayFormat Format => Business?.Format ?? new DisplayFormat('.', DisplayFormat.DatePatterns[0]);

    public DateOnly Today { get; private set; }

    /// <summary>Whether whoever is signed in may do this; the desk asks again.</summary>
    public bool May(Right right) => HttpContext.RequestServices.GetRequiredService<IActor>().May(right);

    /// <summary>Whether money, balances and the post are shown to whoever is signed in: not to sellers.</summary>
    public bool SeesMoney => May(Right.See);

    /// <summary>What a form typed, read by the business's format.</summary>
    protected TypedForm Form => new(Request.Form, Format, Today);

    /// <summary>
    /// A day that the address asks for, as ISO 8601 or as people type it. One that cannot be read is told beside its
    /// field, and is as if it had not been asked for.
    /// </summary>
    protected DateOnly? AskedDay(string field)
    {
        var typed = Request.Query[field].ToString();
        if (string.IsNullOrWhiteSpace(typed))
            return null;
        try
        {
            return Format.ReadDay(typed, Today, field);
        }
        catch (RefusalException refused)
        {
            State.RememberAsked(field, typed, refused.Refusals.Select(r => r.In(Format)));
            return null;
        }
    }

    /// <summary>
    /// Has a refusal stand beside the field of the form that was sent, where several forms of a page ask for the same
    /// thing.
    /// </summary>
    protected static async Task InFieldAsync(string field, string shown, Func<Task> work)
    {
        try
        {
            await work();
        }
        catch (RefusalException refused) when (refused.Refusals.Any(r => r.Field == field))
        {
            throw new RefusalException([
                .. refused.Refusals.Select(r => r.Field == field ? r with { Field = shown } : r),
            ]);
        }
    }

    /// <summary>The wishes of the address that a list is asked for with.</summary>
    public Asked Listing => new(Request.Query, AskedDay);

    /// <summary>
    /// Deals with the rows that are picked, tells what became of them, and goes back to the list as it was.
    /// </summary>
    /// <param name="acts">What each button means; null for one that is none.</param>
    protected async Task<IActionResult> PickedAsync(string address, IPickable list, Func<string, PickedAct?> acts)
    {
        var form = Form;
        var asked = form.Text("act");
        if (asked is "Csv" or "Xlsx")
        {
            var only = Picking.MeansAll(Request)
                ? null
                : await Picking.ReadAsync(Request, Listing, list, Picking.MostInAddress);
            return Picking.File(address, Request.Query, asked, only);
        }

        var ids = await Picking.ReadAsync(Request, Listing, list);
        var act = acts(asked) ?? throw new RefusalException("", "Choose what to do with the rows that are picked.");
        Say(await Picking.DoAsync(HttpContext, list, ids, act, form.Key, Left));
        return Redirect($"{address}?{Asked.FiltersOf(Request.Query)}".TrimEnd('?'));
    }

    /// <summary>Tells at the head of the next page what was left as it is.</summary>
    private void Left(IReadOnlyList<string> lines)
    {
        const int most = 12;
        if (lines.Count > 0)
            TempData["left"] = string.Join(
                '\n',
                lines.Count > most ? [.. lines.Take(most), $"And {lines.Count - most} more."] : lines
            );
    }

    private FieldState State => HttpContext.RequestServices.GetRequiredService<FieldState>();

    /// <summary>Whatever else the page shows. Returns false where the thing itself is not there.</summary>
    protected virtual Task<bool> ShowAsync() => Task.FromResult(true);

    /// <summary>Reads the business and the day, before any form of the page is read.</summary>
    internal async Task ReadHeadAsync()
    {
        ViewData["page"] = this;
        Business = await Head.FindBusinessAsync();
        Today = await Head.TodayAsync();
        State.Format = Format;
    }

    /// <summary>Shows the page.</summary>
    protected async Task<IActionResult> ShownAsync()
    {
        return await ShowAsync() ? Page() : NotFound();
    }

    public async Task<IActionResult> RefuseAsync(
        IReadOnlyList<Refusal> refusals,
        int status = StatusCodes.Status422UnprocessableEntity
    )
    {
        await ReadHeadAsync();
        State.Remember([.. refusals.Select(r => r.In(Format))], Request.HasFormContentType ? Request.Form : null);
        if (!await ShowAsync())
            return NotFound();
        if (this is ISpeaksToCustomer { Says: { } says })
            State.Remember(
                [.. refusals.Select(r => says.Refused(r).In(Format))],
                Request.HasFormContentType ? Request.Form : null
            );
        Response.StatusCode = status;
        return Page();
    }

    /// <summary>
    /// How many rows a part that repeats shows: those that are there, or those that were typed and refused, and an
    /// empty one.
    /// </summary>
    public int RowsToShow(string part, int there) =>
        Request.HasFormContentType
            ? Math.Max(there, TypedForm.RowsOf(Request.Form, part).DefaultIfEmpty(-1).Max() + 1)
            : there + 1;

    /// <summary>A file that came with the form; null where none was chosen.</summary>
    protected async Task<byte[]?> UploadAsync(string field)
    {
        if (!Request.HasFormContentType || Request.Form.Files[field] is not { Length: > 0 } upload)
            return null;
        using var copy = new MemoryStream();
        await upload.CopyToAsync(copy);
        return copy.ToArray();
    }

    /// <summary>Says something once, at the head of the next page.</summary>
    protected void Say(string what) => TempData["said"] = what;

    /// <summary>Says something on the page itself, shown afresh.</summary>
    protected RedirectResult Done(string said)
    {
        Say(said);
        return Redirect(Request.Path);
    }

    /// <summary>
    /// Where something on a customer's account is seen: its paper, its receipt, or the account itself for what was
    /// taken over.
    /// </summary>
    public static string ItemAddress(int? documentId, int? receiptId, int customerId, int? bookingId = null) =>
        Desk.Lists.Addresses.Of(documentId, receiptId, customerId, bookingId);

    /// <summary>Whole minor units as the business writes them.</summary>
    public string Amount(long minor, Currency currency) => Format.Amount(minor, currency);

    /// <summary>
    /// Whole minor units in a list that has several currencies in it: the code is said where it is not the home one.
    /// </summary>
    public string AmountAmong(long minor, Currency currency) =>
        currency.Equals(Business?.HomeCurrency) ? Format.Amount(minor, currency) : Format.WithCode(minor, currency);

    public string Day(DateOnly day) => Format.Date(day);
}

/// <summary>The refusals of this request and what was typed, for the fields to show.</summary>
public sealed class FieldState
{
    private readonly Dictionary<string, string> _asked = new(StringComparer.OrdinalIgnoreCase);
    private IFormCollection? _typed;

    /// <summary>How the business writes.</summary>
    internal DisplayFormat? Format { get; set; }

    public IReadOnlyList<Refusal> Refusals { get; private set; } = [];

    public void Remember(IReadOnlyList<Refusal> refusals, IFormCollection? typed) =>
        (Refusals, _typed) = (refusals, typed);

    /// <summary>What the address asked for and could not be read.</summary>
    internal void RememberAsked(string field, string typed, IEnumerable<Refusal> refusals)
    {
        _asked[field] = typed;
        Refusals = [.. Refusals, .. refusals];
    }

    internal string? Written(DateOnly? day) =>
        day is { } d ? Format?.Date(d) ?? d.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : null;

    public Refusal? Of(string field) =>
        Refusals.FirstOrDefault(r => string.Equals(r.Field, field, StringComparison.OrdinalIgnoreCase));

    /// <summary>What was typed, where a form was refused; else what the page says.</summary>
    public string? Value(string field, string? otherwise) =>
        _asked.TryGetValue(field, out var asked) ? asked
        : _typed is null ? otherwise
        : _typed.TryGetValue(field, out var typed) ? typed.ToString()
        : otherwise is "true" ? null
        : otherwise;

    public bool WasTyped => _typed is not null;
}
