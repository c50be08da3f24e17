using System.Diagnostics;
using System.Runtime.InteropServices;

namespace Jugaad.Desk.Tests;

/// <summary>
/// A process that can be held still at any moment, so that its files are looked at as a kill at that moment would leave
/// them.
/// </summary>
internal sealed class Freezer : IDisposable
{
    private const int Stop = 19,
        Continue = 18;

    private readonly Process _process;

    private Freezer(Process process) => _process = process;

    internal static Freezer Start(string program, params string[] words) =>
        new(Process.Start(new ProcessStartInfo("dotnet", [program, .. words]) { RedirectStandardError = true })!);

    internal async Task UntilAsync(Func<bool> come)
    {
        for (var i = 0; i < 1_200 && !come(); i++)
        {
            if (_process.HasExited)
                throw new InvalidOperationException($"It ended: {await _process.StandardError.ReadToEndAsync()}");
            await Task.Delay(50);
        }

        come().ShouldBeTrue("it does not come about");
    }

    internal void WhileFrozen(Action look)
    {
        if (_process.HasExited)
            throw new InvalidOperationException($"It ended by itself: {_process.StandardError.ReadToEnd()}");
        Signal(_process.Id, Stop).ShouldBe(0);
        try
        {
            while (!IsStill())
                Thread.Yield();
            look();
        }
        finally
        {
            Signal(_process.Id, Continue).ShouldBe(0);
        }
    }

    internal void Kill()
    {
        _process.HasExited.ShouldBeFalse("it ended by itself");
        _process.Kill();
        _process.WaitForExit();
    }

    public void Dispose()
    {
        if (!_process.HasExited)
            _process.Kill();
        _process.Dispose();
    }

    /// <summary>Whether each of its threads is stopped (proc(5): state T).</summary>
    private bool IsStill() =>
        Directory
            .EnumerateDirectories($"/proc/{_process.Id}/task")
            .All(thread =>
            {
                try
                {
                    var stat = File.ReadAllText(Path.Combine(thread, "stat"));
                    return stat[stat.LastIndexOf(')') + 2] == 'T';
                }
                catch (IOException)
                {
                    return true;
                }
            });

    [DllImport("libc", EntryPoint = "kill"), DefaultDllImportSearchPaths(DllImportSearchPath.SafeDirectories)]
    private static extern int Signal(int process, int signal);
}
