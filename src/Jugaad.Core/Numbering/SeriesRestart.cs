namespace Jugaad.Core.Numbering;

/// <summary>When a series begins to count from one again.</summary>
public enum SeriesRestart
{
    Never,

    /// <summary>On 1 January.</summary>
    CalendarYear,

    /// <summary>
    /// With the business's financial year; the year in a number is then the one in which that begins.
    /// </summary>
    FinancialYear,
}
