namespace Jugaad.Desk.Keeping;

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
