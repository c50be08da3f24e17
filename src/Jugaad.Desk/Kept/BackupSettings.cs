using Jugaad.Core.Schedules;

namespace Jugaad.Desk.Kept;

/// <summary>Of what sort the other place is to which backups go.</summary>
public enum OtherPlace
{
    None,

    /// <summary>A folder, such as one of another disk that is mounted there.</summary>
    Folder,

    /// <summary>A machine that is reached by SSH (SFTP).</summary>
    Sftp,

    /// <summary>An object store with the common interface of such.</summary>
    Store,
}

/// <summary>How backups are made by themselves, and where they go.</summary>
public sealed class BackupSettings
{
    public int Id { get; init; }

    /// <summary>
    /// Stands in the names of these books' backups, so that those of others in the same place are left alone.
    /// </summary>
    public string Mark { get; init; } = "";

    public bool Nightly { get; set; } = true;

    /// <summary>The hour of the night, 0 to 23, by the machine's clock.</summary>
    public int Hour { get; set; } = 2;

    /// <summary>
    /// Where they are kept on this machine; the folder <c>backups</c> beside the books, where it is empty.
    /// </summary>
    public string Folder { get; set; } = "";

    public int KeepDays { get; set; } = 7;

    public int KeepWeeks { get; set; } = 5;

    public int KeepMonths { get; set; } = 12;

    public OtherPlace Other { get; set; }

    /// <summary>The other machine, or the address of the store.</summary>
    public string Host { get; set; } = "";

    public int Port { get; set; } = 22;

    public string User { get; set; } = "";

    /// <summary>The password, private key or secret key, as the secret keeper protects it.</summary>
    public string ProtectedSecret { get; set; } = "";

    /// <summary>The folder there; in a store, the bucket.</summary>
    public string Path { get; set; } = "";

    /// <summary>
    /// What the other machine showed of itself when it was first reached: SHA-256 of its key, as SSH programs write it.
    /// </summary>
    public string HostKey { get; set; } = "";

    /// <summary>
    /// Backups are sealed for the holder of its private half (OpenPGP, armoured); plain where it is empty.
    /// </summary>
    public string PublicKey { get; set; } = "";

    public Retention Retention => new(KeepDays, KeepWeeks, KeepMonths);
}

/// <summary>A backup that was made, or failed.</summary>
public sealed class BackupRun
{
    public int Id { get; init; }

    /// <summary>UTC.</summary>
    public DateTime At { get; init; }

    public string Who { get; init; } = "";

    /// <summary>The file's name; empty where none came about.</summary>
    public string Name { get; set; } = "";

    /// <summary>Bytes.</summary>
    public long Size { get; set; }

    /// <summary>Why there is none; empty where there is.</summary>
    public string Problem { get; set; } = "";

    /// <summary>Why it did not reach the other place; empty where it did, or where there is no other.</summary>
    public string OtherProblem { get; set; } = "";

    /// <summary>UTC; when it was last brought back on trial.</summary>
    public DateTime? TriedAt { get; set; }

    /// <summary>What was wrong when it was brought back on trial.</summary>
    public string TrialProblem { get; set; } = "";

    /// <summary>Whether it is there, wherever it was to go, and nothing was wrong with it.</summary>
    public bool IsGood => Problem.Length == 0 && OtherProblem.Length == 0 && TrialProblem.Length == 0;
}
