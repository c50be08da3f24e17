using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Exchange rates by day, where they come from and what they are used for.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class RatesModel(DayScreens screens, RatesDesk desk, RateBook book) : DeskPage
{
    public ListPage<ExchangeRate> ExchangeRates { get; private set; } = null!;

    public RateRules Rules { get; private set; } = null!;

    /// <summary>The rates that are being changed; null where new ones are typed.</summary>
    public ExchangeRate? Changing { get; private set; }

    public IReadOnlyList<DraftAtAnotherRate> Touched { get; private set; } = [];

    public IEnumerable<(string, string)> CurrencyChoices => Choices.Currencies;

    public static IEnumerable<(string, string)> Kinds =>
        [("Middle", "the middle rate"), ("Buying", "the bank's buying rate"), ("Selling", "the bank's selling rate")];

    /// <summary>Which way round a currency is quoted, said with it where one is known.</summary>
    public IEnumerable<(string, string)> Ways
    {
        get
        {
            var (home, foreign) = (Business!.HomeCurrency.Code, Changing?.Currency.Code ?? "the currency");
            return [("", $"{home} for one of {foreign}"), ("1", $"{foreign} for one {home}")];
        }
    }

    protected override async Task<bool> ShowAsync()
    {
        var currency = Request.Query["currency"].ToString();
        ExchangeRates = await screens.RatesAsync(
            int.TryParse(Request.Query["page"], out var page) ? page : 1,
            Currency.TryOf(currency, out var only) ? only : null
        );
        Rules = await book.RulesAsync();
        Changing = int.TryParse(Request.Query["change"], out var id) ? await screens.RateAsync(id) : null;
        if (
            Currency.TryOf(Request.Query["touched"].ToString(), out var touched)
            && DateOnly.TryParse(Request.Query["from"], System.Globalization.CultureInfo.InvariantCulture, out var from)
        )
            Touched = await desk.TouchedAsync(touched, from);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostExchangeAsync()
    {
        var form = Form;
        var from = form.Date("from", "Give the day from which the rate holds.");
        var rate = form.Figure("rate", 20);
        var (buying, selling) = (form.Figure("buying", 20), form.Figure("selling", 20));
        form.ThrowIfAny();
        var (code, change) = (form.Text("currency"), form.Ticked("changing"));
        await desk.EnterAsync(
            new RatesTyped(
                code,
                from,
                new QuotedRate(rate, form.Text("perHome").Length > 0),
                buying > 0 ? buying : null,
                selling > 0 ? selling : null,
                form.Ticked("evenIfOff")
            ),
            change,
            form.Key
        );
        Say(change ? "The exchange rate is changed." : "The exchange rate is entered.");
        return Redirect($"/setup/rates?touched={code}&from={from:yyyy-MM-dd}");
    }

    public async Task<IActionResult> OnPostRemoveAsync()
    {
        await desk.RemoveAsync(Form.Whole("id"), Form.Key);
        Say("The exchange rate is taken out. What was posted at it stays.");
        return Redirect("/setup/rates");
    }

    public async Task<IActionResult> OnPostFileAsync(IFormFile? file)
    {
        if (file is null || file.Length == 0)
            throw new RefusalException("file", "Choose a file of exchange rates.");
        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes);
        Say(
            Words(await desk.TakeAsync(bytes.ToArray(), Path.GetFileName(file.FileName), Form.Ticked("all"), Form.Key))
        );
        return Redirect("/setup/rates");
    }

    public async Task<IActionResult> OnPostFetchAsync()
    {
        try
        {
            var count = await desk.FetchAsync();
            Say(count == 0 ? "Nothing new was published." : $"{count} exchange rates came.");
        }
        catch (Jugaad.Desk.Outside.CarrierException cannot)
        {
            throw new RefusalException("", $"The source of rates cannot be reached: {cannot.Message}");
        }

        return Redirect("/setup/rates");
    }

    public async Task<IActionResult> OnPostRulesAsync()
    {
        var form = Form;
        RateKind Kind(string name) =>
            Enum.TryParse<RateKind>(form.Text(name), out var kind) && Enum.IsDefined(kind) ? kind : RateKind.Middle;
        var oldest = form.Text("oldest").Length > 0 ? form.Whole("oldest") : (int?)null;
        var warn = form.Whole("warn");
        form.ThrowIfAny();
        await desk.SetRulesAsync(
            rules =>
                rules.Set(
                    Kind("forDocuments"),
                    Kind("forMoney"),
                    Kind("forConversions"),
                    Kind("forValuation"),
                    oldest,
                    warn,
                    form.Ticked("fetches")
                ),
            form.Key
        );
        Say("How rates are used is kept.");
        return Redirect("/setup/rates");
    }

    private string Words(RatesTaken taken)
    {
        var parts = new List<string> { $"{taken.Added} exchange rates are taken in" };
        if (taken.Changed > 0)
            parts.Add($"{taken.Changed} are changed");
        if (taken.Same > 0)
            parts.Add($"{taken.Same} were here already");
        if (taken.Stayed > 0)
            parts.Add($"{taken.Stayed} differ from what was typed, which stays");
        if (taken.FarOff.Count > 0)
            parts.Add(
                $"left out as far off the last: {string.Join("; ", taken.FarOff.Take(5).Select(f => f.In(Format)))}{(taken.FarOff.Count > 5 ? $" and {taken.FarOff.Count - 5} more" : "")}. Type them if they are right"
            );
        if (taken.Others.Count > 0)
            parts.Add($"not used here: {string.Join(", ", taken.Others)}");
        return string.Join("; ", parts) + ".";
    }
}
