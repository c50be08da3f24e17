using System.CommandLine;
using System.Text;
using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Pictures;

namespace Jugaad.Cli;

/// <summary><c>layout check FILE</c>: says whether a file holds a layout that can be used, and what is wrong where.</summary>
internal static class LayoutVerb
{
    internal static Command Make()
    {
        var file = new Argument<string>("FILE") { Description = "The JSON file of a layout (docs/layouts.md)." };
        var check = new Command("check", "Say whether a file holds a layout that can be used.") { file };
        check.SetAction((parsed, stop) => BooksVerbs.SaidAsync(() => CheckAsync(parsed.GetRequiredValue(file), stop)));
        return new Command("layout", "Look at the file of a layout.") { check };
    }

    private static async Task<int> CheckAsync(string file, CancellationToken stop)
    {
        if (!File.Exists(file))
            throw new RefusalException("file", $"There is no file {file}.");
        try
        {
            var layout = LayoutFile.Read(await File.ReadAllTextAsync(file, Encoding.UTF8, stop));
            foreach (var (key, typeface) in layout.Typefaces)
            foreach (var (entry, bytes) in typeface.Files())
                PaperFonts.Check(bytes, $"typefaces.{key}.{entry}");
            foreach (var (key, picture) in layout.Pictures)
                new PictureCleaner().Clean(picture.Data, $"pictures.{key}.data");
            Console.WriteLine(
                $"{layout.Name}: {layout.Pieces.Count()} pieces in {layout.Bands.Count} bands. It can be used."
            );
            return 0;
        }
        catch (RefusalException refused)
        {
            foreach (var refusal in refused.Refusals)
                Console.WriteLine(
                    refusal.Message.StartsWith(refusal.Field, StringComparison.Ordinal)
                        ? refusal.Message
                        : $"{refusal.Field}: {refusal.Message}"
                );
            Console.WriteLine($"{refused.Refusals.Count} wrong. It cannot be used.");
            return 1;
        }
    }
}
