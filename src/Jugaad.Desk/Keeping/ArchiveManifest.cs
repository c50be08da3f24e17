using System.Text.Json;
using System.Text.Json.Serialization;

namespace Jugaad.Desk.Keeping;

/// <summary>A file of a backup.</summary>
/// <param name="Size">Bytes.</param>
/// <param name="Sha256">Lower-case hexadecimal.</param>
public sealed record ArchivedFile(string Name, long Size, string Sha256);

/// <summary>
/// What stands at the end of a backup: what it holds, so that one that was cut off or changed is known.
/// </summary>
/// <param name="Made">UTC.</param>
/// <param name="Schema">The newest step of the books' schema.</param>
public sealed record ArchiveManifest(
    int Form,
    DateTime Made,
    string Business,
    string Schema,
    IReadOnlyList<ArchivedFile> Files
)
{
    /// <summary>The form that this program writes and reads.</summary>
    public const int PresentForm = 1;

    public const string FileName = "manifest.json";

    private static readonly JsonSerializerOptions Written = new()
    {
        WriteIndented = true,
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.Never,
    };

    public byte[] ToBytes() => JsonSerializer.SerializeToUtf8Bytes(this, Written);

    /// <returns>Null where it cannot be read.</returns>
    public static ArchiveManifest? Read(byte[] bytes)
    {
        try
        {
            return JsonSerializer.Deserialize<ArchiveManifest>(bytes, Written);
        }
        catch (JsonException)
        {
            return null;
        }
    }
}
