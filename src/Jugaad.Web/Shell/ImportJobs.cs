using System.Collections.Concurrent;
using System.Threading.Channels;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Moving;

namespace Jugaad.Web.Shell;

/// <summary>How far an import is.</summary>
/// <param name="Problem">Why it was not taken; empty while it goes on or went well.</param>
public sealed record ImportProgress(int Done, int Rows, bool Finished, string Problem);

/// <summary>Imports that are being taken in the background, one after the other, so that the page can be left.</summary>
public sealed class ImportJobs(IServiceScopeFactory scopes) : BackgroundService
{
    private readonly Channel<(int Id, int Rows, bool AllOrNone, string Who)> _waiting = Channel.CreateUnbounded<(int, int, bool, string)>();
    private readonly ConcurrentDictionary<int, ImportProgress> _progress = new();
    private readonly ConcurrentDictionary<int, CancellationTokenSource> _ends = new();

    /// <summary>Null where it was never begun here, or the program was started anew since.</summary>
    public ImportProgress? Of(int id) => _progress.GetValueOrDefault(id);

    /// <summary>Takes an import in somebody's name, unless it is being taken already.</summary>
    public void Begin(int id, int rows, bool allOrNone, string who)
    {
        var begun = new ImportProgress(0, rows, false, "");
        if (_progress.AddOrUpdate(id, begun, (_, before) => before.Finished ? begun : before) == begun) Enqueue(id, rows, allOrNone, who);
    }

    /// <summary>Ends an import that is being taken or waits for its turn: nothing of it is kept.</summary>
    public void End(int id)
    {
        if (_ends.TryGetValue(id, out var end)) end.Cancel();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await foreach (var (id, rows, allOrNone, who) in _waiting.Reader.ReadAllAsync(stoppingToken))
        {
            var problem = "";
            using var end = CancellationTokenSource.CreateLinkedTokenSource(stoppingToken, _ends[id].Token);
            try
            {
                end.Token.ThrowIfCancellationRequested();
                await using var scope = scopes.CreateAsyncScope();
                Acting.As(who);
                await scope.ServiceProvider.GetRequiredService<Importing>().TakeAsync(id, allOrNone, new Told(this, id, rows), null, end.Token);
            }
            catch (OperationCanceledException) when (!stoppingToken.IsCancellationRequested)
            {
                problem = "It was ended, so nothing was taken.";
            }
            catch (RefusalException refused)
            {
                await using var scope = scopes.CreateAsyncScope();
                problem = refused.In((await scope.ServiceProvider.GetRequiredService<BooksHead>().BusinessAsync(stoppingToken)).Format);
            }
            catch (Exception broken) when (broken is not OperationCanceledException)
            {
                Serilog.Log.Error(broken, "An import broke off");
                problem = "Something went wrong, so nothing was taken. It has been noted; try again, or take the rows in smaller files.";
            }

            _progress[id] = new ImportProgress(rows, rows, true, problem);
        }
    }

    private void Enqueue(int id, int rows, bool allOrNone, string who)
    {
        _ends[id] = new CancellationTokenSource();
        _waiting.Writer.TryWrite((id, rows, allOrNone, who));
    }

    private sealed class Told(ImportJobs jobs, int id, int rows) : IProgress<int>
    {
        public void Report(int value) => jobs._progress[id] = new ImportProgress(value, rows, false, "");
    }
}
