using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Jugaad.Web.Shell;

/// <summary>
/// A telephone number that a telephone dials (RFC 3966): <c>&lt;call number="…"/&gt;</c>; nothing where there is none.
/// </summary>
[HtmlTargetElement("call", TagStructure = TagStructure.WithoutEndTag)]
public sealed class CallTag : TagHelper
{
    public string? Number { get; set; }

    /// <summary>Only what is dialled: digits, and a plus sign before them; empty where nothing of it can be.</summary>
    internal static string Dialled(string number)
    {
        var digits = string.Concat(number.Where(char.IsAsciiDigit));
        return digits.Length == 0 ? ""
            : number.TrimStart().StartsWith('+') ? "+" + digits
            : digits;
    }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var number = (Number ?? "").Trim();
        if (number.Length == 0)
        {
            output.SuppressOutput();
            return;
        }

        var dialled = Dialled(number);
        output.TagName = dialled.Length > 0 ? "a" : "span";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "call");
        if (dialled.Length > 0)
            output.Attributes.SetAttribute("href", "tel:" + dialled);
        output.Content.SetContent(number);
    }
}
