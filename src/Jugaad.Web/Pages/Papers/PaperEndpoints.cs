using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Web.Shell;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Papers;

/// <summary>Papers and kept mails as files.</summary>
internal static class PaperEndpoints
{
    /// <summary>Papers that are drawn into one file at once.</summary>
    internal const int MostOfPile = 200;

    internal static void MapPapers(this WebApplication app)
    {
        app.MapGet(
                "/papers/{id:int}/pdf",
                async (
                    int id,
                    string? marks,
                    string? style,
                    PaperRoom papers,
                    HttpContext http,
                    CancellationToken stop
                ) =>
                {
                    var styles = (marks ?? "")
                        .Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                        .Take(9)
                        .DefaultIfEmpty("")
                        .Select(mark => new PaperStyle(
                            mark.Length > 30 ? mark[..30] : mark,
                            style == "packing",
                            style == "slip"
                        ))
                        .ToList();
                    return await PdfAsync(id, styles, papers, http, stop);
                }
            )
            .Needs(Right.Self);
        app.MapGet(
                "/p/{token}/pdf",
                async (string token, CustomerLinks links, PaperRoom papers, HttpContext http, CancellationToken stop) =>
                    await links.FindAsync(token, stop) is { } document
                        ? await PdfAsync(document.Id, [new PaperStyle()], papers, http, stop)
                        : Results.NotFound()
            )
            .AllowAnonymous()
            .RequireRateLimiting("customer");
        app.MapGet(
                "/p/{token}/pictures/{picture}",
                async (string token, string picture, CustomerLinks links, BooksHead head, CancellationToken stop) =>
                    await links.FindAsync(token, stop) is null
                        ? Results.NotFound()
                        : (picture, await head.BusinessAsync(stop)) switch
                        {
                            ("logo", { Logo: { } logo }) => KeptPictures.Shown(logo),
                            ("signature", { Signature: { } signature }) => KeptPictures.Shown(signature),
                            _ => Results.NotFound(),
                        }
            )
            .AllowAnonymous()
            .RequireRateLimiting("customer");
        app.MapGet(
                "/post/pile.pdf",
                async (PrintPile pile, HttpContext http, CancellationToken stop) =>
                {
                    if (await pile.PdfAsync(stop) is not { } pdf)
                        return Results.NotFound();
                    http.Response.Headers.ContentDisposition = "inline; filename=\"pile.pdf\"";
                    return Results.Bytes(pdf, "application/pdf");
                }
            )
            .Needs(Right.Mail);
        app.MapGet(
                "/papers/pile.pdf",
                async (PaperRoom papers, HttpContext http, CancellationToken stop) =>
                {
                    var only = new Asked(http.Request.Query, _ => null).Only ?? [];
                    if (only.Count == 0)
                        return Results.NotFound();
                    if (only.Count > MostOfPile)
                        return Results.Text(
                            $"At most {MostOfPile} papers go into one file.",
                            statusCode: StatusCodes.Status422UnprocessableEntity
                        );
                    try
                    {
                        var pile = await papers.PileAsync([.. only.Select(id => (id, new PaperStyle()))], stop);
                        http.Response.Headers.ContentDisposition = "inline; filename=\"papers.pdf\"";
                        return Results.Bytes(pile, "application/pdf");
                    }
                    catch (RefusalException refused)
                    {
                        return Results.Text(refused.Message, statusCode: StatusCodes.Status422UnprocessableEntity);
                    }
                }
            )
            .Needs(Right.Self);
        app.MapGet(
                "/papers/{id:int}/files/{file:int}",
                async (int id, int file, Files files, CancellationToken stop) =>
                {
                    try
                    {
                        // Always kept to disk, never shown: a file that a customer sent may be anything.
                        return await files.OpenAsync(id, file, stop) is { } kept
                            ? Results.File(kept.Content, "application/octet-stream", kept.Name)
                            : Results.NotFound();
                    }
                    catch (NotAllowedException)
                    {
                        return Results.StatusCode(StatusCodes.Status403Forbidden);
                    }
                }
            )
            .Needs(Right.Self);
        app.MapGet(
                "/pictures/logo",
                async (BooksHead head) =>
                    await head.FindBusinessAsync() is { Logo: { } logo } ? KeptPictures.Shown(logo) : Results.NotFound()
            )
            .Needs(Right.Self);
        app.MapGet(
                "/pictures/signature",
                async (BooksHead head) =>
                    await head.FindBusinessAsync() is { Signature: { } signature }
                        ? KeptPictures.Shown(signature)
                        : Results.NotFound()
            )
            .Needs(Right.Self);
        app.MapGet(
                "/post/{id:int}/attachments/{index:int}",
                async (int id, int index, BooksContext db, IKeptMails mails, CancellationToken stop) =>
                {
                    var key = await db.Post.Where(p => p.Id == id).Select(p => p.Key).SingleOrDefaultAsync(stop);
                    var attachments = key is null ? null : mails.Find(key)?.Attachments;
                    return attachments is null || index < 0 || index >= attachments.Count
                        ? Results.NotFound()
                        : Results.File(attachments[index].Content, "application/pdf", attachments[index].Name);
                }
            )
            .Needs(Right.See);
        app.MapGet(
                "/receive/{id:int}/pdf",
                (int id, MoneyPapers money, HttpContext http, CancellationToken stop) =>
                    MoneyAsync(money, () => money.ReceiptAsync(id, stop), http, stop)
            )
            .Needs(Right.See);
        app.MapGet(
                "/refunds/{id:int}/pdf",
                (int id, MoneyPapers money, HttpContext http, CancellationToken stop) =>
                    MoneyAsync(money, () => money.RefundAsync(id, stop), http, stop)
            )
            .Needs(Right.See);
        app.MapGet(
                "/post/{id:int}/sent/{position:int}",
                async (int id, int position, SentPapers sent, CancellationToken stop) =>
                    await sent.FindAsync(id, position, stop) is { } file
                        ? Results.File(
                            file.Data,
                            file.Name.EndsWith(".pdf", StringComparison.OrdinalIgnoreCase)
                                ? "application/pdf"
                                : "application/octet-stream",
                            file.Name
                        )
                        : Results.NotFound()
            )
            .Needs(Right.See);
    }

    private static Task<IResult> MoneyAsync(
        MoneyPapers money,
        Func<Task<DisplayList>> paper,
        HttpContext http,
        CancellationToken stop
    ) => InlineAsync(async () => await money.PdfAsync(await paper(), stop), http);

    private static Task<IResult> PdfAsync(
        int id,
        IReadOnlyList<PaperStyle> styles,
        PaperRoom papers,
        HttpContext http,
        CancellationToken stop
    ) => InlineAsync(() => papers.PdfAsync(id, styles, stop), http);

    /// <summary>A PDF to be looked at in the browser; not there, where it is refused.</summary>
    private static async Task<IResult> InlineAsync(Func<Task<(string Name, byte[] Content)>> pdf, HttpContext http)
    {
        try
        {
            var (name, content) = await pdf();
            http.Response.Headers.ContentDisposition = $"inline; filename=\"{name}\"";
            return Results.Bytes(content, "application/pdf");
        }
        catch (RefusalException)
        {
            return Results.NotFound();
        }
    }
}
