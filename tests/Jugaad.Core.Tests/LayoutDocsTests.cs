using System.Text;
using Jugaad.Core.Layouts;

namespace Jugaad.Core.Tests;

/// <summary>The description of the file of a layout is the program's own.</summary>
public sealed class LayoutDocsTests
{
    private static readonly bool Writes = Environment.GetEnvironmentVariable("JUGAAD_WRITE_LAYOUTS") == "yes";

    private static string Docs
    {
        get
        {
            var folder = new DirectoryInfo(AppContext.BaseDirectory);
            while (!File.Exists(Path.Combine(folder.FullName, "Jugaad.slnx")))
                folder = folder.Parent!;
            return Path.Combine(folder.FullName, "docs");
        }
    }

    [Fact]
    public void The_schema_is_that_of_the_program()
    {
        var file = Path.Combine(Docs, "layout.schema.json");
        if (Writes)
            File.WriteAllText(file, LayoutFile.Schema());
        File.ReadAllText(file).ShouldBe(LayoutFile.Schema(), "write it anew with JUGAAD_WRITE_LAYOUTS=yes");
        LayoutFile.Schema().ShouldContain("\"firstHead\"");
        LayoutFile.Schema().ShouldNotContain("footTop");
    }

    [Fact]
    public void Every_field_is_described()
    {
        var file = Path.Combine(Docs, "layouts.md");
        var table = new StringBuilder("| Field | Tells |\n|---|---|\n");
        foreach (var field in PaperFields.All)
            table.Append($"| `{field.Name}` | {field.Group.ToLowerInvariant()}: {field.Meaning} |\n");
        var text = File.ReadAllText(file);
        var start = text.IndexOf("\n## Fields\n", StringComparison.Ordinal);
        var at = text.IndexOf("| Field |", start, StringComparison.Ordinal);
        if (Writes)
            File.WriteAllText(file, text = $"{(at < 0 ? text.TrimEnd() + "\n\n" : text[..at])}{table}");
        text.ShouldEndWith(table.ToString(), customMessage: "write it anew with JUGAAD_WRITE_LAYOUTS=yes");
    }

    [Fact]
    public void The_example_can_be_used()
    {
        var text = File.ReadAllText(Path.Combine(Docs, "layouts.md"));
        var json = text.Split("```json")[1].Split("```")[0];
        LayoutFile.Read(json).Pieces.Count().ShouldBe(2);
    }
}
