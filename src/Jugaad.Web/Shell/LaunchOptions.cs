using System.Net;

namespace Jugaad.Web.Shell;

/// <summary>What the launcher asked for.</summary>
/// <param name="Fresh">Make the demo's books anew.</param>
/// <param name="ContentRoot">Where wwwroot is; null for the current folder.</param>
/// <param name="Listen">The machine's own address to listen on; null for the one that only this machine
/// reaches.</param>
/// <param name="MadeBooks">Where the demo's books are kept as they were made; null where nothing is kept.</param>
internal sealed record LaunchOptions(
    bool Demo,
    string Data,
    int Port,
    bool Fresh,
    string? ContentRoot = null,
    IPAddress? Listen = null,
    string? MadeBooks = null
)
{
    /// <summary>Reads the verb and its options; says what is wrong and returns null when it cannot.</summary>
    internal static LaunchOptions? Read(string[] args)
    {
        var demo = args.FirstOrDefault() == "demo";
        var data = "";
        var port = 5080;
        var fresh = false;
        string? contentRoot = null;
        string? madeBooks = null;
        IPAddress? listen = null;
        for (var i = 1; i < args.Length; i++)
        {
            switch (args[i])
            {
                case "--data" when i + 1 < args.Length:
                    data = args[++i];
                    break;
                case "--port"
                    when i + 1 < args.Length
                        && int.TryParse(args[i + 1], out var number)
                        && number is >= 0 and <= 65535:
                    port = number;
                    i++;
                    break;
                case "--listen" when !demo && i + 1 < args.Length && IPAddress.TryParse(args[i + 1], out var address):
                    listen = address;
                    i++;
                    break;
                case "--fresh" when demo:
                    fresh = true;
                    break;
                // The launcher adds these; they are not for people.
                case "--contentRoot" when i + 1 < args.Length:
                    contentRoot = args[++i];
                    break;
                case "--madeBooks" when i + 1 < args.Length:
                    madeBooks = args[++i];
                    break;
                default:
                    Console.Error.WriteLine($"“{args[i]}” means nothing here, or lacks its value. {Usage(demo)}");
                    return null;
            }
        }

        if (data.Length > 0)
            return new LaunchOptions(demo, data, port, fresh, contentRoot, listen, madeBooks);
        Console.Error.WriteLine($"Say where the books are with --data DIR. {Usage(demo)}");
        return null;
    }

    private static string Usage(bool demo) =>
        demo
            ? "Use: ./jugaad demo [--port N] [--data DIR] [--fresh]"
            : "Use: ./jugaad serve --data DIR [--port N] [--listen ADDRESS]";
}
