using System.Text.RegularExpressions;
using AngleSharp.Dom;

namespace Jugaad.Web.Tests;

/// <summary>
/// A page's blanks as its reader sees them: how its source is broken into lines is nobody's business.
/// </summary>
internal static partial class AsRead
{
    private static readonly HashSet<string> Alone =
    [
        .. "body main header footer nav section article aside div p h1 h2 h3 h4 h5 h6 ul ol li dl dt dd".Split(' '),
        .. "table caption thead tbody tfoot tr th td form fieldset legend details summary option select button".Split(
            ' '
        ),
    ];

    private static readonly HashSet<string> AsWritten = ["pre", "textarea", "script", "style"];

    /// <summary>
    /// Blanks that follow each other are one, and at either end of a part that stands alone there are none.
    /// </summary>
    internal static IDocument Collapsed(IDocument page)
    {
        foreach (var text in page.Descendants<IText>().ToList())
        {
            if (text.ParentElement is not { } parent || AsWritten.Contains(parent.LocalName))
                continue;
            var read = Blanks().Replace(text.Data, " ");
            if (text.PreviousSibling is null ? Alone.Contains(parent.LocalName) : IsAlone(text.PreviousSibling))
                read = read.TrimStart(' ');
            if (text.NextSibling is null ? Alone.Contains(parent.LocalName) : IsAlone(text.NextSibling))
                read = read.TrimEnd(' ');
            if (read != text.Data)
                text.Data = read;
        }

        return page;
    }

    private static bool IsAlone(INode node) => node is IElement element && Alone.Contains(element.LocalName);

    // A blank that does not break, and a narrow one, are part of what is read.
    [GeneratedRegex("[ \\t\\r\\n]+")]
    private static partial Regex Blanks();
}
