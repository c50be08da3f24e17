using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Tax codes, taxes with their dated rates, and the authorities that they are owed to.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class TaxesModel(
    BooksContext db,
    TaxDesk desk,
    IssuedOtherwise issued,
    Wordings wordings,
    WordingsDesk words
) : DeskPage
{
    private const int UsualParts = 3;

    public IReadOnlyList<TaxCode> Codes { get; private set; } = [];

    public IReadOnlyList<TaxComponent> Components { get; private set; } = [];

    public IReadOnlyList<TaxAuthority> Authorities { get; private set; } = [];

    public TaxCode? EditingCode { get; private set; }

    /// <summary>What the code that is edited says in each language; empty where papers say its own words.</summary>
    public IReadOnlyList<(string Code, string Name, string Text)> Said { get; private set; } = [];

    public TaxAuthority? EditingAuthority { get; private set; }

    public IReadOnlySet<(int ComponentId, DateOnly From)> Used { get; private set; } = new HashSet<(int, DateOnly)>();

    public string StandingWords { get; private set; } = "";

    /// <summary>How many taxes the form of a code has room for.</summary>
    public int Parts => Math.Max(UsualParts, EditingCode?.Parts.Count + 1 ?? 0);

    public IEnumerable<(string, string)> CategoryChoices =>
        Enum.GetValues<TaxCategory>().Select(c => (c.ToString(), $"{c.Letters()} {c.Word()}"));

    public IEnumerable<(string, string)> ComponentChoices =>
        Components.Select(c => (c.Name, c.Name)).Prepend(("", "none"));

    public IEnumerable<(string, string)> RateChoices => Components.Select(c => (c.Name, c.Name));

    public IEnumerable<(string, string)> AuthorityChoices =>
        Authorities.Select(a => (a.Id.ToString(), a.Name)).Prepend(("", "nobody"));

    public IEnumerable<(string, string)> FrequencyChoices =>
        TaxAuthority.Frequencies.Select(f => (f.ToString(), TaxAuthority.Words(f)));

    public IEnumerable<(string, string)> BasisChoices =>
        [
            (nameof(TaxBasis.ByInvoice), "by invoice: on its date"),
            (nameof(TaxBasis.ByPayment), "by payment: as money comes"),
        ];

    private int? Asked(string field) => int.TryParse(Request.Query[field], out var id) ? id : null;

    public string MonthOf(int month) => new DateOnly(2025, month, 1).ToString("MMMM", CultureInfo.InvariantCulture);

    protected override async Task<bool> ShowAsync()
    {
        Codes = await db.TaxCodes.AsNoTracking().OrderBy(c => c.Retired).ThenBy(c => c.Id).ToListAsync();
        Components = await db.TaxComponents.AsNoTracking().OrderBy(c => c.Id).ToListAsync();
        Authorities = await db.TaxAuthorities.AsNoTracking().OrderBy(a => a.Id).ToListAsync();
        Used = await desk.UsedRatesAsync();
        EditingCode = Codes.FirstOrDefault(c => c.Id == Asked("code"));
        if (EditingCode is { Id: var code })
            Said = await SaidAsync(code);
        EditingAuthority = Authorities.FirstOrDefault(a => a.Id == Asked("authority"));
        StandingWords = TaxStanding.With(Authorities).IsRegisteredOn(Today)
            ? "what is charged, from when, and to whom it is owed"
            : "not registered for tax today: none is charged, and papers say nothing of it";
        return true;
    }

    private async Task<IReadOnlyList<(string, string, string)>> SaidAsync(int code)
    {
        var said = new List<(string, string, string)>();
        foreach (var (language, name) in await wordings.LanguagesAsync())
            said.Add((language, name, (await wordings.TaxReasonsAsync([code], language)).GetValueOrDefault(code, "")));
        return said;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostReasonsAsync()
    {
        var form = Form;
        var code = Asked("code") ?? 0;
        await words.WriteTaxReasonAsync(
            code,
            (await wordings.LanguagesAsync()).ToDictionary(l => l.Code, l => form.Text($"text-{l.Code}")),
            form.Key
        );
        Say("The words are saved. Drafts follow them; issued papers stay as they are.");
        return Redirect($"/setup/taxes?code={code}");
    }

    public async Task<IActionResult> OnPostCodeAsync()
    {
        var form = Form;
        var parts = Enumerable
            .Range(0, Limits.Components)
            .Select(i => (Component: form.Text($"part{i}"), Compound: form.Ticked($"compound{i}")))
            .Where(p => p.Component.Length > 0)
            .ToList();
        var id = Asked("code");
        var letters = id is { } known
            ? await db.TaxCodes.Where(c => c.Id == known).Select(c => c.Code).SingleOrDefaultAsync() ?? ""
            : form.Text("code");
        await desk.SaveCodeAsync(
            id,
            new TaxCodeToAdd(
                letters,
                form.Text("name"),
                form.Choice<TaxCategory>("category"),
                form.Text("reason"),
                parts
            )
            {
                ExemptionCode = form.Text("exemptionCode"),
            },
            form.Key
        );
        return Done("The code is saved. Drafts follow it; issued papers stay as they are.");
    }

    public async Task<IActionResult> OnPostUsualAsync()
    {
        await desk.SetUsualCodeAsync(Form.Whole("id"), Form.Key);
        return Done("It is the usual code now.");
    }

    public async Task<IActionResult> OnPostRetireAsync()
    {
        await desk.RetireCodeAsync(Form.Whole("id"), Form.Text("retired").Length > 0, Form.Key);
        return Done("Done. Items and papers that have it keep it.");
    }

    public async Task<IActionResult> OnPostTaxAsync()
    {
        await Renamed(
            "component",
            "newTax",
            () => desk.SaveComponentAsync(null, Form.Text("newTax"), Form.Id("authorityId"), Form.Key)
        );
        return Done("The tax is added. Enter its first rate.");
    }

    public async Task<IActionResult> OnPostOweAsync()
    {
        await desk.SaveComponentAsync(Form.Id("id"), Form.Text("component"), Form.Id("authorityId"), Form.Key);
        return Done("Saved.");
    }

    public async Task<IActionResult> OnPostRateAsync()
    {
        var form = Form;
        var from = form.Date("from", "Give the day on which the rate begins.");
        var percent = form.Figure("percent", Limits.PercentDecimals);
        if (form.Text("percent").Trim().Length == 0)
            throw new RefusalException("percent", "Give the rate in percent.");
        form.ThrowIfAny();
        var id = await desk.AddRateAsync(form.Text("component"), from, percent, form.Key);
        Say("The rate is entered. This is what it touches.");
        return Redirect($"/setup/change?tax={id}&from={from:yyyy-MM-dd}");
    }

    public async Task<IActionResult> OnPostRateAwayAsync()
    {
        var form = Form;
        var from = form.Date("from", "Say which rate.");
        form.ThrowIfAny();
        await desk.RemoveRateAsync(form.Whole("id"), from, form.Key);
        return Done("The rate is taken away; nothing was taxed with it.");
    }

    public async Task<IActionResult> OnPostAuthorityAsync()
    {
        var form = Form;
        var (from, until) = (form.OptionalDate("registeredFrom"), form.OptionalDate("registeredTo"));
        form.ThrowIfAny();
        var id = 0;
        var before = Asked("authority") is { } known
            ? await db
                .TaxAuthorities.Where(a => a.Id == known)
                .Select(a => new { a.RegisteredFrom, a.RegisteredTo })
                .SingleOrDefaultAsync()
            : null;
        var due =
            await db
                .TaxAuthorities.Where(a => a.Id == Asked("authority"))
                .Select(a => (int?)a.DueAfterDays)
                .SingleOrDefaultAsync()
            ?? new AuthorityDetails().DueAfterDays;
        await Renamed(
            "name",
            "authorityName",
            async () =>
                id = await desk.SaveAuthorityAsync(
                    Asked("authority"),
                    new AuthorityDetails
                    {
                        Name = form.Text("authorityName"),
                        OurNumber = form.Text("ourNumber"),
                        EveryMonths = form.Whole("everyMonths"),
                        FirstMonth = form.Whole("firstMonth"),
                        Basis = form.Choice<TaxBasis>("basis"),
                        DueAfterDays = form.Text("dueAfterDays").Length == 0 ? due : form.Whole("dueAfterDays"),
                        MostMonths = form.Text("mostMonths").Length == 0 ? null : form.Whole("mostMonths"),
                        PaidCategories = [.. MayBePaid.Where(c => form.Ticked($"paid-{c}"))],
                        AmendsLate = form.Ticked("amendsLate"),
                        AmendsAbove = form.OptionalAmount("amendsAbove", Business!.HomeCurrency),
                        HasOwnRates = form.Ticked("hasOwnRates"),
                        OwnRateDays = form.Text("ownRateDays").Length == 0 ? null : form.Whole("ownRateDays"),
                        RegisteredFrom = from,
                        RegisteredTo = until,
                    },
                    form.OptionalDate("basisSince"),
                    form.Key
                )
        );
        var isSame = (before?.RegisteredFrom, before?.RegisteredTo) == (from, until);
        if (isSame || (await issued.OfAsync(c => c.Authority?.Id == id, DateOnly.MinValue)).Found.Count == 0)
            return Done("The authority is saved.");
        Say("The authority is saved. These invoices were issued before.");
        return Redirect($"/setup/change?authority={id}");
    }

    private static readonly TaxCategory[] MayBePaid =
    [
        TaxCategory.Standard,
        TaxCategory.Zero,
        TaxCategory.Exempt,
        TaxCategory.ReverseCharge,
    ];

    /// <summary>What may be told by payment, each with whether it is.</summary>
    public static IEnumerable<(TaxCategory, string, bool)> PaidChoices(TaxAuthority? authority)
    {
        var now = authority is { PaidCategories.Count: > 0 }
            ? authority.PaidCategories.ToHashSet()
            : Core.Returns.CountingRule.Usual;
        return MayBePaid.Select(c => (c, c.Word(), now.Contains(c)));
    }

    /// <summary>Several forms share the page, so a refusal goes to the field of the one that was sent.</summary>
    private static async Task Renamed(string from, string to, Func<Task> work)
    {
        try
        {
            await work();
        }
        catch (RefusalException refused) when (refused is not NotAllowedException)
        {
            throw new RefusalException(
                refused.Refusals.Select(r => r.Field == from ? r with { Field = to } : r).ToList()
            );
        }
    }
}
