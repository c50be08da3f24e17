using Jugaad.Core;
using Jugaad.Desk.Books;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Jugaad.Web.Shell;

/// <summary>
/// Guards what scripts call: a changing call needs the form token, and a refusal is answered as JSON with each field.
/// </summary>
internal sealed class ApiGuard : IEndpointFilter
{
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        if (
            HttpMethods.IsPost(http.Request.Method)
            && !await http.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(http)
        )
            return Results.Json(
                new
                {
                    stale = true,
                    refusals = new[]
                    {
                        new
                        {
                            field = "",
                            message = "This page was open too long. Nothing has been done yet; press the button again.",
                        },
                    },
                },
                statusCode: StatusCodes.Status400BadRequest
            );
        if (
            context.Arguments.FirstOrDefault(a => a is ICheckedForm) is ICheckedForm form
            && form.Missing() is { } missing
        )
            return Results.Json(
                new
                {
                    refusals = new[]
                    {
                        new
                        {
                            field = missing,
                            message = $"“{missing}” is missing or empty. Load the page again and repeat it.",
                        },
                    },
                },
                statusCode: StatusCodes.Status422UnprocessableEntity
            );
        try
        {
            return await next(context);
        }
        catch (RefusalException refused)
        {
            var format = (
                await http.RequestServices.GetRequiredService<BooksHead>().BusinessAsync(http.RequestAborted)
            ).Format;
            var status = refused switch
            {
                NotAllowedException => StatusCodes.Status403Forbidden,
                BusyException => StatusCodes.Status503ServiceUnavailable,
                _ => StatusCodes.Status422UnprocessableEntity,
            };
            return Results.Json(
                new { refusals = refused.Refusals.Select(r => new { field = r.Field, message = r.Phrase.In(format) }) },
                statusCode: status
            );
        }
    }

    /// <summary>A script that is not signed in gets 401; a person gets the sign-in page.</summary>
    internal static Task SignInOrSayAsync(RedirectContext<CookieAuthenticationOptions> context)
    {
        if (context.Request.Path.StartsWithSegments("/api"))
            context.Response.StatusCode = StatusCodes.Status401Unauthorized;
        else
            context.Response.Redirect(context.RedirectUri);
        return Task.CompletedTask;
    }
}
