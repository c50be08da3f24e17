using System.CommandLine;
using Jugaad.Core;
using Jugaad.Desk.Keeping;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary>
/// <c>backup --data DIR --to FILE</c>: all that the folder of the books holds, in one file, while the program runs on.
/// </summary>
internal static class BackupVerb
{
    internal static Command Make()
    {
        var data = BooksVerbs.Data();
        var to = new Option<string>("--to")
        {
            Description = "The file to write; one that is there is replaced once the new one is whole.",
            Required = true,
            HelpName = "FILE",
        };
        var seal = new Option<string?>("--seal-for")
        {
            Description =
                "A file with an OpenPGP public key: only who has its private half opens the backup. Left out, the key that is set under Setup, backups.",
            HelpName = "FILE",
        };
        var plain = new Option<bool>("--plain") { Description = "Do not seal it, though a key is set." };
        var verb = new Command("backup", "Write the books, their keys and mail into one file, while Jugaad runs on.")
        {
            data,
            to,
            seal,
            plain,
        };
        verb.SetAction(
            (parsed, stop) =>
                BooksVerbs.WithAsync(
                    parsed.GetRequiredValue(data),
                    async services =>
                    {
                        var (making, path) = (
                            services.GetRequiredService<BackupMaking>(),
                            Path.GetFullPath(parsed.GetRequiredValue(to))
                        );
                        if (Directory.Exists(path))
                            throw new RefusalException(
                                "to",
                                $"{path} is a folder. Give the name of the file to write."
                            );
                        var key =
                            parsed.GetValue(plain) ? ""
                            : parsed.GetValue(seal) is { } file ? await File.ReadAllTextAsync(file, stop)
                            : (await making.SettingsAsync(stop)).PublicKey;
                        var manifest = await making.MakeAsync(path, key, stop);
                        Console.WriteLine(
                            $"{manifest.Files.Count} files of {manifest.Business}, {new FileInfo(path).Length:N0} bytes{(key.Length > 0 ? ", sealed" : "")}: {path}"
                        );
                        return 0;
                    }
                )
        );
        return verb;
    }
}
