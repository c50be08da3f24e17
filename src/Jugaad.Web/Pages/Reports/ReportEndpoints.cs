using Jugaad.Core;
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
                "/reports/returns/{authority:int}/{first:datetime}/{last:datetime}/file",
                async (
                    int authority,
                    DateOnly first,
                    DateOnly last,
                    string? form,
                    ReturnLooks looks,
                    ITableFiles files,
                    CancellationToken stop
                ) =>
                {
                    if (last < first || await looks.LookAsync(authority, first, last, stop) is not { } look)
                        return Results.NotFound();
                    var name = $"tax-return-{first:yyyy-MM-dd}-{last:yyyy-MM-dd}";
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
}
