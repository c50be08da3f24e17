using Jugaad.Core.Layouts;

namespace Jugaad.Web.Pages.Papers;

/// <summary>The business's pictures as pages show them.</summary>
internal static class KeptPictures
{
    internal static IResult Shown(byte[] picture) => Results.Bytes(picture, PictureType.OfKept(picture));
}
