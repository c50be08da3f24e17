using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Formats.Reports;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Reports;

/// <summary>Reports and payment files as files.</summary>
internal static class ReportEndpoints
{
    internal static void MapReports(this WebApplication app)
    {
        app.MapGet(
                "/reports/{name}/file",
                async (
                    string name,
                    string? form,
                    HttpContext http,
                    ReportCatalog catalog,
                    ReportPapers papers,
                    BooksHead head,
                    ITableFiles files,
                    CancellationToken stop
                ) =>
                {
                    var (business, today) = (await head.BusinessAsync(stop), await head.TodayAsync(stop));
                    if (ReportCatalog.Find(name) is not { } kind)
                        return Results.NotFound();
                    try
                    {
                        var wish = ReportWish.Read(kind, http.Request.Query, Asked, today, business.YearBegins);
                        var report = await catalog.MakeAsync(kind, wish.Ask, wish.Against, stop);
                        return form switch
                        {
                            "Pdf" => Results.File(
                                await papers.PdfAsync(report, wish.Ask.Of("language"), stop),
                                "application/pdf",
                                $"{report.Name}.pdf"
                            ),
                            "Json" => Results.File(ReportJson.Write(report), "application/json", $"{report.Name}.json"),
                            _ => files.Download(
                                report.ToTable(),
                                form == "Xlsx" ? TableForm.Xlsx : TableForm.Csv,
                                report.Name
                            ),
                        };
                    }
                    catch (RefusalException refused)
                    {
                        return Refused(refused, business.Format);
                    }

                    DateOnly? Asked(string field) => DayOf(http, field, business.Format, today);
                }
            )
            .Needs(Right.See);
        app.MapGet(
                "/reports/{name}/sums",
                async (string name, HttpContext http, ReportCatalog catalog, BooksHead head, CancellationToken stop) =>
                {
                    var (business, today) = (await head.BusinessAsync(stop), await head.TodayAsync(stop));
                    if (ReportCatalog.Find(name) is not { IsInParts: true } kind)
                        return Results.NotFound();
                    try
                    {
                        var wish = ReportWish.Read(
                            kind,
                            http.Request.Query,
                            field => DayOf(http, field, business.Format, today),
                            today,
                            business.YearBegins
                        );
                        var sums = await catalog.SumsAsync(kind, wish.Ask, stop);
                        var shown = sums.Columns.Index().Where(c => !c.Item.InFilesOnly).ToList();
                        return Results.Json(
                            sums.Rows.Select(r =>
                                shown.Select(c => new
                                {
                                    text = ReportPapers.Text(r.Cells[c.Index], business.Format),
                                    look = c.Item.IsFigure ? "fig nowrap" : "nowrap",
                                })
                            )
                        );
                    }
                    catch (RefusalException refused)
                    {
                        return Refused(refused, business.Format);
                    }
                }
            )
            .Needs(Right.See);
        app.MapGet(
                "/reports/handover/file",
                async (HttpContext http, Handover handover, BooksHead head, CancellationToken stop) =>
                {
                    var (format, today) = ((await head.BusinessAsync(stop)).Format, await head.TodayAsync(stop));
                    // Papers by the thousand are no matter of memory.
                    var file = TemporaryFile();
                    try
                    {
                        var from = DayOf(http, "from", format, today) ?? new DateOnly(today.Year, today.Month, 1);
                        var until = DayOf(http, "until", format, today) ?? today;
                        await handover.WriteAsync(from, until, file, stop);
                        file.Position = 0;
                        return Results.File(file, "application/zip", $"books-{from:yyyy-MM-dd}-{until:yyyy-MM-dd}.zip");
                    }
                    catch (Exception cannot)
                    {
                        await file.DisposeAsync();
                        if (cannot is RefusalException refused)
                            return Refused(refused, format);
                        throw;
                    }
                }
            )
            .Needs(Right.See);
        app.MapGet(
                "/reports/returns/{authority:int}/{first:datetime}/{last:datetime}/file",
                async (
                    int authority,
                    DateOnly first,
                    DateOnly last,
                    string? form,
                    int? amendment,
                    string? language,
                    ReturnLooks looks,
                    ReturnPapers papers,
                    ITableFiles files,
                    CancellationToken stop
                ) =>
                {
                    if (
                        last < first
                        || await looks.LookAsync(authority, first, last, amendment ?? 0, stop) is not { } look
                    )
                        return Results.NotFound();
                    var name = $"tax-return-{first:yyyy-MM-dd}-{last:yyyy-MM-dd}";
                    if (form == "Pdf")
                        return Results.File(
                            await papers.PdfAsync(look.Then, language ?? "", stop),
                            "application/pdf",
                            $"{name}.pdf"
                        );
                    return form == "Json"
                        ? Results.File(TaxReturnJson.Write(look.Then), "application/json", $"{name}.json")
                        : files.Download(
                            TaxReports.Rows(look.Then).ToTable(),
                            form == "Xlsx" ? TableForm.Xlsx : TableForm.Csv,
                            name
                        );
                }
            )
            .Needs(Right.See);
        app.MapGet(
                "/receive/payments/{id:int}/file",
                async (int id, PaymentFiles files, CancellationToken stop) =>
                    await files.FindAsync(id, stop) is { } file
                        ? Results.File(file.Content, "application/xml", file.Reference + ".xml")
                        : Results.NotFound()
            )
            .Needs(Right.Money);
    }

    /// <summary>A file that nobody else reads, and that is gone once it is closed.</summary>
    private static FileStream TemporaryFile()
    {
        var path = Path.Combine(Path.GetTempPath(), Path.GetRandomFileName());
        var file = new FileStream(
            path,
            new FileStreamOptions
            {
                Mode = FileMode.CreateNew,
                Access = FileAccess.ReadWrite,
                Options = FileOptions.DeleteOnClose | FileOptions.Asynchronous,
            }
        );
        OwnersOnly.File(path);
        return file;
    }

    private static DateOnly? DayOf(HttpContext http, string field, DisplayFormat format, DateOnly today) =>
        http.Request.Query[field].ToString() is { Length: > 0 } typed ? format.ReadDay(typed, today, field) : null;

    private static IResult Refused(RefusalException refused, DisplayFormat format) =>
        Results.Text(
            refused.In(format),
            "text/plain; charset=utf-8",
            statusCode: StatusCodes.Status422UnprocessableEntity
        );
}
