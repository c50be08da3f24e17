using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Jugaad.Desk.Kept;

/// <summary>
/// A layout as it was when it was put to use. It never changes, since papers were issued with it; of one that ships
/// there is a state as soon as it is used, so that a later program prints those papers alike.
/// </summary>
public sealed class LayoutState
{
    private LayoutState() => (Key, Json, Hash, By) = ("", "", "", "");

    /// <param name="key">Of the layout that ships; empty for one of our own.</param>
    public LayoutState(int? layoutId, string key, int no, string json, DateTime made, string by)
        : this()
    {
        (LayoutId, Key, No, Json, Made, By) = (layoutId, key, no, json, made, by);
        Hash = HashOf(json);
    }

    public int Id { get; private set; }

    public int? LayoutId { get; private set; }

    public string Key { get; private set; }

    /// <summary>Counts the states of one layout from 1 on.</summary>
    public int No { get; private set; }

    public string Json { get; private set; }

    /// <summary>SHA-256 of the JSON as UTF-8, in hexadecimal.</summary>
    public string Hash { get; private set; }

    public DateTime Made { get; private set; }

    public string By { get; private set; }

    public static string HashOf(string json) => HashOf(Encoding.UTF8.GetBytes(json));

    public static string HashOf(byte[] data) => Convert.ToHexStringLower(SHA256.HashData(data));
}

/// <summary>A picture of the business as papers were issued with it.</summary>
public sealed class KeptPicture
{
    private KeptPicture() => (Data, Hash) = ([], "");

    public KeptPicture(byte[] data) => (Data, Hash) = (data, LayoutState.HashOf(data));

    public int Id { get; private set; }

    public byte[] Data { get; private set; }

    /// <summary>SHA-256 of the data, in hexadecimal.</summary>
    public string Hash { get; private set; }
}

/// <summary>The ids of what a document is issued with.</summary>
/// <param name="Why">Why this layout, in words.</param>
public sealed record LookParts(int StateId, int? LogoId, int? SignatureId, int WordsId, string Why);

/// <summary>With what a document was issued, so that it is printed alike for ever.</summary>
public sealed class IssuedLook
{
    private IssuedLook() => (Why, Seal) = ("", "");

    public IssuedLook(int documentId, LookParts parts)
        : this()
    {
        DocumentId = documentId;
        Renew(parts);
    }

    /// <summary>As it is issued again, put right under its number.</summary>
    public void Renew(LookParts parts)
    {
        (StateId, LogoId, SignatureId, WordsId, Why) = parts;
        Seal = SealOf(DocumentId, parts);
    }

    public int Id { get; private set; }

    public int DocumentId { get; private set; }

    public int StateId { get; private set; }

    public int? LogoId { get; private set; }

    public int? SignatureId { get; private set; }

    public int WordsId { get; private set; }

    public string Why { get; private set; }

    /// <summary>By which it is told that none of it was exchanged for another that is kept too.</summary>
    public string Seal { get; private set; }

    /// <summary>SHA-256 over the document and what it was issued with, in hexadecimal.</summary>
    public static string SealOf(int documentId, LookParts parts) =>
        LayoutState.HashOf(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{documentId}/{parts.StateId}/{parts.LogoId}/{parts.SignatureId}/{parts.WordsId}/{parts.Why}"
            )
        );
}
