namespace Jugaad.Demo;

/// <summary>
/// The made-up loft's sign: a tern's wing over a waterline, kept as a small picture beside this code.
/// </summary>
internal static class DemoLogo
{
    internal static byte[] Png()
    {
        using var stream =
            typeof(DemoLogo).Assembly.GetManifestResourceStream("Jugaad.Demo.logo.png")
            ?? throw new InvalidOperationException("The demo's logo is not shipped.");
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        return copy.ToArray();
    }
}
