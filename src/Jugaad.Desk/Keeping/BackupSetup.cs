using Jugaad.Core;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;

namespace Jugaad.Desk.Keeping;

/// <summary>How backups are to be made, as it was typed.</summary>
/// <param name="Secret">A password, private key or secret key; empty keeps the one that is kept.</param>
public sealed record BackupWishes(
    bool Nightly,
    int Hour,
    string Folder,
    int KeepDays,
    int KeepWeeks,
    int KeepMonths,
    OtherPlace Other,
    string Host,
    int Port,
    string User,
    string Secret,
    string Path
);

/// <summary>Says how backups are made by themselves, and for whom they are sealed.</summary>
public sealed class BackupSetup(
    BookWriter writer,
    BackupMaking making,
    IArchiveSeal seal,
    ISecretKeeper secrets,
    IOtherPlaces others
)
{
    /// <exception cref="RefusalException">With all that is wrong; a kept secret goes to no other host or user than it
    /// was typed for.</exception>
    public Task<int> SaveAsync(BackupWishes typed, Once once = default) =>
        writer.WriteAsync(
            Right.Keep,
            once,
            async stop =>
            {
                var settings = await making.KeptSettingsAsync(stop);
                var refusals = new Refusals();
                if (typed.Hour is < 0 or > 23)
                    refusals.Add("hour", "Give an hour from 0 to 23.");
                foreach (
                    var (field, count) in new[]
                    {
                        ("keepDays", typed.KeepDays),
                        ("keepWeeks", typed.KeepWeeks),
                        ("keepMonths", typed.KeepMonths),
                    }
                )
                    if (count is < 0 or > Retention.Most)
                        refusals.Add(field, $"Give a number from 0 to {Retention.Most}.");
                if (typed.KeepDays + typed.KeepWeeks + typed.KeepMonths == 0)
                    refusals.Add("keepDays", "Keep at least one day's.");
                if (typed.Folder.Length > 0 && !Path.IsPathFullyQualified(typed.Folder))
                    refusals.Add("folder", "Give the folder with its whole path, such as /mnt/backups.");
                Texts.Short(refusals, "folder", typed.Folder, 300);
                Other(refusals, typed, settings);
                refusals.ThrowIfAny();
                (
                    settings.Nightly,
                    settings.Hour,
                    settings.Folder,
                    settings.KeepDays,
                    settings.KeepWeeks,
                    settings.KeepMonths
                ) = (typed.Nightly, typed.Hour, typed.Folder.Trim(), typed.KeepDays, typed.KeepWeeks, typed.KeepMonths);
                if (settings.Host != typed.Host.Trim() || settings.Port != typed.Port)
                    settings.HostKey = "";
                (settings.Other, settings.Host, settings.Port, settings.User, settings.Path) = (
                    typed.Other,
                    typed.Host.Trim(),
                    typed.Port,
                    typed.User.Trim(),
                    typed.Path.Trim()
                );
                if (typed.Secret.Length > 0)
                    settings.ProtectedSecret = secrets.Protect(typed.Secret);
                await writer.TrailAsync($"How backups are made was changed");
                return 0;
            }
        );

    /// <summary>Makes a key; backups are sealed for it from now on.</summary>
    /// <returns>Its private half, which is kept nowhere.</returns>
    /// <exception cref="RefusalException">When the same form came twice: the key of the first time is the one that
    /// seals, and its private half was shown then.</exception>
    public async Task<string> NewKeyAsync(string owner, Once once = default)
    {
        writer.Must(Right.Keep);
        var key = seal.NewKey(owner);
        await UseKeyAsync(key.Public, once);
        if ((await making.SettingsAsync(once.Stop)).PublicKey != key.Public.Trim())
            throw new RefusalException(
                "",
                "This was asked twice at once. Use only a key that you kept: load the page again and make another."
            );
        return key.Private;
    }

    /// <summary>Seals backups for a key that was made elsewhere; empty makes them plain again.</summary>
    /// <exception cref="RefusalException">When it is no public key that can seal.</exception>
    public Task<int> UseKeyAsync(string publicKey, Once once = default) =>
        writer.WriteAsync(
            Right.Keep,
            once,
            async stop =>
            {
                var key = publicKey.Trim();
                if (key.Contains("PRIVATE KEY", StringComparison.Ordinal))
                    throw new RefusalException(
                        "publicKey",
                        "This is a private key, which belongs nowhere but in your own hands. Paste the public half."
                    );
                (await making.KeptSettingsAsync(stop)).PublicKey = key;
                if (key.Length == 0)
                    await writer.TrailAsync("Backups are not sealed from now on");
                else
                    await writer.TrailAsync($"Backups are sealed for the key {seal.Fingerprint(key)} from now on");
                return 0;
            }
        );

    /// <summary>Looks whether the other place can be reached, and notes what its machine shows of itself.</summary>
    /// <returns>What is there, in words.</returns>
    /// <exception cref="RefusalException">When it cannot.</exception>
    public async Task<string> TryOtherAsync(Once once = default)
    {
        writer.Must(Right.Keep);
        var settings = await making.SettingsAsync(once.Stop);
        if (settings.Other == OtherPlace.None)
            throw new RefusalException("other", "No other place is set. Choose one and save first.");
        int there;
        try
        {
            await using var place = await others.OpenAsync(settings, once.Stop);
            there = (await place.ListAsync(once.Stop)).Count(f => BackupName.IsOne(f.Name));
        }
        catch (PlaceException away)
        {
            throw new RefusalException("host", away.Message);
        }

        await writer.WriteAsync(
            Right.Keep,
            once,
            async stop =>
            {
                (await making.KeptSettingsAsync(stop)).HostKey = settings.HostKey;
                return 0;
            }
        );
        return $"It is reached; {(there == 1 ? "one backup lies" : $"{there} backups lie")} there.{(settings.HostKey.Length > 0 ? $" Its machine shows the key {settings.HostKey}: compare it with what that machine says of itself." : "")}";
    }

    private static void Other(Refusals refusals, BackupWishes typed, BackupSettings settings)
    {
        if (typed.Other == OtherPlace.None)
            return;
        Texts.Required(
            refusals,
            "path",
            typed.Path,
            300,
            typed.Other == OtherPlace.Store ? "Give the name of the bucket." : "Give the folder there."
        );
        if (typed.Other == OtherPlace.Folder)
        {
            if (!Path.IsPathFullyQualified(typed.Path))
                refusals.Add("path", "Give the folder with its whole path, such as /mnt/backups.");
            return;
        }

        Texts.Required(
            refusals,
            "host",
            typed.Host,
            200,
            typed.Other == OtherPlace.Store
                ? "Give the address of the store, such as https://store.example."
                : "Give the name of the machine."
        );
        if (
            typed.Other == OtherPlace.Store
            && typed.Host.Length > 0
            && !(
                Uri.TryCreate(typed.Host.Trim(), UriKind.Absolute, out var address)
                && address.Scheme is "https" or "http"
            )
        )
            refusals.Add("host", "Give the address of the store with its https://.");
        Texts.Required(refusals, "user", typed.User, 200, "Give the user, or the key's name.");
        if (typed.Other == OtherPlace.Sftp && typed.Port is < 1 or > 65535)
            refusals.Add("port", "A port is 1 to 65535.");
        var same =
            settings.Other == typed.Other
            && settings.Host == typed.Host.Trim()
            && settings.Port == typed.Port
            && settings.User == typed.User.Trim();
        if (typed.Secret.Length == 0 && (settings.ProtectedSecret.Length == 0 || !same))
            refusals.Add(
                "secret",
                settings.ProtectedSecret.Length == 0
                    ? "Give the password or key."
                    : "The host or user is another: give the password or key again. The kept one goes nowhere else."
            );
    }
}
