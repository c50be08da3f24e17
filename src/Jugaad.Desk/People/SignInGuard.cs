using System.Collections.Concurrent;

namespace Jugaad.Desk.People;

/// <summary>
/// Slows down who guesses passwords and codes, by where they come from and whom they try together, with waits that
/// grow. Whoever comes from elsewhere, such as the person themselves, does not wait for it. It is forgotten when the
/// program is started anew.
/// </summary>
public sealed class SignInGuard(TimeProvider clock)
{
    /// <summary>So many wrong tries are nobody's business.</summary>
    public const int Free = 5;

    /// <summary>One place may fail more often in all: many people may sit behind it.</summary>
    public const int FreeOfAPlace = 60;

    private const int MostKept = 20_000;
    private static readonly TimeSpan First = TimeSpan.FromSeconds(15);
    private static readonly TimeSpan Longest = TimeSpan.FromHours(1);
    private static readonly TimeSpan Forgotten = TimeSpan.FromHours(24);

    private readonly ConcurrentDictionary<string, (int Failures, DateTimeOffset Until, DateTimeOffset At)> _kept =
        new();

    /// <summary>How long is to be waited still; zero where a try is free.</summary>
    public TimeSpan WaitOf(string from, string email)
    {
        var now = clock.GetUtcNow();
        var until = new[] { Of(Pair(from, email)).Until, Of(Place(from)).Until }.Max();
        return until > now ? until - now : TimeSpan.Zero;
    }

    /// <summary>Notes a wrong try.</summary>
    /// <returns>How long is to be waited now; zero where the next one is free.</returns>
    public TimeSpan Failed(string from, string email)
    {
        if (_kept.Count > MostKept)
            Forget();
        Note(Pair(from, email), Free);
        Note(Place(from), FreeOfAPlace);
        return WaitOf(from, email);
    }

    /// <summary>Notes that it was right; whoever knows the password has not guessed.</summary>
    public void Succeeded(string from, string email) => _kept.TryRemove(Pair(from, email), out _);

    private static string Pair(string from, string email) => $"{from} {email.Trim().ToUpperInvariant()}";

    private static string Place(string from) => from;

    private (int Failures, DateTimeOffset Until, DateTimeOffset At) Of(string key) =>
        _kept.TryGetValue(key, out var kept) && clock.GetUtcNow() - kept.At < Forgotten ? kept : default;

    private void Note(string key, int free)
    {
        var now = clock.GetUtcNow();
        var failures = Of(key).Failures + 1;
        var wait =
            failures < free
                ? TimeSpan.Zero
                : TimeSpan.FromTicks(Math.Min(Longest.Ticks, First.Ticks << Math.Min(20, failures - free)));
        _kept[key] = (failures, now + wait, now);
    }

    /// <summary>The older half goes.</summary>
    private void Forget()
    {
        foreach (var (key, _) in _kept.OrderBy(k => k.Value.At).Take(MostKept / 2).ToList())
            _kept.TryRemove(key, out _);
    }
}
