using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Net;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Machine;

/// <summary>Says how this machine is reached from outside.</summary>
public sealed class MachineSetup(BooksContext db, BookWriter writer)
{
    private const int MostProxies = 20;

    public async Task<MachineSettings> SettingsAsync(CancellationToken stop = default) =>
        await db.MachineSettings.AsNoTracking().FirstOrDefaultAsync(stop) ?? new MachineSettings();

    /// <exception cref="RefusalException">With all that is wrong of the address, the proxies, and the two
    /// together.</exception>
    public Task<int> SaveAsync(string outsideAddress, string proxies, bool httpsOnly, Once once = default) =>
        writer.WriteAsync(
            Right.Keep,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                var address = outsideAddress.Trim();
                if (address.Length > 0)
                {
                    if (ReadAddress(address) is { } read)
                        address = read;
                    else
                        refusals.Add(
                            "outsideAddress",
                            "Give the address as others type it, with http:// or https:// and nothing after the name and port, such as https://books.example."
                        );
                }

                var believed = proxies.Split([' ', ',', ';', '\r', '\n', '\t'], StringSplitOptions.RemoveEmptyEntries);
                if (believed.Length > MostProxies)
                    refusals.Add("proxies", $"At most {MostProxies}; give a range instead.");
                foreach (var one in believed)
                {
                    if (!TryReadProxy(one, out var range))
                        refusals.Add(
                            "proxies",
                            $"“{(one.Length > 60 ? one[..60] : one)}” is no address of a machine. Give it like 127.0.0.1, or a range like 10.1.0.0/16."
                        );
                    else if (range.Value.PrefixLength == 0)
                        refusals.Add(
                            "proxies",
                            "That range is the whole world: anybody could then say where they come from. Name the proxies alone."
                        );
                }

                if (httpsOnly && !address.StartsWith("https://", StringComparison.Ordinal))
                    refusals.Add("httpsOnly", "For HTTPS alone, give the address of the outside with https://.");
                if (httpsOnly && believed.Length == 0)
                    refusals.Add(
                        "httpsOnly",
                        "HTTPS ends at a proxy: name the one to believe, such as 127.0.0.1. Without it every visit from outside looks like plain HTTP, and none would be let in."
                    );
                refusals.ThrowIfAny();
                var settings = await db.MachineSettings.FirstOrDefaultAsync(stop);
                if (settings is null)
                    db.MachineSettings.Add(settings = new MachineSettings());
                (settings.OutsideAddress, settings.Proxies, settings.HttpsOnly) = (
                    address,
                    string.Join(' ', believed),
                    httpsOnly
                );
                await writer.TrailAsync(
                    $"This machine is reached at {(address.Length > 0 ? address : "no address from outside")}{(httpsOnly ? ", by HTTPS alone" : "")}; proxies believed: {(believed.Length > 0 ? settings.Proxies : "none")}"
                );
                return 0;
            }
        );

    /// <summary>Reads a proxy's address or range.</summary>
    public static bool TryReadProxy(string typed, [NotNullWhen(true)] out IPNetwork? range)
    {
        range = null;
        if (typed.Contains('/', StringComparison.Ordinal))
        {
            if (IPNetwork.TryParse(typed, out var network))
                range = network;
        }
        // A bare number is an address to the library (0.0.0.5), but not to who typed it.
        else if (
            (
                typed.Contains('.', StringComparison.Ordinal)
                    ? typed.Count(c => c == '.') == 3
                    : typed.Contains(':', StringComparison.Ordinal)
            ) && IPAddress.TryParse(typed, out var address)
        )
        {
            range = new IPNetwork(address, address.GetAddressBytes().Length * 8);
        }

        return range is not null;
    }

    /// <summary>
    /// The address alone: scheme, name in the letters of the net (punycode), and port where it is not the usual one.
    /// Null for what is none.
    /// </summary>
    private static string? ReadAddress(string typed)
    {
        if (
            typed.Length > 200
            || !Uri.TryCreate(typed, UriKind.Absolute, out var uri)
            || uri.Scheme is not ("http" or "https")
        )
            return null;
        if (uri.UserInfo.Length > 0 || uri.PathAndQuery != "/" || uri.Fragment.Length > 0 || uri.IdnHost.Length == 0)
            return null;
        var host = uri.HostNameType == UriHostNameType.IPv6 ? $"[{uri.IdnHost}]" : uri.IdnHost;
        return $"{uri.Scheme}://{host}{(uri.IsDefaultPort ? "" : string.Create(CultureInfo.InvariantCulture, $":{uri.Port}"))}";
    }
}
