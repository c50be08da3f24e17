using System.CommandLine;
using Jugaad.Core;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Moving;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary><c>export --data DIR --to FOLDER [KIND]</c>: moves tables, or the whole books, out.</summary>
internal static class ExportVerb
{
    internal static Command Make()
    {
        var data = BooksVerbs.Data();
        var to = new Option<string>("--to")
        {
            Description = "The folder to write into; it is made where it is not there.",
            Required = true,
            HelpName = "FOLDER",
        };
        var kind = new Argument<string?>("KIND")
        {
            Description =
                $"One of {string.Join(", ", Enum.GetValues<MovingKind>().Select(MovingFields.Key))}; left out, the whole books as CSV and JSON with a description.",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var form = new Option<TableForm>("--form")
        {
            Description = "Csv or Xlsx, for one kind.",
            DefaultValueFactory = _ => TableForm.Csv,
        };
        var verb = new Command(
            "export",
            "Move tables out of the books, under the heads under which they can be moved in again."
        )
        {
            kind,
            data,
            to,
            form,
        };
        verb.SetAction(
            (parsed, stop) =>
                RunAsync(
                    parsed.GetRequiredValue(data),
                    parsed.GetRequiredValue(to),
                    parsed.GetValue(kind),
                    parsed.GetValue(form),
                    stop
                )
        );
        return verb;
    }

    private static Task<int> RunAsync(string data, string to, string? word, TableForm form, CancellationToken stop) =>
        BooksVerbs.WithAsync(
            data,
            async services =>
            {
                MovingKind? kind = word is null
                    ? null
                    : MovingFields.Find(word)
                        ?? throw new RefusalException(
                            "kind",
                            $"“{word}” cannot be moved out. Use one of {string.Join(", ", Enum.GetValues<MovingKind>().Select(MovingFields.Key))}, or leave it out for the whole books."
                        );
                Directory.CreateDirectory(to);
                var written = 0;
                async Task Write(string name, byte[] content)
                {
                    Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(to, name))!);
                    await File.WriteAllBytesAsync(Path.Combine(to, name), content, stop);
                    written++;
                }

                if (kind is { } one)
                    await Write(
                        Exporting.NameOf(one, form),
                        await services.GetRequiredService<Exporting>().FileAsync(one, form, stop)
                    );
                else
                    await services.GetRequiredService<BooksFolder>().WriteAsync(Write, stop);
                Console.WriteLine($"{written} {(written == 1 ? "file" : "files")} written to {Path.GetFullPath(to)}");
                return 0;
            }
        );
}
