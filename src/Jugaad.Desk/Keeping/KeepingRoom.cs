namespace Jugaad.Desk.Keeping;

/// <summary>Backups: made, sent, kept by age, brought back; books that were brought back rest.</summary>
internal static class KeepingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(ArchiveWriter),
        typeof(BackupMaking),
        typeof(Restoring),
        typeof(TakingUp),
        typeof(Backups),
        typeof(BackupSetup),
        typeof(BackupScreens),
    ];
}
