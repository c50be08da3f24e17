using Jugaad.Desk.Books;

namespace Jugaad.Web.Shell;

/// <summary>Asks for the right that an address needs, before anything of what was sent is read.</summary>
internal sealed class NeededRights(RequestDelegate next)
{
    public Task InvokeAsync(HttpContext context, IActor actor)
    {
        if (context.GetEndpoint()?.Metadata.GetMetadata<NeedsAttribute>() is not { } needs || actor.May(needs.Right))
            return next(context);
        context.Response.StatusCode = StatusCodes.Status403Forbidden;
        return context.Request.Path.StartsWithSegments("/api")
            ? context.Response.WriteAsJsonAsync(
                new { refusals = new[] { new { field = "", message = new NotAllowedException(needs.Right).Message } } },
                context.RequestAborted
            )
            : Task.CompletedTask;
    }
}

/// <summary>Says of an address which right it needs.</summary>
internal static class NeededRightsOfEndpoints
{
    /// <summary>Only whoever has the right is answered. What is changed is checked at the desk besides.</summary>
    internal static RouteHandlerBuilder Needs(this RouteHandlerBuilder endpoint, Right right) =>
        endpoint.WithMetadata(new NeedsAttribute(right));
}
