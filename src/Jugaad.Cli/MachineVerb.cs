using System.CommandLine;
using Jugaad.Desk.Machine;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary>
/// <c>machine --data DIR</c>: says, or sets, how this machine is reached from outside, where no browser runs on it.
/// </summary>
internal static class MachineVerb
{
    internal static Command Make()
    {
        var data = BooksVerbs.Data();
        var address = new Option<string?>("--address")
        {
            Description = "The address that others use, such as https://books.example; empty (\"\") for none.",
            HelpName = "URL",
        };
        var proxies = new Option<string?>("--proxies")
        {
            Description = "The web servers to believe, such as \"127.0.0.1 10.1.0.0/16\"; empty (\"\") for none.",
            HelpName = "LIST",
        };
        var https = new Option<string?>("--https-only")
        {
            Description = "Whether the outside comes by HTTPS alone.",
            HelpName = "yes|no",
        };
        https.AcceptOnlyFromAmong("yes", "no");
        var verb = new Command(
            "machine",
            "Say how this machine is reached from outside. A running Jugaad takes it up within some seconds."
        )
        {
            data,
            address,
            proxies,
            https,
        };
        verb.SetAction(
            (parsed, stop) =>
                BooksVerbs.WithAsync(
                    parsed.GetRequiredValue(data),
                    async services =>
                    {
                        var setup = services.GetRequiredService<MachineSetup>();
                        var (newAddress, newProxies, newHttps) = (
                            parsed.GetValue(address),
                            parsed.GetValue(proxies),
                            parsed.GetValue(https)
                        );
                        var settings = await setup.SettingsAsync(stop);
                        if (newAddress is not null || newProxies is not null || newHttps is not null)
                        {
                            await setup.SaveAsync(
                                newAddress ?? settings.OutsideAddress,
                                newProxies ?? settings.Proxies,
                                newHttps is null ? settings.HttpsOnly : newHttps == "yes",
                                stop
                            );
                            settings = await setup.SettingsAsync(stop);
                        }

                        Console.WriteLine(
                            $"address     {(settings.OutsideAddress.Length > 0 ? settings.OutsideAddress : "none")}"
                        );
                        Console.WriteLine($"proxies     {(settings.Proxies.Length > 0 ? settings.Proxies : "none")}");
                        Console.WriteLine($"https-only  {(settings.HttpsOnly ? "yes" : "no")}");
                        return 0;
                    }
                )
        );
        return verb;
    }
}
