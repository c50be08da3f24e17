using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Selling;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Endpoints;

/// <summary>Papers and kept mails as files.</summary>
internal static class PaperEndpoints
{
    internal static void MapPapers(this WebApplication app)
    {
        app.MapGet("/papers/{id:int}/pdf", async (int id, PaperRoom papers, HttpContext http, CancellationToken stop) =>
        {
            try
            {
                var (name, content) = await papers.PdfAsync(id, stop);
                http.Response.Headers.ContentDisposition = $"inline; filename=\"{name}\"";
                return Results.Bytes(content, "application/pdf");
            }
            catch (RefusalException)
            {
                return Results.NotFound();
            }
        });
        app.MapGet("/logo.png", async (BooksHead head) => await head.FindBusinessAsync() is { Logo: { } logo } ? Results.Bytes(logo, "image/png") : Results.NotFound());
        app.MapGet("/signature.png", async (BooksHead head) => await head.FindBusinessAsync() is { Signature: { } signature } ? Results.Bytes(signature, "image/png") : Results.NotFound());
        app.MapGet("/post/{id:int}/attachments/{index:int}", async (int id, int index, BooksContext db, IActor actor, IKeptMails mails, CancellationToken stop) =>
        {
            if (!actor.May(Right.See)) return Results.StatusCode(StatusCodes.Status403Forbidden);
            var key = await db.Post.Where(p => p.Id == id).Select(p => p.Key).SingleOrDefaultAsync(stop);
            var attachments = key is null ? null : mails.Find(key)?.Attachments;
            return attachments is null || index < 0 || index >= attachments.Count ? Results.NotFound() : Results.File(attachments[index].Content, "application/pdf", attachments[index].Name);
        });
    }
}
