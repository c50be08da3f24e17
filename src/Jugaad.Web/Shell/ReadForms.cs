using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.Options;

namespace Jugaad.Web.Shell;

/// <summary>
/// Reads what a form sends before anything else is done with it, so that one that is broken, too large or stands still
/// gets a short answer of its own: 400, 413 or 408. Whoever is not signed in sends little.
/// </summary>
internal sealed partial class ReadForms(
    RequestDelegate next,
    OnceInAWhile quiet,
    IOptions<FormOptions> forms,
    ILogger<ReadForms> log
)
{
    private const long MostOfAStranger = 256 * 1024;

    public async Task InvokeAsync(HttpContext context)
    {
        if (!context.Request.HasFormContentType)
        {
            await next(context);
            return;
        }

        try
        {
            Bound(context);
            await context.Request.ReadFormAsync(context.RequestAborted);
        }
        catch (Exception broken)
            when (broken is BadHttpRequestException or InvalidDataException or IOException or OperationCanceledException
            )
        {
            var status = broken switch
            {
                BadHttpRequestException bad => bad.StatusCode,
                InvalidDataException when broken.Message.Contains("limit", StringComparison.OrdinalIgnoreCase) =>
                    StatusCodes.Status413PayloadTooLarge,
                InvalidDataException => StatusCodes.Status400BadRequest,
                IOException when broken.Message.Contains("Unexpected end", StringComparison.Ordinal) =>
                    StatusCodes.Status400BadRequest,
                _ => StatusCodes.Status408RequestTimeout,
            };
            if (quiet.Says($"form {status}"))
                FormRefused(context.Request.Path, status, broken.Message);
            await SayAsync(context, status);
            return;
        }

        await next(context);
    }

    /// <summary>How much this form may bring: little from a stranger, more where the page says so.</summary>
    private void Bound(HttpContext context)
    {
        var metadata = context.GetEndpoint()?.Metadata;
        var large = metadata?.GetMetadata<LargeUploadAttribute>();
        if ((metadata?.GetMetadata<IAllowAnonymous>() is not null ? MostOfAStranger : large?.Most) is not { } bound)
            return;
        if (context.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } most)
            most.MaxRequestBodySize = bound;
        if (large is null)
            return;
        var usual = forms.Value;
        context.Features.Set<IFormFeature>(
            new FormFeature(
                context.Request,
                new FormOptions
                {
                    MultipartBodyLengthLimit = large.Most,
                    ValueLengthLimit = usual.ValueLengthLimit,
                    ValueCountLimit = usual.ValueCountLimit,
                }
            )
        );
    }

    private static Task SayAsync(HttpContext context, int status)
    {
        if (context.Response.HasStarted || context.RequestAborted.IsCancellationRequested)
            return Task.CompletedTask;
        context.Response.StatusCode = status;
        // Nothing of it is shown again: the form could not be read.
        context.Response.ContentType = "text/plain; charset=utf-8";
        return context.Response.WriteAsync(
            status switch
            {
                StatusCodes.Status413PayloadTooLarge =>
                    "What was sent is too large. Go back and send less at once; nothing has been done.",
                StatusCodes.Status408RequestTimeout =>
                    "What was sent did not come to its end in time. Go back and try again; nothing has been done.",
                _ =>
                    "What was sent could not be read. Go back, load the page again and repeat it; nothing has been done.",
            }
        );
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "A form to {Path} was answered with {Status}: {Why}")]
    private partial void FormRefused(string path, int status, string why);
}

/// <summary>Lets each kind of thing be said in the log once in a while, however often it happens.</summary>
public sealed class OnceInAWhile(TimeProvider clock)
{
    private static readonly TimeSpan While = TimeSpan.FromMinutes(10);
    private readonly System.Collections.Concurrent.ConcurrentDictionary<string, DateTimeOffset> _said = new();

    /// <summary>Whether it is to be said now.</summary>
    public bool Says(string kind)
    {
        var now = clock.GetUtcNow();
        var before = _said.GetValueOrDefault(kind);
        if (now - before < While)
            return false;
        return before == default ? _said.TryAdd(kind, now) : _said.TryUpdate(kind, now, before);
    }
}
