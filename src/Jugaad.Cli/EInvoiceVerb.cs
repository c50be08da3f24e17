using System.CommandLine;
using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Papers;
using Jugaad.Formats.EInvoices;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary>
/// <c>einvoice --data DIR --number N --syntax ubl|cii [--hybrid] [--to FILE]</c> makes one of an issued document, and
/// <c>einvoice check FILE…</c> checks those of anybody.
/// </summary>
internal static class EInvoiceVerb
{
    internal static Command Make()
    {
        var data = new Option<string>("--data") { Description = "The folder of the books.", HelpName = "DIR" };
        var number = new Option<string>("--number") { Description = "The document's number.", HelpName = "N" };
        var syntax = new Option<string>("--syntax")
        {
            Description = "ubl for UBL 2.1, cii for the cross industry invoice.",
            HelpName = "ubl|cii",
            DefaultValueFactory = _ => "ubl",
        };
        var to = new Option<string?>("--to")
        {
            Description = "Where to write it; standard output where it is left out.",
            HelpName = "FILE",
        };
        var hybrid = new Option<bool>("--hybrid")
        {
            Description = "The paper as a PDF with the cross industry invoice inside; --to names the PDF.",
        };
        var verb = new Command(
            "einvoice",
            "Write an issued document as an e-invoice of EN 16931, or check e-invoices of anybody."
        )
        {
            data,
            number,
            syntax,
            hybrid,
            to,
        };
        verb.SetAction(
            (parsed, stop) =>
                BooksVerbs.SaidAsync(() =>
                    BooksVerbs.WithAsync(
                        parsed.GetValue(data)
                            ?? throw new RefusalException("data", "Give the folder of the books with --data."),
                        services =>
                            WriteAsync(
                                services,
                                parsed.GetValue(number)
                                    ?? throw new RefusalException(
                                        "number",
                                        "Give the document's number with --number."
                                    ),
                                parsed.GetValue(syntax) ?? "",
                                parsed.GetValue(hybrid),
                                parsed.GetValue(to),
                                stop
                            )
                    )
                )
        );
        var files = new Argument<string[]>("FILE")
        {
            Description = "E-invoices in either syntax.",
            Arity = ArgumentArity.OneOrMore,
        };
        var check = new Command(
            "check",
            "Check e-invoices by the rules of the standard: prints rule, place and what is wrong. Exits 1 where one breaks a rule."
        )
        {
            files,
        };
        check.SetAction(parsed => Check(parsed.GetRequiredValue(files)));
        verb.Add(check);
        return verb;
    }

    private static async Task<int> WriteAsync(
        IServiceProvider services,
        string number,
        string syntax,
        bool hybrid,
        string? to,
        CancellationToken stop
    )
    {
        if (!Enum.TryParse<EInvoiceSyntax>(syntax, true, out var wanted) || syntax.Any(char.IsDigit))
            throw new RefusalException("syntax", $"“{syntax}” is no syntax of e-invoices. Use ubl or cii.");
        if (hybrid && (to is null || !to.EndsWith(".pdf", StringComparison.OrdinalIgnoreCase)))
            throw new RefusalException("to", "Name the PDF to write with --to FILE.pdf.");
        var made = await services.GetRequiredService<EInvoices>().OfAsync(number, stop);
        if (made.Breaches.Count > 0)
        {
            foreach (var breach in made.Breaches)
                Console.Error.WriteLine(Told(number, breach));
            Console.Error.WriteLine("Nothing was written, as it would break a rule of the standard.");
            return 1;
        }

        var file = EInvoiceFiles.Write(made.Invoice, hybrid ? EInvoiceSyntax.Cii : wanted);
        if (hybrid)
        {
            if (made.DocumentId is not { } document)
                throw new RefusalException(
                    "hybrid",
                    $"{number} tells many sales and has no paper. Leave --hybrid out."
                );
            var paper = await services.GetRequiredService<PaperRoom>().PdfAsync(document, [new PaperStyle()], stop);
            file = HybridPdf.Attach(paper.Content, file, made.Invoice.Issued!.Value);
        }

        if (to is null)
        {
            await using var output = Console.OpenStandardOutput();
            await output.WriteAsync(file, stop);
            return 0;
        }

        if (Path.GetDirectoryName(Path.GetFullPath(to)) is { } folder)
            Directory.CreateDirectory(folder);
        await File.WriteAllBytesAsync(to, file, stop);
        Console.WriteLine($"Written to {Path.GetFullPath(to)}");
        return 0;
    }

    private static string Told(string what, Breach breach) =>
        $"{what}: {breach.Rule} at {breach.Place}: {breach.Problem}";

    private static int Check(IReadOnlyList<string> files)
    {
        var broken = 0;
        foreach (var file in files)
        {
            try
            {
                var read = EInvoiceFiles.Read(File.ReadAllBytes(file));
                var breaches = EInvoiceFiles.Check(read);
                foreach (var breach in breaches)
                    Console.WriteLine(Told(file, breach));
                if (breaches.Count > 0)
                    broken++;
                else
                    Console.WriteLine(
                        $"{file}: keeps every rule ({(read.Syntax == EInvoiceSyntax.Ubl ? "UBL" : "CII")}, {read.Invoice.Number})"
                    );
            }
            catch (RefusalException refused)
            {
                broken++;
                Console.WriteLine($"{file}: STRUCTURE at file: {refused.Message}");
            }
            catch (Exception unread) when (unread is IOException or UnauthorizedAccessException)
            {
                broken++;
                Console.WriteLine($"{file}: STRUCTURE at file: it cannot be read: {unread.Message}");
            }
        }

        return broken == 0 ? 0 : 1;
    }
}
