using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Jugaad.Web.Shell;

/// <summary>
/// Ends what is read for a page, list or report once whoever asked for it has gone. What is being written is written to
/// its end.
/// </summary>
internal sealed class NobodyWaits(IHttpContextAccessor http) : DbCommandInterceptor
{
    public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<DbDataReader> result,
        CancellationToken cancellationToken = default
    )
    {
        if (
            http.HttpContext is { RequestAborted.IsCancellationRequested: true } gone
            && HttpMethods.IsGet(gone.Request.Method)
        )
            gone.RequestAborted.ThrowIfCancellationRequested();
        return ValueTask.FromResult(result);
    }
}
