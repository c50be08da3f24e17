using Jugaad.Desk.Books;
using Jugaad.Desk.Keeping;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Backups as files, for the owner: whoever has one has everything.</summary>
internal static class BackupEndpoints
{
    internal static void MapBackups(this WebApplication app) =>
        app.MapGet(
                "/setup/backups/{name}",
                async (string name, BackupScreens screens, BookWriter writer, CancellationToken stop) =>
                {
                    if (await screens.PathAsync(name, stop) is not { } path)
                        return Results.NotFound();
                    await writer.NoteAsync(Right.Keep, $"Backup {name} taken out by the browser");
                    return Results.File(path, "application/octet-stream", name);
                }
            )
            .Needs(Right.Keep);
}
