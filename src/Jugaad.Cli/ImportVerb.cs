using System.CommandLine;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Moving;
using Jugaad.Desk.People;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary>
/// <c>import --data DIR KIND FILE</c>: moves a table into the books. <c>import --books FOLDER --data DIR</c>: makes
/// books of a folder that was written out.
/// </summary>
internal static class ImportVerb
{
    internal static Command Make()
    {
        var data = BooksVerbs.Data();
        var books = new Option<string?>("--books")
        {
            Description = "Make whole books, in an empty folder, of what export wrote.",
            HelpName = "FOLDER",
        };
        var kind = new Argument<string?>("KIND")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description =
                $"What the rows are: {string.Join(", ", Enum.GetValues<MovingKind>().Select(MovingFields.Key))}.",
        };
        var file = new Argument<string?>("FILE")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "CSV or XLSX, with the names of the columns in the first row.",
        };
        var whole = new Option<bool>("--all-or-none") { Description = "Take nothing where a row is refused." };
        var dry = new Option<bool>("--try") { Description = "Say what would become of the rows, and keep nothing." };
        var refused = new Option<string?>("--refused")
        {
            Description = "Write the refused rows with the reason here, as CSV.",
            HelpName = "FILE",
        };
        var decimals = new Option<string?>("--decimals")
        {
            Description = "How its figures are written, where the file does not tell.",
            HelpName = "point|comma",
        };
        var dates = new Option<string?>("--dates")
        {
            Description = "What its dates begin with, where the file does not tell.",
            HelpName = "day|month|year",
        };
        decimals.AcceptOnlyFromAmong("point", "comma");
        dates.AcceptOnlyFromAmong("day", "month", "year");
        var verb = new Command(
            "import",
            "Move a table into the books. Exits 1 where rows were refused. Taking the same file again makes no doubles."
        )
        {
            kind,
            file,
            data,
            books,
            whole,
            dry,
            refused,
            decimals,
            dates,
        };
        verb.Validators.Add(parsed =>
        {
            var (named, given) = (parsed.GetValue(kind) is not null, parsed.GetValue(file) is not null);
            if (parsed.GetValue(books) is null ? !named || !given : named || given)
                parsed.AddError("Give KIND and FILE for a table, or --books FOLDER for whole books.");
        });
        verb.SetAction(
            (parsed, stop) =>
                parsed.GetValue(books) is { } folder
                    ? BooksVerbs.SaidAsync(() => BooksAsync(folder, new BooksFile(parsed.GetRequiredValue(data)), stop))
                    : RunAsync(
                        parsed.GetRequiredValue(data),
                        parsed.GetRequiredValue(kind)!,
                        parsed.GetRequiredValue(file)!,
                        parsed.GetValue(whole),
                        parsed.GetValue(dry),
                        parsed.GetValue(refused),
                        parsed.GetValue(decimals),
                        parsed.GetValue(dates),
                        stop
                    )
        );
        return verb;
    }

    private static Task<int> RunAsync(
        string data,
        string word,
        string file,
        bool whole,
        bool dry,
        string? refusedTo,
        string? decimals,
        string? dates,
        CancellationToken stop
    ) =>
        BooksVerbs.WithAsync(
            data,
            async services =>
            {
                var kind =
                    MovingFields.Find(word)
                    ?? throw new RefusalException(
                        "kind",
                        $"“{word}” cannot be moved in. Use one of {string.Join(", ", Enum.GetValues<MovingKind>().Select(MovingFields.Key))}."
                    );
                var (importing, files) = (
                    services.GetRequiredService<Importing>(),
                    services.GetRequiredService<ITableFiles>()
                );
                var id = await importing.BeginAsync(
                    kind,
                    Path.GetFileName(file),
                    await File.ReadAllBytesAsync(file, stop),
                    stop
                );
                var run = (await importing.FindAsync(id, stop))!;
                await importing.SetAsync(id, Said(run.Settings, decimals, dates), stop);
                run = (await importing.FindAsync(id, stop))!;
                var heads = importing.TableOf(run).Columns;
                Console.WriteLine($"{run.Rows} rows, {run.Note}");
                foreach (var (field, column) in run.Settings.Columns)
                    Console.WriteLine($"  {heads[column]} → {field}");
                var report = dry
                    ? await importing.TryOutAsync(id, stop)
                    : await MoveInAsync(services, id, whole, new Progressing(run.Rows), stop);
                Console.WriteLine(
                    $"{report.New} new, {report.Changed} changed, {report.Same} there already, {report.Refused.Count} refused{(dry ? "; nothing was kept" : "")}"
                );
                foreach (var row in report.Refused.Take(20))
                    Console.WriteLine($"  row {row.Row}: {row.Why}");
                if (report.Refused.Count > 20)
                    Console.WriteLine($"  and {report.Refused.Count - 20} more");
                if (refusedTo is not null && report.Refused.Count > 0)
                    await File.WriteAllBytesAsync(
                        refusedTo,
                        files.Write(importing.RefusedRows(run, report), TableForm.Csv),
                        stop
                    );
                return report.Refused.Count > 0 ? 1 : 0;
            }
        );

    /// <exception cref="RefusalException">When it was ended; what is in the books by then is taken back.</exception>
    private static async Task<ImportReport> MoveInAsync(
        IServiceProvider services,
        int id,
        bool whole,
        IProgress<int> progress,
        CancellationToken stop
    )
    {
        try
        {
            return await services.GetRequiredService<ImportTaking>().RunAsync(id, whole, progress, stop);
        }
        catch (OperationCanceledException)
        {
            if (
                await services.GetRequiredService<Importing>().FindAsync(id, CancellationToken.None) is
                { State: ImportState.Taking }
            )
            {
                Console.Error.WriteLine("Ended. What is in the books is taken back …");
                await services.GetRequiredService<ImportUndo>().TakeBackAsync(id, CancellationToken.None);
            }

            throw new RefusalException("", "It was ended, so nothing was taken.");
        }
    }

    private static async Task<int> BooksAsync(string folder, BooksFile file, CancellationToken stop)
    {
        using (var held = BooksLock.Hold(file, "by ./jugaad import"))
        {
            var (code, owner) = await new BooksTaking(TimeProvider.System).MoveInAsync(
                folder,
                file,
                held,
                Console.WriteLine,
                stop
            );
            Console.WriteLine(
                $"The books are taken in. People come in without passwords: {owner} signs in anew at {ForgottenPasswords.PathOf(code)} of the address that ./jugaad serve says, within a day, and lets the others in by new links."
            );
        }

        Console.WriteLine(
            "The books rest: nothing is sent or numbered until the owner says that they are the books now. Checking them …"
        );
        return await BooksVerbs.WithAsync(file.Folder, services => CheckVerb.RunAsync(services, stop));
    }

    /// <exception cref="RefusalException">When the file does not tell how it is written, and nobody does.</exception>
    private static ImportSettings Said(ImportSettings guessed, string? decimals, string? dates)
    {
        if (guessed.FiguresInDoubt && decimals is null)
            throw new RefusalException(
                "decimals",
                "The file does not tell whether decimals stand after a point or a comma. Say it: --decimals point, or --decimals comma."
            );
        if (guessed.DatesInDoubt && dates is null)
            throw new RefusalException(
                "dates",
                "The file does not tell whether dates begin with the day or the month. Say it: --dates day, or --dates month."
            );
        return guessed with
        {
            DecimalMark = decimals switch
            {
                "comma" => ',',
                "point" => '.',
                _ => guessed.DecimalMark,
            },
            Dates = dates switch
            {
                "day" => DateOrder.DayFirst,
                "month" => DateOrder.MonthFirst,
                "year" => DateOrder.YearFirst,
                _ => guessed.Dates,
            },
            FiguresInDoubt = false,
            DatesInDoubt = false,
        };
    }

    /// <summary>Says how far it is, where somebody watches.</summary>
    private sealed class Progressing(int rows) : IProgress<int>
    {
        public void Report(int value)
        {
            if (!Console.IsErrorRedirected)
                Console.Error.Write($"\r{value} of {rows}{(value == rows ? "\n" : "")}");
        }
    }
}
