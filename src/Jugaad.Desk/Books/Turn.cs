using System.Diagnostics;

namespace Jugaad.Desk.Books;

/// <summary>
/// One's turn at writing, of several: when it ends, others are let write for as long as it took. Whoever waits to write
/// looks again a few times a second only, so that without this a long piece of work would hold the books to its end.
/// </summary>
internal sealed class Turn
{
    private static readonly TimeSpan Least = TimeSpan.FromMilliseconds(250);

    private readonly long _began = Stopwatch.GetTimestamp();

    /// <exception cref="OperationCanceledException">When the work is to end.</exception>
    internal Task EndAsync(CancellationToken stop)
    {
        var took = Stopwatch.GetElapsedTime(_began);
        return Task.Delay(took > Least ? took : Least, stop);
    }
}
