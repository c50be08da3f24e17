using System.Text;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Papers;
using Jugaad.Desk.People;
using Jugaad.Formats.Tables;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Rich books, with files, pictures, links, invitations and secrets, written out once.</summary>
public sealed class WrittenBooks : IAsyncLifetime
{
    private readonly RichBooks _books = new();

    public string Folder { get; } = Directory.CreateTempSubdirectory("jugaad-written-").FullName;

    public Loft Loft => _books.Loft;

    public async Task InitializeAsync()
    {
        await _books.InitializeAsync();
        var paper = await Loft.IssuedAsync();
        await Loft.WithAsync<Files>(f => f.AddAsync(paper.Id, "plan.pdf", Encoding.UTF8.GetBytes("%PDF-1.7 a plan")));
        await Loft.WithAsync<CustomerLinks, string>(l => l.AddressAsync(paper.Id));
        await Loft.WithAsync<PeopleDesk, string>(p => p.InviteAsync("new@little.example", PersonRole.Reader, t => t));
        await Loft.ExecuteAsync(
            "UPDATE MailSettings SET ProtectedPassword = 'kept:hush'; UPDATE Businesses SET Logo = x'89504E470D0A', Footer = 'line' || char(13,10,9) || '“Ω” =1+1'; UPDATE AspNetUsers SET TwoFactorEnabled = 1"
        );
        await Loft.WithAsync<BooksFolder>(f => WholeBooksTests.WriteAsync(f, Folder));
    }

    public Task DisposeAsync()
    {
        Directory.Delete(Folder, recursive: true);
        return _books.DisposeAsync();
    }
}

/// <summary>The whole books, written out and taken in again.</summary>
public sealed class WholeBooksTests(WrittenBooks written) : IClassFixture<WrittenBooks>, IDisposable
{
    private readonly string _work = Directory.CreateTempSubdirectory("jugaad-whole-").FullName;

    private string Written => written.Folder;

    private BooksFile Elsewhere => new(Path.Combine(_work, "elsewhere"));

    internal static async Task WriteAsync(BooksFolder folder, string to) =>
        await folder.WriteAsync(
            async (name, content) =>
            {
                Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(to, name))!);
                await File.WriteAllBytesAsync(Path.Combine(to, name), content);
            }
        );

    private async Task<(string Code, string Owner)> TakeAsync(string? folder = null)
    {
        using var held = BooksLock.Hold(Elsewhere, "by a test");
        return await new BooksTaking(TimeProvider.System).MoveInAsync(folder ?? Written, Elsewhere, held, _ => { });
    }

    [Fact]
    public async Task Taken_in_the_check_agrees_and_written_out_again_each_file_is_the_same_byte_for_byte()
    {
        var (_, owner) = await TakeAsync();
        owner.ShouldBe("owner@little.example");
        await using var db = Elsewhere.Open();
        (await new BooksCheck(Elsewhere.Open()).RunAsync()).Differences.ShouldBeEmpty();
        (await db.Businesses.SingleAsync()).IsResting.ShouldBeTrue();
        (await db.DocumentFiles.SingleAsync(f => f.Name == "plan.pdf")).Content.ShouldBe(
            Encoding.UTF8.GetBytes("%PDF-1.7 a plan")
        );

        var again = Path.Combine(_work, "again");
        var head = new BooksHead(db, TimeProvider.System);
        await WriteAsync(
            new BooksFolder(
                db,
                head,
                new BookWriter(
                    db,
                    head,
                    new TaxPlaces(db),
                    new EmptiedAccounts(db),
                    new NamedActor("Tester"),
                    TimeProvider.System
                ),
                new TableFiles()
            ),
            again
        );
        var names = Directory
            .GetFiles(Written, "*", SearchOption.AllDirectories)
            .Select(f => Path.GetRelativePath(Written, f))
            .Order()
            .ToList();
        Directory
            .GetFiles(again, "*", SearchOption.AllDirectories)
            .Select(f => Path.GetRelativePath(again, f))
            .Order()
            .ShouldBe(names);
        names.ShouldContain("files/Businesses-Logo-1.png");
        foreach (var name in names)
            (await File.ReadAllBytesAsync(Path.Combine(again, name))).ShouldBe(
                await File.ReadAllBytesAsync(Path.Combine(Written, name)),
                name
            );
    }

    [Fact]
    public async Task Nothing_secret_is_written_and_people_come_in_without_passwords()
    {
        var secrets = await written.Loft.WithAsync<BooksContext, List<string?>>(async db =>
            [
                .. await db.DocumentLinks.Select(l => l.Token).ToListAsync(),
                .. await db.Invitations.Select(i => i.TokenHash).ToListAsync(),
                .. await db.Users.Select(u => u.PasswordHash).ToListAsync(),
                .. await db.Users.Select(u => u.SecurityStamp).ToListAsync(),
                "kept:hush",
            ]
        );
        secrets.Count.ShouldBeGreaterThanOrEqualTo(5);
        foreach (var file in Directory.GetFiles(Written, "*", SearchOption.AllDirectories))
        {
            var text = await File.ReadAllTextAsync(file);
            foreach (var secret in secrets)
                text.ShouldNotContain(secret!, Case.Sensitive, file);
        }

        var (code, _) = await TakeAsync();
        await using var db = Elsewhere.Open();
        var person = await db.Users.SingleAsync(u => u.Role == PersonRole.Owner);
        (person.PasswordHash, person.TwoFactorEnabled).ShouldBe((null, false));
        person.SecurityStamp.ShouldNotBeNullOrEmpty();
        (await db.PasswordResets.SingleAsync()).TokenHash.ShouldBe(Invitation.HashOf(code));
    }

    [Theory]
    [InlineData("Customers.json", "rm", "Customers.json is missing")]
    [InlineData("schema.txt", "rm", "schema.txt is missing")]
    [InlineData("schema.txt", "29990101000000_Later", "does not know")]
    [InlineData("Customers.json", "[{]", "does not hold whole books")]
    [InlineData("Customers.json", "[null]", "row 1: is empty")]
    [InlineData("Customers.json", "[{\"Id\":\"1\",\"Evil\":\"x\"}]", "there is no column “Evil”")]
    [InlineData("Customers.json", "[{\"Id\":\"1\"}]", "is missing")]
    [InlineData("Customers.json", "[]", "points to one of Customers")]
    [InlineData("Documents.json", "s/\"CustomerId\": \"1\"/\"CustomerId\": \"one\"/", "“one” is not a whole number")]
    [InlineData("Businesses.json", "s#files/Businesses-Logo-1.png#../../../etc/passwd#", "is not there")]
    [InlineData("AspNetUsers.json", "s/\"Role\": \"Owner\"/\"Role\": \"Reader\"/", "no owner")]
    public async Task A_folder_that_is_not_whole_or_was_changed_is_refused_and_leaves_nothing(
        string name,
        string change,
        string says
    )
    {
        foreach (var file in Directory.GetFiles(written.Folder, "*", SearchOption.AllDirectories))
        {
            var copy = Path.Combine(_work, "changed", Path.GetRelativePath(written.Folder, file));
            Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
            File.Copy(file, copy);
        }

        var path = Path.Combine(_work, "changed", name);
        if (change == "rm")
            File.Delete(path);
        else if (change.StartsWith("s/", StringComparison.Ordinal) || change.StartsWith("s#", StringComparison.Ordinal))
        {
            var (text, parts) = (await File.ReadAllTextAsync(path), change.Split(change[1]));
            text.ShouldContain(parts[1]);
            await File.WriteAllTextAsync(path, text.Replace(parts[1], parts[2], StringComparison.Ordinal));
        }
        else
            await File.WriteAllTextAsync(path, change);

        (
            await Should.ThrowAsync<RefusalException>(() => TakeAsync(Path.Combine(_work, "changed")))
        ).Message.ShouldContain(says);
        File.Exists(Elsewhere.Database).ShouldBeFalse();
        Directory.Exists(Path.Combine(Elsewhere.Folder, "restoring")).ShouldBeFalse();
    }

    [Fact]
    public async Task Books_that_are_there_already_stay()
    {
        await TakeAsync();
        (await Should.ThrowAsync<RefusalException>(() => TakeAsync())).Message.ShouldContain("There are books in");
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(_work, recursive: true);
    }
}
