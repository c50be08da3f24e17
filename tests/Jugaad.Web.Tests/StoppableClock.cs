namespace Jugaad.Web.Tests;

/// <summary>
/// The machine's clock, which a test can hold still where what it tries is good for half a minute only: a busy machine
/// may take longer between asking and answering. Timers go on.
/// </summary>
public sealed class StoppableClock : TimeProvider
{
    private DateTimeOffset? _held;

    public void Hold() => _held = System.GetUtcNow();

    public override DateTimeOffset GetUtcNow() => _held ?? System.GetUtcNow();
}
