using System.Collections.Concurrent;
using System.Threading.Channels;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Moving;

namespace Jugaad.Web.Shell;

/// <summary>What is done with an import.</summary>
public enum ImportWork
{
    TakeGoodRows,
    TakeAllOrNone,
    TakeBack,
}

/// <summary>How far an import is.</summary>
/// <param name="Of">How many rows, or things that it touched, there are.</param>
/// <param name="IsEnding">Whether it was ended, or broke off, and what is in the books is being taken back.</param>
/// <param name="Problem">Why it was not done; empty while it goes on or went well.</param>
public sealed record ImportProgress(
    ImportWork Work,
    int Done,
    int Of,
    bool Finished,
    bool IsEnding = false,
    string Problem = ""
);

/// <summary>
/// Imports that are being taken, or taken back, in the background, one after the other, so that the page can be left.
/// </summary>
public sealed class ImportJobs(IServiceScopeFactory scopes) : BackgroundService
{
    private readonly Channel<(int Id, ImportWork Work, string Who)> _waiting = Channel.CreateUnbounded<(
        int,
        ImportWork,
        string
    )>();
    private readonly ConcurrentDictionary<int, ImportProgress> _progress = new();
    private readonly ConcurrentDictionary<int, CancellationTokenSource> _ends = new();

    /// <summary>Null where it was never begun here, or the program was started anew since.</summary>
    public ImportProgress? Of(int id) => _progress.GetValueOrDefault(id);

    /// <summary>Does it in somebody's name, unless something is being done with that import already.</summary>
    /// <param name="count">How many rows, or things that it touched, there are.</param>
    public void Begin(int id, ImportWork work, int count, string who)
    {
        var begun = new ImportProgress(work, 0, count, false);
        if (!ReferenceEquals(_progress.AddOrUpdate(id, begun, (_, before) => before.Finished ? begun : before), begun))
            return;
        _ends[id] = new CancellationTokenSource();
        _waiting.Writer.TryWrite((id, work, who));
    }

    /// <summary>
    /// Ends what is being done or waits for its turn. Of a file that was being taken nothing is kept; what was being
    /// taken back is so in part.
    /// </summary>
    public void End(int id)
    {
        if (_ends.TryGetValue(id, out var end))
            end.Cancel();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await foreach (var (id, work, who) in _waiting.Reader.ReadAllAsync(stoppingToken))
        {
            using var end = CancellationTokenSource.CreateLinkedTokenSource(stoppingToken, _ends[id].Token);
            Acting.As(who);
            var problem = await ProblemOfAsync(id, work, end.Token, stoppingToken);
            _progress[id] = _progress[id] with { Finished = true, Problem = problem };
        }
    }

    private async Task<string> ProblemOfAsync(
        int id,
        ImportWork work,
        CancellationToken end,
        CancellationToken stopping
    )
    {
        try
        {
            await (work == ImportWork.TakeBack ? BackAsync(id, end) : RunAsync(id, work, end));
            return "";
        }
        catch (OperationCanceledException) when (!stopping.IsCancellationRequested)
        {
            return work == ImportWork.TakeBack
                ? "It was ended, so only a part of it is taken back."
                : await GivenUpAsync(id, stopping);
        }
        catch (RefusalException refused)
        {
            await using var scope = scopes.CreateAsyncScope();
            return refused.In(
                (await scope.ServiceProvider.GetRequiredService<BooksHead>().BusinessAsync(stopping)).Format
            );
        }
        catch (Exception broken) when (broken is not OperationCanceledException)
        {
            Serilog.Log.Error(broken, "An import broke off");
            return "Something went wrong and it broke off. It has been noted; what became of it is said below.";
        }
    }

    /// <summary>Takes back what is in the books of an import that was ended.</summary>
    private async Task<string> GivenUpAsync(int id, CancellationToken stopping)
    {
        await using var scope = scopes.CreateAsyncScope();
        if (
            await scope.ServiceProvider.GetRequiredService<Importing>().FindAsync(id, stopping) is
            { State: ImportState.Taking } run
        )
        {
            _progress[id] = _progress[id] with { Done = 0, Of = run.Report!.New + run.Report.Changed, IsEnding = true };
            var problem = await ProblemOfAsync(id, ImportWork.TakeBack, stopping, stopping);
            if (problem.Length > 0)
                return problem;
            if (
                await scope.ServiceProvider.GetRequiredService<Importing>().FindAsync(id, stopping) is
                { State: ImportState.TakenBack }
            )
                return "It was ended, and what was in the books is taken back, but for what is named below.";
        }

        return "It was ended, so nothing was taken.";
    }

    private async Task RunAsync(int id, ImportWork work, CancellationToken end)
    {
        end.ThrowIfCancellationRequested();
        await using var scope = scopes.CreateAsyncScope();
        await scope
            .ServiceProvider.GetRequiredService<ImportTaking>()
            .RunAsync(id, work == ImportWork.TakeAllOrNone, new Told(this, id), end);
    }

    private async Task BackAsync(int id, CancellationToken end)
    {
        await using var scope = scopes.CreateAsyncScope();
        await scope.ServiceProvider.GetRequiredService<ImportUndo>().TakeBackAsync(id, end, new Told(this, id));
    }

    private sealed class Told(ImportJobs jobs, int id) : IProgress<int>
    {
        public void Report(int value) => jobs._progress[id] = jobs._progress[id] with { Done = value };
    }
}
