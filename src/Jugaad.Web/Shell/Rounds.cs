using Jugaad.Desk.Daily;
using Jugaad.Desk.Post;
using Jugaad.Desk.Standing;

namespace Jugaad.Web.Shell;

/// <summary>Carries the post whenever something is put into the tray, and when a next try is due.</summary>
internal sealed partial class PostRound(
    IServiceScopeFactory scopes,
    PostBell bell,
    StandingProgress standing,
    TimeProvider clock,
    ILogger<PostRound> log
) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await FindStoppedAsync(stoppingToken);
        while (!stoppingToken.IsCancellationRequested)
        {
            var wait = TimeSpan.FromMinutes(5);
            // What a night's run puts into the tray goes once the run is through: the two would only wait for each
            // other.
            while (standing.Running)
                await Task.Delay(TimeSpan.FromMilliseconds(500), stoppingToken);
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                var (_, next) = await scope
                    .ServiceProvider.GetRequiredService<PostCarrying>()
                    .CarryAsync(stoppingToken);
                if (next is { } at)
                    wait = TimeSpan.FromSeconds(Math.Clamp((at - clock.GetUtcNow().UtcDateTime).TotalSeconds, 1, 300));
                await scope.ServiceProvider.GetRequiredService<NetworkAnswers>().TakeAsync(stoppingToken);
            }
            catch (Exception broken) when (broken is not OperationCanceledException)
            {
                RoundFailed(broken);
            }

            await bell.WaitAsync(wait, stoppingToken);
        }
    }

    private async Task FindStoppedAsync(CancellationToken stop)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            await scope.ServiceProvider.GetRequiredService<PostCarrying>().FindStoppedAsync(stop);
        }
        catch (Exception broken) when (broken is not OperationCanceledException)
        {
            RoundFailed(broken);
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "The post could not be carried; it is tried again")]
    private partial void RoundFailed(Exception exception);
}

/// <summary>Does what a new day brings, at start and after midnight.</summary>
internal sealed partial class DayRound(IServiceScopeFactory scopes, TimeProvider clock, ILogger<DayRound> log)
    : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await scope.ServiceProvider.GetRequiredService<DailyRun>().RunAsync(stoppingToken);
            }
            catch (Exception broken) when (broken is not OperationCanceledException)
            {
                RunFailed(broken);
            }

            var now = clock.GetLocalNow();
            await Task.Delay(now.Date.AddDays(1).AddSeconds(5) - now.DateTime, clock, stoppingToken);
        }
    }

    [LoggerMessage(
        Level = LogLevel.Error,
        Message = "The daily run failed; it is tried again tomorrow and at the next start"
    )]
    private partial void RunFailed(Exception exception);
}
