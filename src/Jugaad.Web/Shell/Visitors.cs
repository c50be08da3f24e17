using System.Net;
using System.Net.Sockets;
using System.Threading.RateLimiting;

namespace Jugaad.Web.Shell;

/// <summary>
/// Slows down who asks too much. The limits count by who really asks, and twenty people behind one address meet
/// neither.
/// </summary>
internal static class Visitors
{
    /// <summary>An hour's shared address of a whole office makes some dozens of sign-ins.</summary>
    private const int SignInsAMinute = 120;

    /// <summary>Links cannot be guessed; whoever tries many is slowed down all the same.</summary>
    private const int LinksAMinute = 600;

    internal static void AddLimits(IServiceCollection services) =>
        services.AddRateLimiter(limits =>
        {
            limits.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limits.AddPolicy("customer", context => Within(context, LinksAMinute));
            limits.AddPolicy(
                "sign-in",
                context =>
                    HttpMethods.IsPost(context.Request.Method)
                        ? Within(context, SignInsAMinute)
                        : RateLimitPartition.GetNoLimiter("")
            );
        });

    private static RateLimitPartition<string> Within(HttpContext context, int aMinute) =>
        RateLimitPartition.GetFixedWindowLimiter(
            Of(context.Connection.RemoteIpAddress),
            _ => new FixedWindowRateLimiterOptions { PermitLimit = aMinute, Window = TimeSpan.FromMinutes(1) }
        );

    /// <summary>
    /// Whom an address stands for: itself, or of IPv6 the network of one household, in which anybody has as many
    /// addresses as they like.
    /// </summary>
    internal static string Of(IPAddress? address)
    {
        if (address is { IsIPv4MappedToIPv6: true })
            address = address.MapToIPv4();
        return address is { AddressFamily: AddressFamily.InterNetworkV6 } && !IPAddress.IsLoopback(address)
            ? $"{new IPAddress([.. address.GetAddressBytes().Take(8), .. new byte[8]])}/64"
            : address?.ToString() ?? "";
    }
}
