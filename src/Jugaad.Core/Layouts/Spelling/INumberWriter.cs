namespace Jugaad.Core.Layouts.Spelling;

/// <summary>Writes whole numbers out in one language.</summary>
internal interface INumberWriter
{
    /// <param name="number">From 0 to 999 999 999.</param>
    /// <param name="of">What is counted.</param>
    string Write(long number, Gender of);
}
