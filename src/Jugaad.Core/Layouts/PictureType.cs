using System.Text;

namespace Jugaad.Core.Layouts;

/// <summary>The kinds of pictures that are taken, by their media types (IANA).</summary>
public static class PictureType
{
    public const string Png = "image/png";

    public const string Svg = "image/svg+xml";

    /// <summary>With what a drawing begins as we keep it.</summary>
    public const string SvgBeginning = "<svg xmlns=\"http://www.w3.org/2000/svg\"";

    public static IReadOnlyList<string> Taken { get; } = [Png, "image/jpeg", "image/webp", Svg];

    /// <summary>What a kept picture is; all of them are one of two, since each is written anew when it is taken.</summary>
    public static string OfKept(byte[] data) =>
        data.AsSpan().StartsWith(Encoding.ASCII.GetBytes(SvgBeginning)) ? Svg : Png;
}
