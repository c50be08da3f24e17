using Jugaad.Core.Documents;

namespace Jugaad.Core.Schedules;

/// <summary>What becomes of each occurrence.</summary>
public enum StandingWay
{
    /// <summary>It waits among the drafts.</summary>
    Draft,

    Issue,

    IssueAndSend,
}

/// <summary>All that can be said of a standing invoice besides what it bills.</summary>
public sealed record StandingDetails
{
    public string Name { get; init; } = "";

    public required Schedule Schedule { get; init; }

    /// <summary>Whether each occurrence takes the prices of its day; otherwise those that are written here.</summary>
    public bool PricesOfTheDay { get; init; }

    public StandingWay Way { get; init; }

    /// <summary>How many days beforehand the day sheet tells of it; 0 for not.</summary>
    public int TellBefore { get; init; }

    /// <summary>How many days the day sheet tells of it afterwards; 0 for not.</summary>
    public int TellAfter { get; init; }

    /// <summary>Whether days that have passed already are made up for; null where nobody has said.</summary>
    public bool? MakesUp { get; init; }
}

/// <summary>
/// An invoice that repeats on a schedule. Each occurrence gives at most one document, whatever happens in between.
/// </summary>
public sealed class StandingInvoice
{
    private readonly List<StandingOccurrence> _occurrences = [];

    private StandingInvoice() { }

    public StandingInvoice(string createdBy) => CreatedBy = createdBy;

    public int Id { get; private set; }

    public string Name { get; private set; } = "";

    public int CustomerId { get; private set; }

    /// <summary>What each occurrence bills; its texts may have fields for the period.</summary>
    public DraftContent Content { get; private set; } = new();

    public Schedule Schedule { get; private set; } = new(default, 1, Pace.Months);

    public bool PricesOfTheDay { get; private set; }

    public StandingWay Way { get; private set; }

    public int TellBefore { get; private set; }

    public int TellAfter { get; private set; }

    public bool Paused { get; private set; }

    /// <summary>The occurrence that comes next, counted from 0.</summary>
    public int Next { get; private set; }

    /// <summary>Why the occurrence that is due could not be made; empty where there is no trouble.</summary>
    public string Problem { get; private set; } = "";

    public string CreatedBy { get; private set; } = "";

    public int Version { get; private set; }

    public IReadOnlyList<StandingOccurrence> Occurrences => _occurrences;

    public StandingDetails Details =>
        new()
        {
            Name = Name,
            Schedule = Schedule,
            PricesOfTheDay = PricesOfTheDay,
            Way = Way,
            TellBefore = TellBefore,
            TellAfter = TellAfter,
        };

    /// <summary>The day of the next occurrence; null where it is paused or has ended.</summary>
    public DateOnly? NextDay => !Paused && Counted.Has(Next) ? Schedule.DayOf(Next) : null;

    public bool HasEnded => !Counted.Has(Next);

    /// <summary>How many occurrences of this schedule were left out; they do not use up how often it repeats.</summary>
    public int Skipped { get; private set; }

    /// <summary>The schedule with as many more occurrences as were left out.</summary>
    public Schedule Counted => Schedule.Times is { } times ? Schedule with { Times = times + Skipped } : Schedule;

    /// <summary>How often it has given a document.</summary>
    public int Made => _occurrences.Count(o => o.DocumentId is not null);

    /// <summary>
    /// Describes it, from the next occurrence on. A schedule that changes begins anew with its first day.
    /// </summary>
    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public void Describe(StandingDetails details, int customerId, DraftContent content)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", details.Name, 120, "Give the standing invoice a name.");
        details.Schedule.Check(refusals);
        if (details.TellBefore is < 0 or > 366)
            refusals.Add("tellBefore", "Give 0 to 366 days.");
        if (details.TellAfter is < 0 or > 366)
            refusals.Add("tellAfter", "Give 0 to 366 days.");
        if (customerId == 0)
            refusals.Add("customer", "Choose the customer.");
        if (!content.Lines.Any(l => l.Role.HasFigures()))
            refusals.Add("lines", "There is no line to bill. Add one first.");
        if (
            details.Schedule.First != Schedule.First
            && _occurrences.Count > 0
            && details.Schedule.First <= _occurrences.Max(o => o.Day)
        )
            refusals.Add(
                "first",
                $"There was an occurrence on {_occurrences.Max(o => o.Day):yyyy-MM-dd} already. Begin after that day."
            );
        refusals.ThrowIfAny();
        var begunAnew =
            Version == 0
            || details.Schedule.First != Schedule.First
            || details.Schedule.Pace != Schedule.Pace
            || details.Schedule.Every != Schedule.Every;
        if (begunAnew && _occurrences.Count > 0 && details.Schedule.First == Schedule.First)
            throw new RefusalException(
                "first",
                "It has occurred before. To change how often it repeats, give a first day after the last occurrence too."
            );
        (Name, CustomerId, Schedule) = (details.Name.Trim(), customerId, details.Schedule);
        // Indexes go on, so that the days of a new schedule never meet those of the old.
        if (begunAnew && _occurrences.Count > 0)
            (Offset, Next, Skipped) = (Offset + Next, 0, 0);
        (PricesOfTheDay, Way, TellBefore, TellAfter) = (
            details.PricesOfTheDay,
            details.Way,
            details.TellBefore,
            details.TellAfter
        );
        Content = content with
        {
            CustomerId = customerId,
            TaxDate = null,
            DueDate = null,
            ValidUntil = null,
            NumberByHand = "",
            CashStep = null,
            PaidExactly = 0,
        };
        Problem = "";
        Version++;
    }

    /// <summary>How many occurrences earlier schedules had.</summary>
    public int Offset { get; private set; }

    /// <summary>The occurrences that have come by a day and are not made yet, in order.</summary>
    public IReadOnlyList<(int Index, DateOnly Day)> DueBy(DateOnly day) =>
        Paused ? [] : [.. Counted.DueFrom(Next, day)];

    /// <summary>
    /// Begins with days that have passed: they are made up for or left out, but never without being asked.
    /// </summary>
    /// <exception cref="RefusalException">When nobody has said which.</exception>
    public void Begin(bool? makesUp, DateOnly today)
    {
        var passed = Counted.DueFrom(Next, today.AddDays(-1)).Count();
        if (_occurrences.Count > 0 || Paused || passed == 0 || makesUp == true)
            return;
        if (makesUp is null)
            throw new RefusalException(
                "makesUp",
                $"{passed} {(passed == 1 ? "day of it has" : "days of it have")} passed already. Say whether to make up for {(passed == 1 ? "it" : "them")}, or begin with a later day."
            );
        while (Counted.Has(Next) && Schedule.DayOf(Next) < today)
            Occur(null);
    }

    /// <summary>Notes that the next occurrence gave a document, or was skipped.</summary>
    /// <param name="documentId">Null where it was skipped.</param>
    public StandingOccurrence Occur(int? documentId)
    {
        if (!Counted.Has(Next))
            throw new RefusalException("", $"{Name} has ended; nothing is left to skip.");
        var occurrence = new StandingOccurrence(Offset + Next, Schedule.DayOf(Next), documentId);
        _occurrences.Add(occurrence);
        if (documentId is null)
            Skipped++;
        (Next, Problem) = (Next + 1, "");
        Version++;
        return occurrence;
    }

    /// <summary>Pauses it, or lets it go on.</summary>
    /// <param name="today">Occurrences of the pause are not caught up: it goes on with the first one from this day
    /// on.</param>
    public void Pause(bool paused, DateOnly today)
    {
        if (Paused && !paused)
            while (Counted.Has(Next) && Schedule.DayOf(Next) < today)
                Occur(null);
        Paused = paused;
        Version++;
    }

    public void HasTrouble(string problem)
    {
        Problem = problem.Length > 500 ? problem[..500] : problem;
        Version++;
    }
}

/// <summary>One occurrence: the document that it gave, or that it was skipped.</summary>
public sealed class StandingOccurrence
{
    private StandingOccurrence() { }

    internal StandingOccurrence(int index, DateOnly day, int? documentId) =>
        (Index, Day, DocumentId) = (index, day, documentId);

    public int Id { get; private set; }

    public int StandingInvoiceId { get; private set; }

    public int Index { get; private set; }

    public DateOnly Day { get; private set; }

    /// <summary>Null where it was skipped.</summary>
    public int? DocumentId { get; private set; }
}
