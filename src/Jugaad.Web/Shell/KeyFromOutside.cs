using System.Security.Cryptography;
using System.Xml;
using System.Xml.Linq;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Microsoft.AspNetCore.DataProtection.XmlEncryption;

namespace Jugaad.Web.Shell;

/// <summary>
/// A key that is kept outside the books' folder (a file that the machine shows the program alone, as a service's
/// credential). With it the keys in the folder, which seal sessions and kept secrets, are sealed themselves by
/// AES-256-GCM: whoever copies the folder has nothing of use.
/// </summary>
public sealed class KeyFromOutside : IXmlEncryptor
{
    /// <summary>The environment names the key's file by this.</summary>
    internal const string Variable = "JUGAAD_KEY_FILE";

    internal static readonly KeyFromOutside None = new(null);

    private static readonly XNamespace Framework = "http://schemas.asp.net/2015/03/dataProtection";
    private static readonly XName Sealed = Framework + "encryptedSecret",
        MustBeSealed = Framework + "requiresEncryption";

    private readonly byte[]? _key;

    private KeyFromOutside(byte[]? key) => _key = key;

    public bool IsThere => _key is not null;

    /// <param name="path">Null or empty for none.</param>
    /// <exception cref="RefusalException">When the file cannot be read, or holds no key.</exception>
    internal static KeyFromOutside Read(string? path)
    {
        if (string.IsNullOrEmpty(path))
            return None;
        string text;
        try
        {
            text = File.ReadAllText(path).Trim();
        }
        catch (Exception unread) when (unread is IOException or UnauthorizedAccessException)
        {
            throw new RefusalException(
                "key",
                $"{Variable} names the file {path}, which cannot be read: {unread.Message}"
            );
        }

        var key = new byte[32];
        if (!Convert.TryFromBase64String(text, key, out var length) || length != key.Length)
            throw new RefusalException(
                "key",
                $"{path} holds no key: 32 bytes in base64 are meant, as “openssl rand -base64 32” writes them."
            );
        return new KeyFromOutside(key);
    }

    /// <summary>Seals the keys that lie in the folder from before. Those that are sealed already must open.</summary>
    /// <exception cref="RefusalException">When they are sealed with another key, or with one that is not given
    /// now.</exception>
    internal void TakeOver(string folder)
    {
        if (!Directory.Exists(folder))
            return;
        foreach (var file in Directory.EnumerateFiles(folder, "key-*.xml"))
        {
            var ring = Load(file);
            foreach (
                var secret in ring.Descendants(Sealed)
                    .Where(s =>
                        s.Attribute("decryptorType")
                            ?.Value.StartsWith(typeof(KeyOpener).FullName!, StringComparison.Ordinal) == true
                    )
            )
            {
                if (_key is null)
                    throw new RefusalException(
                        "key",
                        $"The keys of these books are sealed with a key that is kept elsewhere. Name its file by {Variable}."
                    );
                try
                {
                    Open(secret.Elements().FirstOrDefault() ?? secret);
                }
                catch (CryptographicException)
                {
                    throw new RefusalException(
                        "key",
                        $"The keys of these books are sealed with another key than the one that {Variable} names, or damaged. Give the one of before, or put {file} back from a backup."
                    );
                }
            }

            var open = ring.Descendants()
                .Where(e => e.Attribute(MustBeSealed)?.Value == "true" && e.Name != Sealed)
                .ToList();
            if (_key is null || open.Count == 0)
                continue;
            foreach (var element in open)
            {
                var done = Encrypt(element);
                element.ReplaceWith(
                    new XElement(
                        Sealed,
                        new XAttribute("decryptorType", done.DecryptorType.AssemblyQualifiedName!),
                        done.EncryptedElement
                    )
                );
            }

            var next = file + ".next";
            ring.Save(next);
            OwnersOnly.File(next);
            File.Move(next, file, overwrite: true);
        }
    }

    /// <exception cref="RefusalException">When the file is damaged.</exception>
    private static XElement Load(string file)
    {
        try
        {
            return XElement.Load(file);
        }
        catch (XmlException)
        {
            throw new RefusalException(
                "key",
                $"{file} is damaged. Put it back from a backup. Without one, take it away: everybody signs in anew then, and the passwords of mail and backups and the second steps are to be given again."
            );
        }
    }

    /// <inheritdoc/>
    public EncryptedXmlInfo Encrypt(XElement plaintextElement)
    {
        var plain = System.Text.Encoding.UTF8.GetBytes(plaintextElement.ToString(SaveOptions.DisableFormatting));
        var (nonce, mark, hidden) = (
            RandomNumberGenerator.GetBytes(AesGcm.NonceByteSizes.MaxSize),
            new byte[AesGcm.TagByteSizes.MaxSize],
            new byte[plain.Length]
        );
        using var aes = new AesGcm(_key!, mark.Length);
        aes.Encrypt(nonce, plain, hidden, mark);
        return new EncryptedXmlInfo(
            new XElement("sealed", Convert.ToBase64String([.. nonce, .. mark, .. hidden])),
            typeof(KeyOpener)
        );
    }

    /// <exception cref="CryptographicException">When it was sealed with another key, or changed.</exception>
    internal XElement Open(XElement element)
    {
        if (_key is null)
            throw new CryptographicException("The key is not given.");
        var (nonce, mark) = (AesGcm.NonceByteSizes.MaxSize, AesGcm.TagByteSizes.MaxSize);
        var all = new byte[element.Value.Length];
        if (!Convert.TryFromBase64String(element.Value, all, out var length) || length < nonce + mark)
            throw new CryptographicException("What is sealed is damaged.");
        Array.Resize(ref all, length);
        var plain = new byte[all.Length - nonce - mark];
        using var aes = new AesGcm(_key, mark);
        aes.Decrypt(all.AsSpan(0, nonce), all.AsSpan(nonce + mark), all.AsSpan(nonce, mark), plain);
        return XElement.Parse(System.Text.Encoding.UTF8.GetString(plain));
    }
}

/// <summary>Opens what <see cref="KeyFromOutside"/> sealed; the framework makes it by its name.</summary>
public sealed class KeyOpener(IServiceProvider services) : IXmlDecryptor
{
    /// <inheritdoc/>
    public XElement Decrypt(XElement encryptedElement) =>
        services.GetRequiredService<KeyFromOutside>().Open(encryptedElement);
}
