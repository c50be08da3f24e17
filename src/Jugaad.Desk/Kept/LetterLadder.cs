using Jugaad.Core;
using Jugaad.Core.Collecting;

namespace Jugaad.Desk.Kept;

/// <summary>By which way a step reaches the customer.</summary>
public enum StepWay
{
    /// <summary>By mail; into the pile to print where they have no address.</summary>
    Mail,

    /// <summary>A letter in the pile to print.</summary>
    Print,

    /// <summary>A short message to their mobile telephone; by mail where they have none.</summary>
    Message,

    /// <summary>Nothing is sent: they are put on the list of whom to ask.</summary>
    Call,
}

/// <summary>A step of a ladder as it is set.</summary>
public sealed record StepDetails(int Days, StepWay Way, MailText Text, bool WithInvoices, bool WithStatement = false)
{
    /// <summary>What the letter costs, in minor units of the home currency.</summary>
    public long Fee { get; init; }

    /// <summary>Whether interest, and the fixed compensation, are charged with it.</summary>
    public bool WithInterest { get; init; }

    public bool Charges => Fee > 0 || WithInterest;
}

/// <summary>A step of a ladder as it is kept.</summary>
public sealed class LetterStep
{
    public int LadderId { get; init; }

    /// <summary>Counted from 1; a higher one is sterner.</summary>
    public int Number { get; init; }

    /// <summary>So many days after the due day, or before it where below zero.</summary>
    public int Days { get; init; }

    public StepWay Way { get; init; }

    /// <summary>Which text it begins with; each has its words by language.</summary>
    public MailText Text { get; init; }

    /// <summary>Whether the invoices go along.</summary>
    public bool WithInvoices { get; init; }

    /// <summary>Whether a statement of all that is open goes along.</summary>
    public bool WithStatement { get; init; }

    /// <inheritdoc cref="StepDetails.Fee"/>
    public long Fee { get; init; }

    /// <inheritdoc cref="StepDetails.WithInterest"/>
    public bool WithInterest { get; init; }
}

/// <summary>The steps by which customers are written to.</summary>
public sealed class LetterLadder
{
    /// <summary>Less than a year before, and two years after the due day.</summary>
    private const int EarliestDays = -90;
    private const int LatestDays = 730;

    private readonly List<LetterStep> _steps = [];

    private LetterLadder() { }

    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public LetterLadder(string name, IReadOnlyList<StepDetails> steps) => Describe(name, steps);

    public int Id { get; private set; }

    public string Name { get; private set; } = "";

    public IReadOnlyList<LetterStep> Steps => _steps;

    /// <summary>The texts that a step may begin with.</summary>
    public static IReadOnlyList<MailText> Texts { get; } =
    [MailText.DueSoon, MailText.GentleReminder, MailText.FirmReminder, MailText.LastReminder, MailText.FinalNotice];

    /// <summary>The steps that are usual: a reminder after three days, sterner ones after two weeks and a month, and a
    /// call after six weeks.</summary>
    public static IReadOnlyList<StepDetails> UsualSteps { get; } =
    [
        new(3, StepWay.Mail, MailText.GentleReminder, true),
        new(14, StepWay.Mail, MailText.FirmReminder, true),
        new(30, StepWay.Mail, MailText.LastReminder, true),
        new(45, StepWay.Call, MailText.FinalNotice, false),
    ];

    /// <summary>Takes the name and the steps, in the order of their days.</summary>
    /// <exception cref="RefusalException">With all that is wrong; nothing is changed then.</exception>
    public void Describe(string name, IReadOnlyList<StepDetails> steps)
    {
        var refusals = new Refusals();
        Core.Texts.Required(refusals, "name", name, 60, "Give the ladder a name.");
        if (steps.Count is 0 or > Ladder.MostSteps)
            refusals.Add("steps", $"Give from 1 to {Ladder.MostSteps} steps.");
        for (var i = 0; i < steps.Count; i++)
        {
            if (steps[i].Days is < EarliestDays or > LatestDays)
                refusals.Add($"steps[{i}].days", $"Give whole days from {EarliestDays} to {LatestDays}.");
            else if (i > 0 && steps[i].Days <= steps[i - 1].Days)
                refusals.Add($"steps[{i}].days", "The step comes no later than the one before it. Give more days.");
            if (steps[i].Fee is < 0 or > 100_000)
                refusals.Add($"steps[{i}].fee", "Give an amount from 0 to 1000.00.");
            if (steps[i].Charges && (steps[i].Days < 1 || steps[i].Way is StepWay.Call or StepWay.Message))
                refusals.Add(
                    $"steps[{i}].fee",
                    "Only a letter after the due day can charge anything: the debit note goes along with it."
                );
            if (!Texts.Contains(steps[i].Text))
                refusals.Add($"steps[{i}].text", "Choose a text for reminders.");
        }

        refusals.ThrowIfAny();
        Name = name.Trim();
        _steps.Clear();
        _steps.AddRange(
            steps.Select(
                (step, i) =>
                    new LetterStep
                    {
                        Number = i + 1,
                        Days = step.Days,
                        Way = step.Way,
                        Text = step.Text,
                        WithInvoices = step.WithInvoices,
                        WithStatement = step.WithStatement,
                        Fee = step.Fee,
                        WithInterest = step.WithInterest,
                    }
            )
        );
    }

    /// <summary>The rule that decides by these steps.</summary>
    public Ladder Rule(WorkingDays days, long tolerance, int daysBetween) =>
        new(
            [.. _steps.OrderBy(s => s.Number).Select(s => new LadderStep(s.Number, s.Days))],
            days,
            tolerance,
            daysBetween
        );
}
