using Jugaad.Core;

namespace Jugaad.Desk.Kept;

/// <summary>How often a kept view goes out by mail.</summary>
public enum ViewPace
{
    Never,

    /// <summary>On the first day that the program runs in a week; weeks begin on Monday (ISO 8601).</summary>
    Weekly,
    Monthly,
    Quarterly,
}

/// <summary>A report with its days and whatever narrows it, under a name of one's own.</summary>
public sealed class KeptView
{
    private KeptView() => (Name, Report, Query, MailTo, Trouble) = ("", "", "", "", "");

    /// <param name="query">What of the address makes it this view.</param>
    /// <exception cref="RefusalException">When it has no name.</exception>
    public KeptView(string name, string report, string query)
        : this()
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "viewName", name, 80, "Give the view a name, to find it by.");
        refusals.ThrowIfAny();
        (Name, Report, Query) = (name.Trim(), report, query);
    }

    public int Id { get; private set; }

    public string Name { get; private set; }

    public string Report { get; private set; }

    public string Query { get; private set; }

    /// <summary>To whom it goes; empty for nobody.</summary>
    public string MailTo { get; private set; }

    public ViewPace Pace { get; private set; }

    /// <summary>The day on which it went last, or from which on it goes.</summary>
    public DateOnly? SentOn { get; private set; }

    /// <exception cref="RefusalException">When there is no address, or one that is none.</exception>
    public void Send(string mailTo, ViewPace pace, DateOnly today)
    {
        var refusals = new Refusals();
        if (pace != ViewPace.Never)
        {
            Texts.Required(refusals, "mailTo", mailTo, 254, "Give the mail address to which it goes.");
            Texts.Email(refusals, "mailTo", mailTo);
        }

        refusals.ThrowIfAny();
        (MailTo, Pace, SentOn, Trouble) = (pace == ViewPace.Never ? "" : mailTo.Trim(), pace, today, "");
    }

    /// <summary>Whether a new week, month or quarter has begun since it went last.</summary>
    public bool IsDue(DateOnly today) =>
        Pace != ViewPace.Never && SentOn is { } sent && Begin(sent, Pace) < Begin(today, Pace);

    /// <summary>Why it could not be made when it was to go last; empty where it went.</summary>
    public string Trouble { get; private set; }

    public void Went(DateOnly day) => (SentOn, Trouble) = (day, "");

    /// <summary>It could not be made, so that nothing went for this week, month or quarter.</summary>
    public void Failed(DateOnly day, string why) => (SentOn, Trouble) = (day, why.Length > 300 ? why[..300] : why);

    private static DateOnly Begin(DateOnly day, ViewPace pace) =>
        pace switch
        {
            ViewPace.Weekly => day.AddDays(-(((int)day.DayOfWeek + 6) % 7)),
            ViewPace.Quarterly => new DateOnly(day.Year, day.Month - ((day.Month - 1) % 3), 1),
            _ => new DateOnly(day.Year, day.Month, 1),
        };
}
