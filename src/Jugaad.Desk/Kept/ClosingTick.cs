namespace Jugaad.Desk.Kept;

/// <summary>Somebody looked at a point before a period was closed, and found it done.</summary>
public sealed class ClosingTick
{
    private ClosingTick() => (Point, Who) = ("", "");

    /// <param name="upTo">The last day of the period.</param>
    /// <param name="point">What was looked at, as the list names it.</param>
    public ClosingTick(DateOnly upTo, string point, string who, DateOnly day) =>
        (UpTo, Point, Who, Day) = (upTo, point, who, day);

    public int Id { get; private set; }

    public DateOnly UpTo { get; private set; }

    public string Point { get; private set; }

    public string Who { get; private set; }

    public DateOnly Day { get; private set; }
}
