using Jugaad.Desk.Lists;

namespace Jugaad.Web.Shell;

/// <summary>
/// A table as a file to download: CSV by RFC 4180 where nothing else is asked for, or XLSX by ISO/IEC 29500.
/// </summary>
internal static class TableDownload
{
    internal static IResult Download(this ITableFiles files, Table table, TableForm? form, string name)
    {
        var into = form ?? TableForm.Csv;
        return Results.File(files.Write(table, into), TypeOf(into), $"{name}.{into.ToString().ToLowerInvariant()}");
    }

    internal static string TypeOf(TableForm form) =>
        form == TableForm.Xlsx
            ? "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
            : "text/csv; charset=utf-8";
}
