using System.CommandLine;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Keeping;
using Jugaad.Formats.Archives;

namespace Jugaad.Cli;

/// <summary>
/// <c>restore FILE --data DIR</c>: brings a backup back, puts what was there aside, and checks the books.
/// </summary>
internal static class RestoreVerb
{
    internal static Command Make()
    {
        var archive = new Argument<string>("FILE") { Description = "The backup." };
        var data = new Option<string>("--data")
        {
            Description = "The folder to bring it back into; what is there is put aside.",
            Required = true,
            HelpName = "DIR",
        };
        var key = new Option<string?>("--key")
        {
            Description = "A file with the private half of the key that the backup is sealed for.",
            HelpName = "FILE",
        };
        var verb = new Command(
            "restore",
            "Bring a backup back. The books rest then: they send and number nothing until the owner says that they are the books now."
        )
        {
            archive,
            data,
            key,
        };
        verb.SetAction(
            (parsed, stop) =>
                BooksVerbs.SaidAsync(() =>
                    RunAsync(
                        parsed.GetRequiredValue(archive),
                        new BooksFile(parsed.GetRequiredValue(data)),
                        parsed.GetValue(key),
                        stop
                    )
                )
        );
        return verb;
    }

    private static async Task<int> RunAsync(string archive, BooksFile file, string? key, CancellationToken stop)
    {
        if (!File.Exists(archive))
            throw new RefusalException("file", $"There is no file {archive}. Give the backup to bring back.");
        using (var held = BooksLock.Hold(file, "by ./jugaad restore"))
        {
            IReadOnlyList<string> keys = key is null ? [] : [await File.ReadAllTextAsync(key, stop)];
            var (manifest, aside) = await new Restoring(new OpenPgpSeal(), TimeProvider.System).RestoreAsync(
                archive,
                file,
                held,
                keys,
                Console.WriteLine,
                stop
            );
            Console.WriteLine(
                $"Brought back: {manifest.Business}, backed up on {manifest.Made.ToLocalTime():yyyy-MM-dd HH:mm}."
            );
            if (aside is not null)
                Console.WriteLine($"What was there before lies in {aside}.");
        }

        Console.WriteLine(
            "The books rest: nothing is sent or numbered until the owner signs in and says that they are the books now. Checking them …"
        );
        return await BooksVerbs.WithAsync(file.Folder, services => CheckVerb.RunAsync(services, stop));
    }
}
