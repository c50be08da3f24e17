using System.Text.Json;

namespace Jugaad.Desk.Kept;

/// <summary>Where an import stands.</summary>
public enum ImportState
{
    /// <summary>The file is read; its columns are to be looked over.</summary>
    Begun,

    /// <summary>
    /// Some of its rows are in the books, and the rest are being taken, or were to be when the program stopped.
    /// </summary>
    Taking,
    Done,

    /// <summary>
    /// Some of what it did is taken back, and the rest is being taken back, or was to be when the program stopped.
    /// </summary>
    TakingBack,

    /// <summary>It was done, wholly or in part, and taken back again as far as it could be.</summary>
    TakenBack,
}

/// <summary>How the rows of a file are understood.</summary>
/// <param name="Columns">The column of each field, by the field's key.</param>
/// <param name="FiguresInDoubt">Whether the file does not tell how its figures are written, and nobody has said it
/// yet.</param>
/// <param name="DatesInDoubt">The same of its dates.</param>
public sealed record ImportSettings(
    Dictionary<string, int> Columns,
    char DecimalMark,
    DateOrder Dates,
    bool FiguresInDoubt = false,
    bool DatesInDoubt = false
)
{
    public bool InDoubt => FiguresInDoubt || DatesInDoubt;
}

/// <summary>What is wrong with a row.</summary>
/// <param name="Row">From 1, the head not counted.</param>
public sealed record RefusedRow(int Row, string Why);

/// <summary>What became of a file's rows, or would become.</summary>
public sealed record ImportReport(int New, int Changed, int Same, IReadOnlyList<RefusedRow> Refused)
{
    public int Good => New + Changed + Same;

    /// <summary>How many rows it tells of.</summary>
    public int Rows => Good + Refused.Count;

    /// <summary>Both together.</summary>
    public ImportReport With(ImportReport next) =>
        new(New + next.New, Changed + next.Changed, Same + next.Same, [.. Refused, .. next.Refused]);
}

/// <summary>Something that an import touched and that stays when the import is taken back.</summary>
public sealed record StaysThere(string Name, string Why);

/// <summary>What becomes of what an import did when it is taken back.</summary>
/// <param name="Gone">Made by it, and taken out of the books.</param>
/// <param name="AsBefore">Changed by it, and as before again.</param>
/// <param name="Through">How many of the things that it touched were gone through so far.</param>
public sealed record TakenBackReport(int Gone, int AsBefore, IReadOnlyList<StaysThere> Stays, int Through = 0)
{
    /// <summary>How many things are taken out or put back.</summary>
    public int Undone => Gone + AsBefore;

    /// <summary>Both together.</summary>
    public TakenBackReport With(TakenBackReport next) =>
        new(Gone + next.Gone, AsBefore + next.AsBefore, [.. Stays, .. next.Stays], Through + next.Through);
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

    /// <summary>Whether whoever began to take it wanted all of its rows or none.</summary>
    public bool AllOrNone { get; set; }

    /// <summary>Whether a part of it is in the books, or out of them again, and the rest is not.</summary>
    public bool IsHalfWay => State is ImportState.Taking or ImportState.TakingBack;

    /// <summary>As JSON.</summary>
    public string SettingsText { get; set; } = "";

    /// <summary>As JSON; empty until some of it is done.</summary>
    public string ReportText { get; set; } = "";

    /// <summary>As JSON; empty until some of it is taken back.</summary>
    public string TakenBackText { get; set; } = "";

    /// <summary>What became of it when it was taken back.</summary>
    public TakenBackReport? TakenBack =>
        TakenBackText.Length == 0 ? null : JsonSerializer.Deserialize<TakenBackReport>(TakenBackText);

    public ImportSettings Settings => JsonSerializer.Deserialize<ImportSettings>(SettingsText)!;

    public ImportReport? Report => ReportText.Length == 0 ? null : JsonSerializer.Deserialize<ImportReport>(ReportText);
}
