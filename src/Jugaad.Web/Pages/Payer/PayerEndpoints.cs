using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Payer;

/// <summary>What the card service tells, and the files of a customer's own page.</summary>
internal static class PayerEndpoints
{
    /// <summary>The header with the signature over the body.</summary>
    internal const string SignatureHeader = "Card-Signature";

    private const int LargestMessage = 256 * 1024;

    internal static void MapPayer(this WebApplication app)
    {
        app.MapPost("/card/told", TellAsync).AllowAnonymous().RequireRateLimiting("customer");
        app.MapGet(
                "/a/{token}/statement",
                async (
                    string token,
                    CustomerLinks links,
                    Statements statements,
                    BooksHead head,
                    HttpContext http,
                    CancellationToken stop
                ) =>
                {
                    if (await links.FindAccountAsync(token, stop) is not { } customer)
                        return Results.NotFound();
                    var (name, content) = await statements.PdfAsync(
                        customer,
                        new StatementWish(null, await head.TodayAsync(stop)),
                        null,
                        stop
                    );
                    http.Response.Headers.ContentDisposition = $"inline; filename=\"{name}\"";
                    return Results.Bytes(content, "application/pdf");
                }
            )
            .AllowAnonymous()
            .RequireRateLimiting("customer");
        app.MapGet(
                "/a/{token}/plan/{id:int}",
                async (
                    string token,
                    int id,
                    CustomerLinks links,
                    PlanPapers plans,
                    HttpContext http,
                    CancellationToken stop
                ) =>
                    await links.FindAccountAsync(token, stop) is { } customer
                        ? Plan(await plans.PdfAsync(customer, id, stop), http)
                        : Results.NotFound()
            )
            .AllowAnonymous()
            .RequireRateLimiting("customer");
        app.MapGet(
                "/collect/{id:int}/plans/{plan:int}",
                async (int id, int plan, PlanPapers plans, HttpContext http, CancellationToken stop) =>
                    Plan(await plans.PdfAsync(id, plan, stop), http)
            )
            .Needs(Right.See);
        app.MapGet(
                "/a/{token}/papers/{id:int}",
                async (
                    string token,
                    int id,
                    CustomerLinks links,
                    PayerScreens screens,
                    PaperRoom papers,
                    HttpContext http,
                    CancellationToken stop
                ) =>
                {
                    if (
                        await links.FindAccountAsync(token, stop) is not { } customer
                        || !await screens.MayKeepAsync(customer, id, stop)
                    )
                        return Results.NotFound();
                    var (name, content) = await papers.PdfAsync(id, [new PaperStyle()], stop);
                    http.Response.Headers.ContentDisposition = $"inline; filename=\"{name}\"";
                    return Results.Bytes(content, "application/pdf");
                }
            )
            .AllowAnonymous()
            .RequireRateLimiting("customer");
    }

    private static IResult Plan((string Name, byte[] Content)? plan, HttpContext http)
    {
        if (plan is not var (name, content))
            return Results.NotFound();
        http.Response.Headers.ContentDisposition = $"inline; filename=\"{name}\"";
        return Results.Bytes(content, "application/pdf");
    }

    /// <summary>
    /// Takes a message of the card service. It is told again unless the answer is 200: 401 where the signature is
    /// wrong, 409 where something it builds on was not told yet, 422 where it cannot be read.
    /// </summary>
    private static async Task<IResult> TellAsync(HttpContext http, CardMessages messages, CancellationToken stop)
    {
        using var body = new MemoryStream();
        var buffer = new byte[16 * 1024];
        int read;
        while ((read = await http.Request.Body.ReadAsync(buffer, stop)) > 0)
        {
            if (body.Length + read > LargestMessage)
                return Results.StatusCode(StatusCodes.Status413PayloadTooLarge);
            await body.WriteAsync(buffer.AsMemory(0, read), stop);
        }

        try
        {
            var taking = await messages.TakeAsync(
                new CardMessage(body.ToArray(), http.Request.Headers[SignatureHeader].ToString()),
                stop
            );
            return Results.Json(
                new { taken = taking.ToString().ToLowerInvariant() },
                statusCode: taking == Taking.Later ? StatusCodes.Status409Conflict : StatusCodes.Status200OK
            );
        }
        catch (RefusalException refused) when (refused is not NotAllowedException)
        {
            return Results.Json(
                new { refused = refused.Message },
                statusCode: refused.Refusals.Any(r => r.Field == "signature")
                    ? StatusCodes.Status401Unauthorized
                    : StatusCodes.Status422UnprocessableEntity
            );
        }
    }
}
