using System.Net;
using Jugaad.Desk.Machine;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.Extensions.Options;
using IPNetwork = System.Net.IPNetwork;

namespace Jugaad.Web.Shell;

/// <summary>How this machine is reached, as it was last read from the books.</summary>
/// <param name="Address">Null where nothing is said of the outside.</param>
internal sealed record Reach(Uri? Address, IReadOnlyList<IPNetwork> Proxies, bool HttpsOnly)
{
    /// <summary>The name, with its port where that is not the usual one, as a request would say it.</summary>
    public string Host => Address?.Authority ?? "";
}

/// <summary>
/// Keeps at hand how the machine is reached. It is read again after some seconds, so that a word of the launcher counts
/// without a new start.
/// </summary>
internal sealed class Outside(IServiceScopeFactory scopes, ILoggerFactory logs, TimeProvider clock)
{
    private static readonly TimeSpan Fresh = TimeSpan.FromSeconds(5);

    private sealed record Kept(Reach Reach, ForwardedHeadersMiddleware Believing, long At);

    private Kept? _kept;

    /// <summary>As it was last read; nothing of an outside before it was.</summary>
    public Reach Last => _kept?.Reach ?? new Reach(null, [], false);

    public async Task<Reach> NowAsync(CancellationToken stop) => (await KeptAsync(stop)).Reach;

    /// <summary>Takes the word of a proxy that is believed for who asks and by which scheme.</summary>
    public async Task BelieveAsync(HttpContext context) =>
        (await KeptAsync(context.RequestAborted)).Believing.ApplyForwarders(context);

    /// <summary>Has it be read anew.</summary>
    public void Forget() => _kept = null;

    private async Task<Kept> KeptAsync(CancellationToken stop)
    {
        if (_kept is { } kept && clock.GetElapsedTime(kept.At) < Fresh)
            return kept;
        await using var scope = scopes.CreateAsyncScope();
        var settings = await scope.ServiceProvider.GetRequiredService<MachineSetup>().SettingsAsync(stop);
        List<IPNetwork> proxies = [];
        foreach (var one in settings.Proxies.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            if (MachineSetup.TryReadProxy(one, out var range))
                proxies.Add(range.Value);
        var reach = new Reach(
            Uri.TryCreate(settings.OutsideAddress, UriKind.Absolute, out var address) ? address : null,
            proxies,
            settings.HttpsOnly
        );
        return _kept = new Kept(reach, Believing(proxies), clock.GetTimestamp());
    }

    private ForwardedHeadersMiddleware Believing(IEnumerable<IPNetwork> proxies)
    {
        var options = new ForwardedHeadersOptions
        {
            ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto,
            ForwardLimit = null,
        };
        options.KnownProxies.Clear();
        options.KnownIPNetworks.Clear();
        foreach (var proxy in proxies)
            options.KnownIPNetworks.Add(proxy);
        // Where nobody is believed, the library would believe everybody.
        if (options.KnownIPNetworks.Count == 0)
            options.ForwardedHeaders = ForwardedHeaders.None;
        return new ForwardedHeadersMiddleware(_ => Task.CompletedTask, logs, Options.Create(options));
    }
}

/// <summary>
/// Lets in what is called by our name: the outside's, or this machine's own. By HTTPS alone where it is said.
/// </summary>
internal sealed class OutsideGate(RequestDelegate next, Outside outside)
{
    private const string Strict = "max-age=31536000";

    public async Task InvokeAsync(HttpContext context)
    {
        await outside.BelieveAsync(context);
        var reach = await outside.NowAsync(context.RequestAborted);
        var request = context.Request;
        if (IsOurOwn(context, reach) || request.Path.StartsWithSegments("/healthz"))
        {
            await next(context);
            return;
        }

        if (!string.Equals(request.Host.Value, reach.Host, StringComparison.OrdinalIgnoreCase) || reach.Address is null)
        {
            await SayAsync(
                context,
                StatusCodes.Status421MisdirectedRequest,
                reach.Address is null
                    ? "This program was asked for under a name that it does not have. Its owner says under Setup, this machine, how it is reached from outside; on the machine itself, ./jugaad machine says it too."
                    : $"This program is not called that. It is reached at {reach.Address.GetLeftPart(UriPartial.Authority)}"
            );
            return;
        }

        if (reach.HttpsOnly && !request.IsHttps)
        {
            if (HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method))
                context.Response.Redirect(
                    reach.Address.GetLeftPart(UriPartial.Authority)
                        + request.PathBase
                        + request.Path
                        + request.QueryString,
                    permanent: false
                );
            else
                await SayAsync(
                    context,
                    StatusCodes.Status403Forbidden,
                    $"What is sent here must come by HTTPS: {reach.Address.GetLeftPart(UriPartial.Authority)}"
                );
            return;
        }

        if (reach.HttpsOnly)
            context.Response.Headers.StrictTransportSecurity = Strict;
        await next(context);
    }

    /// <summary>
    /// The names under which the machine itself has always a way in, so that no setting shuts its owner out. They are
    /// numbers or <c>localhost</c>: no other site's name can be made to point here. Who comes through a proxy that is
    /// believed is not the machine itself, whatever they call it; and where the outside comes by HTTPS alone, its
    /// network number is no way around that.
    /// </summary>
    private static bool IsOurOwn(HttpContext context, Reach reach)
    {
        var (host, connection) = (context.Request.Host.Host.Trim('[', ']'), context.Connection);
        var isHere =
            connection.RemoteIpAddress is { } visitor
            && (IPAddress.IsLoopback(visitor) || visitor.Equals(connection.LocalIpAddress));
        if (string.Equals(host, "localhost", StringComparison.OrdinalIgnoreCase))
            return isHere;
        if (!IPAddress.TryParse(host, out var called))
            return false;
        return IPAddress.IsLoopback(called)
            ? isHere
            : called.Equals(Plain(connection.LocalIpAddress)) && (isHere || !reach.HttpsOnly);
    }

    private static IPAddress? Plain(IPAddress? address) =>
        address is { IsIPv4MappedToIPv6: true } ? address.MapToIPv4() : address;

    private static Task SayAsync(HttpContext context, int status, string words)
    {
        context.Response.StatusCode = status;
        context.Response.ContentType = "text/plain; charset=utf-8";
        return context.Response.WriteAsync(words, context.RequestAborted);
    }
}
