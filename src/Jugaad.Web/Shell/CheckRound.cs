using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;

namespace Jugaad.Web.Shell;

/// <summary>What the check of the books said when it last ran in the background; null before it has.</summary>
internal sealed class LastCheck
{
    public CheckReport? Report { get; set; }
}

/// <summary>Checks the demo's books once at start, beside all else. What it finds stands on the day sheet.</summary>
internal sealed partial class CheckRound(IServiceScopeFactory scopes, LastCheck last, ILogger<CheckRound> log)
    : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            if (
                (
                    await scope.ServiceProvider.GetRequiredService<BooksHead>().FindBusinessAsync(stoppingToken)
                )?.PinnedDay
                is null
            )
                return;
            last.Report = await scope.ServiceProvider.GetRequiredService<BooksCheck>().RunAsync(stoppingToken);
        }
        catch (Exception broken) when (broken is not OperationCanceledException)
        {
            CheckFailed(broken);
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "The books could not be checked")]
    private partial void CheckFailed(Exception exception);
}
