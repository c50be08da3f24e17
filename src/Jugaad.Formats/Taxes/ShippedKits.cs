using Jugaad.Core.Taxes;
using Jugaad.Desk.Outside;

namespace Jugaad.Formats.Taxes;

/// <summary>The kits that ship, read from the JSON files beside this code, and kits from elsewhere.</summary>
public sealed class ShippedKits : ITaxKits
{
    private const string Folder = "Jugaad.Formats.Taxes.Kits.";

    private readonly Lazy<IReadOnlyList<(string Key, TaxKit Kit)>> _all = new(() =>
        typeof(ShippedKits)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.StartsWith(Folder, StringComparison.Ordinal))
            .Order(StringComparer.Ordinal)
            .Select(n => (n[Folder.Length..^".json".Length], TaxKitJson.Read(Bytes(n))))
            .ToList()
    );

    public IReadOnlyList<(string Key, TaxKit Kit)> All => _all.Value;

    public TaxKit? Find(string key) => All.FirstOrDefault(k => k.Key == key).Kit;

    public TaxKit Read(byte[] json) => TaxKitJson.Read(json);

    public byte[] Write(TaxKit kit) => TaxKitJson.Write(kit);

    public IReadOnlyList<ReturnBox> ReadBoxes(string json) => TaxKitJson.ReadBoxes(json);

    public string WriteBoxes(IReadOnlyList<ReturnBox> boxes) => TaxKitJson.WriteBoxes(boxes);

    private static byte[] Bytes(string name)
    {
        using var stream = typeof(ShippedKits).Assembly.GetManifestResourceStream(name)!;
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        return copy.ToArray();
    }
}
