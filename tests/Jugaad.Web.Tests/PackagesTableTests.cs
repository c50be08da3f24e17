using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using System.Xml.Linq;

namespace Jugaad.Web.Tests;

/// <summary>
/// The list of all packages that ship with the program, those that come with others too, made from what the build took
/// in. It stands in docs/packages.md; a package that is new or of another version differs from it until somebody has
/// looked. JUGAAD_WRITE_PACKAGES=yes writes it anew.
/// </summary>
public sealed class PackagesTableTests
{
    private static readonly string Kept = Path.Combine(SourceTree.Root, "docs", "packages.md");

    private sealed record Package(string Name, string Version, DateOnly Made, string Licence);

    [Fact]
    public async Task Every_package_that_ships_is_in_the_list_with_its_version_date_and_licence()
    {
        var packages = new[] { "Jugaad.Web", "Jugaad.Cli" }
            .SelectMany(Taken)
            .Distinct()
            .OrderBy(p => p.Name, StringComparer.OrdinalIgnoreCase)
            .ToList();
        packages.Count.ShouldBeGreaterThan(20);
        packages.ShouldAllBe(p => p.Licence.Length > 0);
        var table = new StringBuilder(
            "# The packages in it\n\nWhat ships with the program besides the .NET runtime, made from what the build took in; a test holds it. The date is that of the newest file in the package. Whether a fault is known of one, no list here says: the registry that it was built from serves no advisories. Compare it with those of the packages' authors.\n\n| package | version | made | licence |\n|---|---|---|---|\n"
        );
        foreach (var p in packages)
            table.Append(
                CultureInfo.InvariantCulture,
                $"| {p.Name} | {p.Version} | {p.Made:yyyy-MM-dd} | {p.Licence} |\n"
            );
        if (Environment.GetEnvironmentVariable("JUGAAD_WRITE_PACKAGES") == "yes")
            await File.WriteAllTextAsync(Kept, table.ToString());
        table.ToString().ShouldBe(await File.ReadAllTextAsync(Kept));
    }

    private static IEnumerable<Package> Taken(string project)
    {
        using var assets = JsonDocument.Parse(
            File.ReadAllText(Path.Combine(SourceTree.Root, "src", project, "obj", "project.assets.json"))
        );
        var folders = assets.RootElement.GetProperty("packageFolders").EnumerateObject().Select(f => f.Name).ToList();
        foreach (
            var library in assets
                .RootElement.GetProperty("libraries")
                .EnumerateObject()
                .Where(l => l.Value.GetProperty("type").GetString() == "package")
        )
        {
            var folder = folders
                .Select(f => Path.Combine(f, library.Value.GetProperty("path").GetString()!))
                .First(Directory.Exists);
            var described = XDocument
                .Load(Directory.EnumerateFiles(folder, "*.nuspec").Single())
                .Descendants()
                .Where(e => e.Name.LocalName is "license" or "licenseUrl")
                .ToList();
            var licence = described.FirstOrDefault(e => e.Name.LocalName == "license") ?? described.FirstOrDefault();
            using var packed = ZipFile.OpenRead(Directory.EnumerateFiles(folder, "*.nupkg").Single());
            var parts = library.Name.Split('/');
            yield return new Package(
                parts[0],
                parts[1],
                packed.Entries.Max(e => DateOnly.FromDateTime(e.LastWriteTime.DateTime)),
                licence?.Value.Trim() ?? ""
            );
        }
    }
}
