using System.Text.Json;

namespace Jugaad.Desk.Moving;

/// <summary>Where an import stands.</summary>
public enum ImportState
{
    /// <summary>The file is read; its columns are to be looked over.</summary>
    Begun,
    Done,

    /// <summary>It was done, and taken back again as far as it could be.</summary>
    TakenBack,
}

/// <summary>How the rows of a file are understood.</summary>
/// <param name="Columns">The column of each field, by the field's key.</param>
/// <param name="FiguresInDoubt">Whether the file does not tell how its figures are written, and nobody has said it yet.</param>
/// <param name="DatesInDoubt">The same of its dates.</param>
public sealed record ImportSettings(Dictionary<string, int> Columns, char DecimalMark, DateOrder Dates, bool FiguresInDoubt = false, bool DatesInDoubt = false)
{
    public bool InDoubt => FiguresInDoubt || DatesInDoubt;

    public CellFormat Format => new(DecimalMark, Dates);
}

/// <summary>What is wrong with a row.</summary>
/// <param name="Row">From 1, the head not counted.</param>
public sealed record RefusedRow(int Row, string Why);

/// <summary>What became of a file's rows, or would become.</summary>
public sealed record ImportReport(int New, int Changed, int Same, IReadOnlyList<RefusedRow> Refused)
{
    public int Good => New + Changed + Same;
}

/// <summary>Something that an import touched and that stays when the import is taken back.</summary>
public sealed record StaysThere(string Name, string Why);

/// <summary>What becomes of what an import did when it is taken back.</summary>
/// <param name="Gone">Made by it, and taken out of the books.</param>
/// <param name="AsBefore">Changed by it, and as before again.</param>
public sealed record TakenBackReport(int Gone, int AsBefore, IReadOnlyList<StaysThere> Stays)
{
    /// <summary>How many things are taken out or put back.</summary>
    public int Undone => Gone + AsBefore;
}

/// <summary>A file that is being moved in, kept until it is done so that nothing is lost between the pages.</summary>
public sealed class ImportRun
{
    public int Id { get; init; }

    public MovingKind Kind { get; init; }

    public string FileName { get; init; } = "";

    public byte[] File { get; init; } = [];

    public string Note { get; init; } = "";

    public int Rows { get; init; }

    public DateOnly Day { get; init; }

    public string Who { get; init; } = "";

    public ImportState State { get; set; }

    /// <summary>As JSON.</summary>
    public string SettingsText { get; set; } = "";

    /// <summary>As JSON; empty until it is done.</summary>
    public string ReportText { get; set; } = "";

    /// <summary>As JSON; empty until it is taken back.</summary>
    public string TakenBackText { get; set; } = "";

    /// <summary>What became of it when it was taken back.</summary>
    public TakenBackReport? TakenBack => TakenBackText.Length == 0 ? null : JsonSerializer.Deserialize<TakenBackReport>(TakenBackText);

    public ImportSettings Settings => JsonSerializer.Deserialize<ImportSettings>(SettingsText)!;

    public ImportReport? Report => ReportText.Length == 0 ? null : JsonSerializer.Deserialize<ImportReport>(ReportText);
}
