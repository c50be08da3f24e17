using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;

namespace Jugaad.Bench;

/// <summary>The real program as a process of its own, visited over HTTP by somebody who is signed in.</summary>
internal sealed partial class Served : IAsyncDisposable
{
    private readonly Process _process;
    private readonly HttpClient _http;

    private Served(Process process, HttpClient http) => (_process, _http) = (process, http);

    internal static async Task<Served> StartAsync(string root, string folder)
    {
        var program = Path.Combine(root, "src", "Jugaad.Web", "bin", "Release", "net10.0", "Jugaad.Web.dll");
        var start = new ProcessStartInfo(
            "dotnet",
            [
                program,
                "serve",
                "--data",
                folder,
                "--port",
                "0",
                "--contentRoot",
                Path.Combine(root, "src", "Jugaad.Web"),
            ]
        )
        {
            RedirectStandardOutput = true,
        };
        start.Environment["DOTNET_ENVIRONMENT"] = "Production";
        var process = Process.Start(start)!;
        string? address = null;
        while (address is null && await process.StandardOutput.ReadLineAsync() is { } line)
            address = AddressIn().Match(line) is { Success: true } found ? found.Value : null;
        if (address is null)
            throw new InvalidOperationException("The program did not start.");
        _ = process.StandardOutput.ReadToEndAsync();
        var http = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer() })
        {
            BaseAddress = new Uri(address),
        };
        var served = new Served(process, http);
        await served.SignInAsync();
        return served;
    }

    private async Task SignInAsync()
    {
        var page = await _http.GetStringAsync("/sign-in");
        var fields = HiddenField()
            .Matches(page)
            .DistinctBy(m => m.Groups[1].Value)
            .ToDictionary(m => m.Groups[1].Value, m => WebUtility.HtmlDecode(m.Groups[2].Value));
        fields["email"] = Books.Email;
        fields["password"] = Books.Password;
        using var form = new FormUrlEncodedContent(fields);
        using var answer = await _http.PostAsync("/sign-in", form);
        if (answer.RequestMessage!.RequestUri!.AbsolutePath != "/")
            throw new InvalidOperationException("Signing in did not work.");
    }

    internal async Task GetAsync(string path)
    {
        using var answer = await _http.GetAsync(path);
        if (answer.StatusCode != HttpStatusCode.OK)
            throw new InvalidOperationException($"{path} answered {(int)answer.StatusCode}.");
        await answer.Content.ReadAsByteArrayAsync();
    }

    /// <summary>The most memory that the process had so far, in MB (10^6 bytes).</summary>
    internal double PeakMemory() =>
        double.Parse(
            File.ReadLines($"/proc/{_process.Id}/status")
                .Single(l => l.StartsWith("VmHWM", StringComparison.Ordinal))
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)[1],
            CultureInfo.InvariantCulture
        )
        * 1_024
        / 1_000_000;

    public async ValueTask DisposeAsync()
    {
        _http.Dispose();
        _process.Kill();
        await _process.WaitForExitAsync();
        _process.Dispose();
    }

    [GeneratedRegex(@"http://127\.0\.0\.1:\d+")]
    private static partial Regex AddressIn();

    [GeneratedRegex("<input[^>]*type=\"hidden\"[^>]*name=\"([^\"]+)\"[^>]*value=\"([^\"]*)\"")]
    private static partial Regex HiddenField();
}
