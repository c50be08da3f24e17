using Jugaad.Desk.Keeping;

namespace Jugaad.Web.Shell;

/// <summary>
/// Looks every few minutes whether a backup is due, as settings may change and the machine may have slept.
/// </summary>
internal sealed partial class BackupRound(IServiceScopeFactory scopes, TimeProvider clock, ILogger<BackupRound> log)
    : BackgroundService
{
    private static readonly TimeSpan Between = TimeSpan.FromMinutes(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            await Task.Delay(Between, clock, stoppingToken);
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await scope.ServiceProvider.GetRequiredService<Backups>().MakeDueAsync(stoppingToken);
            }
            catch (Exception broken) when (broken is not OperationCanceledException)
            {
                RoundFailed(broken);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "The backup could not be made; it is tried again")]
    private partial void RoundFailed(Exception exception);
}
