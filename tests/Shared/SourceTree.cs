namespace Jugaad.Tests;

/// <summary>Where the source tree is, for tests that run the launcher or need the pages' files.</summary>
internal static class SourceTree
{
    internal static string Root { get; } = Find();

    private static string Find()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder is not null && !File.Exists(Path.Combine(folder.FullName, "Jugaad.slnx")))
            folder = folder.Parent;
        return folder?.FullName ?? throw new InvalidOperationException("The tests run outside of the source tree.");
    }
}
