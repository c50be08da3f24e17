using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
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
                    TableForm? form,
                    HttpContext http,
                    AgedReports aged,
                    JournalReports journal,
                    BooksHead head,
                    ITableFiles files,
                    CancellationToken stop
                ) =>
                {
                    var (format, today) = ((await head.BusinessAsync(stop)).Format, await head.TodayAsync(stop));
                    DateOnly? Asked(string field) =>
                        http.Request.Query[field].ToString() is { Length: > 0 } typed
                            ? format.ReadDay(typed, today, field)
                            : null;
                    try
                    {
                        var wish = ReportWish.Read(name, http.Request.Query, Asked, today);
                        if (await wish.MakeAsync(aged, journal, stop) is not { } report)
                            return Results.NotFound();
                        return files.Download(report.ToTable(), form, report.Name);
                    }
                    catch (RefusalException refused)
                    {
                        return Results.Text(
                            refused.In(format),
                            "text/plain; charset=utf-8",
                            statusCode: StatusCodes.Status422UnprocessableEntity
                        );
                    }
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
}
