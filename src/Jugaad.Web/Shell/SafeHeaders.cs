using Jugaad.Desk.Books;

namespace Jugaad.Web.Shell;

/// <summary>Headers that keep pages from running or loading what is not ours.</summary>
internal sealed class SafeHeaders(RequestDelegate next)
{
    private const string Policy =
        "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src 'self'; frame-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'self'";

    public Task InvokeAsync(HttpContext context)
    {
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy = Policy;
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()";
        if (!context.Request.Path.StartsWithSegments("/lib"))
            headers.CacheControl = "no-store";
        return next(context);
    }
}

/// <summary>While the books are empty, every page leads to the first-run page; afterwards that page is gone.</summary>
internal sealed class EmptyBooks(RequestDelegate next)
{
    private bool _setUp;

    public async Task InvokeAsync(HttpContext context, BooksHead head)
    {
        var path = context.Request.Path;
        var free = path.StartsWithSegments("/healthz") || path.StartsWithSegments("/fonts");
        if (!free && !_setUp)
            _setUp = await head.FindBusinessAsync(context.RequestAborted) is not null;
        if (!free && !_setUp && !path.StartsWithSegments("/first-run"))
            context.Response.Redirect("/first-run");
        else if (_setUp && path.StartsWithSegments("/first-run"))
            context.Response.Redirect("/sign-in");
        else
            await next(context);
    }
}
