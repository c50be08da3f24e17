using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Web.Pages.Bank;
using Jugaad.Web.Pages.Collect;
using Jugaad.Web.Pages.Customers;
using Jugaad.Web.Pages.Items;
using Jugaad.Web.Pages.Post;
using Jugaad.Web.Pages.Receive;
using Jugaad.Web.Pages.Sell;
using Jugaad.Web.Pages.Setup;

namespace Jugaad.Web.Shell;

/// <summary>What a list comes to, asked for once its rows are seen, and exactly what it shows as a file.</summary>
internal static class ListEndpoints
{
    internal static void MapLists(this WebApplication app)
    {
        Map<SoldList>(app, "/sell", Right.Self);
        Map<ReceiptsList>(app, "/receive", Right.See);
        Map<CustomersList>(app, "/customers", Right.Self);
        Map<ItemsList>(app, "/items", Right.Self);
        Map<PostList>(app, "/post", Right.See);
        Map<StandingList>(app, "/sell/standing", Right.Draft);
        Map<ChaseList>(app, "/collect", Right.See);
        Map<LateList>(app, "/collect/overdue", Right.See);
        Map<BankLinesList>(app, "/bank/lines", Right.See);
        Map<TrailList>(app, "/setup/trail", Right.See);
    }

    internal static void AddLists(this IServiceCollection services)
    {
        services.AddScoped<SoldList>();
        services.AddScoped<ReceiptsList>();
        services.AddScoped<CustomersList>();
        services.AddScoped<ItemsList>();
        services.AddScoped<PostList>();
        services.AddScoped<StandingList>();
        services.AddScoped<ChaseList>();
        services.AddScoped<LateList>();
        services.AddScoped<BankLinesList>();
        services.AddScoped<TrailList>();
    }

    private static void Map<TList>(WebApplication app, string address, Right right)
        where TList : IListed
    {
        app.MapGet(
                address + "/totals",
                async (TList list, HttpContext http, BooksHead head, CancellationToken stop) =>
                {
                    var format = (await head.BusinessAsync(stop)).Format;
                    // A day that cannot be read is told on the page, which then shows the list without it.
                    var today = await head.TodayAsync(stop);
                    var asked = new Asked(
                        http.Request.Query,
                        field => format.FindDay(http.Request.Query[field], today)
                    );
                    var totals = await list.TotalsAsync(asked, stop);
                    return Results.Json(
                        new
                        {
                            count = totals.Count,
                            words = $"{format.Figure(totals.Count)} in all",
                            sums = totals.Sums.Select(s => new
                            {
                                currency = s.Currency.Code,
                                amounts = s.Amounts.ToDictionary(a => a.Key, a => format.Amount(a.Value, s.Currency)),
                            }),
                        }
                    );
                }
            )
            .Needs(right);
        app.MapGet(
                address + "/file",
                async (
                    TList list,
                    TableForm? form,
                    HttpContext http,
                    BooksHead head,
                    ITableFiles files,
                    CancellationToken stop
                ) =>
                {
                    var format = (await head.BusinessAsync(stop)).Format;
                    var today = await head.TodayAsync(stop);
                    DateOnly? Day(string field) =>
                        http.Request.Query[field].ToString() is { Length: > 0 } typed
                            ? format.ReadDay(typed, today, field)
                            : null;
                    try
                    {
                        var report = await list.ReportAsync(new Asked(http.Request.Query, Day), stop);
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
            .Needs(right);
    }
}
