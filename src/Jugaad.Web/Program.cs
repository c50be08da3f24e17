using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;

var launch = LaunchOptions.Read(args);
if (launch is null)
    return 2;

WebApplication app;
try
{
    app = await WebHost.BuildAsync(launch);
    await app.StartAsync();
}
catch (RefusalException refused)
{
    foreach (var refusal in refused.Refusals)
        Console.Error.WriteLine(refusal.Message);
    return 1;
}
catch (Exception cannot) when (cannot is IOException or UnauthorizedAccessException)
{
    Console.Error.WriteLine($"Jugaad cannot start: {cannot.Message}");
    Console.Error.WriteLine(
        "If the address is in use, give another port with --port; if the folder cannot be written, give another with --data."
    );
    return 1;
}

app.Services.GetRequiredService<BooksLock>()
    .Say($"by ./jugaad {(launch.Demo ? "demo" : "serve")} at {app.Urls.First()}");
Console.WriteLine($"Jugaad is listening on {app.Urls.First()}");
if (launch.Demo)
    Console.WriteLine(
        $"Sign in as {Jugaad.Demo.DemoBooks.People[0].Email} with the password “{Jugaad.Demo.DemoBooks.Password}”. Ctrl+C ends it."
    );
await using (var scope = app.Services.CreateAsyncScope())
{
    if (await scope.ServiceProvider.GetRequiredService<BooksHead>().FindBusinessAsync() is null)
        Console.WriteLine(
            $"The books are empty. The first page asks for this code: {app.Services.GetRequiredService<FirstRunCode>().Code}"
        );
}

await app.WaitForShutdownAsync();
await app.DisposeAsync();
return 0;

/// <summary>Made public for the tests.</summary>
public partial class Program;
