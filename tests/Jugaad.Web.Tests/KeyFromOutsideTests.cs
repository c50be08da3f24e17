using System.Security.Cryptography;
using System.Text.RegularExpressions;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Web.Shell;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>The folder of the books alone opens no secret, where the key to its keys lies elsewhere.</summary>
public sealed class KeyFromOutsideTests : IDisposable
{
    private readonly BooksFile _file = new(Directory.CreateTempSubdirectory("jugaad-key-").FullName);
    private readonly string _elsewhere = Directory.CreateTempSubdirectory("jugaad-key-").FullName;

    public void Dispose()
    {
        Directory.Delete(_file.Folder, recursive: true);
        Directory.Delete(_elsewhere, recursive: true);
    }

    private string KeyFile(string name)
    {
        var path = Path.Combine(_elsewhere, name);
        File.WriteAllText(path, Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)) + "\n");
        return path;
    }

    /// <summary>A start of the program with this key, and what it does with a secret.</summary>
    private T Started<T>(string? path, Func<ISecretKeeper, T> work)
    {
        var key = KeyFromOutside.Read(path);
        key.TakeOver(_file.KeysFolder);
        var services = new ServiceCollection();
        services.AddLogging();
        WebHost.AddServices(services, _file, 0, key);
        using var started = services.BuildServiceProvider();
        return work(started.GetRequiredService<ISecretKeeper>());
    }

    private IEnumerable<string> Ring() => Directory.EnumerateFiles(_file.KeysFolder, "*.xml").Select(File.ReadAllText);

    [Fact]
    public void Keys_of_before_are_sealed_and_go_on_opening_what_they_sealed()
    {
        var kept = Started(null, keeper => keeper.Protect("mail password"));
        Ring().ShouldAllBe(text => text.Contains("<masterKey", StringComparison.Ordinal));
        var path = KeyFile("key");
        Started(path, keeper => keeper.Reveal(kept)).ShouldBe("mail password");
        Ring()
            .ShouldAllBe(text =>
                !text.Contains("<masterKey", StringComparison.Ordinal)
                && text.Contains("<sealed ", StringComparison.Ordinal)
            );
        // And again, as at every later start.
        Started(path, keeper => keeper.Reveal(kept)).ShouldBe("mail password");
        Directory.EnumerateFiles(_file.KeysFolder).ShouldAllBe(f => f.EndsWith(".xml", StringComparison.Ordinal));
    }

    [Fact]
    public void A_key_of_a_new_folder_is_never_written_in_the_open()
    {
        var path = KeyFile("key");
        var kept = Started(path, keeper => keeper.Protect("secret"));
        Ring().ShouldAllBe(text => !text.Contains("<masterKey", StringComparison.Ordinal));
        Started(path, keeper => keeper.Reveal(kept)).ShouldBe("secret");
    }

    [Fact]
    public void Without_the_key_or_with_another_the_program_says_so_instead_of_starting()
    {
        var path = KeyFile("key");
        Started(path, keeper => keeper.Protect("secret"));
        Should.Throw<RefusalException>(() => Started(null, _ => 0)).Message.ShouldContain("JUGAAD_KEY_FILE");
        Should.Throw<RefusalException>(() => Started(KeyFile("other"), _ => 0)).Message.ShouldContain("another key");
        Should
            .Throw<RefusalException>(() => KeyFromOutside.Read(Path.Combine(_elsewhere, "gone")))
            .Message.ShouldContain("cannot be read");
        foreach (
            var wrong in new[]
            {
                "",
                "short",
                Convert.ToBase64String(new byte[31]),
                Convert.ToBase64String(new byte[64]),
                "no base64 at all, but long enough to be one",
            }
        )
        {
            File.WriteAllText(Path.Combine(_elsewhere, "wrong"), wrong);
            Should
                .Throw<RefusalException>(() => KeyFromOutside.Read(Path.Combine(_elsewhere, "wrong")))
                .Message.ShouldContain("openssl rand -base64 32");
        }
    }

    [Fact]
    public void A_ring_that_was_changed_is_not_believed()
    {
        var path = KeyFile("key");
        Started(path, keeper => keeper.Protect("secret"));
        var ring = Directory.EnumerateFiles(_file.KeysFolder, "*.xml").Single();
        var text = File.ReadAllText(ring);
        var at = text.IndexOf("<sealed ", StringComparison.Ordinal) + 60;
        File.WriteAllText(ring, text[..at] + (text[at] == 'A' ? 'B' : 'A') + text[(at + 1)..]);
        Should.Throw<RefusalException>(() => Started(path, _ => 0)).Message.ShouldContain("another key");
        foreach (var damaged in new[] { "", "AAAA", "no base64 at all" })
        {
            File.WriteAllText(ring, Regex.Replace(text, "(<sealed [^>]*>)[^<]*", $"$1{damaged}"));
            Should.Throw<RefusalException>(() => Started(path, _ => 0)).Message.ShouldContain("or damaged");
        }

        File.WriteAllText(ring, text[..at]);
        Should.Throw<RefusalException>(() => Started(path, _ => 0)).Message.ShouldContain("is damaged");
    }
}
