using System.Diagnostics;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Stopper;

/// <summary>Work while the disk fills up, on a small file system of its own.</summary>
internal static class FullDisk
{
    private const int PiecesATime = 12;

    /// <param name="dice">Where it is not 0, the process is killed at some moment while the disk is full. With 0 room
    /// is made, all is done again that was refused, and the books are checked.</param>
    internal static async Task<int> RunAsync(IServiceProvider provider, BooksFile file, int dice)
    {
        var ballast = Path.Combine(file.Folder, "ballast");
        var work = new WorkDay(provider);
        if (dice != 0)
        {
            Fill(ballast);
            Task? moment = null;
            for (var n = 1; ; n = (n % PiecesATime) + 1)
            {
                try
                {
                    await work.DoAsync(n);
                }
                catch (Exception refused) when (BooksTrouble.Of(refused) is { } trouble)
                {
                    if (!trouble.Words.StartsWith("The disk is full", StringComparison.Ordinal))
                        throw;
                    if (moment is null)
                        Console.WriteLine("full");
                    moment ??= Task.Delay(new Random(dice).Next(1_200))
                        .ContinueWith(_ => Process.GetCurrentProcess().Kill(), TaskScheduler.Default);
                }
            }
        }

        File.Delete(ballast);
        for (var n = 1; n <= PiecesATime; n++)
            await work.GoOnAsync(n);
        await using var scope = provider.CreateAsyncScope();
        var report = await scope.ServiceProvider.GetRequiredService<BooksCheck>().RunAsync();
        foreach (var difference in report.Differences)
            Console.WriteLine($"DIFFERS {difference}");
        Console.WriteLine(report.Healthy ? "healthy" : "not healthy");
        return report.Healthy ? 0 : 1;
    }

    /// <summary>
    /// Writes until nothing more goes, and leaves a little, in which the next writes break off at all sorts of places.
    /// </summary>
    private static void Fill(string ballast)
    {
        using var file = new FileStream(ballast, FileMode.OpenOrCreate, FileAccess.Write, FileShare.None, 0);
        file.Seek(0, SeekOrigin.End);
        var block = new byte[16 * 1024];
        try
        {
            while (true)
                file.Write(block);
        }
        catch (IOException)
        {
            file.SetLength(Math.Max(0, file.Length - (64 * 1024)));
        }
    }
}
