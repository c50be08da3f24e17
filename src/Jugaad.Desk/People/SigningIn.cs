using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;

namespace Jugaad.Desk.People;

/// <summary>Whether somebody is who they say they are; each try is in the trail, and wrong ones cost time.</summary>
public sealed class SigningIn(BookWriter writer, UserManager<Person> people, SignInGuard guard, IActor actor)
{
    /// <summary>The person whose address and password go together.</summary>
    /// <exception cref="RefusalException">When they do not, or too many tries were wrong. It is the same for every
    /// address.</exception>
    public async Task<Person> PersonAsync(string email, string password, CancellationToken stop = default)
    {
        MustNotWait(email, "email");
        var person = await people.FindByEmailAsync(email.Trim());
        var right = await IsRightAsync(person, password);
        if (right && person!.Closed)
            await ShutOutAsync(person, stop);
        if (!right)
        {
            await FailedAsync(email, "password", person, stop);
            throw new RefusalException(
                "email",
                "This mail address and password do not go together. Check both and try again."
            );
        }

        return person!;
    }

    /// <summary>Notes that somebody who was shut out tried to come in.</summary>
    /// <exception cref="RefusalException">Always.</exception>
    public async Task ShutOutAsync(Person person, CancellationToken stop = default)
    {
        await NoteAsync($"Sign-in of {person.FullName} failed: shut out, from {Where}", stop);
        throw new RefusalException("email", "You can no longer sign in here. Ask the owner.");
    }

    /// <summary>Notes that somebody is in, and from where.</summary>
    public async Task CameInAsync(Person person, string how, CancellationToken stop = default)
    {
        guard.Succeeded(actor.Address, person.Email!);
        await NoteAsync($"{person.FullName} signed in {how}", stop);
    }

    /// <summary>Notes a wrong code of the second step.</summary>
    /// <exception cref="RefusalException">Always, with what to do.</exception>
    public async Task WrongCodeAsync(Person person, CancellationToken stop = default)
    {
        await FailedAsync(person.Email!, "code", person, stop);
        throw new RefusalException(
            "code",
            "This is not the code of now, nor a spare code that is left. Wait for the next in the app and type that."
        );
    }

    /// <exception cref="RefusalException">While a wait goes on.</exception>
    public void MustNotWait(string email, string field)
    {
        if (guard.WaitOf(actor.Address, email) is var wait && wait > TimeSpan.Zero)
            throw Wait(field, wait);
    }

    /// <summary>Asks for the password again before something that whoever found an open browser must not do.</summary>
    /// <exception cref="RefusalException">When it is wrong, or too many tries were.</exception>
    public async Task MustKnowAsync(
        Person person,
        string password,
        string field = "oldPassword",
        CancellationToken stop = default
    )
    {
        MustNotWait(person.Email!, field);
        if (await IsRightAsync(person, password))
        {
            guard.Succeeded(actor.Address, person.Email!);
            return;
        }

        await FailedAsync(person.Email!, "password", person, stop);
        throw new RefusalException(field, "This is not your password as it is now.");
    }

    private async Task<bool> IsRightAsync(Person? person, string password)
    {
        if (person?.PasswordHash is not null)
            return await people.CheckPasswordAsync(person, password);
        // An address that is not known takes as long as one that is.
        people.PasswordHasher.HashPassword(new Person(), password);
        return false;
    }

    private async Task FailedAsync(string email, string what, Person? person, CancellationToken stop)
    {
        var wait = guard.Failed(actor.Address, email);
        var who = person?.FullName ?? "somebody unknown";
        await NoteAsync(
            $"Sign-in of {who} failed, wrong {what}, from {Where}{(wait > TimeSpan.Zero ? $"; too many tries, so it is to be waited for {Words(wait)}" : "")}",
            stop
        );
    }

    private string Where => actor.Address.Length > 0 ? actor.Address : "this machine";

    private Task<int> NoteAsync(string text, CancellationToken stop) =>
        writer.WriteAsync(
            Right.Door,
            stop,
            async () =>
            {
                await writer.TrailAsync($"{text}");
                return 0;
            }
        );

    private static RefusalException Wait(string field, TimeSpan wait) =>
        new(field, $"Too many tries were wrong. Wait {Words(wait)}, then try again.");

    private static string Words(TimeSpan wait) =>
        wait.TotalMinutes < 2
            ? $"{Math.Ceiling(wait.TotalSeconds)} seconds"
            : $"{Math.Ceiling(wait.TotalMinutes)} minutes";
}
