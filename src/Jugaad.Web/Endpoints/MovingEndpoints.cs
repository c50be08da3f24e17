using System.IO.Compression;
using Jugaad.Desk.Books;
using Jugaad.Desk.Moving;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Endpoints;

/// <summary>Tables as files, refused rows, the whole books, and how far an import is.</summary>
internal static class MovingEndpoints
{
    internal static void MapMoving(this WebApplication app, RouteGroupBuilder api)
    {
        app.MapGet("/moving/export/{kind}", async (string kind, TableForm? form, Exporting exporting, IActor actor, CancellationToken stop) =>
            !actor.May(Right.See) ? Results.StatusCode(StatusCodes.Status403Forbidden)
            : MovingFields.Find(kind) is { } known ? Results.File(await exporting.FileAsync(known, form ?? TableForm.Csv, stop), TypeOf(form ?? TableForm.Csv), Exporting.NameOf(known, form ?? TableForm.Csv))
            : Results.NotFound());
        app.MapGet("/moving/{id:int}/refused", async (int id, TableForm? form, Importing importing, ITableFiles files, IActor actor, CancellationToken stop) =>
        {
            if (!actor.May(Right.Masters)) return Results.StatusCode(StatusCodes.Status403Forbidden);
            if (await importing.FindAsync(id, stop) is not { } run) return Results.NotFound();
            var report = run.Report ?? await importing.TryOutAsync(id, stop);
            return Results.File(files.Write(importing.RefusedRows(run, report), form ?? TableForm.Csv), TypeOf(form ?? TableForm.Csv), $"refused-{id}.{(form ?? TableForm.Csv).ToString().ToLowerInvariant()}");
        });
        app.MapGet("/moving/books", async (BooksFolder folder, IActor actor, HttpContext http, CancellationToken stop) =>
        {
            if (!actor.May(Right.See)) return Results.StatusCode(StatusCodes.Status403Forbidden);
            using var file = new MemoryStream();
            await using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
            {
                await folder.WriteAsync(async (name, content) =>
                {
                    await using var entry = await zip.CreateEntry($"books/{name}").OpenAsync(stop);
                    await entry.WriteAsync(content, stop);
                }, stop);
            }

            return Results.File(file.ToArray(), "application/zip", "books.zip");
        });
        api.MapGet("/moving/{id:int}", (int id, ImportJobs jobs, IActor actor) =>
            !actor.May(Right.Masters) ? Results.StatusCode(StatusCodes.Status403Forbidden) : Results.Json(jobs.Of(id) is { } progress ? new { done = progress.Done, rows = progress.Rows, finished = progress.Finished } : new { done = 0, rows = 0, finished = true }));
    }

    internal static string TypeOf(TableForm form) => form == TableForm.Xlsx ? "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet" : "text/csv; charset=utf-8";
}
