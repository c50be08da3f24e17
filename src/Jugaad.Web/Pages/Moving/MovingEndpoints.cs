using System.IO.Compression;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Moving;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Moving;

/// <summary>Tables as files, refused rows, the whole books, and how far an import is.</summary>
internal static class MovingEndpoints
{
    internal static void MapMoving(this WebApplication app, RouteGroupBuilder api)
    {
        app.MapGet(
                "/moving/export/{kind}",
                async (string kind, TableForm? form, Exporting exporting, CancellationToken stop) =>
                    MovingFields.Find(kind) is { } known
                        ? Results.File(
                            await exporting.FileAsync(known, form ?? TableForm.Csv, stop),
                            TableDownload.TypeOf(form ?? TableForm.Csv),
                            Exporting.NameOf(known, form ?? TableForm.Csv)
                        )
                        : Results.NotFound()
            )
            .Needs(Right.See);
        app.MapGet(
                "/moving/{id:int}/refused",
                async (int id, TableForm? form, Importing importing, ITableFiles files, CancellationToken stop) =>
                {
                    if (await importing.FindAsync(id, stop) is not { } run)
                        return Results.NotFound();
                    var report = run.Report ?? await importing.TryOutAsync(id, stop);
                    return files.Download(importing.RefusedRows(run, report), form, $"refused-{id}");
                }
            )
            .Needs(Right.Masters);
        app.MapGet(
                "/moving/books",
                async (BooksFolder folder, HttpContext http, CancellationToken stop) =>
                {
                    using var file = new MemoryStream();
                    await using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
                    {
                        await folder.WriteAsync(
                            async (name, content) =>
                            {
                                await using var entry = await zip.CreateEntry($"books/{name}").OpenAsync(stop);
                                await entry.WriteAsync(content, stop);
                            },
                            stop
                        );
                    }

                    return Results.File(file.ToArray(), "application/zip", "books.zip");
                }
            )
            .Needs(Right.See);
        api.MapGet(
                "/moving/{id:int}",
                (int id, ImportJobs jobs) =>
                    Results.Json(
                        jobs.Of(id) is { } progress
                            ? new
                            {
                                done = progress.Done,
                                rows = progress.Of,
                                finished = progress.Finished,
                            }
                            : new
                            {
                                done = 0,
                                rows = 0,
                                finished = true,
                            }
                    )
            )
            .Needs(Right.Masters);
    }
}
