using System.CommandLine;
using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary><c>paper --data DIR --number NUMBER --to FILE</c>: a document's paper as a PDF, or its pages as SVG.</summary>
internal static class PaperVerb
{
    internal static Command Make()
    {
        var data = BooksVerbs.Data();
        var number = new Option<string>("--number")
        {
            Description = "The document's number.",
            Required = true,
            HelpName = "NUMBER",
        };
        var language = new Option<string?>("--language")
        {
            Description =
                $"In another language than its own: {string.Join(", ", Customer.Languages.Select(l => l.Code))}.",
            HelpName = "XX",
        };
        var layout = new Option<string?>("--layout")
        {
            Description = "In another layout: its name, or the file of one.",
            HelpName = "NAME|FILE",
        };
        var to = new Option<string>("--to")
        {
            Description = "FILE.pdf, or FILE.svg; of several pages, FILE-2.svg and so on beside it.",
            Required = true,
            HelpName = "FILE",
        };
        var verb = new Command("paper", "Write a document's paper as a PDF or as SVG.")
        {
            data,
            number,
            layout,
            language,
            to,
        };
        verb.SetAction(
            (parsed, stop) =>
                BooksVerbs.WithAsync(
                    parsed.GetRequiredValue(data),
                    services =>
                        RunAsync(
                            services,
                            parsed.GetRequiredValue(number),
                            parsed.GetValue(layout),
                            parsed.GetValue(language),
                            parsed.GetRequiredValue(to),
                            stop
                        )
                )
        );
        return verb;
    }

    private static async Task<int> RunAsync(
        IServiceProvider services,
        string number,
        string? layout,
        string? language,
        string to,
        CancellationToken stop
    )
    {
        if (language is not null && !await services.GetRequiredService<Wordings>().KnowsAsync(language, stop))
            throw new RefusalException(
                "language",
                $"There are no words in “{language}”. Use one of {string.Join(", ", Customer.Languages.Select(l => l.Code))}."
            );
        var ids = await services
            .GetRequiredService<BooksContext>()
            .Documents.Where(d => d.Number == number)
            .Select(d => d.Id)
            .ToListAsync(stop);
        if (ids.Count == 0)
            throw new RefusalException("number", $"No document has the number “{number}”.");
        var papers = services.GetRequiredService<PaperRoom>();
        var style = new PaperStyle
        {
            Language = language,
            Layout = layout is null ? null : await services.GetRequiredService<LayoutRoom>().FindAsync(layout, stop),
        };
        var form = Path.GetExtension(to).ToLowerInvariant();
        if (form is not (".pdf" or ".svg"))
            throw new RefusalException("to", "Give a file that ends in .pdf or .svg.");
        if (Path.GetDirectoryName(Path.GetFullPath(to)) is { } folder)
            Directory.CreateDirectory(folder);
        if (form == ".pdf")
        {
            await File.WriteAllBytesAsync(to, (await papers.PdfAsync(ids[0], [style], stop)).Content, stop);
            Console.WriteLine($"Written to {Path.GetFullPath(to)}");
            return 0;
        }

        var pages = await papers.SvgAsync(ids[0], "", style, stop);
        for (var i = 0; i < pages.Count; i++)
        {
            var file = i == 0 ? to : $"{to[..^form.Length]}-{i + 1}{form}";
            await File.WriteAllTextAsync(file, pages[i], stop);
            Console.WriteLine($"Written to {Path.GetFullPath(file)}");
        }

        return 0;
    }
}
