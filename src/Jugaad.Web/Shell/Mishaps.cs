using Jugaad.Desk.Books;
using Microsoft.AspNetCore.Diagnostics;

namespace Jugaad.Web.Shell;

/// <summary>
/// What is said when something was thrown that no page took care of. What the disk or a busy file does not let is told
/// as that, with a status that says so; only what is left is our fault, and stands in the log once in a while, with its
/// cause.
/// </summary>
internal sealed partial class Mishaps(OnceInAWhile quiet, ILogger<Mishaps> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(
        HttpContext httpContext,
        Exception exception,
        CancellationToken cancellationToken
    )
    {
        if (
            httpContext.RequestAborted.IsCancellationRequested && exception is OperationCanceledException or IOException
        )
            return true;
        var (status, words) = exception switch
        {
            BadHttpRequestException bad => (
                bad.StatusCode,
                "What was sent could not be read. Load the page again and repeat it; nothing has been done."
            ),
            _ when BooksTrouble.Of(exception) is { } trouble => (
                StatusCodes.Status503ServiceUnavailable,
                trouble.Words
            ),
            _ => (StatusCodes.Status500InternalServerError, ""),
        };
        if (
            quiet.Says($"{exception.GetType().Name} {httpContext.Request.Path.Value?.Split('/').ElementAtOrDefault(1)}")
        )
        {
            if (status == StatusCodes.Status500InternalServerError)
                Broke(exception, httpContext.Request.Method, httpContext.Request.Path);
            else
                Refused(httpContext.Request.Method, httpContext.Request.Path, status, exception.Message);
        }

        if (httpContext.Response.HasStarted)
            return true;
        httpContext.Response.StatusCode = status;
        if (httpContext.Request.Path.StartsWithSegments("/api"))
        {
            await httpContext.Response.WriteAsJsonAsync(
                new
                {
                    refusals = new[]
                    {
                        new
                        {
                            field = "",
                            message = words.Length > 0
                                ? words
                                : "Something went wrong. It is our fault and has been noted; nothing has been done.",
                        },
                    },
                },
                cancellationToken
            );
            return true;
        }

        if (words.Length == 0)
            return false;
        httpContext.Response.ContentType = "text/plain; charset=utf-8";
        await httpContext.Response.WriteAsync(words, cancellationToken);
        return true;
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "{Method} {Path} broke")]
    private partial void Broke(Exception exception, string method, string path);

    [LoggerMessage(Level = LogLevel.Warning, Message = "{Method} {Path} was answered with {Status}: {Why}")]
    private partial void Refused(string method, string path, int status, string why);
}
