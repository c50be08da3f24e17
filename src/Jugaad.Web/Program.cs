using Jugaad.Web.Shell;

var launch = LaunchOptions.Read(args);
if (launch is null) return 2;

WebApplication? app;
try
{
    app = await WebHost.BuildAsync(launch);
    if (app is null) return 1;
    await app.StartAsync();
}
catch (Exception cannot) when (cannot is IOException or UnauthorizedAccessException)
{
    Console.Error.WriteLine($"Jugaad cannot start: {cannot.Message}");
    Console.Error.WriteLine("If the address is in use, give another port with --port; if the folder cannot be written, give another with --data.");
    return 1;
}

Console.WriteLine($"Jugaad is listening on {app.Urls.First()}");
if (launch.Demo) Console.WriteLine($"Sign in as {Jugaad.Demo.DemoBooks.People[0].Email} with the password “{Jugaad.Demo.DemoBooks.Password}”. Ctrl+C ends it.");
await app.WaitForShutdownAsync();
return 0;

/// <summary>Made public for the tests.</summary>
public partial class Program;
