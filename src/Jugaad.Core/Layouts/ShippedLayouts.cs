using System.Collections.Concurrent;

namespace Jugaad.Core.Layouts;

/// <summary>The layouts that ship. They are copied, not changed.</summary>
public static class ShippedLayouts
{
    private static readonly ConcurrentDictionary<string, Layout> Read = new();

    /// <summary>Their keys, in the order in which they are offered.</summary>
    public static IReadOnlyList<string> Keys { get; } =
    ["plain", "window-left", "window-right", "dense", "margin", "letter-size", "strip-80", "strip-58"];

    public static Layout Plain => Of("plain");

    /// <summary>Of what a till prints on.</summary>
    public const string StripKey = "strip-80";

    /// <summary>For what a till prints.</summary>
    public static Layout Strip => Of(StripKey);

    /// <summary>For reports, on a sheet that stands.</summary>
    internal static Layout Report => Of("report");

    /// <summary>For reports, on a sheet that lies.</summary>
    internal static Layout ReportAcross => Of("report-across");

    /// <exception cref="KeyNotFoundException">When none has that key.</exception>
    public static Layout Of(string key) =>
        Read.GetOrAdd(
            key,
            k =>
            {
                using var file =
                    typeof(ShippedLayouts).Assembly.GetManifestResourceStream($"Jugaad.Core.Shipped.{k}.json")
                    ?? throw new KeyNotFoundException($"No layout “{k}” ships.");
                using var text = new StreamReader(file);
                return LayoutFile.Read(text.ReadToEnd());
            }
        );
}
