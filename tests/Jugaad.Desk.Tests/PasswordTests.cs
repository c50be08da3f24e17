using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.People;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;

namespace Jugaad.Desk.Tests;

/// <summary>Passwords, codes of a second step, tries that are wrong, and forgotten passwords.</summary>
public sealed class PasswordTests
{
    [Theory]
    [InlineData("short", "at least 12")]
    [InlineData("elevenchars", "at least 12")]
    [InlineData("password1234", "guessers")]
    [InlineData("P@ssw0rd!2025", "guessers")]
    [InlineData("!!!Dragon!!!2025", "guessers")]
    [InlineData("123456789012", "guessers")]
    [InlineData("aaaaaaaaaaaa", "guessers")]
    [InlineData("abababababab", "guessers")]
    [InlineData("monkeymonkey", "guessers")]
    [InlineData("Monkey1Monkey1", "guessers")]
    [InlineData("qwertyuiop12", "guessers")]
    [InlineData("............", "guessers")]
    [InlineData("olli owner 2025", "your name")]
    [InlineData("Olli-Owner-99", "your name")]
    [InlineData("little.example", "your name")]
    [InlineData("OlliOwner!little", "your name")]
    public async Task A_password_that_would_be_guessed_is_refused(string password, string says)
    {
        var person = new Person { FullName = "Olli Owner", Email = "olli.owner@little.example" };
        (await new PasswordRules().ValidateAsync(null!, person, password))
            .Errors.Single()
            .Description.ShouldContain(says);
    }

    [Theory]
    [InlineData("a long password")]
    [InlineData("needle and thread")]
    [InlineData("mend the mainsail first")]
    [InlineData("tuul puhub põhjast")]
    [InlineData("owner of nine grey geese")]
    [InlineData("Xk7#vQ2pLm9w")]
    public async Task A_sentence_or_a_string_of_chance_is_taken(string password) =>
        (
            await new PasswordRules().ValidateAsync(
                null!,
                new Person { FullName = "Olli Owner", Email = "olli.owner@little.example" },
                password
            )
        ).Succeeded.ShouldBeTrue();

    [Fact]
    public async Task It_is_hashed_with_the_rounds_of_today()
    {
        // As it ships; the lofts of other tests hash with few rounds.
        await using var services = new ServiceCollection()
            .AddDesks(new BooksFile(Path.GetTempPath()))
            .BuildServiceProvider();
        var hash = Convert.FromBase64String(
            services.GetRequiredService<IPasswordHasher<Person>>().HashPassword(new Person(), "a long password")
        );
        // The third form of the hasher: its mark, the function (2 is SHA-512), and the rounds, high byte first.
        (hash[0], hash[4], (hash[5] << 24) | (hash[6] << 16) | (hash[7] << 8) | hash[8]).ShouldBe(
            ((byte)1, (byte)2, 220_000)
        );
    }

    [Fact]
    public void A_code_is_that_of_the_standard()
    {
        // RFC 6238, appendix B, of which apps show the last six figures.
        const string Secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ";
        new[] { 59L, 1_111_111_109, 1_111_111_111, 1_234_567_890, 2_000_000_000, 20_000_000_000 }
            .Select(t => OnceCodes.CodeOf(Secret, t / 30))
            .ShouldBe(["287082", "081804", "050471", "005924", "279037", "353130"]);
    }

    [Fact]
    public async Task A_code_of_the_second_step_works_once_and_no_secret_stands_in_the_file()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.WithAsync<BooksContext, int>(db => db.Users.Select(u => u.Id).SingleAsync());
        await loft.WithAsync<OwnSignIn>(o => o.PrepareSecondStepAsync(id));
        var key = (await loft.WithAsync<OwnSignIn, SecondStep?>(o => o.SecondStepAsync(id)))!
            .Key.Replace(" ", "", StringComparison.Ordinal)
            .ToUpperInvariant();
        string Now(int steps = 0) => OnceCodes.CodeOf(key, (loft.Clock.GetUtcNow().ToUnixTimeSeconds() / 30) + steps);
        var spare = await loft.WithAsync<OwnSignIn, IReadOnlyList<string>>(o =>
            o.SwitchOnAsync(id, Now(), "a long password")
        );
        spare.Count.ShouldBe(8);
        var kept = await loft.WithAsync<BooksContext, string>(async db =>
            string.Join('\n', await db.UserTokens.Select(t => t.Value).ToListAsync())
        );
        kept.ShouldContain($"kept kept:{key}", customMessage: "as this loft's keeper protects it");
        foreach (var code in spare)
            kept.ShouldNotContain(code);

        async Task<bool> GoodAsync(string code) =>
            await loft.WithAsync<UserManager<Person>, bool>(async people =>
                await people.VerifyTwoFactorTokenAsync(
                    (await people.FindByIdAsync($"{id}"))!,
                    TokenOptions.DefaultAuthenticatorProvider,
                    code
                )
            );
        (await GoodAsync(Now())).ShouldBeFalse("it was used to switch it on");
        (await GoodAsync(Now(1))).ShouldBeTrue("a phone's clock may be a little fast");
        (await GoodAsync(Now(1))).ShouldBeFalse();
        (await GoodAsync(Now(-1))).ShouldBeFalse("nothing before the last that was used");
        loft.Clock.Advance(TimeSpan.FromSeconds(60));
        (await GoodAsync(Now())).ShouldBeTrue();
        loft.Clock.Advance(TimeSpan.FromSeconds(90));
        (await GoodAsync(Now(-2))).ShouldBeFalse();

        async Task<bool> SpareAsync(string code) =>
            await loft.WithAsync<UserManager<Person>, bool>(async people =>
                (await people.RedeemTwoFactorRecoveryCodeAsync((await people.FindByIdAsync($"{id}"))!, code)).Succeeded
            );
        (await SpareAsync(spare[3])).ShouldBeTrue();
        (await SpareAsync(spare[3])).ShouldBeFalse();
        (await SpareAsync(spare[5])).ShouldBeTrue("the others are good still");
        var hashes = kept.Split('\n').First(v => v.Count(c => c == ';') > 4).Split(';');
        hashes.ShouldAllBe(h => Convert.FromBase64String(h).Length > 48);
        (await SpareAsync(hashes[0])).ShouldBeFalse("who read the file knows no code");

        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<OwnSignIn>(o => o.NewSpareCodesAsync(id, "wrong"))
            )
        )
            .Refusals.Single()
            .Field.ShouldBe("passwordToSwitch");
        (
            await loft.WithAsync<OwnSignIn, IReadOnlyList<string>>(o => o.NewSpareCodesAsync(id, "a long password"))
        ).ShouldNotContain(spare[0]);
        (await SpareAsync(spare[0])).ShouldBeFalse();
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<OwnSignIn>(o => o.SwitchOffAsync(id, "wrong")));
        await loft.WithAsync<OwnSignIn>(o => o.SwitchOffAsync(id, "a long password"));
    }

    [Fact]
    public void A_guesser_waits_longer_and_longer_and_the_owner_elsewhere_does_not()
    {
        var clock = new FakeTimeProvider();
        var guard = new SignInGuard(clock);
        for (var i = 1; i < SignInGuard.Free; i++)
            guard.Failed("1.1.1.1", "owner@x").ShouldBe(TimeSpan.Zero);
        var waits = new List<double>();
        for (var i = 0; i < 10; i++)
        {
            waits.Add(guard.Failed("1.1.1.1", "Owner@X ").TotalSeconds);
            clock.Advance(guard.WaitOf("1.1.1.1", "owner@x"));
        }

        waits.ShouldBe([15, 30, 60, 120, 240, 480, 960, 1920, 3600, 3600]);
        guard.Failed("1.1.1.1", "owner@x");
        guard.WaitOf("2.2.2.2", "owner@x").ShouldBe(TimeSpan.Zero, "the owner, from their own machine");
        guard.WaitOf("1.1.1.1", "other@x").ShouldBe(TimeSpan.Zero, "a colleague behind the same address");
        guard.Succeeded("1.1.1.1", "owner@x");
        guard.WaitOf("1.1.1.1", "owner@x").ShouldBe(TimeSpan.Zero);

        // Who tries one password on many people waits for the place's sake.
        for (var i = 0; i < SignInGuard.FreeOfAPlace; i++)
            guard.Failed("3.3.3.3", $"p{i}@x");
        guard.WaitOf("3.3.3.3", "new@x").ShouldBeGreaterThan(TimeSpan.Zero);
        clock.Advance(TimeSpan.FromHours(25));
        guard.WaitOf("3.3.3.3", "new@x").ShouldBe(TimeSpan.Zero);
        for (var i = 0; i < 50_000; i++)
            guard.Failed($"4.4.{i / 250}.{i % 250}", "owner@x");
        guard.WaitOf("5.5.5.5", "owner@x").ShouldBe(TimeSpan.Zero);
    }

    [Fact]
    public async Task Each_try_is_in_the_trail_and_unknown_addresses_are_told_the_same()
    {
        await using var loft = await Loft.OpenAsync();
        async Task<string> SaidAsync(string email, string password) =>
            (
                await Should.ThrowAsync<RefusalException>(() =>
                    loft.WithAsync<SigningIn>(s => s.PersonAsync(email, password))
                )
            ).Message;
        (await SaidAsync("owner@little.example", "wrong")).ShouldBe(await SaidAsync("nobody@little.example", "wrong"));
        await loft.WithAsync<SigningIn>(async s =>
            await s.CameInAsync(await s.PersonAsync("owner@little.example", "a long password"), "from a test")
        );
        for (var i = 0; i < SignInGuard.Free; i++)
            await SaidAsync("owner@little.example", "wrong");
        (await SaidAsync("owner@little.example", "a long password")).ShouldContain("Wait 15 seconds");
        loft.Clock.Advance(TimeSpan.FromSeconds(15));
        (
            await loft.WithAsync<SigningIn, Person>(s => s.PersonAsync("OWNER@little.example", "a long password"))
        ).FullName.ShouldBe("Owner");
        var trail = await loft.WithAsync<BooksContext, List<string>>(db => db.Trail.Select(t => t.Text).ToListAsync());
        trail
            .Count(t => t.StartsWith("Sign-in of Owner failed, wrong password", StringComparison.Ordinal))
            .ShouldBe(1 + SignInGuard.Free);
        trail.ShouldContain("Sign-in of somebody unknown failed, wrong password, from this machine");
        trail.ShouldContain(t =>
            t.EndsWith("too many tries, so it is to be waited for 15 seconds", StringComparison.Ordinal)
        );
        trail.ShouldContain("Owner signed in from a test");
    }

    [Fact]
    public async Task A_forgotten_password_is_set_anew_by_a_link_that_is_good_once_and_for_an_hour()
    {
        await using var loft = await Loft.OpenAsync();
        var stale = await loft.WithAsync<ForgottenPasswords, string>(f => f.MakeAsync("owner@little.example"));
        var token = await loft.WithAsync<ForgottenPasswords, string>(f => f.MakeAsync(" Owner@little.example "));
        (await loft.WithAsync<ForgottenPasswords, Person?>(f => f.FindAsync(stale))).ShouldBeNull(
            "only the newest is good"
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<ForgottenPasswords>(f => f.AcceptAsync(token, "short"))
            )
        )
            .Refusals.Single()
            .Field.ShouldBe("password");
        var stamp = await loft.WithAsync<BooksContext, string>(async db =>
            (await db.Users.SingleAsync()).SecurityStamp!
        );
        await loft.WithAsync<ForgottenPasswords>(f => f.AcceptAsync(token, "a new and longer one"));
        (
            await loft.WithAsync<BooksContext, string>(async db => (await db.Users.SingleAsync()).SecurityStamp!)
        ).ShouldNotBe(stamp, "every session ends");
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<ForgottenPasswords>(f => f.AcceptAsync(token, "and yet another one"))
        );
        await loft.WithAsync<SigningIn, Person>(s => s.PersonAsync("owner@little.example", "a new and longer one"));
        var late = await loft.WithAsync<ForgottenPasswords, string>(f => f.MakeAsync("owner@little.example"));
        loft.Clock.Advance(TimeSpan.FromMinutes(61));
        (await loft.WithAsync<ForgottenPasswords, Person?>(f => f.FindAsync(late))).ShouldBeNull();
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<ForgottenPasswords, string>(f => f.MakeAsync("nobody@little.example"))
            )
        ).Message.ShouldContain("The people are: owner@little.example");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Its_mail_goes_straight_to_the_person_and_the_post_tray_never_has_it()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<Setup.BusinessDesk>(b =>
            b.SetMailAsync(
                new Setup.MailSetup(
                    true,
                    "mail.example",
                    587,
                    MailEncryption.StartTls,
                    "",
                    "",
                    "",
                    "loft@little.example"
                )
            )
        );
        await loft.WithAsync<Machine.MachineSetup>(m => m.SaveAsync("https://papers.example", "", false));
        (await loft.WithAsync<ForgottenPasswords, bool>(f => f.SendAsync("nobody@little.example"))).ShouldBeTrue(
            "a stranger sees no difference"
        );
        loft.Carrier.Carried.ShouldBeEmpty();
        (await loft.WithAsync<ForgottenPasswords, bool>(f => f.SendAsync("owner@little.example"))).ShouldBeTrue();
        var mail = loft.Carrier.Carried.Single();
        mail.To.ShouldBe("owner@little.example");
        var token = mail.Body.Split("/new-password/")[1].Split('\n')[0];
        mail.Body.ShouldContain($"https://papers.example/new-password/{token}");
        (await loft.WithAsync<ForgottenPasswords, Person?>(f => f.FindAsync(token))).ShouldNotBeNull();
        (await loft.WithAsync<BooksContext, int>(db => db.Post.CountAsync())).ShouldBe(0);
        (
            await loft.WithAsync<BooksContext, List<string>>(db => db.Trail.Select(t => t.Text).ToListAsync())
        ).ShouldNotContain(t => t.Contains(token, StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_kept_mail_password_goes_to_no_other_server_user_or_kind_of_line()
    {
        await using var loft = await Loft.OpenAsync();
        var setup = new Setup.MailSetup(
            true,
            "mail.example",
            587,
            MailEncryption.StartTls,
            "loft",
            "hush",
            "",
            "loft@little.example"
        );
        await loft.WithAsync<Setup.BusinessDesk>(b => b.SetMailAsync(setup));
        await loft.WithAsync<Setup.BusinessDesk>(b =>
            b.SetMailAsync(setup with { Password = "", FromName = "The Loft" })
        );
        foreach (
            var elsewhere in new[]
            {
                setup with
                {
                    Host = "thief.example",
                },
                setup with
                {
                    Port = 25,
                },
                setup with
                {
                    User = "other",
                },
                setup with
                {
                    Encryption = MailEncryption.None,
                },
            }
        )
            (
                await Should.ThrowAsync<RefusalException>(() =>
                    loft.WithAsync<Setup.BusinessDesk>(b => b.SetMailAsync(elsewhere with { Password = "" }))
                )
            )
                .Refusals.Single()
                .Field.ShouldBe("password");
        await loft.WithAsync<Setup.BusinessDesk>(b =>
            b.SetMailAsync(setup with { Host = "new.example", Password = "hush again" })
        );
    }

    /// <summary>
    /// A lost phone had the app, a passkey and an open session; all of it ends, and nobody takes away what is
    /// another's.
    /// </summary>
    [Fact]
    public async Task A_lost_phone_opens_nothing_once_the_owner_said_so()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.WithAsync<BooksContext, int>(db => db.Users.Select(u => u.Id).SingleAsync());
        UserPasskeyInfo Made(byte key) =>
            new([key], [2], DateTimeOffset.UnixEpoch, 0, null, true, false, false, [3], [4]);
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<Passkeys>(p => p.AddAsync(id, Made(1), "phone", "wrong"))
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Passkeys>(p => p.AddAsync(id, Made(1), " ", "a long password"))
            )
        )
            .Refusals.Single()
            .Field.ShouldBe("passkeyName");
        for (byte i = 1; i <= 20; i++)
            await loft.WithAsync<Passkeys>(p => p.AddAsync(id, Made(i), $"phone {i}", "a long password"));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Passkeys>(p => p.AddAsync(id, Made(21), "phone", "a long password"))
            )
        ).Message.ShouldContain("20 passkeys");
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Passkeys>(p => p.RemoveAsync(id, "FQ")));
        await loft.WithAsync<Passkeys>(p => p.RemoveAsync(id, "AQ"));
        await loft.WithAsync<BooksContext>(async db =>
        {
            db.OpenSessions.Add(
                new OpenSession
                {
                    PersonId = id,
                    KeyHash = "k",
                    Ticket = [1],
                    Device = "a phone",
                    At = DateTime.UtcNow,
                    SeenAt = DateTime.UtcNow,
                    Until = DateTime.UtcNow.AddDays(1),
                }
            );
            await db.SaveChangesAsync();
        });
        var stamp = await loft.WithAsync<BooksContext, string?>(db =>
            db.Users.Select(u => u.SecurityStamp).SingleAsync()
        );
        (await loft.WithAsync<PeopleDesk, IReadOnlyList<PersonRow>>(p => p.ListAsync())).Single().Passkeys.ShouldBe(19);
        await loft.WithAsync<PeopleDesk>(p => p.DropSecondStepAsync(id));
        (await loft.WithAsync<PeopleDesk, IReadOnlyList<PersonRow>>(p => p.ListAsync())).Single().Passkeys.ShouldBe(0);
        (await loft.WithAsync<BooksContext, int>(db => db.OpenSessions.CountAsync())).ShouldBe(0);
        (
            await loft.WithAsync<BooksContext, string?>(db => db.Users.Select(u => u.SecurityStamp).SingleAsync())
        ).ShouldNotBe(stamp);
        (
            await loft.WithAsync<BooksContext, string>(db =>
                db.Trail.OrderByDescending(t => t.Id).Select(t => t.Text).FirstAsync()
            )
        ).ShouldContain("19 passkeys are taken away");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }
}
