namespace Jugaad.Desk.Kept;

/// <summary>Something that stood in a letter.</summary>
public sealed class ChaseLetterItem
{
    public int LetterId { get; init; }

    public int ItemId { get; init; }

    /// <summary>The step that it has had with the letter, and all below; 0 where it was only listed.</summary>
    public int Step { get; init; }

    /// <summary>What was asked for of it, in minor units of its currency.</summary>
    public long Asked { get; init; }
}

/// <summary>A step of a ladder that was taken with a customer: a letter that went, or a call that was asked for.</summary>
public sealed class ChaseLetter
{
    public int Id { get; init; }

    public int CustomerId { get; init; }

    public DateOnly Day { get; init; }

    public int LadderId { get; init; }

    /// <summary>The step whose text it has.</summary>
    public int Step { get; init; }

    public StepWay Way { get; init; }

    /// <summary>What was put into the post; null for a call. Taken back from the post, it counts for nothing.</summary>
    public int? PostItemId { get; init; }

    public string By { get; init; } = "";

    public IList<ChaseLetterItem> Items { get; init; } = [];
}

/// <summary>Somebody or something that is not written about, until a day.</summary>
public sealed class LeftOut
{
    public int Id { get; init; }

    public int CustomerId { get; init; }

    /// <summary>Only this one; null for all of the customer's.</summary>
    public int? ItemId { get; init; }

    /// <summary>The last day on which it holds; null for until somebody ends it.</summary>
    public DateOnly? Until { get; init; }

    public string Reason { get; init; } = "";

    public string By { get; init; } = "";

    /// <summary>The day from which it holds no more, since somebody ended it.</summary>
    public DateOnly? EndedOn { get; set; }

    public bool HoldsOn(DateOnly day) => (Until is null || day <= Until) && (EndedOn is null || day < EndedOn);
}

/// <summary>A day on which the business writes to nobody.</summary>
public sealed class Holiday
{
    public int Id { get; init; }

    public DateOnly Day { get; init; }

    public string Name { get; init; } = "";
}
