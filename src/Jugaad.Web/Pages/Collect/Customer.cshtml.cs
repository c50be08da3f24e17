using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>One customer as whoever collects looks at them: the slip of the list, and all that was said before.</summary>
[Needs(Right.See)]
[Posts(Right.Collect)]
public sealed class CustomerModel(
    ChaseScreens screens,
    LetterScreens letters,
    Contacts contacts,
    Disputes disputes,
    Plans plans,
    Ladders ladders
) : DeskPage
{
    private const int NotesOfSlip = 3;
    private const int MostNotes = 200;

    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public ChaseRow Row { get; private set; } = null!;

    public IReadOnlyList<ContactNote> Notes { get; private set; } = [];

    public IReadOnlyList<(int Id, string Name)> People { get; private set; } = [];

    /// <summary>Whether only the slip is asked for, to stand in the list.</summary>
    public bool IsSlip => Request.Query.ContainsKey("slip");

    public IReadOnlyList<LetterRow> Letters { get; private set; } = [];

    public IReadOnlyList<LeftOutRow> LeftOut { get; private set; } = [];

    public IReadOnlyList<LetterLadder> AllLadders { get; private set; } = [];

    /// <summary>As the form has it: empty for the usual ladder, <c>none</c>, or the id of one.</summary>
    public string LadderNow =>
        Row.NoLadder ? "none" : Row.LadderId?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "";

    public IEnumerable<(string, string)> LadderChoices =>
        [
            ("", "the usual steps"),
            .. AllLadders.Select(l => (l.Id.ToString(System.Globalization.CultureInfo.InvariantCulture), l.Name)),
            ("none", "none: never by steps"),
        ];

    public bool Refused => Request.Method == "POST";

    /// <summary>The filters of the list that one came from.</summary>
    public string Wishes =>
        string.Join(
            "&",
            Asked
                .FiltersOf(Request.Query)
                .Split('&', StringSplitOptions.RemoveEmptyEntries)
                .Where(p =>
                    !p.StartsWith("slip=", StringComparison.Ordinal) && !p.StartsWith("from=", StringComparison.Ordinal)
                )
        );

    public IEnumerable<(string, string)> PeopleChoices =>
        People
            .Select(p => (p.Id.ToString(System.Globalization.CultureInfo.InvariantCulture), p.Name))
            .Prepend(("", "nobody in particular"));

    public IEnumerable<(string, string)> ItemChoices =>
        Row
            .Owes.Items.Select(i =>
                (
                    i.ItemId.ToString(System.Globalization.CultureInfo.InvariantCulture),
                    $"{i.Number}, {Amount(i.Open, i.Currency)} open"
                )
            )
            .Prepend(("", "everything is agreed to"));

    /// <summary>Where the forms of the slip go: back to the list where it stands in one.</summary>
    public string To(string handler) =>
        $"/collect/{Id}?handler={handler}{(IsSlip ? $"&from=list{(Wishes.Length > 0 ? "&" + Wishes : "")}" : "")}";

    /// <summary>The number of an item, for whoever reads about it.</summary>
    public string NumberOf(int itemId) =>
        Row.Owes.Items.FirstOrDefault(i => i.ItemId == itemId)?.Number ?? "a paid one";

    /// <summary>How their promises went: how many were judged, and how many of them were kept.</summary>
    public (int Judged, int Kept) Reliability =>
        (
            Row.Owes.Promises.Count(p => !p.Judged.Holds),
            Row.Owes.Promises.Count(p => p.Judged.State == PromiseState.Kept)
        );

    /// <summary>What of an item is in dispute, with its currency.</summary>
    public string AmountOf(Dispute dispute) =>
        Format.WithCode(
            dispute.Amount,
            Row.Owes.Items.FirstOrDefault(i => i.ItemId == dispute.ItemId)?.Currency ?? Row.Currency
        );

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.OneAsync(Id) is not { } row)
            return false;
        Row = row;
        Notes = await screens.NotesAsync(Id, IsSlip ? NotesOfSlip : MostNotes);
        People = await screens.PeopleAsync();
        if (IsSlip)
            return true;
        Letters = await letters.LatelyAsync(MostNotes, Id);
        LeftOut = await letters.LeftOutAsync(Id);
        AllLadders = await letters.LaddersAsync();
        return true;
    }

    public async Task<IActionResult> OnGetAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        return IsSlip ? Partial("_Slip", this) : Page();
    }

    public async Task<IActionResult> OnPostNoteAsync()
    {
        if (await screens.OneAsync(Id) is not { } row)
            return NotFound();
        var form = Form;
        var way = Enum.TryParse<ContactWay>(form.Text("way"), out var said) ? said : ContactWay.Call;
        var until = form.OptionalDate("until");
        List<int> items =
        [
            .. Request.Form["items"].Select(i => int.TryParse(i, out var id) ? id : 0).Where(i => i > 0),
        ];
        // An amount is in the currency of what it is for.
        Currency Of(IReadOnlyCollection<int> ids) =>
            row.Owes.Items.FirstOrDefault(i => ids.Count == 0 || ids.Contains(i.ItemId))?.Currency ?? row.Currency;
        var amount = form.OptionalAmount("amount", Of(items));
        var again = form.OptionalDate("again");
        var disputed = form.OptionalAmount("disputed", Of([form.Id("disputedItem") ?? 0]));
        form.ThrowIfAny();
        if (until is null && amount is not null)
            throw new RefusalException("until", "Give the day by which they will pay.");
        await contacts.NoteAsync(
            Id,
            new ContactSaid(way, way == ContactWay.NoAnswer ? "" : form.Text("spokeTo"), form.Text("said"), again),
            until is { } day ? new PromiseHeard(amount, day, items, form.Ticked("inPlace")) : null,
            form.Id("disputedItem") is { } item
                ? new DisputeHeard(item, disputed, form.Text("reason"), form.Id("seesTo"))
                : null,
            form.Key
        );
        return Back(
            way == ContactWay.NoAnswer
                ? $"Nobody answered at {row.Name}; they come again tomorrow"
                : $"Noted about {row.Name}{(until is { } by ? $": they pay by {Day(by)}" : "")}"
        );
    }

    public async Task<IActionResult> OnPostTakeBackAsync()
    {
        await contacts.TakeBackAsync(Form.Whole("note"), Form.Key);
        return Done("The note is taken back, with what came of it");
    }

    public async Task<IActionResult> OnPostEndPromiseAsync()
    {
        await contacts.EndPromiseAsync(Form.Whole("promise"), Form.Key);
        return Done("The promise is taken back");
    }

    public async Task<IActionResult> OnPostAgainAsync()
    {
        var form = Form;
        var day = form.Text("week").Length > 0 ? Today.AddDays(7) : form.OptionalDate("again");
        form.ThrowIfAny();
        await contacts.AskAgainAsync(Id, day, form.Key);
        return Back(day is { } until ? $"Left alone until {Day(until)}" : "They may be asked again");
    }

    public async Task<IActionResult> OnPostHandToAsync()
    {
        var form = Form;
        await contacts.HandToAsync(Id, form.Id("to"), form.Key);
        return Back("Handed over");
    }

    public async Task<IActionResult> OnPostEndDisputeAsync()
    {
        var form = Form;
        await disputes.EndAsync(
            form.Whole("dispute"),
            Enum.TryParse<DisputeOutcome>(form.Text("outcome"), out var outcome) ? outcome : DisputeOutcome.Open,
            form.Text("found"),
            form.Key
        );
        return Done("The dispute has ended");
    }

    public async Task<IActionResult> OnPostLadderAsync()
    {
        var form = Form;
        await ladders.ChooseAsync(Id, form.Id("ladder"), form.Text("ladder") == "none", form.Key);
        return Done("It is set by which steps they are written to");
    }

    public async Task<IActionResult> OnPostLeaveOutAsync()
    {
        var form = Form;
        var until = form.OptionalDate("leftUntil");
        form.ThrowIfAny();
        await ladders.LeaveOutAsync(Id, form.Id("leftItem"), until, form.Text("leftReason"), form.Key);
        return Done("Left out of letters");
    }

    public async Task<IActionResult> OnPostEndPlanAsync()
    {
        await plans.EndAsync(Form.Whole("plan"), Form.Key);
        return Done("The plan has ended; the due days hold again");
    }

    /// <summary>To the list where one came from there, at the row that is now in this one's place.</summary>
    private RedirectResult Back(string said)
    {
        Say(said);
        return Request.Query.ContainsKey("from")
            ? Redirect($"/collect?{Wishes}".TrimEnd('?'))
            : Redirect($"/collect/{Id}");
    }
}
