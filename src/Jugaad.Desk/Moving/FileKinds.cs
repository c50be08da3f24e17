namespace Jugaad.Desk.Moving;

/// <summary>Tells by its first bytes what a file is, so that it gets an ending that other programs know.</summary>
internal static class FileKinds
{
    internal static string EndingOf(ReadOnlySpan<byte> content) =>
        content.StartsWith((ReadOnlySpan<byte>)[0x89, 0x50, 0x4E, 0x47]) ? ".png"
        : content.StartsWith("%PDF"u8) ? ".pdf"
        : content.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]) ? ".jpg"
        : content.StartsWith("PK"u8) ? ".zip"
        : content.StartsWith("<?xml"u8) ? ".xml"
        : ".bin";
}
