namespace Jugaad.Desk.Kept;

/// <summary>In which order a file writes the parts of a date.</summary>
public enum DateOrder
{
    DayFirst,
    MonthFirst,
    YearFirst,
}
