using System.Reflection;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Jugaad.Web.Shell;

/// <summary>Only whoever has the right sees the page. What a page changes is checked at the desk besides.</summary>
[AttributeUsage(AttributeTargets.Class)]
public sealed class NeedsAttribute(Right right) : Attribute
{
    public Right Right { get; } = right;
}

/// <summary>
/// Shows a page again with what was refused beside the fields and all that was typed still there. That goes for a form
/// whose token has expired too: nothing has been done then, and pressing the button again is enough.
/// </summary>
internal sealed class RefusalFilter : IAsyncPageFilter
{
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        if (context.HandlerInstance is not DeskPage page) throw new InvalidOperationException("Every page is a DeskPage.");
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

        if (HttpMethods.IsPost(context.HttpContext.Request.Method) && page.GetType().GetCustomAttribute<IgnoreAntiforgeryTokenAttribute>() is null
            && !await context.HttpContext.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(context.HttpContext))
        {
            context.Result = await page.RefuseAsync([new Refusal("", "This page was open too long, so nothing has been done yet. What you typed is still here: press the button again.")]);
            return;
        }

        var done = await next();
        if (done.Exception is null || done.ExceptionHandled) return;
        if (done.Exception is not RefusalException refused)
        {
            // A full disk or a busy file takes nothing that was typed away either.
            if (BooksTrouble.Of(done.Exception) is not { } trouble || !HttpMethods.IsPost(context.HttpContext.Request.Method)) return;
            done.Result = await page.RefuseAsync([new Refusal("", $"{trouble.Words}")], StatusCodes.Status503ServiceUnavailable);
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
