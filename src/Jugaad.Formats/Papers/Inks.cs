using Jugaad.Core.Layouts;

namespace Jugaad.Formats.Papers;

/// <summary>The colours of the inks, the same for every painter.</summary>
internal static class Inks
{
    internal static string Hex(Ink ink) =>
        ink switch
        {
            Ink.Quiet => "#566065",
            Ink.Rule => "#DDD6C7",
            Ink.Accent => "#8F5F0A",
            Ink.Wash => "#FAF7F0",
            _ => "#22282B",
        };
}
