using Jugaad.Web.Shell;

var launch = LaunchOptions.Read(args);
if (launch is null) return 2;

var app = await WebHost.BuildAsync(launch);
if (app is null) return 1;
await app.StartAsync();
Console.WriteLine($"Jugaad is listening on {app.Urls.First()}");
if (launch.Demo) Console.WriteLine($"Sign in as {Jugaad.Demo.DemoBooks.People[0].Email} with the password “{Jugaad.Demo.DemoBooks.Password}”. Ctrl+C ends it.");
await app.WaitForShutdownAsync();
return 0;

/// <summary>Made public for the tests.</summary>
public partial class Program;
