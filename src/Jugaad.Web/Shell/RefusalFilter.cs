using System.Reflection;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Jugaad.Web.Shell;

/// <summary>Only whoever has the right sees the page. What a page changes is checked at the desk besides.</summary>
[AttributeUsage(AttributeTargets.Class | AttributeTargets.Method)]
public sealed class NeedsAttribute(Right right) : Attribute
{
    public Right Right { get; } = right;
}

/// <summary>
/// Only whoever has the right sends a form of the page, or this one of its forms, be it for a look at what would come
/// of it.
/// </summary>
[AttributeUsage(AttributeTargets.Class | AttributeTargets.Method)]
public sealed class PostsAttribute(Right right) : Attribute
{
    public Right Right { get; } = right;
}

/// <summary>
/// Shows a page again with what was refused beside the fields and all that was typed still there. That goes for a form
/// whose token has expired too: nothing has been done then, and pressing the button again is enough.
/// </summary>
internal sealed class RefusalFilter : IAsyncPageFilter
{
    /// <summary>What is needed to send a form; the desk asks again.</summary>
    /// <exception cref="InvalidOperationException">When nobody said, which the table of rights shows.</exception>
    internal static Right RightOf(MethodInfo handler, Type page) =>
        (handler.GetCustomAttribute<PostsAttribute>() ?? page.GetCustomAttribute<PostsAttribute>())?.Right
        ?? throw new InvalidOperationException($"{page.Name} does not say who may send its forms.");

    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(
        PageHandlerExecutingContext context,
        PageHandlerExecutionDelegate next
    )
    {
        if (context.HandlerInstance is not DeskPage page)
            throw new InvalidOperationException("Every page is a DeskPage.");
        await page.ReadHeadAsync();
        if (page.GetType().GetCustomAttribute<NeedsAttribute>() is { } needs && !page.May(needs.Right))
        {
            context.Result = new StatusCodeResult(StatusCodes.Status403Forbidden);
            return;
        }

        // A form that this page does not have: an old page, or a mistyped address.
        if (context.HandlerMethod is null)
        {
            context.Result = new NotFoundResult();
            return;
        }

        if (
            HttpMethods.IsPost(context.HttpContext.Request.Method)
            && !page.May(RightOf(context.HandlerMethod.MethodInfo, page.GetType()))
        )
        {
            context.Result = new StatusCodeResult(StatusCodes.Status403Forbidden);
            return;
        }

        if (
            HttpMethods.IsPost(context.HttpContext.Request.Method)
            && page.GetType().GetCustomAttribute<IgnoreAntiforgeryTokenAttribute>() is null
            && !await context
                .HttpContext.RequestServices.GetRequiredService<IAntiforgery>()
                .IsRequestValidAsync(context.HttpContext)
        )
        {
            context.Result = await page.RefuseAsync([
                new Refusal(
                    "",
                    "This page was open too long, so nothing has been done yet. What you typed is still here: press the button again."
                ),
            ]);
            return;
        }

        var done = await next();
        if (done.Exception is null || done.ExceptionHandled)
            return;
        if (done.Exception is not RefusalException refused)
        {
            // A full disk or a busy file takes nothing that was typed away either.
            if (
                BooksTrouble.Of(done.Exception) is not { } trouble
                || !HttpMethods.IsPost(context.HttpContext.Request.Method)
            )
                return;
            if (context.HttpContext.RequestServices.GetRequiredService<OnceInAWhile>().Says(trouble.Words))
                Serilog.Log.Warning(
                    "{Path} could not be written: {Why}",
                    context.HttpContext.Request.Path,
                    trouble.Words
                );
            done.Result = await page.RefuseAsync(
                [new Refusal("", $"{trouble.Words}")],
                StatusCodes.Status503ServiceUnavailable
            );
            done.ExceptionHandled = true;
            return;
        }

        done.ExceptionHandled = true;
        done.Result = refused switch
        {
            NotAllowedException => new StatusCodeResult(StatusCodes.Status403Forbidden),
            BusyException => await page.RefuseAsync(refused.Refusals, StatusCodes.Status503ServiceUnavailable),
            _ => await page.RefuseAsync(refused.Refusals),
        };
    }
}
