using Jugaad.Core.Banking;

namespace Jugaad.Desk.Kept;

/// <summary>How the CSV statements of an account are read, as it was said once.</summary>
public sealed class CsvMap
{
    public int AccountId { get; set; }

    public CsvColumns? Columns { get; set; }
}
